import { describe, expect, it } from 'vitest'
import type { Mine, Program } from '@/api/types'
import { smallProgram } from './testing'
import vectors from './may.gen.json'
import { may } from './may'

const program = {
  ...smallProgram(),
  people: [{ key: 'ann', name: 'Ann' }],
  teams: [
    { ...smallProgram().teams![0], members: [{ person: 'ann', share: 1 }] },
    { key: 'B', name: 'B', unit: 'points' as const },
  ],
}
program.items![0].assignee = 'ann'
const own = (kind: 'item' | 'iteration' | 'need' | 'person', op: 'set' | 'add', field?: string) => ({
  kind,
  op,
  field,
  reach: 'own' as const,
})
const lead: Mine = {
  role: 'team lead',
  author: '1',
  person: 'ann',
  teams: ['A'],
  rights: [
    own('item', 'set', 'size'),
    own('iteration', 'set', 'capacity'),
    own('need', 'set', 'agreement'),
    own('person', 'set', 'daysOff'),
  ],
}

describe('may', () => {
  it('lets a member accept what another of the team did, where others accept', () => {
    const [mine] = program.items!
    const his = { ...mine, key: 'his', assignee: 'bo', state: 'review' as const }
    const asked = { op: 'set', kind: 'item', key: 'his', field: 'state' } as const
    const member: Mine = { ...lead, role: 'member', teams: [], rights: [own('item', 'set', 'state')] }
    const of = (othersAccept: boolean, state: 'review' | 'doing' = 'review') => ({
      ...program,
      settings: { ...program.settings, othersAccept },
      items: [mine, { ...his, state }],
    })
    expect(may(member, of(true), asked)).toBe(true)
    expect(may(member, of(false), asked)).toBe(false)
    expect(may(member, of(true, 'doing'), asked)).toBe(false)
    expect(may({ ...member, person: 'cy' }, of(true), asked)).toBe(false)
    expect(may(member, of(true), { ...asked, field: 'title' })).toBe(false)
  })

  it('lets a manager change everything and a viewer nothing', () => {
    const asked = { op: 'set', kind: 'program', field: 'name' } as const
    expect(may({ role: 'program manager', author: '1', teams: [], rights: [] }, program, asked)).toBe(true)
    expect(may({ role: 'viewer', author: '1', teams: [], rights: [] }, program, asked)).toBe(false)
  })

  it('lets a team lead change what is their team’s', () => {
    expect(may(lead, program, { op: 'set', kind: 'item', key: 'z', field: 'size' })).toBe(true)
    expect(may(lead, program, { op: 'set', kind: 'iteration', in: 'A', key: '2', field: 'capacity' })).toBe(
      true,
    )
    expect(may(lead, program, { op: 'set', kind: 'iteration', in: 'B', key: '2', field: 'capacity' })).toBe(
      false,
    )
    expect(may(lead, program, { op: 'set', kind: 'need', in: 'other', key: 'x', field: 'agreement' })).toBe(
      true,
    )
    // Whose item needs it asks for it; who gives it agrees.
    const waits = { op: 'set', kind: 'need', in: 'z', key: 'other', field: 'agreement' } as const
    expect(may(lead, program, waits)).toBe(true) // in some way
    expect(may(lead, program, { ...waits, value: 'agreed' })).toBe(false)
    expect(may(lead, program, { ...waits, value: 'asked' })).toBe(true)
    expect(may(lead, program, { op: 'set', kind: 'person', key: 'ann', field: 'daysOff' })).toBe(true)
    expect(may(lead, program, { op: 'set', kind: 'person', key: 'ann', field: 'name' })).toBe(false)
  })

  it('lets a member change the items assigned to them, in some fields', () => {
    const member: Mine = {
      role: 'member',
      author: '1',
      person: 'ann',
      teams: ['A'],
      rights: [own('item', 'set', 'title')],
    }
    expect(may(member, program, { op: 'set', kind: 'item', key: 'x', field: 'title' })).toBe(true)
    expect(may(member, program, { op: 'set', kind: 'item', key: 'x', field: 'iteration' })).toBe(false)
    expect(may(member, program, { op: 'set', kind: 'item', key: 'y', field: 'title' })).toBe(false)
  })
})

describe('the table of rights', () => {
  it('is read as the server reads it', () => {
    const roles = vectors.rights as unknown as Record<string, Mine['rights']>
    expect(vectors.asked.length).toBeGreaterThan(400)
    for (const { role, change, allowed } of vectors.asked) {
      const mine: Mine = {
        role: role as Mine['role'],
        author: vectors.author,
        person: vectors.person,
        teams: role === 'team lead' ? vectors.teams : [],
        rights: roles[role],
      }
      const asked = change as Parameters<typeof may>[2]
      expect([role, asked, may(mine, vectors.program as unknown as Program, asked)]).toEqual([
        role,
        asked,
        allowed,
      ])
    }
  })
})
