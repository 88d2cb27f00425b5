import { expect, it } from 'vitest'
import type { Item } from '@/api/types'
import { describeChange } from './describeChange'

it('says what a change was, in words', () => {
  const items = new Map([['A', { key: 'A', title: 'Lamp', team: 'T' } as Item]])
  const name = (team: string, key: string) => `${team}·${key}`
  const say = (change: Parameters<typeof describeChange>[0]) => describeChange(change, items, name)
  expect(say({ op: 'set', kind: 'item', key: 'A', field: 'iteration', before: '1', value: '2' })).toBe(
    'A Lamp: iteration from T·1 to T·2',
  )
  expect(say({ op: 'set', kind: 'item', key: 'A', field: 'size', before: null, value: 3 })).toBe(
    'A Lamp: size from nothing to 3',
  )
  expect(say({ op: 'set', kind: 'item', key: 'A', field: 'pinned', before: false, value: true })).toBe(
    'A Lamp: pinned from no to yes',
  )
  expect(say({ op: 'add', kind: 'need', in: 'A', key: 'B' })).toBe('Added: A needs B')
  expect(say({ op: 'remove', kind: 'need', in: 'A', key: 'B' })).toBe('Removed: A needs B')
  expect(say({ op: 'move', kind: 'item', key: 'A', at: 3 })).toBe('A Lamp: moved to place 4')
  const capacity = { op: 'set', kind: 'iteration', in: 'T', key: '2', field: 'capacity' } as const
  expect(say({ ...capacity, before: null, value: 12 })).toBe('T·2: capacity from nothing to 12')
  const off = { from: '2027-04-01', to: '2027-04-02' }
  expect(
    say({ op: 'set', kind: 'person', key: 'p1', field: 'daysOff', before: [off], value: [off, off] }),
  ).toBe('p1: days off from 1 entry to 2 entries')
  expect(
    say({ op: 'set', kind: 'person', key: 'p1', field: 'roles', before: [], value: ['web', 'lead'] }),
  ).toBe('p1: roles from nothing to web, lead')
})
