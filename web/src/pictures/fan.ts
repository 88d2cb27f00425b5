import type { BurnUp, FanDay, Measure, Team, When } from '@/api/types'
import { dayAxis, type Chart, type ChartRow } from '@/ui/chart'
import type { useChartLook } from '@/ui/chartLook'
import { shortDay, toDay, type Day } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'

/** A day that is marked in a picture. */
export interface Mark {
  day: Day
  name: string
  kind: 'today' | 'due' | 'milestone' | 'iteration'
}

/** An amount of work in a measure, in words. */
export function worded(n: number, measure: Measure, team?: Pick<Team, 'unit'>): string {
  switch (measure.in) {
    case 'share':
      return percent(n)
    case 'size':
      return sized(n, team)
    case 'hours':
      return `${amount(n)} h`
    default:
      return count(Math.round(n * 10) / 10, 'item')
  }
}

/** What a picture is drawn with. */
export type Look = ReturnType<ReturnType<typeof useChartLook>>

/** The lines that days of interest are marked by, of those from a day to another. */
function markLine(marks: Mark[], from: Day, to: Day, { token, text }: Look): object {
  const look = {
    today: { color: token('--ink'), type: [2, 3], width: 1 },
    due: { color: token('--over'), type: 'solid', width: 1.5 },
    milestone: { color: token('--milestone'), type: [4, 3], width: 1 },
    iteration: { color: token('--rule'), type: 'solid', width: 1 },
  } as const
  /** Where the due date stands close by, its name is the one that shows. */
  const near = (day: Day) => marks.some((m) => m.kind === 'due' && Math.abs(m.day - day) < (to - from) * 0.12)
  return {
    symbol: 'none',
    silent: true,
    animation: false,
    data: marks
      .filter((m) => m.day >= from && m.day <= to)
      .map((m) => ({
        xAxis: m.day,
        lineStyle: look[m.kind],
        label: {
          ...text,
          show: m.kind !== 'iteration' && !(m.kind === 'today' && near(m.day)),
          formatter: m.name,
          position: m.kind === 'milestone' ? 'insideEndTop' : 'end',
          color: m.kind === 'due' ? token('--over') : text.color,
          fontSize: 11,
        },
      })),
  }
}

/** What is not drawn of some work: what has no size, and may be done last. */
const unsizedText = ({ unsized: n }: BurnUp['fan']): string =>
  n
    ? ` ${count(n, 'item', 'items')} without a size ${n === 1 ? 'is' : 'are'} not in the picture: the last of it may land later than it looks.`
    : ''

/**
 * What was done and what there was, from the journal, and the plays ahead as a fan: between the 10th and the
 * 90th of a hundred plays, and the 25th and 75th, with the middle. Of what is left, the same way round.
 */
export function fanChart(
  found: Pick<BurnUp, 'measure' | 'past' | 'fan'>,
  left: boolean,
  marks: Mark[],
  team: Pick<Team, 'unit'> | undefined,
  near: Day,
  looks: Look,
): Chart {
  const { token, text, rule } = looks
  const { measure, fan } = found
  const words = (n: number) => worded(n, measure, team)
  const past = found.past.map((p) => ({
    day: toDay(p.day),
    done: left ? p.total - p.done : p.done,
    total: p.total,
  }))
  const part = (d: FanDay) => (left ? d.left : d.done)
  const ahead = fan.days.map((d) => ({ day: toDay(d.day), of: part(d), scope: d.scope }))
  const from = past[0]?.day ?? near
  const due = marks.find((m) => m.kind === 'due')?.day ?? near
  const to = Math.max(ahead.at(-1)?.day ?? near, due + 2, from + 7)
  /** Shares end at all that there is, unless there may be more. */
  const whole =
    measure.in === 'share' && past.every((p) => p.total < 1.0001) && ahead.every((d) => d.scope[4] < 1.0001)
  const grows = ahead.some((d) => d.scope[4] - d.scope[0] > 1e-9)
  const band = (
    low: number,
    high: number,
    stack: string,
    color: string,
    of: 'of' | 'scope',
    opacity: number,
  ) => [
    {
      type: 'line',
      stack,
      symbol: 'none',
      silent: true,
      lineStyle: { width: 0 },
      data: ahead.map((d) => [d.day, d[of][low]]),
    },
    {
      type: 'line',
      stack,
      symbol: 'none',
      silent: true,
      lineStyle: { width: 0 },
      areaStyle: { color, opacity },
      data: ahead.map((d) => [d.day, d[of][high] - d[of][low]]),
    },
  ]
  const line = (data: number[][], color: string, width: number, more: object = {}) => ({
    type: 'line',
    symbol: 'none',
    silent: true,
    lineStyle: { color, width, ...more },
    data,
  })
  const water = token('--water')
  const needs = token('--needs')
  const series = [
    ...band(0, 4, 'wide', water, 'of', 0.22),
    ...band(1, 3, 'near', water, 'of', 0.36),
    ...(grows && !left ? band(0, 4, 'scope', needs, 'scope', 0.16) : []),
    {
      ...line(
        past.map((p) => [p.day, p.done]),
        water,
        2.5,
      ),
      step: 'end',
    },
    line(
      ahead.map((d) => [d.day, d.of[2]]),
      water,
      1.5,
      { type: 'dashed' },
    ),
    ...(left
      ? []
      : [
          {
            ...line(
              past.map((p) => [p.day, p.total]),
              needs,
              1.5,
            ),
            step: 'end',
          },
          line(
            ahead.map((d) => [d.day, d.scope[2]]),
            needs,
            1.5,
            { type: 'dashed' },
          ),
        ]),
    { type: 'line', data: [], markLine: markLine(marks, from, to, looks) },
  ]
  const verb = left ? 'left' : 'done'
  const rows: ChartRow[] = [
    ...past.map((p) => ({
      at: p.day,
      cells: [
        shortDay(p.day, near),
        ...(left ? [tidy(p.done)] : [tidy(p.done), tidy(p.total)]),
        '',
        '',
        '',
        '',
      ],
      text: `${shortDay(p.day, near)}: ${words(p.done)} ${verb}${left ? '' : ` of ${words(p.total)}`}`,
    })),
    ...ahead.slice(past.length ? 1 : 0).map((d) => ({
      at: d.day,
      cells: [
        shortDay(d.day, near),
        tidy(d.of[2]),
        ...(left ? [] : [tidy(d.scope[2])]),
        ...[0, 1, 3, 4].map((i) => tidy(d.of[i])),
      ],
      text: `${shortDay(d.day, near)}: ${words(d.of[2])} ${verb} at even odds, ${words(d.of[1])} to ${words(d.of[3])} in half of the plays, ${words(d.of[0])} to ${words(d.of[4])} in 8 of 10${left || !grows ? '' : `; of ${words(d.scope[0])} to ${words(d.scope[4])}`}`,
    })),
  ]
  return {
    option: {
      grid: { left: 48, right: 16, top: 22, bottom: 22 },
      xAxis: dayAxis(from, to, text, near),
      yAxis: {
        type: 'value',
        min: 0,
        max: whole ? 1 : undefined,
        axisLabel: {
          ...text,
          formatter: (n: number) =>
            measure.in === 'share' ? percent(n) : measure.in === 'hours' ? `${n} h` : String(n),
        },
        splitLine: rule,
      },
      series,
    },
    columns: ['Day', left ? 'Left' : 'Done', ...(left ? [] : ['There is']), '10 %', '25 %', '75 %', '90 %'],
    rows,
    hint: `${
      left
        ? 'What was left, and what will be: the middle of the plays, half of them and 8 of 10 of them.'
        : 'What was done (below) of what there was, and what will be: the middle of the plays, half of them and 8 of 10.'
    }${unsizedText(fan)}`,
  }
}

/** A figure as a table has it, to a thousandth. */
const tidy = (n: number): number => Math.round(n * 1000) / 1000

/** How the chance of being done rises day by day; of a what-if beside that of things as they are. */
export function oddsChart(now: When, before: When | undefined, marks: Mark[], near: Day, looks: Look): Chart {
  const { token, text, rule } = looks
  const begin = near
  const chanceOn = (found: When, day: Day) =>
    found.chances.length ? found.chances[Math.min(day - begin, found.chances.length - 1)] : 0
  const last = begin + Math.max(now.chances.length, before?.chances.length ?? 0, 8) - 1
  const due = marks.find((m) => m.kind === 'due')?.day
  const end = Math.max(last, due === undefined ? last : due + 2)
  const risesAt = [now, ...(before ? [before] : [])]
    .map((f) => f.chances.findIndex((c) => c > 0))
    .filter((i) => i >= 0)
  const start = Math.max(begin, begin + Math.min(...risesAt, last - begin) - 5)
  const from = due !== undefined && due >= begin ? Math.min(start, due - 2) : start
  const days = Array.from({ length: end - from + 1 }, (_, i) => from + i).filter((day) => day >= begin)
  const water = token('--water')
  const line = (found: When, more: object) => ({
    type: 'line',
    step: 'end',
    symbol: 'none',
    silent: true,
    data: days.map((day) => [day, chanceOn(found, day)]),
    ...more,
  })
  let told = -1
  const rows: ChartRow[] = []
  for (const day of days) {
    const chance = chanceOn(now, day)
    const was = before && chanceOn(before, day)
    if (Math.abs(chance - told) < 0.01 && day !== due && day !== end) continue
    told = chance
    rows.push({
      at: day,
      cells: [shortDay(day, near), tidy(chance), ...(was === undefined ? [] : [tidy(was)])],
      text: `by ${shortDay(day, near)}: ${percent(chance)}${was === undefined ? '' : `; as things are ${percent(was)}`}`,
    })
  }
  return {
    option: {
      grid: { left: 48, right: 16, top: 22, bottom: 22 },
      xAxis: dayAxis(from, end, text, near),
      yAxis: {
        type: 'value',
        min: 0,
        max: 1,
        interval: 0.25,
        axisLabel: { ...text, formatter: (n: number) => percent(n) },
        splitLine: rule,
      },
      series: [
        line(now, {
          lineStyle: { color: water, width: 2.5 },
          areaStyle: { color: token('--basin'), opacity: 1 },
        }),
        ...(before
          ? [line(before, { lineStyle: { color: token('--quiet'), width: 1.5, type: 'dashed' } })]
          : []),
        {
          type: 'line',
          data: [],
          markLine: markLine(
            marks.filter((m) => m.kind !== 'milestone'),
            from,
            end,
            looks,
          ),
        },
      ],
    },
    columns: ['By', 'Chance', ...(before ? ['As things are'] : [])],
    rows,
    hint: before
      ? 'The chance of being done by each day; dashed as things are.'
      : 'The chance of being done by each day.',
  }
}
