import { toDate } from '@/ui/dates'

/** A list in columns, as the server packs it; see internal/pack. */
export interface Packed {
  n: number
  c: Record<string, unknown>
}

interface Column {
  v?: unknown[]
  r?: unknown[]
  k?: unknown[]
  i?: number[]
  t?: number[]
  s?: string[]
  w?: number[]
  d?: number[]
  n?: number[]
  l?: (Packed | null)[]
}

/** The values of runs: value, count, value, count. */
function spread<T>(runs: T[]): T[] {
  const values: T[] = []
  for (let i = 0; i < runs.length; i += 2)
    for (let k = runs[i + 1] as number; k > 0; k--) values.push(runs[i])
  return values
}

/** The texts of days: an outline has few days, and each of them many times. */
const dates = new Map<number, string>()

function dateOf(day: number): string {
  let text = dates.get(day)
  if (text === undefined) dates.set(day, (text = toDate(day)))
  return text
}

function valuesOf({ v, r, k, i, t, s, w, d, n, l }: Column): unknown[] {
  if (v) return v
  if (k) return (i ?? spread(r as number[])).map((which) => k[which])
  if (r) return spread(r)
  if (l) return l.map((list) => list && unpack(list))
  if (t) {
    let day = 0
    return spread(t).map((more) => dateOf((day += more)))
  }
  const heads = s ?? []
  const which = spread(w ?? [])
  if (n) return n.map((x, at) => heads[which[at]] + x)
  const last = heads.map(() => 0)
  return spread(d ?? []).map((more, at) => heads[which[at]] + (last[which[at]] += more))
}

/**
 * The things of a packed list. What a thing has not is left out, as in its JSON. `more` are
 * fields that the list leaves out, each with the values of all things.
 */
export function unpack<T>(packed: Packed, more: Record<string, unknown[]> = {}): T[] {
  const things: Record<string, unknown>[] = Array.from({ length: packed.n }, () => ({}))
  for (const [field, values] of Object.entries(more)) values.forEach((value, i) => (things[i][field] = value))
  for (const [field, column] of Object.entries(packed.c)) {
    const values = valuesOf(column as Column)
    for (let i = 0; i < values.length; i++) if (values[i] !== null) things[i][field] = values[i]
  }
  return things as T[]
}
