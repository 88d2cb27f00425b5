import type { FactsOfIterations } from '@/line/iterationFacts'
import type { IterationFacts, Program } from '@/api/types'
import { releaseColour } from '@/ui/colours'
import { shortDate, toDay, type Day } from '@/ui/dates'
import type { GridCell, GridRow } from '@/time/TimeGrid.vue'

/** A bar of the calendar picture. */
export interface CalendarCell extends GridCell {
  kind: 'release' | 'milestone' | 'iteration'
  name: string
  state?: 'planned' | 'open' | 'closed'
  colour?: string
  /** Phases of a release. */
  parts?: { name: string; start: Day; end: Day }[]
  /** Can be dragged by its right edge, both edges, or not at all. */
  grips: ('start' | 'end' | 'whole')[]
}

/** The rows of the calendar picture: releases, milestones, then each team. */
export function calendarRows(
  program: Program,
  facts: FactsOfIterations,
  today: Day,
): GridRow<CalendarCell>[] {
  const rows: GridRow<CalendarCell>[] = (program.releases ?? []).map((r, i) => {
    const cells: CalendarCell[] = []
    const first = r.start ?? r.phases?.[0]?.start ?? r.due
    const last = r.due ?? r.phases?.[r.phases.length - 1]?.end ?? r.start
    if (first && last) {
      cells.push({
        key: r.key,
        kind: 'release',
        name: r.name,
        start: toDay(first),
        end: toDay(last),
        label: `Release ${r.name}, ${shortDate(first, today)} to ${r.due ? 'its due date ' : ''}${shortDate(last, today)}`,
        colour: releaseColour(i),
        parts: (r.phases ?? []).map((p) => ({ name: p.name, start: toDay(p.start), end: toDay(p.end) })),
        grips: ['start', 'end', 'whole'],
      })
    }
    return {
      key: `release/${r.key}`,
      title: r.name,
      sub: r.due ? `due ${shortDate(r.due, today)}` : 'no due date',
      height: 38,
      cells,
    }
  })
  const milestones = program.milestones ?? []
  if (milestones.length) {
    rows.push({
      key: 'milestones',
      title: 'Milestones',
      height: 30,
      cells: milestones.map((m) => ({
        key: m.key,
        kind: 'milestone',
        name: m.name,
        start: toDay(m.date),
        end: toDay(m.date),
        label: `Milestone ${m.name}, ${shortDate(m.date, today)}`,
        grips: ['whole'],
      })),
    })
  }
  const cadences = new Map((program.cadences ?? []).map((c) => [c.key, c.name || c.key]))
  for (const t of program.teams ?? []) {
    rows.push({
      key: `team/${t.key}`,
      title: t.name || t.key,
      sub: cadences.get(t.cadence ?? '') ?? 'no cadence',
      height: 40,
      cells: (t.iterations ?? []).map((it, i) => ({
        key: it.key,
        kind: 'iteration',
        name: it.name || it.key,
        state: it.state || 'planned',
        start: toDay(it.start),
        end: toDay(it.end),
        label: `${it.name || it.key}, ${shortDate(it.start, today)} to ${shortDate(it.end, today)}, ${it.state || 'planned'}`,
        grips: grips(facts.get(t.key, it.key)).filter((g) => i || g === 'end'),
      })),
    })
  }
  return rows
}

/** What has not started moves whole; what is not over can end another day. */
function grips(facts?: IterationFacts): CalendarCell['grips'] {
  if (!facts || facts.ended) return []
  return facts.started ? ['end'] : ['end', 'whole']
}

/** When members of a team are away. */
export function awayIn(program: Program, team: string): { start: Day; end: Day }[] {
  const people = new Map((program.people ?? []).map((p) => [p.key, p]))
  const members = program.teams?.find((t) => t.key === team)?.members ?? []
  return members.flatMap((m) =>
    (people.get(m.person)?.daysOff ?? []).map((d) => ({ start: toDay(d.from), end: toDay(d.to) })),
  )
}
