import type { Change, Facts, Program } from '@/api/types'
import { pair } from './pair'
import { kinds, settings } from './kinds.gen'

type Keyed = Record<string, unknown>

/**
 * The program after changes that the server has applied. No rule is checked
 * here: the server did. What was given is not altered.
 */
export function applyChanges(program: Program, changes: Change[]): Program {
  const next: Program = { ...program }
  const copied = new Map<string, Keyed[]>()
  const places = new Map<string, Places>()
  // Each list is copied once, however many changes there are.
  const listOf = (name: keyof Program): Keyed[] => {
    const own = copied.get(name) ?? [...((next[name] as Keyed[] | undefined) ?? [])]
    copied.set(name, own)
    Object.assign(next, { [name]: own })
    return own
  }
  for (const change of changes) {
    const kind = kinds[change.kind as keyof typeof kinds]
    if (change.kind === 'program') {
      setProgram(next, change)
    } else if ('nested' in kind) {
      const owners = listOf(kinds[kind.in].list as keyof Program)
      const at = owners.findIndex((t) => t.key === change.in)
      if (at < 0) continue
      const own = [...((owners[at][kind.list] as Keyed[] | undefined) ?? [])]
      applyTo(
        own,
        change,
        own.findIndex((x) => x.key === change.key),
      )
      owners[at] = { ...owners[at], [kind.list]: own.length ? own : undefined }
    } else if ('list' in kind) {
      const list = listOf(kind.list)
      const known = places.get(kind.list) ?? new Places(list, change.kind === 'need')
      places.set(kind.list, known)
      known.apply(change)
    }
  }
  return next
}

function setProgram(next: Program, change: Change): void {
  const field = change.field ?? ''
  const value = change.value ?? undefined
  if (settings.includes(field)) next.settings = { ...next.settings, [field]: value }
  else Object.assign(next, { [field]: value })
}

/** A list with the places of its things, so that thousands of changes find theirs. */
class Places {
  private at?: Map<string, number>
  /** Things have moved aside since: the places are out of date. */
  private shifted = false

  constructor(
    private readonly list: Keyed[],
    private readonly pairs: boolean,
  ) {}

  private keyOf(x: Keyed): string {
    return this.pairs ? pair(String(x.item), String(x.needs)) : String(x.key)
  }

  private find(key: string, op: Change['op']): number {
    const last = this.list.length - 1
    if (op === 'remove' && last >= 0 && this.keyOf(this.list[last]) === key) return last
    // What shifts things again looks through the list: that is cheaper than to note all places anew.
    if (op !== 'set' && (this.shifted || !this.at)) return this.list.findIndex((x) => this.keyOf(x) === key)
    if (this.shifted || !this.at) {
      this.at = new Map(this.list.map((x, i) => [this.keyOf(x), i]))
      this.shifted = false
    }
    return this.at.get(key) ?? -1
  }

  apply(change: Change): void {
    const key = this.pairs ? pair(change.in, change.key) : (change.key ?? '')
    const end = this.list.length
    const appended = change.op === 'add' && (change.at ?? end) === end
    applyTo(this.list, change, change.op === 'add' ? -1 : this.find(key, change.op))
    if (appended) this.at?.set(key, end)
    else if (change.op !== 'set') this.shifted = true
  }
}

function applyTo(list: Keyed[], change: Change, at: number): void {
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
    iterations: merge(facts.iterations, update.iterations, (x) => pair(x.team, x.key)),
    teams: merge(facts.teams, update.teams, (x) => x.key),
    needs: merge(facts.needs, update.needs, (x) => pair(x.item, x.needs)),
    items: merge(facts.items, update.items, (x) => x.key),
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
