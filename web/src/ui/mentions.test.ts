import { describe, expect, it } from 'vitest'
import vectors from './mentions.gen.json'
import { begun, meant, mentionsIn } from './mentions'

describe('a mention that is being typed', () => {
  it.each([
    ['@', { at: 0, text: '' }],
    ['so @In', { at: 3, text: 'In' }],
    ['@Ingrid Lu', { at: 0, text: 'Ingrid Lu' }],
    ['(@i', { at: 1, text: 'i' }],
    ['@Ann and @bo', { at: 9, text: 'bo' }],
    ['lamp@harbour', undefined],
    ['nothing', undefined],
    ['@Ann\nnext', undefined],
    [`@${'x'.repeat(61)}`, undefined],
  ])('%s', (text, want) => expect(begun(text, text.length)).toEqual(want))

  it('is looked for before the caret', () => {
    expect(begun('@In the end', 3)).toEqual({ at: 0, text: 'In' })
  })
})

describe('who is meant', () => {
  const people = ['Ann', 'Anna Berg', 'Bo Ann', 'Joanna'].map((name) => ({ name }))
  const names = (typed: string) => meant(people, typed).map((p) => p.name)
  it('is whose name goes on so, in any of its words', () => {
    expect(names('an')).toEqual(['Ann', 'Anna Berg', 'Bo Ann'])
    expect(names('Anna b')).toEqual(['Anna Berg'])
    expect(names('zz')).toEqual([])
  })
  it('is nobody else where the name is whole', () => expect(names('joanna')).toEqual([]))
  it('is a few at most', () => expect(meant(people, '', 2)).toHaveLength(2))
})

describe('mentions in a text', () => {
  it.each(vectors)('as the core has them: $text', ({ text, names, meant: want }) => {
    const found = mentionsIn(text, names)
    expect([...new Set(found.map((m) => m.name))].sort()).toEqual([...want].sort())
    for (const m of found) expect(text.slice(m.at, m.end).toLowerCase()).toBe(`@${m.name}`.toLowerCase())
  })
})
