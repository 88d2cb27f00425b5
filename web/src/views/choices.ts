import type { Item, Program } from '@/api/types'
import { kinds } from '@/line/kinds.gen'
import type { Choice } from '@/ui/matching'

const { kind, state } = kinds.item.fields
export const plain = (values: readonly string[]): Choice[] => values.map((value) => ({ value, label: value }))
const none: Choice = { value: '', label: 'none' }
/** An item's release is that of what it is part of; the server reads the word. */
const inherited: Choice = { value: 'inherited', label: 'as what it is part of' }

/** What can be chosen in a field; nothing for fields in which one writes. */
export function choicesOf(field: string, program: Program, item?: Item): Choice[] | undefined {
  switch (field) {
    case 'kind':
      return plain(kind.values)
    case 'state':
      return plain(state.values)
    case 'pinned':
    case 'keptOut':
      return plain(['no', 'yes'])
    case 'team':
      return [none, ...(program.teams ?? []).map((t) => ({ value: t.key, label: t.name }))]
    case 'release':
      return [
        none,
        ...(item?.parent ? [inherited] : []),
        ...(program.releases ?? []).map((r) => ({ value: r.key, label: r.name })),
      ]
    case 'priority': {
      const all = program.settings.priorities ?? []
      // One that is no longer among them, of an item that has it, too.
      const own = item?.priority && !all.includes(item.priority) ? [item.priority] : []
      return all.length || own.length ? [none, ...plain([...all, ...own])] : undefined
    }
    case 'assignee':
      return [none, ...(program.people ?? []).map((p) => ({ value: p.key, label: p.name }))]
    case 'iteration': {
      const team = program.teams?.find((t) => t.key === item?.team)
      // What is closed is over: nothing is placed there any more. What is there already says so.
      const open = team?.iterations?.filter((it) => it.state !== 'closed' || it.key === item?.iteration)
      return [none, ...(open ?? []).map((it) => ({ value: it.key, label: it.name ?? it.key }))]
    }
    case 'parent':
    case 'feature':
    case 'initiative':
      return [
        none,
        ...groupsOf(program)
          .filter((x) => !item || !isPartOf(x, item, program))
          .map((x) => ({ value: x.key, label: `${x.key} ${x.title}` })),
      ]
    default:
      return undefined
  }
}

const groupsOf = (program: Program): Item[] =>
  (program.items ?? []).filter((x) => x.kind === 'feature' || x.kind === 'initiative')

/** Whether something is a group or part of it: a group cannot be part of these. */
function isPartOf(x: Item, group: Item, program: Program): boolean {
  const of = new Map(groupsOf(program).map((g) => [g.key, g]))
  for (let up: Item | undefined = x, n = 0; up && n < 50; up = of.get(up.parent ?? ''), n++)
    if (up.key === group.key) return true
  return false
}
