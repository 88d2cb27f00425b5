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
})
