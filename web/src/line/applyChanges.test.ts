import { describe, expect, it } from 'vitest'
import type { Change, Facts, Program } from '@/api/types'
import { applyChanges, mergeFacts } from './applyChanges'
import vectors from './changes.gen.json'

const program = (): Program =>
  ({
    name: 'P',
    settings: { sameIteration: 'same-team', fillTo: 1 },
    teams: [
      {
        key: 'T',
        name: 'T',
        unit: 'points',
        iterations: [{ key: '1', start: '2027-03-01', end: '2027-03-14' }],
      },
    ],
    items: ['A', 'B', 'C'].map((key) => ({ key, title: key, kind: 'story' })),
    needs: [{ item: 'A', needs: 'B' }],
  }) as Program

const keys = (p: Program) => p.items?.map((x) => x.key).join('')

describe('applyChanges', () => {
  it('adds, moves and takes away thousands one after the other', () => {
    const added = Array.from({ length: 3000 }, (_, i): Change => ({
      op: 'add',
      kind: 'item',
      key: `n${i}`,
      value: { key: `n${i}`, title: 'new', kind: 'story' },
    }))
    const next = applyChanges(program(), [
      ...added,
      { op: 'set', kind: 'item', key: 'n2999', field: 'size', value: 8 },
      { op: 'move', kind: 'item', key: 'n2999', at: 0 },
      { op: 'set', kind: 'item', key: 'n0', field: 'title', value: 'first' },
      { op: 'remove', kind: 'item', key: 'n1' },
      { op: 'add', kind: 'comment', in: 'A', key: 'c', value: { key: 'c', item: 'A', by: 'Ann', text: '?' } },
      { op: 'set', kind: 'program', field: 'mix', value: { story: 0.5 } },
    ])
    expect(next.items).toHaveLength(3 + 3000 - 1)
    expect(next.items?.[0]).toMatchObject({ key: 'n2999', size: 8 })
    expect(next.items?.find((x) => x.key === 'n0')?.title).toBe('first')
    expect(next.comments?.[0].by).toBe('Ann')
    expect(next.settings.mix).toEqual({ story: 0.5 })
  })

  it('does each kind of change, and alters nothing it was given', () => {
    const before = program()
    const frozen = JSON.stringify(before)
    const changes: Change[] = [
      { op: 'set', kind: 'item', key: 'A', field: 'size', value: 5 },
      { op: 'move', kind: 'item', key: 'A', at: 2 },
      { op: 'add', kind: 'item', key: 'D', at: 0, value: { key: 'D', title: 'D', kind: 'spike' } },
      { op: 'remove', kind: 'item', key: 'B' },
      { op: 'remove', kind: 'need', in: 'A', key: 'B' },
      { op: 'add', kind: 'need', in: 'C', key: 'A', value: { item: 'C', needs: 'A' } },
      { op: 'set', kind: 'iteration', in: 'T', key: '1', field: 'capacity', value: 8 },
      { op: 'set', kind: 'program', field: 'name', value: 'Q' },
      { op: 'set', kind: 'program', field: 'fillTo', value: 0.8 },
    ]
    const after = applyChanges(before, changes)
    expect(keys(after)).toBe('DCA')
    expect(after.items?.[2].size).toBe(5)
    expect(after.needs).toEqual([{ item: 'C', needs: 'A' }])
    expect(after.teams?.[0].iterations?.[0].capacity).toBe(8)
    expect(after.name).toBe('Q')
    expect(after.settings.fillTo).toBe(0.8)
    expect(JSON.stringify(before)).toBe(frozen)
  })

  it('clears with null', () => {
    const sized = applyChanges(program(), [{ op: 'set', kind: 'item', key: 'A', field: 'size', value: 5 }])
    const cleared = applyChanges(sized, [{ op: 'set', kind: 'item', key: 'A', field: 'size', value: null }])
    expect(cleared.items?.[0].size).toBeUndefined()
  })

  it('takes what it does not know for nothing', () => {
    const changes = [{ op: 'set', kind: 'item', key: 'X', field: 'size', value: 5 } as Change]
    expect(applyChanges(program(), changes)).toEqual(program())
  })
})

/** Absent, empty, false and cleared mean the same in a program. */
function plain(value: unknown): unknown {
  if (Array.isArray(value)) return value.length ? value.map(plain) : undefined
  if (typeof value !== 'object' || value === null) return value === '' || value === false ? undefined : value
  const entries = Object.entries(value).map(([k, v]) => [k, plain(v)] as const)
  return Object.fromEntries(entries.filter(([, v]) => v !== undefined && v !== null))
}

describe('vectors of the server', () => {
  it('are applied as the server does', () => {
    expect(vectors.length).toBeGreaterThan(10)
    for (const { before, changes, after } of vectors)
      expect(plain(applyChanges(before as Program, changes as Change[]))).toEqual(plain(after))
  })
})

describe('mergeFacts', () => {
  it('replaces what differs and adds what is new', () => {
    const item = (key: string, unplaced: boolean) => ({ key, leaf: true, unplaced })
    const facts: Facts = {
      iterations: [],
      teams: [],
      needs: [],
      items: [item('A', true), item('B', false)],
    }
    const merged = mergeFacts(facts, { ...facts, items: [item('B', true), item('C', true)] })
    expect(merged.items?.map((x) => `${x.key}${x.unplaced}`)).toEqual(['Atrue', 'Btrue', 'Ctrue'])
  })
})
