import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import type { TrackStep, UnderWay } from '@/api/types'
import { useProgram } from '@/line/program'
import { factsOf, smallProgram } from '@/line/testing'
import { useTrack } from './track'
import { daysSince, isScope, stepText } from './words'

const none = { items: 0, size: 0 }
const under = (team: string, items: string[]): UnderWay => ({
  team,
  iteration: '2',
  from: '2027-03-01T00:00:00Z',
  start: none,
  added: none,
  removed: none,
  grown: none,
  shrunk: none,
  total: none,
  done: none,
  left: none,
  doneBefore: none,
  steps: [],
  days: [],
  gone: 0,
  ideal: [],
  courses: items.map((item) => ({ item })),
  likely: [],
  chances: items.map((item) => ({ item, chance: 0.5 })),
})

const sent: unknown[] = []
beforeEach(() => {
  setActivePinia(createPinia())
  sent.length = 0
  const store = useProgram()
  store.program = smallProgram()
  store.facts = factsOf(store.program)
  store.mine = { role: 'program manager', author: '1', teams: [], rights: [] }
  store.id = 1
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
afterEach(() => vi.unstubAllGlobals())

it('shows the items of the teams in view, and takes one along its course', async () => {
  const track = useTrack()
  const store = useProgram()
  await vi.waitFor(() => expect(track.sections).toHaveLength(store.teams.size))
  const row = track.rows.find((r) => r.at === 0)!
  expect(track.rows.some((r) => r.item.key === 'gone')).toBe(false)
  expect(row.chance).toBe(0.5)
  await track.move(row, 1)
  expect(sent).toEqual([[row.item.key, 'state', 'doing', `${row.item.key} doing`]])
  await track.move(row, -1)
  await track.move(row, row.at)
  expect(sent).toHaveLength(1)
  store.mine = { role: 'viewer', author: '', teams: [], rights: [] }
  await track.move(row, 1)
  expect(sent).toHaveLength(1)
  track.teams = [[...store.teams.keys()][0]]
  expect(track.sections).toHaveLength(1)
})

it('asks why an item is sent back, and what blocks it', async () => {
  const track = useTrack()
  const store = useProgram()
  await vi.waitFor(() => expect(track.rows.length).toBeGreaterThan(0))
  const applied: unknown[] = []
  vi.spyOn(store, 'apply').mockImplementation((label, changes) => {
    applied.push([label, changes.map((c) => [c.op, c.kind, c.field])])
    return Promise.resolve(true)
  })
  const row = { ...track.rows[0], at: 2 }
  await track.move(row, 1)
  expect(track.asked).toEqual({ item: row.item.key, what: 'back', text: '' })
  expect(applied).toEqual([])
  track.asked!.text = ' It flickers '
  await track.reply()
  const state = ['set', 'item', 'state']
  expect(applied).toEqual([[`${row.item.key} sent back`, [state, ['add', 'comment', undefined]]]])
  await track.move(row, 1)
  await track.reply()
  expect(applied[1]).toEqual([`${row.item.key} sent back`, [state]])
  track.askBlocked(row)
  track.asked!.text = 'No boat'
  await track.reply()
  expect(sent).toEqual([[row.item.key, 'blocked', 'No boat', `${row.item.key} is blocked`]])
  track.askBlocked(row)
  await track.reply()
  expect(sent).toHaveLength(1)
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
  expect(isScope(step('grown'))).toBe(true)
  expect(isScope(step('finished'))).toBe(false)
})

it('counts days by the calendar', () => {
  const today = Date.UTC(2027, 2, 5) / 86_400_000
  expect(daysSince(new Date(2027, 2, 5, 0, 5).toISOString(), today)).toBe(0)
  expect(daysSince(new Date(2027, 2, 3, 23, 55).toISOString(), today)).toBe(2)
})
