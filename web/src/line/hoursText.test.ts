import { expect, test } from 'vitest'
import { hoursCell, readHours } from './hoursText'

test('hours are read as people write them', () => {
  const reads: [string, number, string?][] = [
    ['', 0],
    ['0', 0],
    ['2', 2],
    ['2.5', 2.5],
    ['2,25', 2.25],
    ['.5', 0.5],
    ['3h', 3],
    ['1:30', 1.5],
    ['1h30', 1.5],
    ['1h 30m', 1.5],
    ['45m', 0.75],
    ['90 min', 1.5],
    ['2.5 found the leak', 2.5, 'found the leak'],
    ['2h 30 buoys', 2.5, 'buoys'],
    ['3h buoys', 3, 'buoys'],
    ['24', 24],
  ]
  for (const [text, hours, note] of reads)
    expect(readHours(text), text).toEqual(note ? { hours, note } : { hours })
})

test('what means no hours is none', () => {
  for (const text of ['x', '25', '-1', '1:75', '2.5found', '100', '2000m'])
    expect(readHours(text), text).toBeUndefined()
})

test('what a cell shows is read as the same', () => {
  for (const hours of [0, 0.5, 1.25, 7.99, 24]) expect(readHours(hoursCell(hours))).toEqual({ hours })
})
