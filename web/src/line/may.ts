import type { Change, Item, Mine, Program } from '@/api/types'

/** What may be asked about: a change; its value only where that decides. */
export type Asked = Pick<Change, 'op' | 'kind'> & {
  key?: string
  in?: string
  field?: string
  value?: unknown
}

/** Whether somebody may make every change of the program. */
export const manages = (mine: Mine): boolean =>
  mine.role === 'administrator' || mine.role === 'program manager'

/**
 * Whether somebody may make a change, by the server's own table of rights: for
 * dimming what would be refused. The server decides.
 */
export function may(mine: Mine, program: Program, asked: Asked): boolean {
  if (manages(mine)) return true
  const rights = mine.rights.filter((r) => r.kind === asked.kind && r.op === asked.op)
  const right = asked.field ? rights.find((r) => r.field === asked.field) : rights[0]
  if (!right || right.reach === 'never') return false
  return right.reach === 'any' || owns(mine, program, asked)
}

const known = new WeakMap<object, Map<string, Item>>()

/** The items by key; made once a list, as every cell of a long one may ask. */
function itemsOf(program: Program): Map<string, Item> {
  const list = program.items ?? []
  const found = known.get(list) ?? new Map(list.map((x) => [x.key, x]))
  known.set(list, found)
  return found
}

/** Whether a member accepts, or sends back, what another of the team did. */
function accepts(mine: Mine, program: Program, asked: Asked): boolean {
  const item = itemsOf(program).get(asked.key ?? '')
  return (
    !!program.settings.othersAccept &&
    asked.op === 'set' &&
    (asked.field === 'state' || asked.field === 'step') &&
    item?.state === 'review' &&
    !!program.teams?.some((t) => t.key === item.team && t.members?.some((m) => m.person === mine.person))
  )
}

function owns(mine: Mine, program: Program, asked: Asked): boolean {
  const team = (key?: string) => !!key && mine.teams.includes(key)
  const lead = mine.role === 'team lead'
  const item = (key?: string) => itemsOf(program).get(key ?? '')
  switch (asked.kind) {
    case 'team':
      return lead && team(asked.key)
    case 'iteration':
      return lead && team(asked.in)
    case 'person':
      if (asked.key === mine.person) return !!mine.person
      return (
        lead && !!program.teams?.some((t) => team(t.key) && t.members?.some((m) => m.person === asked.key))
      )
    case 'item':
      // Of a new item nothing is known yet but that it may be for an own team.
      if (asked.op === 'add') return lead && mine.teams.length > 0
      if (lead) return team(item(asked.key)?.team)
      return !!mine.person && (item(asked.key)?.assignee === mine.person || accepts(mine, program, asked))
    case 'need': {
      if (!lead) return false
      const waits = team(item(asked.in)?.team)
      const gives = team(item(asked.key)?.team)
      if (asked.op !== 'set') return waits
      // Who leads the team that gives answers, and names the day; the one that waits asks.
      if (asked.field === 'given') return gives
      if (asked.field === 'why') return gives || waits
      return asked.field === 'agreement' ? gives || (waits && (asked.value ?? 'asked') === 'asked') : waits
    }
    case 'risk': {
      // Of a new one nothing is known yet but that it may be one's own.
      if (asked.op === 'add') return !!mine.person
      const risk = program.risks?.find((x) => x.key === asked.key)
      return (!!mine.person && risk?.owner === mine.person) || (lead && !!risk?.teams?.some(team))
    }
    case 'comment':
      return program.comments?.find((x) => x.key === asked.key)?.author === mine.author && !!mine.author
    default:
      return false
  }
}
