// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { Outcome, Question, TrackStep } from '@/api/types'
import { useProgram } from '@/line/program'
import { factsOf, smallProgram } from '@/line/testing'
import { eventually } from '@/ui/testing'
import { none, under } from './testing'
import { useTrack } from './track'
import { daysSince, isScope, stepText } from './words'

const sent: unknown[] = []
/** What was meant, and what the server asks of it next. */
const meant: unknown[] = []
let asks: Question | undefined
beforeEach(() => {
  setActivePinia(createPinia())
  sent.length = 0
  meant.length = 0
  asks = undefined
  const store = useProgram()
  store.program = smallProgram()
  store.facts = factsOf(store.program)
  store.mine = { role: 'program manager', author: '1', teams: [], rights: [] }
  store.id = 1
  vi.spyOn(store, 'mean').mockImplementation((intent) => {
    meant.push(intent)
    const out = { ask: asks, changes: asks ? 0 : 1 } as Outcome
    asks = undefined
    return Promise.resolve(out)
  })
  vi.spyOn(store, 'setItem').mockImplementation((item, field, value, label) => {
    sent.push([item.key, field, value, label])
    return Promise.resolve(true)
  })
  const keys = (store.program.items ?? []).map((x) => x.key)
  const teams = (store.program.teams ?? []).map((x) => x.key)
  vi.stubGlobal('fetch', () =>
    Promise.resolve(
      Response.json({ revision: 0, iterations: teams.map((t, i) => under(t, i ? [] : [...keys, 'gone'])) }),
    ),
  )
})

it('shows the items of the teams in view, and takes one along its course', async () => {
  const track = useTrack()
  const store = useProgram()
  await eventually(() => expect(track.sections).toHaveLength(store.teams.size))
  const row = track.rows.find((r) => r.at === 0)!
  expect(track.rows.some((r) => r.item.key === 'gone')).toBe(false)
  expect(row.chance).toBe(0.5)
  await track.move(row, 1)
  expect(meant).toEqual([{ do: 'take-to-step', item: row.item.key, to: 1 }])
  await track.move(row, -1)
  await track.move(row, row.at)
  expect(meant).toHaveLength(1)
  store.mine = { role: 'viewer', author: '', teams: [], rights: [] }
  await track.move(row, 1)
  expect(meant).toHaveLength(1)
  track.teams = [[...store.teams.keys()][0]]
  expect(track.sections).toHaveLength(1)
})

it('asks what the server asks of a step, and what blocks an item', async () => {
  const track = useTrack()
  await eventually(() => expect(track.rows.length).toBeGreaterThan(0))
  const row = { ...track.rows[0], at: 2 }
  const to = { do: 'take-to-step', item: row.item.key, to: 1 }
  asks = { text: 'Sent back, why', field: 'why', answer: '', answers: [] }
  await track.move(row, 1)
  expect(track.asked).toMatchObject({ item: row.item.key, text: '', of: { to: 1 } })
  track.asked!.text = ' It flickers '
  asks = { text: 'Full', field: 'over', answer: '', answers: [{ value: 'true', text: 'Yes' }] }
  await track.reply()
  expect(track.asked?.of?.ask.text).toBe('Full')
  await track.reply('true')
  expect(track.asked).toBeUndefined()
  expect(meant).toEqual([
    to,
    { ...to, step: { why: 'It flickers' } },
    { ...to, step: { why: 'It flickers', over: true } },
  ])

  // After the last task it goes on to the step that is the answer.
  asks = { text: 'All done', field: 'to', answer: '', answers: [{ value: '3', text: 'On to review' }] }
  row.item = { ...row.item, tasks: [{ title: 'Wire' }] }
  await track.work(row, 0, { done: true })
  await track.reply('3')
  expect(meant.slice(3)).toEqual([
    { do: 'work-on-task', item: row.item.key, task: 0, title: 'Wire', done: true },
    { ...to, to: 3 },
  ])
  track.askBlocked(row)
  track.asked!.text = 'No boat'
  await track.reply()
  expect(sent).toEqual([[row.item.key, 'blocked', 'No boat', `${row.item.key} is blocked`]])
  track.askBlocked(row)
  await track.reply()
  expect(sent).toHaveLength(1)
})

it('goes by the steps of the program', async () => {
  const track = useTrack()
  const store = useProgram()
  await eventually(() => expect(track.rows.length).toBeGreaterThan(2))
  store.program = {
    ...store.program,
    settings: {
      ...store.program.settings,
      steps: [
        { name: 'building', state: 'doing' },
        { name: 'trial', state: 'doing', most: 1 },
      ],
    },
    items: store.program.items!.map((x, i) => ({
      ...x,
      state: i < 2 ? ('doing' as const) : x.state,
      step: i ? undefined : 'trial',
      assignee: i ? undefined : 'ann',
    })),
    people: [{ key: 'ann', name: 'Ann' }],
  }
  expect(track.rows.slice(0, 3).map((r) => r.at)).toEqual([2, 1, 0])
  expect(track.passed.flat()).toEqual([])
  store.program = {
    ...store.program,
    items: store.program.items!.map((x, i) => (i === 1 ? { ...x, step: 'trial' } : x)),
  }
  expect(track.passed).toEqual([[], [], ['Team A has 2'], [], []])

  track.by = 'person'
  expect(track.groups.map((g) => [g.title, g.rows.length])).toEqual([
    ['Ann', 1],
    ['Nobody yet', track.rows.length - 1],
  ])
  track.by = 'feature'
  expect(track.groups.map((g) => g.title)).toEqual(['In no feature'])
})

it('says what happened in a few words', () => {
  const step = (what: TrackStep['what'], more: Partial<TrackStep> = {}): TrackStep => ({
    revision: 1,
    at: '2027-03-02T14:20:00Z',
    by: 'Ann',
    item: 'LC-5',
    what,
    size: 3,
    total: none,
    done: none,
    ...more,
  })
  const team = { key: 'LC', name: 'Lamp Control', unit: 'points' as const }
  const say = (...of: Parameters<typeof step>) => stepText(step(...of), team)
  expect(say('added')).toBe('LC-5 added, 3 pt')
  expect(say('removed')).toBe('LC-5 taken out, 3 pt')
  expect(say('grown')).toBe('LC-5 has grown by 3 pt')
  expect(say('shrunk')).toBe('LC-5 is smaller by 3 pt')
  expect(say('finished')).toBe('LC-5 done, 3 pt')
  expect(say('reopened')).toBe('LC-5 is no longer done, 3 pt')
  expect(say('moved', { from: 'review', to: 'doing' })).toBe('LC-5 sent back')
  expect(say('moved', { from: 'todo', to: 'doing' })).toBe('LC-5 doing')
  expect(say('moved', { from: 'doing', to: 'doing', toStep: 'sea trial' })).toBe('LC-5 sea trial')
  expect(isScope(step('grown'))).toBe(true)
  expect(isScope(step('finished'))).toBe(false)
})

it('counts days by the calendar', () => {
  const today = Date.UTC(2027, 2, 5) / 86_400_000
  expect(daysSince(new Date(2027, 2, 5, 0, 5).toISOString(), today)).toBe(0)
  expect(daysSince(new Date(2027, 2, 3, 23, 55).toISOString(), today)).toBe(2)
})
