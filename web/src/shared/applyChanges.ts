import type { Change, Facts, Program } from '@/api/types'

type Keyed = Record<string, unknown>

const lists: Partial<Record<Change['kind'], keyof Program>> = {
  cadence: 'cadences',
  team: 'teams',
  person: 'people',
  release: 'releases',
  milestone: 'milestones',
  item: 'items',
  need: 'needs',
}

/**
 * The program after changes that the server has applied. No rule is checked
 * here: the server did. What was given is not altered.
 */
export function applyChanges(program: Program, changes: Change[]): Program {
  const next: Program = { ...program }
  const copied = new Map<string, Keyed[]>()
  // Each list is copied once, however many changes there are.
  const listOf = (name: keyof Program): Keyed[] => {
    const own = copied.get(name) ?? [...((next[name] as Keyed[] | undefined) ?? [])]
    copied.set(name, own)
    Object.assign(next, { [name]: own })
    return own
  }
  for (const change of changes) {
    const name = lists[change.kind]
    if (change.kind === 'program') {
      setProgram(next, change)
    } else if (change.kind === 'iteration') {
      const teams = listOf('teams')
      const at = teams.findIndex((t) => t.key === change.in)
      if (at < 0) continue
      const iterations = [...((teams[at].iterations as Keyed[] | undefined) ?? [])]
      applyTo(iterations, change, (x) => x.key === change.key)
      teams[at] = { ...teams[at], iterations }
    } else if (name) {
      applyTo(listOf(name), change, (x) =>
        change.kind === 'need' ? x.item === change.in && x.needs === change.key : x.key === change.key,
      )
    }
  }
  return next
}

function setProgram(next: Program, change: Change): void {
  const field = change.field ?? ''
  if (field === 'sameIteration' || field === 'fillTo' || field === 'holidayCalendar')
    next.settings = { ...next.settings, [field]: change.value }
  else Object.assign(next, { [field]: change.value })
}

function applyTo(list: Keyed[], change: Change, is: (x: Keyed) => boolean): void {
  const at = list.findIndex(is)
  if (change.op === 'add') {
    list.splice(change.at ?? list.length, 0, change.value as Keyed)
  } else if (at >= 0 && change.op === 'remove') {
    list.splice(at, 1)
  } else if (at >= 0 && change.op === 'move') {
    const [thing] = list.splice(at, 1)
    list.splice(change.at ?? list.length, 0, thing)
  } else if (at >= 0 && change.op === 'set' && change.field) {
    const empty = change.value === null || change.value === ''
    list[at] = { ...list[at], [change.field]: empty ? undefined : change.value }
  }
}

/** The facts after an update, which holds only the entries that differ. */
export function mergeFacts(facts: Facts, update: Facts): Facts {
  return {
    iterations: merge(facts.iterations, update.iterations, (x) => x.team + ' ' + x.key),
    teams: merge(facts.teams, update.teams, (x) => x.key),
    needs: merge(facts.needs, update.needs, (x) => x.item + ' ' + x.needs),
    items: merge(facts.items, update.items, (x) => x.key),
    counts: update.counts,
  }
}

function merge<T>(all: T[] | undefined, some: T[] | undefined, key: (x: T) => string): T[] {
  if (!some?.length) return all ?? []
  const newer = new Map(some.map((x) => [key(x), x]))
  const merged = (all ?? []).map((x) => {
    const other = newer.get(key(x))
    if (other) newer.delete(key(x))
    return other ?? x
  })
  return [...merged, ...newer.values()]
}
