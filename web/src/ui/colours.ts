import type { Item, ItemFacts, Program } from '@/api/types'

export type ColourBy = 'release' | 'kind' | 'readiness' | 'rules'

/** A colour and what it stands for. */
export interface Swatch {
  key: string
  label: string
  colour: string
}

const wheel = ['var(--c0)', 'var(--c1)', 'var(--c2)', 'var(--c3)', 'var(--c4)']
const none = 'var(--c5)'

/** States keep their colours in pictures, by the names that these have in the theme. */
export const stateColours = { done: '--c0', review: '--c1', doing: '--c2', todo: '--edge' }

/** Teal, slate, moss, plum and clay in turn. */
export const releaseColour = (index: number): string => wheel[index % wheel.length]

const kinds: Swatch[] = ['Story', 'Defect', 'Upkeep', 'Enabler', 'Spike'].map((label, i) => ({
  key: label.toLowerCase(),
  label,
  colour: wheel[i],
}))

const readiness: Swatch[] = [
  { key: 'ready', label: 'Ready', colour: wheel[0] },
  { key: 'lacking', label: 'Lacks something', colour: wheel[4] },
]

/** What the colours of blocks stand for, where they do not follow rules of one's own. */
export function legend(by: ColourBy, program: Program): Swatch[] {
  if (by === 'rules') return []
  if (by === 'kind') return kinds
  if (by === 'readiness') return readiness
  const releases = (program.releases ?? []).map((r, i) => ({
    key: r.key,
    label: r.name,
    colour: releaseColour(i),
  }))
  return [...releases, { key: '', label: 'No release', colour: none }]
}

/** The colour of an item's block, by a legend turned into a lookup. */
export function colourOf(
  by: ColourBy,
  colours: Map<string, string>,
  item: Item,
  facts: ItemFacts | undefined,
): string {
  if (item.state === 'done') return 'var(--done)'
  if (by === 'rules') return none
  if (by === 'kind') return colours.get(item.kind) ?? none
  if (by === 'readiness') return colours.get(facts?.lacks?.length ? 'lacking' : 'ready') ?? none
  return colours.get(facts?.release ?? '') ?? none
}
