import { describe, expect, it } from 'vitest'
import { toDate, toDay } from './dates'
import { dayText, parseDay } from './parseDay'

const today = toDay('2027-03-02')
const read = (text: string) => {
  const day = parseDay(text, today)
  return day === undefined ? undefined : toDate(day)
}

describe('a date that is typed', () => {
  it.each([
    ['2027-02-12', '2027-02-12'],
    ['12 Feb 2027', '2027-02-12'],
    ['12 february', '2027-02-12'],
    ['Feb 12, 2028', '2028-02-12'],
    ['12.2.', '2027-02-12'],
    ['12.2', '2027-02-12'],
    ['12.2.27', '2027-02-12'],
    ['12. 2. 2027', '2027-02-12'],
    ['1.10.', '2027-10-01'],
    ['24 Dec', '2027-12-24'],
    ['15 Nov', '2027-11-15'],
    ['today', '2027-03-02'],
    ['+2w', '2027-03-16'],
    ['+ 10 days', '2027-03-12'],
    ['-1d', '2027-03-01'],
    ['+1m', '2027-04-02'],
    ['+1y', '2028-03-02'],
  ])('%s is %s', (text, date) => expect(read(text)).toBe(date))

  it.each(['', 'soon', '30 Feb', '32.1.', '2027-13-01', '12', '12 Foo', '12/2/2027', '+2', '99999-01-01'])(
    '%s is none',
    (text) => expect(read(text)).toBeUndefined(),
  )

  it('is near today where it has no year', () => {
    expect(toDate(parseDay('15 Nov', toDay('2027-01-10'))!)).toBe('2027-11-15')
    expect(toDate(parseDay('15 Jan', toDay('2027-11-10'))!)).toBe('2028-01-15')
    expect(toDate(parseDay('20.10.', toDay('2027-11-10'))!)).toBe('2027-10-20')
  })

  it('stays in its month', () => {
    expect(toDate(parseDay('+1m', toDay('2027-01-31'))!)).toBe('2027-02-28')
    expect(toDate(parseDay('-1m', toDay('2027-01-15'))!)).toBe('2026-12-15')
  })

  it('reads as it is written', () => {
    expect(dayText('2027-02-12')).toBe('12 Feb 2027')
    expect(dayText('')).toBe('')
    for (let day = today; day < today + 800; day += 13)
      expect(parseDay(dayText(toDate(day)), today)).toBe(day)
  })
})
