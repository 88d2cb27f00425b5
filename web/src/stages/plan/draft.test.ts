// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { Drafted, Figures } from '@/api/types'
import { useDraft } from './draft'
import { usePlan } from './plan'
import { useProgram } from '@/line/program'
import { factsOf, smallProgram } from '@/line/testing'
import { eventually } from '@/ui/testing'

const why = { code: 'first', text: 'The first open iteration' }
const at = (item: string, iteration: string, moved: boolean, from?: string) => ({
  item,
  team: 'A',
  iteration,
  start: '2027-04-01',
  end: '2027-04-28',
  moved,
  from,
  why,
})
const score = { lateDays: 0, importance: 1, moves: 2, lateDaysBound: 0 }
const figures = (lateDays: number): Figures => ({
  score: { ...score, lateDays },
  expectedLateDays: lateDays,
  over: 0,
  broken: 0,
  missed: [],
  unplaced: 1,
  landings: [],
})
const drafted: Drafted = {
  revision: 0,
  draft: {
    placements: [at('x', '2', false, '2'), at('z', '3', true)],
    unplaced: [{ item: 'y', moved: true, from: '3', why }],
    overloads: [],
    releases: [],
    score,
  },
  before: figures(9),
  after: figures(0),
  expectedLateDaysBound: 0,
}

let bodies: unknown[]
let sent: { label?: string; placements?: unknown[]; rough?: unknown[] }[]

beforeEach(() => {
  setActivePinia(createPinia())
  bodies = []
  sent = []
  const store = useProgram()
  store.program = smallProgram()
  store.facts = factsOf(store.program)
  store.mine = { role: 'program manager', author: '1', teams: [], rights: [] }
  vi.spyOn(store, 'mean').mockImplementation((intent) => {
    sent.push(intent as (typeof sent)[number])
    return Promise.resolve({} as never)
  })
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = (await request.json()) as { quick?: boolean }
    if (!body.quick) bodies.push(body) // the first good one comes before the one that is kept
    return Response.json(request.url.endsWith('/places/try') ? figures(4) : drafted)
  })
})

it('proposes what moves, and moves nothing', async () => {
  const draft = useDraft()
  draft.start()
  await eventually(() => expect(draft.busy).toBe(false))
  expect(draft.proposals.map((p) => `${p.item}: ${p.from}→${p.to}`)).toEqual(['z: →3', 'y: 3→'])
  expect(draft.accepted.size).toBe(2)
  expect(sent).toEqual([])
})

it('accepts all as one edit', async () => {
  const draft = useDraft()
  await draft.draft()
  await draft.accept()
  expect(sent).toHaveLength(1)
  expect(sent[0].label).toBe('Accept a draft: 2 moves')
  expect(sent[0].placements).toEqual([
    { item: 'z', iteration: '3' },
    { item: 'y', iteration: '' },
  ])
  expect(draft.visible).toBe(false)
})

it('accepts only what is ticked, with the figures of just that; the rest stays', async () => {
  const store = useProgram()
  const draft = useDraft()
  await draft.draft()
  expect(draft.after?.score.lateDays).toBe(0)
  draft.tickAll(false)
  await eventually(() => expect(draft.after?.score.lateDays).toBe(9))
  draft.toggle('z')
  await eventually(() => expect(draft.after?.score.lateDays).toBe(4))
  expect(bodies.at(-1)).toEqual({ assumeSizes: true, placements: [{ item: 'z', iteration: '3' }], rough: [] })
  const accepting = draft.accept()
  store.revision = 1
  await accepting
  expect(sent[0].label).toBe('Accept part of a draft: 1 move')
  expect(sent[0].placements).toHaveLength(1)
  expect(draft.proposals.map((x) => x.item)).toEqual(['y'])
  expect(draft.drafted?.before.score.lateDays).toBe(4)
  expect(draft.stale).toBe(false)

  draft.toggle('y')
  expect(draft.after?.score.lateDays).toBe(0)
  await draft.accept()
  expect(sent[1].label).toBe('Accept part of a draft: 1 move')
  expect(draft.drafted).toBeUndefined()
})

it('is stale where others have changed the plan while a part was accepted', async () => {
  const store = useProgram()
  const draft = useDraft()
  await draft.draft()
  draft.tickAll(false)
  draft.toggle('z')
  const accepting = draft.accept()
  store.revision = 2
  await accepting
  expect(draft.stale).toBe(true)
})

const usual = { keepClose: false, aim: 'odds', assumeSizes: true }

it('asks for a release, a team and what is to stay, and counts the ticked moves the same way', async () => {
  const draft = useDraft()
  draft.release = 'R'
  draft.team = 'A'
  draft.freeze = 2
  draft.assumeSizes = false
  await draft.draft()
  draft.toggle('z')
  await eventually(() => expect(bodies).toHaveLength(2))
  const asked = { releases: ['R'], teams: ['A'], freeze: 2 }
  expect(bodies).toEqual([
    { keepClose: false, aim: 'odds', ...asked },
    { ...asked, placements: [{ item: 'y', iteration: '' }], rough: [] },
  ])
})

it('asks for the selected items alone where several are selected', async () => {
  const draft = useDraft()
  usePlan().selection = ['x', 'y']
  draft.start()
  await eventually(() => expect(draft.busy).toBe(false))
  expect(bodies).toEqual([{ ...usual, items: ['x', 'y'] }])
})

it('fills each team as it has it itself, until another share is chosen', async () => {
  const draft = useDraft()
  draft.start()
  await eventually(() => expect(draft.busy).toBe(false))
  draft.fillTo = 80
  await draft.draft()
  expect(bodies).toEqual([usual, { ...usual, fillTo: 0.8 }])
})

it('takes only what may be moved', async () => {
  useProgram().mine = {
    role: 'team lead',
    author: '1',
    teams: [],
    rights: [{ kind: 'item', op: 'set', reach: 'own' }],
  }
  const draft = useDraft()
  await draft.draft()
  expect(draft.accepted.size).toBe(0)
})

it('knows when the plan has changed since', async () => {
  const draft = useDraft()
  await draft.draft()
  expect(draft.stale).toBe(false)
  useProgram().revision = 3
  expect(draft.stale).toBe(true)
})

it('proposes what is rough for each team as one, and says where all of it goes', async () => {
  const part = (iteration: string, size: number, was: number) => ({
    iteration,
    size,
    was,
    start: '2027-04-01',
    end: '2027-04-28',
  })
  const rough = [
    { item: 'f', team: 'A', places: [part('2', 5, 5), part('3', 4, 0)], moved: true, why },
    { item: 'f', team: 'B', places: [part('2', 5, 5)], moved: false, why },
  ]
  vi.stubGlobal('fetch', () =>
    Promise.resolve(Response.json({ ...drafted, draft: { ...drafted.draft, rough } })),
  )
  const draft = useDraft()
  await draft.draft()
  expect(draft.proposals.map((x) => x.item)).toEqual(['z', 'y', 'f'])
  draft.tickAll(false)
  draft.toggle(draft.proposals[2].key)
  await draft.accept()
  expect(sent[0].placements).toEqual([])
  expect(sent[0].rough).toEqual([
    {
      item: 'f',
      team: 'A',
      places: [
        { iteration: '2', size: 5 },
        { iteration: '3', size: 4 },
      ],
    },
  ])
})

/** Answers a quick draft at once, and another when it is let go on. */
function twoDrafts(second: Drafted): () => void {
  let go = () => {}
  const waiting = new Promise<void>((resolve) => (go = resolve))
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = (await request.clone().json()) as { quick?: boolean }
    if (body.quick) return Response.json({ ...drafted, after: figures(3) })
    await Promise.race([
      waiting,
      new Promise((_, no) => request.signal.addEventListener('abort', () => no(new Error('aborted')))),
    ])
    return Response.json(second)
  })
  return go
}

it('shows the first good draft soon, and the better one when it is found', async () => {
  const go = twoDrafts({ ...drafted, after: figures(1) })
  const draft = useDraft()
  const asked = draft.draft()
  await eventually(() => expect(draft.searching).toBe(true))
  expect(draft.after?.expectedLateDays).toBe(3)
  go()
  await asked
  expect(draft.searching).toBe(false)
  expect(draft.after?.expectedLateDays).toBe(1)
  expect(draft.accepted.size).toBe(2)
})

it('leaves who has begun to choose with what is chosen from, and offers the better one', async () => {
  const go = twoDrafts({ ...drafted, after: figures(1) })
  const draft = useDraft()
  const asked = draft.draft()
  await eventually(() => expect(draft.searching).toBe(true))
  draft.toggle('z')
  go()
  await asked
  expect(draft.accepted.size).toBe(1)
  expect(draft.better?.after.expectedLateDays).toBe(1)
  draft.show(draft.better!)
  expect(draft.accepted.size).toBe(2)
  expect(draft.better).toBeUndefined()
})

it('keeps the first where the other is no better, or the search is stopped', async () => {
  const go = twoDrafts({ ...drafted, after: figures(3.5) })
  const draft = useDraft()
  const asked = draft.draft()
  await eventually(() => expect(draft.searching).toBe(true))
  go()
  await asked
  expect(draft.after?.expectedLateDays).toBe(3)

  twoDrafts({ ...drafted, after: figures(1) })
  const again = draft.draft()
  await eventually(() => expect(draft.searching).toBe(true))
  draft.stop()
  await again
  expect(draft.failure).toBe('')
  expect(draft.after?.expectedLateDays).toBe(3)
})

it('keeps the first where looking for better fails', async () => {
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = (await request.json()) as { quick?: boolean }
    return body.quick
      ? Response.json(drafted)
      : Response.json({ title: 'Busy', status: 503 }, { status: 503 })
  })
  const draft = useDraft()
  await draft.draft()
  expect(draft.failure).toBe('')
  expect(draft.searching).toBe(false)
  expect(draft.proposals).toHaveLength(2)
})
