import type { IterationFacts, Program } from '@/api/types'

/**
 * Finds the facts of an iteration by its team and its key. There may be tens of thousands, of
 * which few are on screen: those of a team are noted by key when the first is asked for.
 */
export class FactsOfIterations {
  private readonly listed = new Map<string, IterationFacts[]>()
  private readonly noted = new Map<string, Map<string, IterationFacts>>()

  constructor(all: readonly IterationFacts[]) {
    let team: string | undefined
    let list: IterationFacts[] = []
    for (const x of all) {
      if (x.team !== team) {
        team = x.team
        list = this.listed.get(team) ?? []
        this.listed.set(team, list)
      }
      list.push(x)
    }
  }

  get(team: string | undefined, key: string | undefined): IterationFacts | undefined {
    if (team === undefined || key === undefined) return undefined
    let facts = this.noted.get(team)
    if (!facts) {
      facts = new Map(this.listed.get(team)?.map((x) => [x.key, x]))
      this.noted.set(team, facts)
    }
    return facts.get(key)
  }

  /** Iterations over capacity, in the order of the program's lists. */
  over(program: Program): { team: string; key: string }[] {
    return (program.teams ?? [])
      .filter((t) => this.listed.get(t.key)?.some((x) => x.over))
      .flatMap((t) =>
        (t.iterations ?? [])
          .filter((it) => this.get(t.key, it.key)?.over)
          .map((it) => ({ team: t.key, key: it.key })),
      )
  }
}
