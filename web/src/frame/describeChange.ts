import type { Change, Item } from '@/api/types'
import { count } from '@/shared/format'

const fields: Record<string, string> = {
  iteration: 'iteration',
  size: 'size',
  title: 'title',
  kind: 'kind',
  release: 'release',
  agreement: 'agreement',
  notBefore: 'not before',
  keptOut: 'kept out',
  pinned: 'pinned',
  fillTo: 'fill to',
  lengthDays: 'length in days',
  ahead: 'kept ahead',
  carryOver: 'carry over',
  lookback: 'iterations that count',
  capacityNote: 'why',
  committedItems: 'items committed',
  completedItems: 'items completed',
  leftOut: 'left out of velocity',
  daysOff: 'days off',
  hoursPerDay: 'hours a day',
  openSeat: 'open seat',
  phaseTemplates: 'phase templates',
  holidayCalendar: 'calendar of the holidays',
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
      return `${pair}: ${fields[change.field!] ?? change.field} from ${value(change.before)} to ${value(change.value)}`
    return change.op === 'add' ? `Added: ${pair}` : `Removed: ${pair}`
  }
  const name =
    change.kind === 'iteration'
      ? iterationName(change.in ?? '', change.key ?? '')
      : [change.key ?? change.kind, change.kind === 'item' ? title : undefined].filter(Boolean).join(' ')
  switch (change.op) {
    case 'set':
      return `${name}: ${fields[change.field!] ?? change.field} from ${value(change.before)} to ${value(change.value)}`
    case 'add':
      return `Added: ${change.kind} ${name}`
    case 'remove':
      return `Removed: ${change.kind} ${name}`
    default:
      return `${name}: moved to place ${(change.at ?? 0) + 1}`
  }
}
