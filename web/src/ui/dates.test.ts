import { describe, expect, it } from 'vitest'
import { monthTicks, shortDate, shortDay, toDay, weekTicks } from './dates'

describe('dates', () => {
  it('writes short dates, with the year where it is another', () => {
    const near = toDay('2027-03-23')
    expect(shortDate('2027-06-25', near)).toBe('25 Jun')
    expect(shortDate('2028-06-05', near)).toBe('5 Jun 2028')
    expect(shortDate(undefined)).toBe('no date')
    expect(shortDay(toDay('2027-01-01'))).toBe('1 Jan')
  })

  it('counts days through changes of the clock', () => {
    expect(toDay('2027-03-29') - toDay('2027-03-27')).toBe(2)
    expect(toDay('2027-11-01') - toDay('2027-10-30')).toBe(2)
  })

  it('names the months that touch a stretch', () => {
    const ticks = monthTicks(toDay('2027-11-20'), toDay('2028-01-05'))
    expect(ticks.map((t) => t.label)).toEqual(['November 2027', 'December', 'January 2028'])
    expect(ticks[2].day).toBe(toDay('2028-01-01'))
  })

  it('puts week ticks on Mondays', () => {
    const ticks = weekTicks(toDay('2027-03-02'), toDay('2027-03-23'), 1)
    expect(ticks.map((t) => t.label)).toEqual(['8', '15', '22'])
    for (const tick of ticks) expect(new Date(tick.day * 86_400_000).getUTCDay()).toBe(1)
  })
})
