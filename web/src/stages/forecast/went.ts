import type { Cause, ForecastHistory } from '@/api/types'
import { dayAxis, type Chart, type ChartRow } from '@/ui/chart'
import { shortDate, shortDay, toDay, type Day } from '@/ui/dates'
import { percent } from '@/ui/format'
import type { Look } from '@/pictures/fan'

type Said = ForecastHistory['days'][number]

/** On how many days the line is marked where it moved most. */
const MARKED = 5

/** The chance that was said; where nothing was to be done, none was. */
const chanceOf = (d: Said) => (d.done ? undefined : d.chance)

/** How far a day moved what was said: points of chance, or else days of the landing. */
const jump = (was: Said | undefined, is: Said): number => {
  if (!was || was.done || is.done) return 0
  if (was.chance !== undefined && is.chance !== undefined) return Math.abs(is.chance - was.chance)
  return was.even && is.even ? Math.abs(toDay(is.even) - toDay(was.even)) / 100 : 0
}

/** The days that moved it most, by at least two points of chance or two days, the largest first. */
export function movedMost(days: Said[]): string[] {
  return days
    .map((d, i) => ({ day: d.day, by: jump(days[i - 1], d) }))
    .filter((d) => d.by >= 0.02)
    .sort((a, b) => b.by - a.by)
    .slice(0, MARKED)
    .map((d) => d.day)
}

/** What was said day by day: the chance, or when it would land, with the days that moved it most marked. */
export function saidChart(days: Said[], as: 'chance' | 'landing', near: Day, look: Look): Chart {
  const { token, text, rule } = look
  const at = days.map((d) => toDay(d.day))
  const from = at[0] ?? near
  const to = Math.max(at.at(-1) ?? near, from + 7)
  const marked = new Set(movedMost(days))
  const line = (of: (d: Said) => number | undefined, color: string, more: object = {}) => ({
    type: 'line',
    step: 'end',
    symbol: 'none',
    silent: true,
    lineStyle: { color, width: 2 },
    data: days.map((d, i) => [at[i], of(d) ?? null]),
    ...more,
  })
  const points = (of: (d: Said) => number | undefined) => ({
    type: 'line',
    silent: true,
    lineStyle: { width: 0 },
    symbol: 'circle',
    symbolSize: 9,
    itemStyle: { color: token('--panel'), borderColor: token('--needs'), borderWidth: 2 },
    data: days.flatMap((d, i) => (marked.has(d.day) ? [[at[i], of(d) ?? null]] : [])),
  })
  const day = (date: string | undefined) => (date ? toDay(date) : undefined)
  const water = token('--water')
  const band = (of: (d: Said) => number | undefined, more: object = {}) => ({
    type: 'line',
    step: 'end',
    stack: 'band',
    symbol: 'none',
    silent: true,
    lineStyle: { width: 0 },
    data: days.map((d, i) => [at[i], of(d) ?? null]),
    ...more,
  })
  const known = days.flatMap((d) => [d.early, d.even, d.safe, d.due].flatMap((x) => (x ? [toDay(x)] : [])))
  const landing = {
    yAxis: {
      type: 'value',
      min: Math.min(...(known.length ? known : [near])) - 2,
      max: Math.max(...(known.length ? known : [near])) + 2,
      axisLabel: { ...text, formatter: (n: number) => shortDay(Math.round(n), near) },
      splitLine: rule,
    },
    series: [
      band((d) => day(d.even)),
      band((d) => (d.even && d.safe ? toDay(d.safe) - toDay(d.even) : undefined), {
        areaStyle: { color: water, opacity: 0.3 },
      }),
      line((d) => day(d.even), water),
      line((d) => day(d.due), token('--over'), {
        lineStyle: { color: token('--over'), width: 1.5, type: 'dashed' },
      }),
      points((d) => day(d.even)),
    ],
  }
  const chance = {
    yAxis: {
      type: 'value',
      min: 0,
      max: 1,
      interval: 0.25,
      axisLabel: { ...text, formatter: (n: number) => percent(n) },
      splitLine: rule,
    },
    series: [line(chanceOf, water, { areaStyle: { color: token('--basin'), opacity: 1 } }), points(chanceOf)],
  }
  const rows: ChartRow[] = days.map((d, i) => {
    const lands = d.even
      ? `lands ${shortDate(d.even, near)}${d.safe ? ` to ${shortDate(d.safe, near)}` : ' or much later'}`
      : 'lands at no date'
    const words = d.done ? 'nothing was left to do' : lands
    return {
      at: at[i],
      cells: [
        shortDay(at[i], near),
        d.chance === undefined ? '' : Math.round(d.chance * 1000) / 1000,
        ...[d.early, d.even, d.safe, d.due].map((x) => (x ? shortDate(x, near) : '')),
      ],
      text: `${shortDay(at[i], near)}: ${words}${d.done || d.chance === undefined ? '' : `, ${percent(d.chance)} by ${shortDate(d.due, near)}`}${marked.has(d.day) ? '. Enter shows what moved it' : ''}`,
    }
  })
  return {
    option: {
      grid: { left: 52, right: 16, top: 12, bottom: 22 },
      xAxis: dayAxis(from, to, text, near),
      ...(as === 'chance' ? chance : landing),
    },
    columns: ['Day', 'Chance', '10 %', '50 %', '85 %', 'Due then'],
    rows,
    hint:
      as === 'chance'
        ? 'The chance of landing by the due date, as it was said each day; rings where it moved most.'
        : 'From even odds to 85 %, as it was said each day; dashed the due date.',
  }
}

/** What a cause is called. */
export const causeTitles: Record<Cause['kind'], string> = {
  people: 'People, days off, iterations',
  time: 'Time passing, and work done',
  velocity: 'Velocity that came',
  scopeIn: 'Scope in',
  sizes: 'Sizes',
  needs: 'Needs',
  moves: 'Moves',
  risks: 'Risks',
  rules: 'Rules of playing',
  scopeOut: 'Scope out',
  due: 'Due dates',
}
