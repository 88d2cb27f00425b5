import { describe, expect, it } from 'vitest'
import { pair } from '@/line/pair'
import type { Item, IterationFacts, Team } from '@/api/types'
import { toDay } from '@/ui/dates'
import {
  basinOf,
  blocksOf,
  iterationsIn,
  lanesOf,
  OPEN_HEIGHT,
  scaleOf,
  SKYLINE_HEIGHT,
  stacksOf,
} from './layout'

const team = (key: string, length: number): Team =>
  ({
    key,
    name: key,
    unit: 'points',
    iterations: [0, 1, 2, 3].map((i) => ({
      key: `${key}${i}`,
      start: new Date(Date.UTC(2027, 2, 1 + i * length)).toISOString().slice(0, 10),
      end: new Date(Date.UTC(2027, 2, (i + 1) * length)).toISOString().slice(0, 10),
    })),
  }) as Team

const facts = (capacity: number, load: number) => ({ capacity, load, full: capacity }) as IterationFacts
const item = (key: string, size?: number, more: Partial<Item> = {}) =>
  ({ key, title: key, kind: 'story', team: 'A', iteration: 'A0', size, ...more }) as Item

describe('lanes', () => {
  it('stand under each other, the open ones taller', () => {
    const lanes = lanesOf([team('A', 14), team('B', 21), team('C', 14)], new Set(['B']))
    expect(lanes.map((l) => l.top)).toEqual([0, SKYLINE_HEIGHT, SKYLINE_HEIGHT + OPEN_HEIGHT])
  })

  it('line up by dates, whatever the length of an iteration', () => {
    const [two, three] = [team('A', 14), team('B', 21)]
    const from = toDay('2027-03-01')
    const lane = (t: Team) => lanesOf([t], new Set())[0]
    const left = (t: Team, i: number) => {
      const it = iterationsIn(t, from, from + 100)[i]
      return basinOf(lane(t), it.span, facts(10, 0), 1, from, 8).left
    }
    expect(left(two, 3)).toBe(left(three, 2)) // both start on 12 April
  })

  it('hold only the iterations that are in view', () => {
    expect(iterationsIn(team('A', 14), toDay('2027-03-20'), toDay('2027-04-02')).map((it) => it.key)).toEqual(
      ['A1', 'A2'],
    )
  })
})

describe('blocks', () => {
  const lane = lanesOf([team('A', 14)], new Set(['A']))[0]
  const span = { start: toDay('2027-03-01'), end: toDay('2027-03-14') }

  it('are as high as their sizes and stand on the floor', () => {
    const f = facts(10, 8)
    const basin = basinOf(lane, span, f, scaleOf(lane, [f]), span.start, 8)
    const [a, b] = blocksOf(basin, [item('a', 5), item('b', 3)])
    expect(a.top + 5 * basin.scale).toBeCloseTo(basin.floor)
    expect(b.top + 8 * basin.scale).toBeCloseTo(basin.floor)
    expect(a.over || b.over).toBe(false)
    expect(basin.floor - basin.line).toBeGreaterThan(basin.top)
  })

  it('are over where they pass the water line, and still fit the lane', () => {
    const f = facts(6, 14)
    const basin = basinOf(lane, span, f, scaleOf(lane, [f]), span.start, 8)
    const blocks = blocksOf(basin, [item('a', 5), item('b', 3), item('c', 6)])
    expect(blocks.map((b) => b.over)).toEqual([false, true, true])
    expect(Math.min(...blocks.map((b) => b.top))).toBeGreaterThanOrEqual(basin.top - 0.01)
  })

  it('of items without a size can still be seen and are never over', () => {
    const basin = basinOf(lane, span, facts(0, 0), 5, span.start, 8)
    const [block] = blocksOf(basin, [item('a')])
    expect(block.height).toBeGreaterThanOrEqual(1)
    expect(block.over).toBe(false)
  })

  it('leave out what is kept out, unplaced or a group, and put what is done at the floor', () => {
    const items = [
      item('a', 1),
      item('done', 1, { state: 'done' }),
      item('out', 1, { keptOut: true }),
      item('group', 1),
      item('free', 1, { iteration: undefined }),
    ]
    const stacks = stacksOf(items, ({ key }) => key !== 'group')
    expect(stacks.get(pair('A', 'A0'))?.map((x) => x.key)).toEqual(['done', 'a'])
    expect(stacks.size).toBe(1)
  })
})
