import { describe, expect, it } from 'vitest'
import type { Team } from '@/api/types'
import { amount, count, days, percent, sized, spareText } from './format'

describe('format', () => {
  it('writes sizes with their units', () => {
    expect(sized(5, { unit: 'points' } as Team)).toBe('5 pt')
    expect(sized(2.5, { unit: 'days' } as Team)).toBe('2.5 d')
    expect(sized(undefined, undefined)).toBe('no size')
    expect(amount(9.7142)).toBe('9.7')
  })

  it('counts and signs', () => {
    expect(count(1, 'item')).toBe('1 item')
    expect(count(0, 'item')).toBe('0 items')
    expect(days(3)).toBe('+3 days')
    expect(days(-1)).toBe('−1 day')
    expect(days(0)).toBe('no change')
    expect(percent(0.346)).toBe('35\u00a0%')
  })

  it('says how a need stands', () => {
    expect(spareText(14, 'holds')).toBe('14 days spare')
    expect(spareText(0, 'tight')).toBe('0 days spare')
    expect(spareText(-1, 'broken')).toBe('broken by 1 day')
    expect(spareText(undefined, 'broken')).toBe('broken: unplaced')
    expect(spareText(undefined, 'holds')).toBe('holds')
  })
})
