import { describe, expect, it } from 'vitest'
import type { ChartAsked, ChartSeries, ChartTable } from '@/api/types'
import { toDay } from '@/ui/dates'
import { changed, colourOf, draw, drawSeries, drawTable, worded } from './drawing'

const looks = {
  token: (name: string) => name,
  text: { color: 'ink', fontFamily: 'text' },
  rule: { lineStyle: { color: 'rule' } },
}
const near = toDay('2027-03-02')
const chart = (more: Partial<ChartAsked>): ChartAsked => ({
  of: 'items',
  measure: 'number',
  form: 'bars',
  ...more,
})
const value = (key: string, title = key) => ({ key, title })
const table = (more: Partial<ChartTable> = {}): ChartTable => ({
  rows: [value('A', 'Anna'), value('B', 'Bo'), value('', 'None')],
  columns: [value('todo', 'to do'), value('done')],
  cells: [
    [1, 2],
    [3, null as unknown as number],
    [null as unknown as number, 4],
  ],
  counts: [
    [1, 2],
    [3, 0],
    [0, 4],
  ],
  totals: [3, 3, 4],
  total: 10,
  count: 10,
  unit: 'number',
  ...more,
})
const series: ChartSeries = {
  days: ['2027-02-28', '2027-03-01', '2027-03-02'],
  lines: [value('todo', 'to do'), value('done')],
  points: [
    [3, 2, 1],
    [null as unknown as number, 1, 2],
  ],
  totals: [3, 3, 3],
  counts: [3, 3, 3],
  unit: 'number',
  since: '2027-02-28',
}

describe('values in words', () => {
  it('carry their unit', () => {
    expect(worded(3, { unit: 'number' })).toBe('3')
    expect(worded(0.42, { unit: 'share' })).toBe('42\u00a0%')
    expect(worded(0.042, { unit: 'share' })).toBe('4.2\u00a0%')
    expect(worded(2.5, { unit: 'size', in: 'points' })).toBe('2.5 pt')
    expect(worded(1, { unit: 'days' })).toBe('1 day')
    expect(worded(7, { unit: 'hours' })).toBe('7 h')
    expect(worded(undefined, { unit: 'number' })).toBe('–')
    expect(changed(-2, { unit: 'number' })).toBe('−2')
    expect(changed(0, { unit: 'number' })).toBe('no change')
  })
})

describe('a table that is drawn', () => {
  it('has a part for every value, which a place of a series leads to', () => {
    const picture = drawTable(chart({ split: ['assignee', 'state'], form: 'stacked' }), table(), looks)
    const bars = picture.option.series as { stack: string; data: (number | null)[] }[]
    expect(bars).toHaveLength(2)
    expect(bars.map((b) => b.stack)).toEqual(['all', 'all'])
    for (const [s, bar] of bars.entries())
      for (const [place, n] of bar.data.entries()) {
        const part = picture.parts[picture.at(s, place)]
        if (n === null) {
          expect(part).toBeUndefined()
          continue
        }
        expect([part.row, part.column]).toEqual([table().rows[place].key, table().columns[s].key])
        expect(n).toBe(table().cells[place][s])
      }
    expect(picture.rows[0]).toEqual(['Anna', 1, 2, 3])
    expect(picture.parts[1].text).toBe('Anna, done: 2')
  })

  it('divides a ring by the first alone', () => {
    const picture = drawTable(chart({ split: ['assignee', 'state'], form: 'ring' }), table(), looks)
    expect(picture.parts.map((p) => p.text)).toEqual(['Anna: 3', 'Bo: 3', 'None: 4'])
    expect(picture.parts[picture.at(0, 2)].row).toBe('')
  })

  it('keeps values apart that are called the same', () => {
    const twice = table({ rows: [value('a', 'Core'), value('b', 'Core'), value('', 'None')] })
    const names = drawTable(chart({ split: ['feature'] }), twice, looks).option.yAxis as { data: string[] }
    expect(new Set(names.data).size).toBe(3)
  })

  it('gives values the colours that they keep, others one in turn', () => {
    expect(colourOf({ tone: 'edge' }, 3, looks)).toBe('--edge')
    expect(colourOf({}, 6, looks)).toBe('--c1')
  })
})

describe('a series that is drawn', () => {
  it('has a part for every day of every line', () => {
    const picture = drawSeries(chart({ split: ['state'], form: 'areas', back: 2 }), series, near, looks)
    const lines = picture.option.series as { data: (number | null)[]; stack: string }[]
    expect(lines[1].data).toEqual([0, 1, 2])
    expect(lines[0].stack).toBe('all')
    const part = picture.parts[picture.at(1, 2)]
    expect([part.row, part.day]).toEqual(['done', '2027-03-02'])
    expect(picture.rows[2]).toEqual(['2027-03-02', 1, 2, 3])
  })

  it('leaves out averages of nothing', () => {
    const picture = drawSeries(
      chart({ split: ['state'], form: 'lines', back: 2 }),
      { ...series, mean: true },
      near,
      looks,
    )
    expect((picture.option.series as { data: unknown[] }[])[1].data[0]).toBeNull()
  })

  it('is one line where nothing divides it', () => {
    const picture = draw(
      chart({ form: 'lines', back: 2 }),
      { series: { ...series, lines: [value('')] } },
      near,
      looks,
    )!
    expect(picture.columns).toEqual(['Day', 'Value'])
    expect(picture.parts.map((p) => p.text)).toEqual(['28 Feb: 3', '1 Mar: 3', '2 Mar: 3'])
  })
})
