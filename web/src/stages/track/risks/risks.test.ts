// @vitest-environment jsdom
import { expect, test } from 'vitest'
import { changed, gainText } from './risks'

test('what a release gains is said in points and days', () => {
  expect(gainText(0.105, 2.04)).toBe('10.5 points, 2 days')
  expect(gainText(0.01, 1)).toBe('1 point, 1 day')
  expect(gainText(0, 0.3)).toBe('0.3 days')
  expect(gainText(undefined, 4)).toBe('4 days')
  expect(gainText(-0.02, 0)).toBe('-2 points')
  expect(gainText(0.0004, 0.04)).toBe('')
})

test('a part of a list that has changed meanwhile is the one that was seen', () => {
  const bigger = (n: { size: number }) => ({ size: n.size + 10 })
  const [one, two] = [{ size: 1 }, { size: 2 }]
  expect(changed([one, two], two, 1)).toEqual([one])
  expect(changed([one, two], two, 1, bigger)).toEqual([one, { size: 12 }])
  expect(changed([two], two, 1), 'one before it is gone').toEqual([])
  expect(changed([one, { size: 5 }], two, 1, bigger), 'it was changed itself').toEqual([one, { size: 15 }])
  expect(changed([one], two, 1), 'it is gone').toEqual([one])
})
