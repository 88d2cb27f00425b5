import { describe, expect, it } from 'vitest'
import { FactsOfIterations } from './iterationFacts'
import { factsOf, smallProgram } from './testing'

describe('facts of iterations', () => {
  const program = smallProgram()
  const all = factsOf(program).iterations
  const other = { ...all[0], team: 'B', over: true }

  it('are found by team and key, in whatever order they came', () => {
    const facts = new FactsOfIterations([other, ...all.toReversed()])
    for (const x of [...all, other]) expect(facts.get(x.team, x.key)).toBe(x)
    expect(facts.get('A', '9')).toBeUndefined()
    expect(facts.get('C', '1')).toBeUndefined()
    expect(facts.get('A', undefined)).toBeUndefined()
  })

  it('name what is over capacity in the order of the program, and nothing that is gone', () => {
    const facts = new FactsOfIterations([...all.map((x) => ({ ...x, over: true })).toReversed(), other])
    expect(facts.over(program).map((x) => x.key)).toEqual(['1', '2', '3', '4'])
  })
})
