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

/** The n values of runs: value, count, value, count; each made of what stands there. */
function spread<T>(runs: unknown[], n: number, of: (x: number) => T): T[] {
  const values = new Array<T>(n)
  for (let i = 0, at = 0; i < runs.length; i += 2)
    values.fill(of(runs[i] as number), at, (at += runs[i + 1] as number))
  return values
}

/** The texts of days: an outline has few days, and each of them many times. */
const dates = new Map<number, string>()

function dateOf(day: number): string {
  let text = dates.get(day)
  if (text === undefined) dates.set(day, (text = toDate(day)))
  return text
}

const asItIs = (x: number): number => x

function valuesOf({ v, r, k, i, t, s, w, d, n, l }: Column, count: number): unknown[] {
  if (v) return v
  if (k) return i ? i.map((which) => k[which]) : spread(r ?? [], count, (which) => k[which])
  if (r) return spread(r, count, asItIs)
  if (l) return l.map((list) => list && unpack(list))
  let sum = 0
  if (t) return spread(t, count, asItIs).map((more) => dateOf((sum += more)))
  const heads = s ?? []
  const which = spread(w ?? [], count, asItIs)
  if (n) return n.map((x, at) => heads[which[at]] + x)
  const last = heads.map(() => 0)
  return spread(d ?? [], count, asItIs).map((more, at) => heads[which[at]] + (last[which[at]] += more))
}

/**
 * The things of a packed list. What a thing has not is left out, as in its JSON. `more` are
 * fields that the list leaves out, each with the values of all things.
 */
export function unpack<T>({ n, c }: Packed, more: Record<string, unknown[]> = {}): T[] {
  const columns = Object.entries(more).concat(
    Object.entries(c).map(([field, column]) => [field, valuesOf(column as Column, n)]),
  )
  // One thing after the other: field by field each of them would be laid out anew each time.
  return Array.from({ length: n }, (_, i) => {
    const thing: Record<string, unknown> = {}
    for (const [field, values] of columns) if (values[i] !== null) thing[field] = values[i]
    return thing as T
  })
}
