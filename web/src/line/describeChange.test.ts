import { expect, it } from 'vitest'
import type { Program } from '@/api/types'
import { Names, describeChange } from './describeChange'

const program = {
  name: 'P',
  settings: { sameIteration: 'never', fillTo: 1 },
  teams: [
    {
      key: 'T',
      name: 'Tide',
      unit: 'points',
      iterations: [
        { key: 'T-i1', name: 'T·1', start: '2027-03-01', end: '2027-03-14' },
        { key: 'T-i2', name: 'T·2', start: '2027-03-15', end: '2027-03-28' },
      ],
    },
  ],
  people: [{ key: 'p1', name: 'Ingrid Oksanen' }],
  releases: [{ key: 'R1', name: 'First Light' }],
  items: [{ key: 'A', title: 'Lamp', team: 'T', kind: 'story' }],
} as Program

const say = (change: Parameters<typeof describeChange>[0]) => describeChange(change, new Names(program))

it('says what a change was, in words', () => {
  const set = (field: string, before: unknown, value: unknown) =>
    say({ op: 'set', kind: 'item', key: 'A', field, before, value })
  expect(set('iteration', 'T-i1', 'T-i2')).toBe('A Lamp: iteration from T·1 to T·2')
  expect(set('size', null, 3)).toBe('A Lamp: size from nothing to 3')
  expect(set('pinned', false, true)).toBe('A Lamp: pinned from no to yes')
  expect(say({ op: 'add', kind: 'need', in: 'A', key: 'B' })).toBe('Added: A needs B')
  expect(say({ op: 'remove', kind: 'need', in: 'A', key: 'B' })).toBe('Removed: A needs B')
  expect(say({ op: 'move', kind: 'item', key: 'A', at: 3 })).toBe('A Lamp: moved to place 4')
  const capacity = { op: 'set', kind: 'iteration', in: 'T', key: 'T-i2', field: 'capacity' } as const
  expect(say({ ...capacity, before: null, value: 12 })).toBe('T·2: capacity from nothing to 12')
})

it('names people, releases and teams, and never says a key of theirs', () => {
  const set = (field: string, before: unknown, value: unknown) =>
    say({ op: 'set', kind: 'item', key: 'A', field, before, value })
  expect(set('assignee', '', 'p1')).toBe('A Lamp: assigned to from nothing to Ingrid Oksanen')
  expect(set('release', 'R1', null)).toBe('A Lamp: release from First Light to nothing')
  const off = { from: '2027-04-01', to: '2027-04-02' }
  const person = { op: 'set', kind: 'person', key: 'p1' } as const
  expect(say({ ...person, field: 'daysOff', before: [off], value: [off, off] })).toBe(
    'Ingrid Oksanen: days off from 1 entry to 2 entries',
  )
  expect(say({ ...person, field: 'roles', before: [], value: ['web', 'lead'] })).toBe(
    'Ingrid Oksanen: roles from nothing to web, lead',
  )
  expect(say({ op: 'add', kind: 'comment', in: 'A', key: 'c-17f3' })).toBe('A comment on A Lamp')
  expect(say({ op: 'remove', kind: 'team', key: 'gone' })).toBe('Removed: team gone')
  const spent = { key: 'p1 2027-04-01 1', person: 'p1', date: '2027-04-01', hours: 2.5, item: 'A' }
  const hours = { kind: 'timeEntry', key: spent.key } as const
  expect(say({ op: 'add', ...hours, value: spent })).toBe('Ingrid Oksanen: 2.5 h on A Lamp, 1 Apr')
  expect(say({ op: 'remove', ...hours, before: spent })).toBe(
    'Removed: Ingrid Oksanen: 2.5 h on A Lamp, 1 Apr',
  )
  expect(say({ op: 'set', ...hours, field: 'hours', before: 2.5, value: 3 })).toBe(
    'Hours spent: hours from 2.5 to 3',
  )
})
