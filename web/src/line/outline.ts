import type {
  Counts,
  Facts,
  ItemFacts,
  Iteration,
  IterationFacts,
  Need,
  NeedFacts,
  Program,
  Team,
} from '@/api/types'
import type { Item, Outline, TeamFacts } from '@/api/types'
import type { FactsOfIterations } from './iterationFacts'
import { pair } from './pair'
import { unpack } from './unpack'

/** The program and the facts that an outline packs. */
export function readOutline(outline: Outline): { program: Program; facts: Facts } {
  const teams = unpack<Team>(outline.teams)
  const items = unpack<Item>(outline.items)
  const needs = unpack<Need>(outline.needs)
  const iterations: [Team, Iteration][] = teams.flatMap((t) =>
    (t.iterations ?? []).map((it): [Team, Iteration] => [t, it]),
  )
  const { facts } = outline
  return {
    program: { ...outline.program, teams, items, needs },
    facts: {
      iterations: unpack<IterationFacts>(facts.iterations, {
        team: iterations.map(([t]) => t.key),
        key: iterations.map(([, it]) => it.key),
      }),
      teams: unpack<TeamFacts>(facts.teams, { key: teams.map((t) => t.key) }),
      needs: unpack<NeedFacts>(facts.needs, {
        item: needs.map((n) => n.item),
        needs: needs.map((n) => n.needs),
      }),
      items: unpack<ItemFacts>(facts.items, { key: items.map((x) => x.key) }),
    },
  }
}

/** Finds the facts of things by their keys. */
export interface FactsByKey {
  items: Map<string, ItemFacts>
  needs: Map<string, NeedFacts>
  iterations: FactsOfIterations
}

/** What the standing strip counts, from the facts of what there is: the keys behind each number. */
export function countsOf(program: Program, facts: FactsByKey): Counts {
  const items = program.items ?? []
  return {
    over: facts.iterations.over(program),
    broken: (program.needs ?? [])
      .filter((n) => facts.needs.get(pair(n.item, n.needs))?.status === 'broken')
      .map(({ item, needs }) => ({ item, needs })),
    notReady: items.filter((x) => facts.items.get(x.key)?.lacks?.length).map((x) => x.key),
    unplaced: items.filter((x) => facts.items.get(x.key)?.unplaced).map((x) => x.key),
  }
}
