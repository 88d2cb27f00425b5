import { describe, expect, it } from 'vitest'
import { toDay } from '@/ui/dates'
import { FactsOfIterations } from '@/line/iterationFacts'
import { factsOf, smallProgram } from '@/line/testing'
import { awayIn, calendarRows } from './rows'

const today = toDay('2027-04-10')

describe('the calendar picture', () => {
  it('has a row for each release, one for milestones, and one for each team', () => {
    const program = smallProgram()
    program.releases = [
      {
        key: 'R',
        name: 'First',
        due: '2027-05-01',
        phases: [{ key: 'b', name: 'Build', start: '2027-03-01', end: '2027-04-01' }],
      },
      { key: 'S', name: 'No dates' },
    ]
    program.milestones = [{ key: 'M', name: 'Trial', date: '2027-04-20' }]
    const rows = calendarRows(program, new FactsOfIterations([]), today)
    expect(rows.map((r) => [r.title, r.cells.length])).toEqual([
      ['First', 1],
      ['No dates', 0],
      ['Milestones', 1],
      ['Team A', 4],
    ])
    expect(rows[0].cells[0].start).toBe(toDay('2027-03-01'))
    expect(rows[0].cells[0].label).toBe('Release First, 1 Mar to its due date 1 May')
  })

  it('lets only what has not started move whole, and what is over not at all', () => {
    const program = smallProgram()
    const [first, second, ...rest] = factsOf(program).iterations
    const facts = new FactsOfIterations([
      { ...first, started: true, ended: true },
      { ...second, started: true },
      ...rest,
    ])
    const cells = calendarRows(program, facts, today).at(-1)!.cells
    expect(cells.map((c) => c.grips)).toEqual([[], ['end'], ['end', 'whole'], ['end', 'whole']])
  })

  it('knows when members are away', () => {
    const program = smallProgram()
    program.people = [{ key: 'ann', name: 'Ann', daysOff: [{ from: '2027-04-01', to: '2027-04-03' }] }]
    program.teams![0].members = [{ person: 'ann', share: 1 }]
    expect(awayIn(program, 'A')).toEqual([{ start: toDay('2027-04-01'), end: toDay('2027-04-03') }])
  })
})
