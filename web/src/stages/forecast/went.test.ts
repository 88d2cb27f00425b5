import { expect, test } from 'vitest'
import type { ForecastHistory } from '@/api/types'
import { toDay } from '@/ui/dates'
import { movedMost, saidChart } from './went'

const looks = {
  token: (name: string) => name,
  text: { color: 'ink', fontFamily: 'text' },
  rule: { lineStyle: { color: 'rule' } },
}
const days: ForecastHistory['days'] = [
  { day: '2027-02-01', chance: 1, done: true },
  {
    day: '2027-02-02',
    chance: 0.9,
    due: '2027-05-07',
    early: '2027-04-20',
    even: '2027-04-26',
    safe: '2027-05-06',
  },
  {
    day: '2027-02-03',
    chance: 0.89,
    due: '2027-05-07',
    early: '2027-04-20',
    even: '2027-04-27',
    safe: '2027-05-06',
  },
  { day: '2027-02-04', chance: 0.6, due: '2027-05-07', early: '2027-04-22', even: '2027-05-04' },
]

test('the days that moved it most, the first with something to do left out', () => {
  expect(movedMost(days)).toEqual(['2027-02-04'])
})

test('what was said is read day by day', () => {
  const chart = saidChart(days, 'chance', toDay('2027-03-01'), looks)
  expect(chart.rows.map((r) => r.cells)).toEqual([
    ['1 Feb', 1, '', '', '', ''],
    ['2 Feb', 0.9, '20 Apr', '26 Apr', '6 May', '7 May'],
    ['3 Feb', 0.89, '20 Apr', '27 Apr', '6 May', '7 May'],
    ['4 Feb', 0.6, '22 Apr', '4 May', '', '7 May'],
  ])
  expect(chart.rows[0].text).toBe('1 Feb: nothing was left to do')
  expect(chart.rows[3].text).toBe(
    '4 Feb: lands 4 May or much later, 60\u00a0% by 7 May. Enter shows what moved it',
  )
})
