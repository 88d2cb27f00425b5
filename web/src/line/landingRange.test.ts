import { describe, expect, it } from 'vitest'
import type { Landing } from '@/api/types'
import { toDay } from '@/ui/dates'
import { percent } from '@/ui/format'
import { landingBasis, turnedText } from './landingRange'

const near = toDay('2027-03-23')
const landing = (more: Partial<Landing>): Landing => ({
  key: 'R1',
  dates: [],
  left: 3,
  expectedLateDays: 0,
  ...more,
})

it('says what a landing rests on', () => {
  expect(
    landingBasis(
      landing({
        dates: [{ odds: 50, date: '2027-05-30', chance: 0.61, error: 0.007 }, { odds: 95 }],
        sampled: 1,
        expectedLateDays: 3.25,
        risks: 2,
      }),
      near,
    ),
  ).toEqual([
    `by 30 May: ${percent(0.61)} (± 0.7 %)`,
    'with 95 %: beyond the time played',
    '1 item without a size played with past sizes of the kind',
    '2 risks happening by their odds (Track, Risks)',
    'expected to be 3.3 days late',
  ])
})

it.each([
  ['set', 'set by hand for this release'],
  ['measured', 'as it did so far'],
  ['assumed', 'as the program assumes'],
] as const)('says by how much scope is taken to grow: %s', (basis, words) => {
  expect(landingBasis(landing({ growth: { share: 0.0215, basis } }), near)).toEqual([
    `scope taken to grow by 2.1 % an iteration, ${words}`,
  ])
})

describe('what sizes turned out as', () => {
  it.each([
    [
      { items: 14, mean: 1.124, spread: 0.2, applied: true },
      'Its sizes turned out 12 % larger (± 20 %, 14 items), and are played so',
    ],
    [
      { items: 1, mean: 0.5, spread: 0 },
      'Its sizes turned out 50 % smaller (± 0 %, 1 item), which the plays leave out',
    ],
    [
      { items: 20, mean: 1, spread: 0 },
      'Its sizes turned out as large (± 0 %, 20 items), which the plays leave out',
    ],
  ])('%j', (turned, text) => expect(turnedText(turned)).toBe(text))
})
