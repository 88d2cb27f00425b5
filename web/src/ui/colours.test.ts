import { describe, expect, it } from 'vitest'
import type { Item, ItemFacts, Program } from '@/api/types'
import { colourOf, legend } from './colours'

const program = {
  releases: [
    { key: 'R1', name: 'One' },
    { key: 'R2', name: 'Two' },
  ],
} as Program
const item = (more: Partial<Item>) => ({ key: 'A', title: '', kind: 'story', ...more }) as Item

describe('colours', () => {
  it('has an entry in the legend for every colour that a block can have', () => {
    for (const by of ['release', 'kind', 'readiness'] as const) {
      const swatches = legend(by, program)
      const map = new Map(swatches.map((s) => [s.key, s.colour]))
      for (const kind of ['story', 'defect', 'upkeep', 'enabler', 'spike'] as const) {
        for (const release of ['R1', 'R2', '']) {
          const facts = {
            key: 'A',
            leaf: true,
            release,
            lacks: release ? [] : [{ code: 'size', text: 'has no size' }],
          } as ItemFacts
          expect([...map.values()]).toContain(colourOf(by, map, item({ kind }), facts))
        }
      }
    }
  })

  it('greys what is done', () => {
    expect(colourOf('kind', new Map(), item({ state: 'done' }), undefined)).toBe('var(--done)')
  })
})
