import type { Need } from '@/api/types'

/** Which needs are drawn: those of the selection's whole chain, or all of a sort. */
export type ShowNeeds = 'selected' | 'broken' | 'tight' | 'across' | 'all'

export interface NeedsKnown {
  /** Holds, tight or broken. */
  status: (need: Need) => string
  team: (item: string) => string | undefined
  /** Of what is selected. */
  chain: Set<Need>
}

/** The needs of some items' whole chain: all that they wait for, and all that waits for them. */
export function chainOf(needs: readonly Need[], items: Iterable<string>): Set<Need> {
  const chain = new Set<Need>()
  const begin = [...items]
  if (!begin.length) return chain
  const walk = (from: (n: Need) => string, to: (n: Need) => string) => {
    const of = new Map<string, Need[]>()
    for (const n of needs) {
      const list = of.get(from(n))
      if (list) list.push(n)
      else of.set(from(n), [n])
    }
    const seen = new Set<string>()
    const open = [...begin]
    for (let key = open.pop(); key !== undefined; key = open.pop()) {
      if (seen.has(key)) continue
      seen.add(key)
      for (const n of of.get(key) ?? []) {
        chain.add(n)
        open.push(to(n))
      }
    }
  }
  walk(
    (n) => n.item,
    (n) => n.needs,
  )
  walk(
    (n) => n.needs,
    (n) => n.item,
  )
  return chain
}

/** The needs that are drawn, in their order. What is selected always has its chain shown. */
export function shownNeeds(
  needs: readonly Need[],
  show: ShowNeeds,
  { status, team, chain }: NeedsKnown,
): Need[] {
  const sort: Record<ShowNeeds, (n: Need) => boolean> = {
    selected: () => false,
    broken: (n) => status(n) === 'broken',
    tight: (n) => status(n) === 'broken' || status(n) === 'tight',
    across: (n) => team(n.item) !== team(n.needs),
    all: () => true,
  }
  return needs.filter((n) => chain.has(n) || sort[show](n))
}

/** Many needs from one iteration to another, drawn as one. */
export interface Bundle<T> {
  key: string
  needs: T[]
}

/** From so many on, needs between the same two iterations are drawn as one. */
const MANY = 3

/** Takes together what goes the same way and need not be seen alone. */
export function bundled<T>(
  needs: T[],
  way: (need: T) => string,
  alone: (need: T) => boolean,
): { single: T[]; bundles: Bundle<T>[] } {
  const ways = new Map<string, T[]>()
  const single: T[] = []
  for (const need of needs) {
    if (alone(need)) single.push(need)
    else ways.set(way(need), [...(ways.get(way(need)) ?? []), need])
  }
  const bundles: Bundle<T>[] = []
  for (const [key, list] of ways)
    if (list.length < MANY) single.push(...list)
    else bundles.push({ key, needs: list })
  return { single, bundles }
}
