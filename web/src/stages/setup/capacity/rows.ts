import type { FactsOfIterations } from '@/line/iterationFacts'
import type { CapacityRow, Program } from '@/api/types'
import { pair } from '@/line/pair'
import { shortDate, toDay, type Day } from '@/ui/dates'
import { amount, count, sized } from '@/ui/format'
import type { GridCell, GridRow } from '@/time/TimeGrid.vue'

/** What one iteration can carry and carries: of a team, of a role in it, or of a person. */
export interface CapacityCell extends GridCell {
  team: string
  iteration: string
  capacity: number
  load: number
  /** What the full height stands for: the largest capacity or load of the row. */
  top: number
  over: boolean
  closed?: boolean
  hand?: boolean
  large?: string[]
  /** What makes up the load, where it is a role's or a person's. */
  items?: string[]
  /** Whose it is: of a role or a person. */
  who?: string
  note: string
}

const room = (left: number, words: (n: number) => string) =>
  left < -1e-9 ? `over by ${words(-left)}` : `${words(left)} free`

/** A row a team, with what every iteration can carry and carries. */
export function teamRows(program: Program, facts: FactsOfIterations, today: Day): GridRow<CapacityCell>[] {
  return (program.teams ?? []).map((t) => {
    const cells: CapacityCell[] = (t.iterations ?? []).map((it) => {
      const f = facts.get(t.key, it.key)
      const closed = it.state === 'closed'
      // Of a closed one, what it committed to and completed is what counts.
      const past = closed && it.completed !== undefined
      const capacity = past ? (it.committed ?? it.completed!) : (f?.capacity ?? 0)
      const load = past ? it.completed! : (f?.load ?? 0)
      const away = f?.away?.length ? `, ${count(f.away.length, 'absence')}` : ''
      return {
        key: it.key,
        team: t.key,
        iteration: it.key,
        start: toDay(it.start),
        end: toDay(it.end),
        capacity,
        load,
        top: 0,
        over: !!f?.over,
        closed,
        hand: it.capacity !== undefined,
        note: closed
          ? past
            ? 'completed'
            : 'closed'
          : room(capacity - load, amount) + (away ? ' · away' : ''),
        label:
          `${it.name || it.key}, ${shortDate(it.start, today)} to ${shortDate(it.end, today)}: ` +
          (past
            ? `completed ${sized(load, t)}, committed ${sized(capacity, t)}`
            : `carries ${sized(load, t)} of ${sized(capacity, t)}, ${room(capacity - load, (n) => sized(n, t))}${away}`),
      }
    })
    return {
      key: `team/${t.key}`,
      title: t.name || t.key,
      sub: t.velocity === undefined ? t.unit : `${sized(t.velocity, t)} agreed`,
      height: 48,
      cells: scaled(cells),
    }
  })
}

/** A row for each role or person; where somebody works in two teams, a row for each. */
export function partRows(
  rows: CapacityRow[],
  program: Program,
  by: 'role' | 'person',
  today: Day,
): GridRow<CapacityCell>[] {
  const teams = new Map((program.teams ?? []).map((t) => [t.key, t]))
  const iterations = new Map(
    (program.teams ?? []).flatMap((t) =>
      (t.iterations ?? []).map((it) => [pair(t.key, it.key), it] as const),
    ),
  )
  return rows.flatMap((row) => {
    const inTeam = new Map<string, CapacityCell[]>()
    for (const part of row.parts) {
      const it = iterations.get(pair(part.team, part.iteration))
      const team = teams.get(part.team)
      if (!it || !team) continue
      const large = part.large?.length ? `, ${part.large.length} large items: ${part.large.join(', ')}` : ''
      const cell: CapacityCell = {
        key: `${part.team}/${part.iteration}`,
        team: part.team,
        iteration: part.iteration,
        start: toDay(it.start),
        end: toDay(it.end),
        capacity: part.capacity,
        load: part.load,
        top: 0,
        over: !!part.over,
        large: part.large,
        items: part.items ?? [],
        who: row.name,
        note: part.large?.length ? `${part.large.length} large` : room(part.capacity - part.load, amount),
        label: `${row.name}, ${it.name || it.key}, ${shortDate(it.start, today)} to ${shortDate(it.end, today)}: ${sized(part.load, team)} of ${sized(part.capacity, team)}, ${room(part.capacity - part.load, (n) => sized(n, team))}${large}`,
      }
      inTeam.set(part.team, [...(inTeam.get(part.team) ?? []), cell])
    }
    return [...inTeam].map(([team, cells]) => ({
      key: `${by}/${row.key}/${team}`,
      title: row.name,
      sub: teams.get(team)?.name ?? team,
      height: 48,
      cells: scaled(cells),
    }))
  })
}

/** Gives the cells of a row one scale. */
function scaled(cells: CapacityCell[]): CapacityCell[] {
  const top = Math.max(1e-9, ...cells.map((c) => Math.max(c.capacity, c.load)))
  return cells.map((c) => ({ ...c, top: top * 1.08 }))
}
