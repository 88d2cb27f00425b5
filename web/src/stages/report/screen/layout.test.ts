import { expect, test } from 'vitest'
import { cutAfter, isDim, rowsOf, screenfuls } from './layout'

const card = (wide: number, high: number) => ({ wide, high })

test('cards fill rows from left to right, then down', () => {
  expect(rowsOf([])).toBe(0)
  expect(rowsOf([card(6, 2), card(6, 2)])).toBe(2)
  expect(rowsOf([card(6, 2), card(7, 1)])).toBe(3)
  // A narrow one fits beside a high one, below one that is not.
  expect(rowsOf([card(6, 2), card(6, 1), card(6, 1)])).toBe(2)
  expect(rowsOf([card(8, 1), card(6, 1), card(4, 1)])).toBe(2)
})

test('a screen shows as many cards as it has rows for, or one', () => {
  const cards = [card(12, 2), card(6, 2), card(6, 2), card(12, 1), card(12, 8)]
  expect(screenfuls(cards, false).map((s) => s.length)).toEqual([3, 1, 1])
  expect(screenfuls(cards, true).map((s) => s.length)).toEqual([1, 1, 1, 1, 1])
  expect(screenfuls([], true)).toEqual([])
})

test('it is dim from an hour to another, over midnight too', () => {
  expect([21, 22, 23, 0, 5, 6].map((h) => isDim(h, 22, 6))).toEqual([false, true, true, true, true, false])
  expect([0, 1, 12].map((h) => isDim(h, 1, 12))).toEqual([false, true, false])
  expect([0, 12].map((h) => isDim(h, 7, 7))).toEqual([false, false])
})

test('rows that do not fit are counted, and the last whole one ends above the line that says so', () => {
  const of = { list: 90, card: 100 }
  expect(cutAfter([], of, 0)).toBeUndefined()
  expect(cutAfter([30, 60, 90], of, 0)).toBeUndefined()
  expect(cutAfter([30, 60, 90, 120], of, 0)).toEqual({ top: 60, more: 2 })
  expect(cutAfter([39, 78, 117], of, 0)).toEqual({ top: 78, more: 1 })
  expect(cutAfter([150, 300], of, 0)).toEqual({ top: 78, more: 2 })
  // Others are not even there.
  expect(cutAfter([30, 60], of, 8)).toEqual({ top: 60, more: 8 })
  expect(cutAfter([30, 60, 90], of, 8)).toEqual({ top: 60, more: 9 })
})
