import type { Change, Details, Facts, Item, Outline, Program, Update } from '@/api/types'

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
    teams: (program.teams ?? []).map((t) => ({
      key: t.key,
      headroom: 0,
      ahead: 0,
      pace: [],
      mean: 0,
      spread: 0,
    })),
    needs: [{ item: 'y', needs: 'x', status: 'broken', spare: -2 }],
    items: items.map((x) => ({ key: x.key, leaf: true, unplaced: !x.iteration })),
  }
}

/** A packed list, in the plainest of its forms. */
function packed<T extends object>(list: T[], ...leaveOut: string[]) {
  const fields = [...new Set(list.flatMap((x) => Object.keys(x)))].filter((f) => !leaveOut.includes(f))
  const value = (x: T, f: string) => (x as Record<string, unknown>)[f] ?? null
  return {
    n: list.length,
    c: Object.fromEntries(fields.map((f) => [f, { v: list.map((x) => value(x, f)) }])),
  }
}

const details = ['description', 'tasks', 'checks', 'links']

export function outlineOf(program: Program, revision = 0): Outline {
  const { teams = [], items = [], needs = [], ...rest } = program
  const facts = factsOf(program)
  return {
    id: 1,
    revision,
    today: '2027-03-23',
    program: { ...rest, comments: undefined },
    teams: packed(teams),
    items: packed(items, ...details),
    needs: packed(needs),
    facts: {
      iterations: packed(facts.iterations ?? [], 'team', 'key'),
      teams: packed(facts.teams ?? [], 'key'),
      needs: packed(facts.needs ?? [], 'item', 'needs'),
      items: packed(facts.items ?? [], 'key'),
    },
  }
}

export const detailsOf = (program: Program, revision = 0): Details => ({
  revision,
  items: (program.items ?? []).map(({ key, description, tasks, checks, links }) => ({
    key,
    description,
    tasks,
    checks,
    links,
  })),
  comments: program.comments ?? [],
})

export const here = {
  role: 'program manager',
  author: '1',
  teams: [],
  rights: [],
  undo: '',
  redo: '',
} as const

export const updateOf = (from: number, changes: Change[], label = 'Edit'): Update => ({
  from,
  revision: from + 1,
  at: '2027-03-23T10:00:00Z',
  actor: 'Ann',
  client: 'somebody',
  label,
  changes,
  facts: { iterations: [], teams: [], needs: [], items: [] },
})
