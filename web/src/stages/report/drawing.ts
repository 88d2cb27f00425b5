import type { ChartAsked, ChartDrawn, ChartSeries, ChartTable, ChartValue } from '@/api/types'
import { shortDate, type Day } from '@/ui/dates'
import { releaseColour } from '@/ui/colours'
import { amount, count, percent, sized } from '@/ui/format'
import type { Look } from '@/pictures/fan'

/** A part of a picture that can be read, and leads to what it counts. */
export interface Part {
  row: string
  column: string
  /** Of a chart over time: the end of which day. */
  day?: string
  text: string
}

/** A chart as it is drawn, with the table behind it. */
export interface Picture {
  option: Record<string, unknown>
  /** In the order in which they are read. */
  parts: Part[]
  /** Which of them stands at a place of a series. */
  at: (series: number, place: number) => number
  columns: string[]
  rows: (string | number)[][]
}

type Measured = Pick<ChartTable | ChartSeries, 'unit' | 'in'>

/** A value in its unit, in words. */
export function worded(n: number | undefined, of: Measured): string {
  if (n === undefined) return '–'
  switch (of.unit) {
    case 'share': // small ones to a tenth, as the server has them
      return Math.abs(n) < 0.0995 ? `${amount(n * 100)}\u00a0%` : percent(n)
    case 'size':
      return sized(n, of.in ? { unit: of.in } : undefined)
    case 'hours':
      return `${amount(n)} h`
    case 'days':
      return count(Math.round(n * 10) / 10, 'day')
    default:
      return amount(n)
  }
}

/** What a value has become, with its sign. */
export function changed(by: number, of: Measured): string {
  if (Math.abs(by) < 1e-9) return 'no change'
  return `${by > 0 ? '+' : '−'}${worded(Math.abs(by), of)}`
}

/** The colour of a value, at a place among the others: the one that it keeps, else one in turn. */
export function colourOf(value: Pick<ChartValue, 'tone'>, at: number, { token }: Look): string {
  return token(value.tone ? `--${value.tone}` : (/--c\d/.exec(releaseColour(at))?.[0] ?? '--c0'))
}

/** Figures as tables and files have them, to a thousandth. */
const tidy = (n: number | undefined): number | string => (n === undefined ? '' : Math.round(n * 1000) / 1000)

const axisText = (n: number, of: Measured): string =>
  of.unit === 'share' ? percent(n) : of.unit === 'hours' ? `${n} h` : String(n)

function valueAxis(of: Measured, { text, rule }: Look): object {
  return {
    type: 'value',
    minInterval: of.unit === 'number' ? 1 : undefined,
    axisLabel: { ...text, formatter: (n: number) => axisText(n, of), hideOverlap: true },
    splitLine: rule,
  }
}

function legendOf(names: string[], { text }: Look): object | undefined {
  return names.length > 1
    ? {
        type: 'scroll',
        top: 0,
        left: 0,
        right: 0,
        textStyle: text,
        itemWidth: 12,
        itemHeight: 9,
        data: names,
        pageIconSize: 10,
        pageTextStyle: text,
      }
    : undefined
}

/** Titles that are used twice would be one to the library: the later ones get spaces that nobody sees. */
function apart(titles: string[]): string[] {
  const seen = new Map<string, number>()
  return titles.map((title) => {
    const n = seen.get(title) ?? 0
    seen.set(title, n + 1)
    return title + '\u200b'.repeat(n)
  })
}

/** Draws what a chart comes to now. */
export function drawTable(chart: ChartAsked, table: ChartTable, looks: Look): Picture {
  const { text, token } = looks
  const two = (chart.split?.length ?? 0) > 1
  const rows = table.rows
  const columns = two ? table.columns : [{ key: '', title: '' }]
  const valueAt = (r: number, c: number) => (two ? table.cells[r][c] : table.totals[r]) ?? undefined
  const ring = chart.form === 'ring'
  const parts: Part[] = []
  const places = new Map<string, number>()
  rows.forEach((row, r) =>
    (ring ? [{ key: '', title: '' }] : columns).forEach((column, c) => {
      const n = ring ? (table.totals[r] ?? undefined) : valueAt(r, c)
      if (n === undefined) return // nothing stands there
      const title = [row.title, column.title].filter(Boolean).join(', ')
      places.set(`${c} ${r}`, parts.length)
      parts.push({
        row: row.key,
        column: column.key,
        text: `${title ? `${title}: ` : ''}${worded(n, table)}`,
      })
    }),
  )
  const at = (series: number, place: number) => places.get(`${series} ${place}`) ?? -1
  const behind = {
    columns: ['', ...(two ? columns.map((c) => c.title) : ['Value']), ...(two ? ['All'] : [])],
    rows: rows.map((row, r) => [
      row.title,
      ...columns.map((_, c) => tidy(valueAt(r, c))),
      ...(two ? [tidy(table.totals[r] ?? undefined)] : []),
    ]),
  }
  const titles = apart(rows.map((r) => r.title))
  if (ring)
    return {
      ...behind,
      parts,
      at,
      option: {
        legend: {
          type: 'scroll',
          orient: 'vertical',
          right: 0,
          top: 'middle',
          textStyle: text,
          itemWidth: 12,
          itemHeight: 9,
        },
        series: [
          {
            type: 'pie',
            radius: ['48%', '82%'],
            center: ['32%', '50%'],
            label: { show: false },
            itemStyle: { borderColor: token('--panel'), borderWidth: 2 },
            data: rows.map((row, r) => ({
              name: titles[r],
              value: table.totals[r] ?? 0,
              itemStyle: { color: colourOf(row, r, looks) },
            })),
          },
        ],
      },
    }
  const line = chart.form === 'lines' || chart.form === 'areas'
  const stacked = chart.form === 'stacked' || chart.form === 'areas'
  // What follows in time stands side by side; other values one below the other, with room for names.
  const standing = line || !!table.inTime
  const names = {
    type: 'category',
    data: titles,
    inverse: !standing,
    axisTick: { show: false },
    axisLine: { lineStyle: { color: token('--rule') } },
    axisLabel: { ...text, width: standing ? undefined : 112, overflow: 'truncate', hideOverlap: standing },
  }
  const columnNames = apart(columns.map((c) => c.title))
  const one = columns.length === 1
  return {
    ...behind,
    parts,
    at,
    option: {
      grid: {
        left: 4,
        right: 14,
        top: two && columns.length > 1 ? 30 : 10,
        bottom: 2,
        containLabel: true,
      },
      legend: two ? legendOf(columnNames, looks) : undefined,
      [standing ? 'xAxis' : 'yAxis']: names,
      [standing ? 'yAxis' : 'xAxis']: valueAxis(table, looks),
      series: columns.map((column, c) => ({
        name: columnNames[c],
        type: line ? 'line' : 'bar',
        stack: stacked ? 'all' : undefined,
        barMaxWidth: 22,
        symbolSize: 7,
        areaStyle: chart.form === 'areas' ? { opacity: 0.55 } : undefined,
        itemStyle: { color: two ? colourOf(column, c, looks) : token('--c0') },
        label:
          one && !line
            ? {
                show: true,
                position: standing ? 'top' : 'right',
                ...text,
                formatter: ({ dataIndex }: { dataIndex: number }) => worded(valueAt(dataIndex, c), table),
              }
            : undefined,
        data: rows.map((row, r) =>
          one && !line
            ? {
                value: valueAt(r, c) ?? null,
                itemStyle: {
                  color: colourOf(row, 0, looks),
                },
              }
            : (valueAt(r, c) ?? null),
        ),
      })),
    },
  }
}

/** Draws what a chart came to day by day. */
export function drawSeries(chart: ChartAsked, series: ChartSeries, near: Day, looks: Look): Picture {
  const { text, token } = looks
  const days = series.days.map((d) => shortDate(d, near))
  const alone = !series.lines.length || (series.lines.length === 1 && !chart.split?.length)
  const lines = alone
    ? [{ key: '', title: '', of: series.totals }]
    : series.lines.map((l, i) => ({ ...l, of: series.points[i] }))
  const parts: Part[] = []
  series.days.forEach((day, d) =>
    lines.forEach((l) =>
      parts.push({
        row: l.key,
        column: '',
        day,
        text: `${days[d]}: ${l.title ? `${l.title} ` : ''}${worded(l.of[d] ?? undefined, series)}`,
      }),
    ),
  )
  const names = apart(lines.map((l) => l.title))
  const bars = chart.form === 'bars' || chart.form === 'stacked'
  const stacked = chart.form === 'stacked' || chart.form === 'areas'
  return {
    parts,
    at: (s, place) => place * lines.length + s,
    columns: ['Day', ...(alone ? ['Value'] : [...lines.map((l) => l.title), 'All'])],
    rows: series.days.map((day, d) => [
      day,
      ...lines.map((l) => tidy(l.of[d] ?? undefined)),
      ...(alone ? [] : [tidy(series.totals[d] ?? undefined)]),
    ]),
    option: {
      grid: { left: 4, right: 14, top: alone ? 12 : 30, bottom: 2, containLabel: true },
      legend: alone ? undefined : legendOf(names, looks),
      xAxis: {
        type: 'category',
        boundaryGap: bars,
        data: days,
        axisTick: { show: false },
        axisLine: { lineStyle: { color: token('--rule') } },
        axisLabel: { ...text, hideOverlap: true },
      },
      yAxis: valueAxis(series, looks),
      series: lines.map((l, i) => {
        const color = alone ? token('--c0') : colourOf(l, i, looks)
        return {
          name: names[i],
          type: bars ? 'bar' : 'line',
          stack: stacked ? 'all' : undefined,
          barMaxWidth: 22,
          symbolSize: days.length > 30 ? 4 : 7,
          lineStyle: { width: 2, color },
          itemStyle: { color },
          areaStyle: chart.form === 'areas' ? { opacity: 0.55, color } : undefined,
          // What there is none of comes to nothing; what has no average has none.
          data: l.of.map((n) => n ?? (series.mean ? null : 0)),
        }
      }),
    },
  }
}

/** Draws an answer; nothing where there is none, or none that is a picture. */
export function draw(chart: ChartAsked, drawn: ChartDrawn, near: Day, looks: Look): Picture | undefined {
  if (drawn.series) return drawSeries(chart, drawn.series, near, looks)
  return drawn.table && drawTable(chart, drawn.table, looks)
}
