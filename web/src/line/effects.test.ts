import { describe, expect, it } from 'vitest'
import type { Effects } from '@/api/types'
import { smallProgram } from '@/line/testing'
import { toDay } from '@/ui/dates'
import { effectGroups } from './effects'

const none: Effects = {
  iterations: [],
  items: [],
  capacity: [],
  over: {},
  broken: {},
  missed: {},
  unplaced: {},
  releases: [],
  milestones: [],
}
const today = toDay('2027-03-23')
const texts = (e: Partial<Effects>) =>
  effectGroups({ ...none, ...e }, smallProgram(), today).map((g) => [
    g.title,
    ...g.effects.map((x) => x.text),
  ])

describe('effects of an edit', () => {
  it('are none where nothing changes', () => {
    expect(texts({})).toEqual([])
  })

  it('say first what breaks', () => {
    const span = { start: '2027-04-01', end: '2027-04-28' }
    const later = { start: '2027-04-08', end: '2027-05-05' }
    expect(
      texts({
        over: { new: [{ team: 'A', key: '2' }], gone: [{ team: 'A', key: '3' }] },
        broken: { new: [{ item: 'y', needs: 'x' }] },
        items: [
          { key: 'x', name: 'X', before: span, after: later },
          { key: 'z', name: 'Z', before: span },
        ],
        iterations: [{ team: 'A', key: '2', name: 'A·2', before: span, after: later }],
        capacity: [{ team: 'A', key: '2', before: 10, after: 8.25 }],
        releases: [
          {
            key: 'R',
            name: 'First',
            before: '2027-04-28',
            after: '2027-05-05',
            dueAfter: '2027-05-01',
            dueBefore: '2027-05-01',
          },
        ],
        milestones: [{ key: 'M', name: 'Trial', item: 'x', missed: true }],
      }),
    ).toEqual([
      [
        'Breaks',
        'A·2 goes over capacity',
        'y needs x: the need breaks',
        'x comes too late for Trial',
        'First: the plan ends 5 May, after the due date 1 May',
      ],
      ['Mends', 'A·3 is within capacity again'],
      ['Releases', 'First: the plan ends 5 May instead of 28 Apr'],
      ['1 iteration', 'Team A, A·2: 1 Apr – 28 Apr to 8 Apr – 5 May'],
      [
        '2 items with other dates',
        'x X: 1 Apr – 28 Apr to 8 Apr – 5 May',
        'z Z: unplaced, was 1 Apr – 28 Apr',
      ],
      ['Capacity of 1 iteration', 'A·2: 10 to 8.3 points'],
    ])
  })
})
