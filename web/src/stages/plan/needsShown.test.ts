import { expect, it } from 'vitest'
import type { Need } from '@/api/types'
import { bundled, chainOf, shownNeeds, type ShowNeeds } from './needsShown'

const need = (item: string, needs: string): Need => ({ item, needs })
// a ← b ← c, a ← d, x ← y in another team; b's need on a is broken, d's tight.
const needs = [need('b', 'a'), need('c', 'b'), need('d', 'a'), need('y', 'x')]
const known = (selected: string[] = []) => ({
  status: (n: Need) => ({ b: 'broken', d: 'tight' })[n.item] ?? 'holds',
  team: (item: string) => (item === 'y' ? 'B' : 'A'),
  chain: chainOf(needs, selected),
})
const texts = (list: Iterable<Need>) => [...list].map((n) => n.item + n.needs)

it('follows a chain both ways, and no further than what hangs on it', () => {
  expect(texts(chainOf(needs, ['b'])).sort()).toEqual(['ba', 'cb'])
  expect(texts(chainOf(needs, ['a'])).sort()).toEqual(['ba', 'cb', 'da'])
  expect(texts(chainOf(needs, []))).toEqual([])
  expect(texts(chainOf([need('a', 'b'), need('b', 'a')], ['a'])).sort()).toEqual(['ab', 'ba'])
})

it('shows the needs of a sort, and always the chain of what is selected', () => {
  const shown = (show: ShowNeeds, selected: string[] = []) => texts(shownNeeds(needs, show, known(selected)))
  expect(shown('selected')).toEqual([])
  expect(shown('broken')).toEqual(['ba'])
  expect(shown('tight')).toEqual(['ba', 'da'])
  expect(shown('across')).toEqual(['yx'])
  expect(shown('across', ['c'])).toEqual(['ba', 'cb', 'yx'])
  expect(shown('all')).toHaveLength(4)
})

it('draws many that go the same way as one, but none that has to be seen', () => {
  const list = ['a1', 'a2', 'a3', 'b1', 'a4']
  const found = bundled(
    list,
    (x) => x[0],
    (x) => x === 'a4',
  )
  expect(found.single).toEqual(['a4', 'b1'])
  expect(found.bundles).toEqual([{ key: 'a', needs: ['a1', 'a2', 'a3'] }])
})
