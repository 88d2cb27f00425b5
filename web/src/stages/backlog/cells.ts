import type { Field, Item, Program } from '@/api/types'
import { kinds } from '@/line/kinds.gen'
import { shortDate } from '@/ui/dates'
import { amount } from '@/ui/format'
import type { Choice } from '@/ui/matching'
import { plain } from '@/views/choices'
import type { useProgram } from '@/line/program'
import { rolesKnown } from '@/line/roles'

type Store = ReturnType<typeof useProgram>

/** What the program has already of what one writes into a field; nothing for other fields. */
export function suggestionsOf(field: string, program: Program): Choice[] | undefined {
  const items = program.items ?? []
  if (field === 'role') return plain(rolesKnown(program))
  if (field !== 'tags') return undefined
  return plain([...new Set(items.flatMap((x) => x.tags ?? []))].sort((a, b) => a.localeCompare(b)))
}

/** The rank of each item, counted over those that are no groups of others. */
export function ranksOf(store: Pick<Store, 'program' | 'itemFacts'>): Map<string, number> {
  const of = new Map<string, number>()
  for (const item of store.program.items ?? [])
    if (store.itemFacts.get(item.key)?.leaf) of.set(item.key, of.size + 1)
  return of
}

/** Whether an item's release is not its own: it takes that of what it is part of. */
export const inheritsRelease = (item: Item, store: Store): boolean =>
  !item.release && !!store.itemFacts.get(item.key)?.release

/** What is written into a field, as the server reads it. */
export function entryOf(field: string, item: Item, store: Store): string {
  switch (field) {
    case 'needs':
      return listOf(needsOf(item.key, store))
    case 'tags':
      return listOf(item.tags ?? [])
    case 'size':
      return item.size === undefined ? '' : String(item.size)
    case 'rough':
      return listOf(
        (item.rough ?? []).map(
          (r) =>
            `${store.teams.get(r.team)?.name ?? r.team} ${r.size}${r.upTo === undefined ? '' : `–${r.upTo}`}`,
        ),
      )
    case 'pinned':
    case 'keptOut':
      return item[field] ? 'yes' : 'no'
    case 'state':
      return item.state || 'todo'
    case 'release':
      return item.release ?? store.itemFacts.get(item.key)?.release ?? ''
    default:
      return String((item as unknown as Record<string, unknown>)[field] ?? '')
  }
}

/** A list in one cell; what a comma would take apart stands in quotes. */
const listOf = (words: string[]): string =>
  words.map((word) => (/[,;]/.test(word) ? `"${word}"` : word)).join(', ')

const needs = new WeakMap<object, Map<string, { needs: string[]; neededBy: string[] }>>()

function neighbours(store: Store) {
  const all = store.program.needs ?? []
  let found = needs.get(all)
  if (!found) {
    found = new Map()
    const of = (key: string) => {
      const entry = found!.get(key) ?? { needs: [], neededBy: [] }
      found!.set(key, entry)
      return entry
    }
    for (const n of all) {
      of(n.item).needs.push(n.needs)
      of(n.needs).neededBy.push(n.item)
    }
    needs.set(all, found)
  }
  return found
}

export const needsOf = (key: string, store: Store): string[] => neighbours(store).get(key)?.needs ?? []

function above(item: Item, kind: string, store: Store): Item | undefined {
  for (
    let up = store.items.get(item.parent ?? ''), n = 0;
    up && n < 50;
    up = store.items.get(up.parent ?? ''), n++
  )
    if (up.kind === kind) return up
  return undefined
}

/** What a cell shows. */
export function textOf(field: string, item: Item, store: Store): string {
  const facts = store.itemFacts.get(item.key)
  switch (field) {
    case 'size':
      return item.size === undefined ? '' : amount(item.size)
    case 'team':
      return store.teams.get(item.team ?? '')?.name ?? ''
    case 'release':
      return store.releases.get(facts?.release ?? '')?.name ?? ''
    case 'assignee':
      return store.program.people?.find((p) => p.key === item.assignee)?.name ?? ''
    case 'iteration':
      return (
        store.teams.get(item.team ?? '')?.iterations?.find((it) => it.key === item.iteration)?.name ??
        item.iteration ??
        ''
      )
    case 'feature':
    case 'initiative':
      return (item.kind === field ? item : above(item, field, store))?.title ?? ''
    case 'parent':
      return store.items.get(item.parent ?? '')?.title ?? ''
    case 'neededBy':
      return (neighbours(store).get(item.key)?.neededBy ?? []).join(', ')
    case 'readiness':
      return facts?.lacks?.map((l) => l.text).join(', ') ?? ''
    case 'notBefore':
    case 'due':
    case 'doneOn':
      return item[field] ? shortDate(item[field], store.todayDay) : ''
    case 'pinned':
    case 'keptOut':
      return item[field] ? 'yes' : ''
    case 'checks':
      return facts?.checks ? `${facts.checked ?? 0} of ${facts.checks}` : ''
    case 'hoursLeft':
      return facts?.hoursLeft === undefined ? '' : `${amount(facts.hoursLeft)} h`
    case 'changed':
    case 'rank':
      return ''
    default:
      return entryOf(field, item, store)
  }
}

/** What is copied of a cell: what can be pasted again, names as they are shown. */
export function copyOf(field: string, item: Item, store: Store): string {
  const sorts: Record<string, { sort: string } | undefined> = kinds.item.fields
  const sort = sorts[field]?.sort
  return sort === 'day' || sort === 'number' || sort === 'flag'
    ? entryOf(field, item, store)
    : textOf(field, item, store)
}

/** Where a field is entered: features and initiatives are parents of another name. */
export const enteredAs = (field: string): string =>
  field === 'feature' || field === 'initiative' ? 'parent' : field

/** The cells of a block as a spreadsheet copies them. */
export const toBlock = (rows: string[][]): string =>
  rows
    .map((row) =>
      row.map((cell) => (/[\t\n"]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)).join('\t'),
    )
    .join('\n')

/** The cells of a block that a spreadsheet copied: tabs between, quotes around what holds lines. */
export function fromBlock(text: string): string[][] {
  const rows: string[][] = []
  let row: string[] = []
  let cell = ''
  let quoted = false
  const body = text.replace(/\r\n?/g, '\n').replace(/\n$/, '')
  for (let i = 0; i < body.length; i++) {
    const c = body[i]
    if (quoted) {
      if (c === '"' && body[i + 1] === '"') {
        cell += '"'
        i++
      } else if (c === '"') quoted = false
      else cell += c
    } else if (c === '"' && cell === '') quoted = true
    else if (c === '\t' || c === '\n') {
      row.push(cell)
      cell = ''
      if (c === '\n') {
        rows.push(row)
        row = []
      }
    } else cell += c
  }
  row.push(cell)
  rows.push(row)
  return rows
}

/** Whether somebody may write into a field of an item. */
export function mayEnter(shown: string, item: Item, store: Store, fields: Map<string, Field>): boolean {
  const field = enteredAs(shown)
  if (field === 'key' || !fields.get(field)?.enter) return false
  return field === 'needs'
    ? store.may({ op: 'add', kind: 'need', in: item.key, key: '' })
    : store.may({ op: 'set', kind: 'item', key: item.key, field })
}
