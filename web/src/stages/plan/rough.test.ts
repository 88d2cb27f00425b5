import { expect, it } from 'vitest'
import type { Item, ItemFacts } from '@/api/types'
import { isRough, ownerOf, roughBlocks, roughKey } from './rough'

const item: Item = { key: 'F', title: 'Archive', kind: 'feature' }
const facts: ItemFacts = {
  key: 'F',
  leaf: false,
  release: 'R',
  rough: [
    {
      team: 'A',
      least: 12,
      most: 20,
      covered: 0,
      rest: 16,
      loose: 4,
      places: [{ team: 'A', iteration: '2', size: 12 }],
    },
    { team: 'B', least: 3, most: 3, covered: 3, rest: 0 },
  ],
}

it('makes a block for each iteration that something rough stands in, and for what stands nowhere', () => {
  const blocks = roughBlocks(item, facts)
  expect(blocks.map((x) => [x.team, x.iteration, x.size, x.release])).toEqual([
    ['A', '2', 12, 'R'],
    ['A', undefined, 4, 'R'],
  ])
  expect(blocks.map((x) => x.key)).toEqual([roughKey('F', 'A', '2'), roughKey('F', 'A')])
  expect(blocks.every(isRough)).toBe(true)
  expect(blocks.map(ownerOf)).toEqual(['F', 'F'])
})

it('makes none of an item that has none', () => {
  expect(roughBlocks(item, undefined)).toEqual([])
  expect(isRough(item)).toBe(false)
  expect(ownerOf(item)).toBe('F')
})
