// @vitest-environment jsdom
import { expect, test } from 'vitest'
import { gainText } from './risks'

test('what a release gains is said in points and days', () => {
  expect(gainText(0.105, 2.04)).toBe('10.5 points, 2 days')
  expect(gainText(0.01, 1)).toBe('1 point, 1 day')
  expect(gainText(0, 0.3)).toBe('0.3 days')
  expect(gainText(undefined, 4)).toBe('4 days')
  expect(gainText(-0.02, 0)).toBe('-2 points')
  expect(gainText(0.0004, 0.04)).toBe('')
})
