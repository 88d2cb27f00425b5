import { monthTicks, shortDay, weekTicks, type Day } from './dates'

/** A picture over time: how it is drawn, and the rows behind it, which it is read by. */
export interface Chart {
  option: { series: object[]; [part: string]: unknown }
  columns: string[]
  rows: ChartRow[]
  /** What stands where nothing is read. */
  hint: string
}

export interface ChartRow {
  /** Where it stands along time. */
  at: Day
  cells: (string | number)[]
  text: string
}

const MOST_TICKS = 7

/** An axis of days: the first of each month, or every other, of few weeks each Monday. */
export function dayAxis(from: Day, to: Day, text: object, near: Day): object {
  const few = to - from <= 60
  const ticks = few ? weekTicks(from, to, to - from <= 28 ? 1 : 2) : monthTicks(from, to)
  const all = ticks.map((t) => t.day).filter((day) => day >= from)
  const every = Math.ceil(all.length / MOST_TICKS)
  const days = all.filter((_, i) => i % every === 0)
  return {
    type: 'value',
    min: from,
    max: to,
    axisTick: { customValues: days },
    axisLabel: {
      ...text,
      customValues: days,
      hideOverlap: true,
      formatter: (day: number) => shortDay(day, near),
    },
    splitLine: { show: false },
  }
}
