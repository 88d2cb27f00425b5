import type { Change, Facts, Item, Program, Snapshot, Update } from '@/api/types'

/** A small program and a stand-in for the server, for tests of the stores. */

export const smallProgram = (): Program => {
  const iterations = ['1', '2', '3', '4'].map((key, i) => ({
    key,
    name: `A·${key}`,
    start: `2027-0${3 + i}-01`,
    end: `2027-0${3 + i}-28`,
    state: i === 0 ? ('closed' as const) : ('planned' as const),
  }))
  const item = (key: string, more: Partial<Item> = {}): Item => ({
    key,
    title: key,
    kind: 'story',
    team: 'A',
    size: 3,
    ...more,
  })
  return {
    name: 'Small',
    settings: { sameIteration: 'same-team', fillTo: 1 },
    teams: [{ key: 'A', name: 'Team A', unit: 'points', iterations }],
    items: [
      item('x', { iteration: '2' }),
      item('y', { iteration: '3' }),
      item('z'),
      item('pinned', { iteration: '2', pinned: true }),
      item('done', { iteration: '1', state: 'done' }),
    ],
    needs: [{ item: 'y', needs: 'x' }],
  }
}

export function factsOf(program: Program): Facts {
  const items = program.items ?? []
  return {
    iterations: (program.teams ?? []).flatMap((t) =>
      (t.iterations ?? []).map((it) => ({
        team: t.key,
        key: it.key,
        capacity: 10,
        full: 10,
        basis: 'by hand',
        load: 0,
        over: it.key === '2',
        usable: it.state !== 'closed',
      })),
    ),
    teams: [],
    needs: [{ item: 'y', needs: 'x', status: 'broken', spare: -2 }],
    items: items.map((x) => ({ key: x.key, leaf: true, unplaced: !x.iteration })),
    counts: {
      over: [{ team: 'A', key: '2' }],
      broken: [{ item: 'y', needs: 'x' }],
      notReady: [],
      unplaced: items.filter((x) => !x.iteration).map((x) => x.key),
    },
  }
}

export const snapshotOf = (program: Program, revision = 0): Snapshot => ({
  id: 1,
  revision,
  today: '2027-03-23',
  program,
  facts: factsOf(program),
  mine: { role: 'program manager', author: '1', teams: [], rights: [] },
})

export const updateOf = (from: number, changes: Change[], label = 'Edit'): Update => ({
  from,
  revision: from + 1,
  at: '2027-03-23T10:00:00Z',
  actor: 'Ann',
  client: 'somebody',
  label,
  changes,
  facts: { iterations: [], teams: [], needs: [], items: [], counts: factsOf(smallProgram()).counts },
})
