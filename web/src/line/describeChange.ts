import type { Change, Program, Tests, TimeEntry } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { kinds } from './kinds.gen'
import { count } from '@/ui/format'
import { testsText } from './signals'

type Kind = keyof typeof kinds
/** What a value belongs to: a field of a thing. */
type Of = Pick<Change, 'kind' | 'in' | 'key' | 'field'>
interface FieldInfo {
  title: string
  names?: string
}

const fieldOf = (change: Of): FieldInfo | undefined => {
  const fields: Record<string, FieldInfo | undefined> = kinds[change.kind as Kind]?.fields ?? {}
  return fields[change.field ?? '']
}

/** What people call things, by their kind and key. */
export class Names {
  private readonly of = new Map<string, Map<string, string>>()

  constructor(private readonly program: Program) {}

  /** The name of a thing of the program; its key where it is not there any more. */
  name(kind: string, key: string, within?: string): string {
    if (kind === 'iteration') return this.iteration(within, key)
    let names = this.of.get(kind)
    if (!names) {
      const info: { title: string; list?: string } | undefined = kinds[kind as Kind]
      const list = info?.list ?? ''
      const things = (this.program as unknown as Record<string, unknown>)[list]
      names = new Map(
        (Array.isArray(things) ? (things as { key: string; name?: string; title?: string }[]) : []).map(
          (x) => [x.key, kind === 'item' ? `${x.key} ${x.title}` : x.name || x.title || x.key],
        ),
      )
      this.of.set(kind, names)
    }
    return names.get(key) ?? key
  }

  /** The team of an item: where an iteration is one of the item's, it is one of that team. */
  teamOf(item: string | undefined): string | undefined {
    return this.program.items?.find((x) => x.key === item)?.team
  }

  private iteration(team: string | undefined, key: string): string {
    const found = this.program.teams?.find((t) => t.key === team)?.iterations?.find((it) => it.key === key)
    return found?.name || key
  }
}

/** A value of a field in words: names instead of keys, "nothing" for none. */
export function valueInWords(of: Of, x: unknown, names: Names): string {
  const field = fieldOf(of)
  const one = (y: unknown): string => {
    if (typeof y === 'string' && field?.names)
      return names.name(field.names, y, of.kind === 'item' ? names.teamOf(of.key) : of.in)
    if (typeof y === 'boolean') return y ? 'yes' : 'no'
    if (of.field === 'tests') return testsText(y as Tests)
    return typeof y === 'object' ? JSON.stringify(y) : String(y)
  }
  if (x === null || x === undefined || x === '' || (Array.isArray(x) && !x.length)) return 'nothing'
  if (!Array.isArray(x)) return one(x)
  return x.every((y) => typeof y !== 'object') ? x.map(one).join(', ') : count(x.length, 'entry', 'entries')
}

/** What a field is called in the middle of a sentence. */
export const fieldInWords = (of: Of): string => fieldOf(of)?.title.toLowerCase() ?? of.field ?? ''

/** One change of the journal in words: "LC-52 Remote dimming: iteration from LC·14 to LC·15". */
export function describeChange(change: Change & { before?: unknown }, names: Names): string {
  const title = fieldInWords(change)
  const value = (x: unknown): string => valueInWords(change, x, names)
  const fromTo = () => `${title} from ${value(change.before)} to ${value(change.value)}`
  if (change.kind === 'need') {
    const pair = `${change.in} needs ${change.key}`
    if (change.op === 'set') return `${pair}: ${fromTo()}`
    return change.op === 'add' ? `Added: ${pair}` : `Removed: ${pair}`
  }
  // A comment has no name of its own: it is known by what it is on.
  if (change.kind === 'comment') {
    const on = `on ${names.name('item', change.in ?? '')}`
    if (change.op === 'set') return `A comment ${on}: ${title} changed`
    return change.op === 'add' ? `A comment ${on}` : `Removed: a comment ${on}`
  }
  // Hours are told by whose they are, and on what.
  if (change.kind === 'timeEntry') {
    if (change.op === 'set') return `Hours spent: ${fromTo()}`
    const entry = (change.op === 'add' ? change.value : change.before) as TimeEntry | undefined
    if (!entry) return change.op === 'add' ? 'Hours spent' : 'Removed: hours spent'
    const on = entry.item ? ` on ${names.name('item', entry.item)}` : ''
    const said = `${names.name('person', entry.person ?? '') || 'somebody'}: ${entry.hours} h${on}, ${shortDate(entry.date)}`
    return change.op === 'add' ? said : `Removed: ${said}`
  }
  const thing = kinds[change.kind as Kind]?.title ?? change.kind
  const name = change.key ? names.name(change.kind, change.key, change.in) : thing
  switch (change.op) {
    case 'set':
      return `${name}: ${fromTo()}`
    case 'add':
      return `Added: ${thing} ${name}`
    case 'remove':
      return `Removed: ${thing} ${name}`
    default:
      return `${name}: moved to place ${(change.at ?? 0) + 1}`
  }
}
