import type { Effects, Program } from '@/api/types'
import { shortDate, type Day } from '@/ui/dates'
import { amount, count } from '@/ui/format'

/** One thing that an edit would do, in words. */
export interface Effect {
  text: string
  /** Makes the plan worse. */
  bad?: boolean
}

/** Effects of one sort, under a heading. */
export interface EffectGroup {
  title: string
  effects: Effect[]
}

const range = (span: { start: string; end: string }, near: Day) =>
  `${shortDate(span.start, near)} – ${shortDate(span.end, near)}`

/** What an edit would do, in words: what breaks first, then what moves. */
export function effectGroups(e: Effects, program: Program, today: Day): EffectGroup[] {
  const team = new Map((program.teams ?? []).map((t) => [t.key, t]))
  const iterationName = (of: string, key: string) =>
    team.get(of)?.iterations?.find((it) => it.key === key)?.name ?? key
  const over = (x: { team: string; key: string }) => iterationName(x.team, x.key)
  const need = (x: { item: string; needs: string }) => `${x.item} needs ${x.needs}`
  const each = <T>(list: T[] | undefined, text: (x: T) => string, bad = false): Effect[] =>
    (list ?? []).map((x) => ({ text: text(x), bad }))

  const moved = (x: Effects['items'][number]): Effect => {
    const name = `${x.key} ${x.name}`
    if (!x.after) return { text: `${name}: unplaced, was ${range(x.before!, today)}`, bad: true }
    if (!x.before) return { text: `${name}: placed ${range(x.after, today)}` }
    return { text: `${name}: ${range(x.before, today)} to ${range(x.after, today)}` }
  }
  const iteration = (x: Effects['iterations'][number]): Effect => {
    const name = `${team.get(x.team ?? '')?.name ?? x.team}, ${x.name}`
    if (!x.before) return { text: `${name}: new, ${range(x.after!, today)}` }
    if (!x.after) return { text: `${name}: removed, was ${range(x.before, today)}` }
    if (x.was && x.before.start === x.after.start && x.before.end === x.after.end)
      return { text: `${name}: a new name, ${x.was} before` }
    return { text: `${name}: ${range(x.before, today)} to ${range(x.after, today)}` }
  }
  const groups: EffectGroup[] = [
    {
      title: 'Breaks',
      effects: [
        ...each(e.over.new, (k) => `${over(k)} goes over capacity`, true),
        ...each(e.broken.new, (k) => `${need(k)}: the need breaks`, true),
        ...each(e.missed.new, (k) => `${need(k)}: done after the day that the two teams agreed on`, true),
        ...e.milestones
          .filter((m) => m.missed)
          .map((m) => ({ text: `${m.item} comes too late for ${m.name}`, bad: true })),
        ...e.releases
          .filter((r) => r.after && r.dueAfter && r.after > r.dueAfter)
          .map((r) => ({
            text: `${r.name}: the plan ends ${shortDate(r.after, today)}, after the due date ${shortDate(r.dueAfter, today)}`,
            bad: true,
          })),
      ],
    },
    {
      title: 'Mends',
      effects: [
        ...each(e.over.gone, (k) => `${over(k)} is within capacity again`),
        ...each(e.broken.gone, (k) => `${need(k)}: the need holds again`),
        ...each(e.missed.gone, (k) => `${need(k)}: done by the day that the two teams agreed on`),
        ...e.milestones
          .filter((m) => !m.missed)
          .map((m) => ({ text: `${m.item} comes in time for ${m.name}` })),
      ],
    },
    {
      title: 'Releases',
      effects: e.releases.flatMap((r) => [
        ...(r.dueBefore !== r.dueAfter
          ? [
              {
                text: `${r.name}: due ${shortDate(r.dueAfter, today)} instead of ${shortDate(r.dueBefore, today)}`,
              },
            ]
          : []),
        ...(r.before !== r.after
          ? [
              {
                text: `${r.name}: the plan ends ${shortDate(r.after, today)} instead of ${shortDate(r.before, today)}`,
              },
            ]
          : []),
      ]),
    },
    { title: count(e.iterations.length, 'iteration'), effects: e.iterations.map(iteration) },
    { title: `${count(e.items.length, 'item')} with other dates`, effects: e.items.map(moved) },
    {
      title: `Capacity of ${count(e.capacity.length, 'iteration')}`,
      effects: e.capacity.map((c) => ({
        text: `${iterationName(c.team, c.key)}: ${amount(c.before)} to ${amount(c.after)} ${team.get(c.team)?.unit ?? ''}`,
      })),
    },
  ]
  return groups.filter((g) => g.effects.length)
}
