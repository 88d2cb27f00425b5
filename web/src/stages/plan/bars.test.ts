import { describe, expect, it } from 'vitest'
import { rowsOf } from './bars'

describe('rows of bars', () => {
  it('are shared by those that do not touch', () => {
    const at = (start: number, end: number) => ({ start, end })
    expect(rowsOf([at(0, 9), at(20, 29), at(5, 24), at(12, 18), at(40, 50)], 1)).toEqual([0, 0, 1, 0, 0])
    expect(rowsOf([at(0, 9), at(10, 19)], 1)).toEqual([0, 1])
    expect(rowsOf([at(0, 9), at(11, 19)], 1)).toEqual([0, 0])
    expect(rowsOf([], 1)).toEqual([])
  })
})
