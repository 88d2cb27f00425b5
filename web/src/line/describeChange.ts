import type { Change, Item } from '@/api/types'
import { kinds } from './kinds.gen'
import { count } from '@/ui/format'

/** A field in words, as the registry has it. */
const titleOf = (change: Change): string => {
  const fields: Record<string, { title: string } | undefined> =
    kinds[change.kind as keyof typeof kinds]?.fields ?? {}
  return fields[change.field ?? '']?.title.toLowerCase() ?? change.field ?? ''
}

const plain = (x: unknown): string => {
  if (x === null || x === undefined || x === '' || (Array.isArray(x) && !x.length)) return 'nothing'
  if (typeof x === 'boolean') return x ? 'yes' : 'no'
  if (Array.isArray(x))
    return x.every((y) => typeof y !== 'object') ? x.join(', ') : count(x.length, 'entry', 'entries')
  return typeof x === 'object' ? JSON.stringify(x) : String(x)
}

/** One change of the journal in words: "LC-52 Remote dimming: iteration from LC·14 to LC·15". */
export function describeChange(
  change: Change & { before?: unknown },
  items: Map<string, Item>,
  iterationName: (team: string, key: string) => string,
): string {
  const item = items.get(change.key ?? '')
  const title = item?.title
  const value = (x: unknown) =>
    change.field === 'iteration' && typeof x === 'string' && x ? iterationName(item?.team ?? '', x) : plain(x)
  if (change.kind === 'need') {
    const pair = `${change.in} needs ${change.key}`
    if (change.op === 'set')
      return `${pair}: ${titleOf(change)} from ${value(change.before)} to ${value(change.value)}`
    return change.op === 'add' ? `Added: ${pair}` : `Removed: ${pair}`
  }
  const name =
    change.kind === 'iteration'
      ? iterationName(change.in ?? '', change.key ?? '')
      : [change.key ?? change.kind, change.kind === 'item' ? title : undefined].filter(Boolean).join(' ')
  switch (change.op) {
    case 'set':
      return `${name}: ${titleOf(change)} from ${value(change.before)} to ${value(change.value)}`
    case 'add':
      return `Added: ${change.kind} ${name}`
    case 'remove':
      return `Removed: ${change.kind} ${name}`
    default:
      return `${name}: moved to place ${(change.at ?? 0) + 1}`
  }
}
