import { describe, expect, it } from 'vitest'
import { toDay } from '@/ui/dates'
import { FactsOfIterations } from '@/line/iterationFacts'
import { factsOf, smallProgram } from '@/line/testing'
import { partRows, teamRows } from './rows'

const today = toDay('2027-03-23')

describe('the capacity picture', () => {
  it('shows what each iteration carries, and of closed ones what they completed', () => {
    const program = smallProgram()
    const [first, second] = program.teams![0].iterations!
    Object.assign(first, { completed: 9, committed: 12 })
    second.capacity = 8
    const facts = new FactsOfIterations(factsOf(program).iterations.map((f) => ({ ...f, load: 12 })))
    const [row] = teamRows(program, facts, today)
    expect(row.cells.map((c) => [c.capacity, c.load, c.note])).toEqual([
      [12, 9, 'completed'],
      [10, 12, 'over by 2'],
      [10, 12, 'over by 2'],
      [10, 12, 'over by 2'],
    ])
    expect(row.cells[1].hand).toBe(true)
    expect(row.cells[0].label).toContain('completed 9 pt, committed 12 pt')
    expect(new Set(row.cells.map((c) => c.top)).size).toBe(1)
  })

  it('gives a person in two teams a row for each, and names large items', () => {
    const program = smallProgram()
    program.teams!.push({ ...program.teams![0], key: 'B', name: 'Team B' })
    const parts = [
      { team: 'A', iteration: '2', capacity: 3, load: 5, over: true, large: ['x', 'y'] },
      { team: 'B', iteration: '2', capacity: 3, load: 0 },
      { team: 'gone', iteration: '2', capacity: 3, load: 0 },
    ]
    const rows = partRows([{ key: 'ann', name: 'Ann', parts }], program, 'person', today)
    expect(rows.map((r) => [r.title, r.sub])).toEqual([
      ['Ann', 'Team A'],
      ['Ann', 'Team B'],
    ])
    expect(rows[0].cells[0].label).toContain('2 large items: x, y')
  })
})
