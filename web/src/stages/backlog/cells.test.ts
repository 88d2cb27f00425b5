// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Facts, Program } from '@/api/types'
import { useProgram } from '@/line/program'
import { rolesKnown } from '@/line/roles'
import { factsOf, smallProgram } from '@/line/testing'
import vectors from './cells.gen.json'
import {
  copyOf,
  ranksOf,
  suggestionsOf,
  enteredAs,
  entryOf,
  fromBlock,
  needsOf,
  textOf,
  toBlock,
} from './cells'
import { choicesOf } from '@/views/choices'

describe('blocks of cells', () => {
  it('come as a spreadsheet copies them', () => {
    expect(fromBlock('a\tb\r\nc\td\r\n')).toEqual([
      ['a', 'b'],
      ['c', 'd'],
    ])
    expect(fromBlock('one')).toEqual([['one']])
    expect(fromBlock('a\t\t')).toEqual([['a', '', '']])
    expect(fromBlock('"two\nlines"\t"said ""so"""')).toEqual([['two\nlines', 'said "so"']])
    expect(fromBlock('5" pipe\tx')).toEqual([['5" pipe', 'x']])
  })

  it.each([
    [
      [
        ['a', 'b\tc'],
        ['"', 'x\ny'],
      ],
    ],
    [[['']]],
    [[['', '']]],
  ])('come back as they went: %j', (rows) => {
    expect(fromBlock(toBlock(rows))).toEqual(rows)
  })
})

describe('cells', () => {
  beforeEach(() => {
    setActivePinia(createPinia())
    const store = useProgram()
    store.program = {
      ...smallProgram(),
      people: [{ key: 'p1', name: 'Ann' }],
      releases: [{ key: 'R', name: 'First' }],
      items: [
        { key: 'I', title: 'Lamps', kind: 'initiative' },
        { key: 'F', title: 'Beat', kind: 'feature', parent: 'I' },
        {
          key: 'x',
          title: 'Frame',
          kind: 'story',
          parent: 'F',
          team: 'A',
          size: 2.25,
          iteration: '2',
          assignee: 'p1',
          tags: ['a,b', 'c'],
          due: '2027-06-25',
        },
        { key: 'y', title: 'y', kind: 'story' },
      ],
      needs: [{ item: 'x', needs: 'y' }],
    }
    store.facts = factsOf(store.program)
    Object.assign(store.facts.items[2], { release: 'R', checks: 2, checked: 1, hoursLeft: 2 })
    store.today = '2027-03-23'
  })
  const of = (key: string) => useProgram().items.get(key)!

  it('are copied as they can be pasted again', () => {
    const store = useProgram()
    const copied = ['due', 'size', 'pinned', 'team'].map((f) => copyOf(f, of('x'), store))
    expect(copied).toEqual(['2027-06-25', '2.25', 'no', 'Team A'])
  })

  it.each([
    ['team', 'Team A'],
    ['release', 'First'],
    ['iteration', 'A·2'],
    ['feature', 'Beat'],
    ['initiative', 'Lamps'],
    ['assignee', 'Ann'],
    ['size', '2.3'],
    ['due', '25 Jun'],
    ['tags', '"a,b", c'],
    ['checks', '1 of 2'],
    ['hoursLeft', '2 h'],
    ['needs', 'y'],
    ['keptOut', ''],
    ['state', 'todo'],
  ])('show %s as %s', (field, text) => {
    expect(textOf(field, of('x'), useProgram())).toBe(text)
  })

  it('are entered whole: nothing is rounded or inherited away', () => {
    const store = useProgram()
    expect(entryOf('size', of('x'), store)).toBe('2.25')
    expect(entryOf('release', of('x'), store)).toBe('R')
    expect(entryOf('due', of('x'), store)).toBe('2027-06-25')
    expect(enteredAs('feature')).toBe('parent')
    expect(needsOf('y', store)).toEqual([])
  })

  it('offer what can be chosen', () => {
    const store = useProgram()
    expect(choicesOf('iteration', store.program, of('x'))?.map((c) => c.label)).toContain('A·3')
    expect(choicesOf('iteration', store.program, of('x'))?.map((c) => c.label)).not.toContain('A·1')
    expect(choicesOf('iteration', store.program, { ...of('x'), iteration: '1' })?.[1].label).toBe('A·1')
    expect(choicesOf('iteration', store.program, of('y'))).toHaveLength(1)
    expect(choicesOf('parent', store.program)?.map((c) => c.value)).toEqual(['', 'I', 'F'])
    // A group is offered neither itself nor what is part of it.
    expect(choicesOf('parent', store.program, of('I'))?.map((c) => c.value)).toEqual([''])
    expect(choicesOf('title', store.program)).toBeUndefined()
  })

  it('suggest what the program has already', () => {
    const store = useProgram()
    expect(suggestionsOf('tags', store.program)?.map((c) => c.label)).toEqual(['a,b', 'c'])
    expect(suggestionsOf('role', store.program)).toEqual([])
    store.program.settings.roles = ['lead']
    expect(suggestionsOf('role', store.program)?.map((c) => c.label)).toEqual(['lead'])
    expect(suggestionsOf('title', store.program)).toBeUndefined()
  })
})

describe('vectors of the server', () => {
  beforeEach(() => {
    setActivePinia(createPinia())
    const store = useProgram()
    store.program = vectors.program as unknown as Program
    store.facts = vectors.facts as unknown as Facts
    store.today = vectors.today
  })

  it('know the roles that the server knows', () => {
    expect(rolesKnown(useProgram().program)).toEqual(vectors.roles)
  })

  it('show in each cell what the server would write into a file', () => {
    const store = useProgram()
    const ranks = ranksOf(store)
    for (const [key, cells] of Object.entries(vectors.cells)) {
      const item = store.items.get(key)!
      for (const [field, words] of Object.entries(cells)) {
        const shown = field === 'rank' ? String(ranks.get(key) ?? '') : textOf(field, item, store)
        expect([key, field, shown]).toEqual([key, field, words])
      }
    }
  })
})
