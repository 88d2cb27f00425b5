import { expect, test } from 'vitest'
import type { When } from '@/api/types'
import { toDay } from '@/ui/dates'
import { fanChart, oddsChart, worded } from './fan'

const looks = {
  token: (name: string) => name,
  text: { color: 'ink', fontFamily: 'text' },
  rule: { lineStyle: { color: 'rule' } },
}
const near = toDay('2027-03-01')
const five = (n: number) => [n, n, n, n, n]
const found = (more: Partial<When> = {}): When =>
  ({
    measure: { in: 'items' },
    past: [
      { day: '2027-02-22', total: 4, done: 0 },
      { day: '2027-03-01', total: 5, done: 1 },
    ],
    fan: {
      total: 5,
      done: 1,
      days: [
        { day: '2027-03-01', done: five(1), scope: five(5), left: five(4) },
        { day: '2027-03-12', done: [2, 3, 4, 5, 5], scope: five(5), left: [0, 0, 1, 2, 3] },
      ],
    },
    chances: [0, 0, 0.25, 0.25, 1],
    ...more,
  }) as unknown as When

test('a fan is read from the past into what is to come', () => {
  const chart = fanChart(found(), false, [], undefined, near, looks)
  expect(chart.columns).toEqual(['Day', 'Done', 'There is', '10 %', '25 %', '75 %', '90 %'])
  expect(chart.rows.map((r) => r.cells)).toEqual([
    ['22 Feb', 0, 4, '', '', '', ''],
    ['1 Mar', 1, 5, '', '', '', ''],
    ['12 Mar', 4, 5, 2, 3, 5, 5],
  ])
  expect(chart.rows[2].text).toBe(
    '12 Mar: 4 items done at even odds, 3 items to 5 items in half of the plays, 2 items to 5 items in 8 of 10',
  )
  const left = fanChart(found(), true, [], undefined, near, looks)
  expect(left.rows.map((r) => r.cells)).toEqual([
    ['22 Feb', 4, '', '', '', ''],
    ['1 Mar', 4, '', '', '', ''],
    ['12 Mar', 1, 0, 0, 2, 3],
  ])
})

test('odds are told where they rise, on the date asked about and at the end', () => {
  const due = { day: toDay('2027-03-04'), name: 'due', kind: 'due' as const }
  const chart = oddsChart(found(), found({ chances: [0, 0, 0, 0, 0.5] }), [due], near, looks)
  expect(chart.rows.map((r) => r.cells)).toEqual([
    ['1 Mar', 0, 0],
    ['3 Mar', 0.25, 0],
    ['4 Mar', 0.25, 0],
    ['5 Mar', 1, 0.5],
    ['8 Mar', 1, 0.5],
  ])
  expect(chart.rows[1].text).toBe('by 3 Mar: 25\u00a0%; as things are 0\u00a0%')
})

test('amounts are worded in their measure', () => {
  expect(worded(0.25, { in: 'share' })).toBe('25\u00a0%')
  expect(worded(3, { in: 'size', team: 'FW' }, { unit: 'days' })).toBe('3 d')
  expect(worded(1, { in: 'items' })).toBe('1 item')
  expect(worded(7.5, { in: 'hours' })).toBe('7.5 h')
})
