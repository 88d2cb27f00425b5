// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { IntentOf } from '@/api/intents'
import { toDay } from '@/ui/dates'
import { useAxis } from '@/time/axis'
import { usePlan } from './plan'
import { roughKey } from './rough'
import { useProgram } from '@/line/program'
import { factsOf, smallProgram } from '@/line/testing'
import { eventually } from '@/ui/testing'

let sent: IntentOf<'place'>[]
let notes: string[]
const outcome = { label: '', keys: [], changes: 1, revision: 1, undo: '', redo: '' }

beforeEach(() => {
  setActivePinia(createPinia())
  sent = []
  notes = []
  const store = useProgram()
  store.id = 1
  store.program = smallProgram()
  store.facts = factsOf(store.program)
  store.today = '2027-03-23'
  vi.spyOn(store, 'mean').mockImplementation((intent) => {
    if (intent.do === 'place') sent.push(intent)
    return Promise.resolve({ ...outcome, notes })
  })
})

const moves = () => sent.flatMap((s) => s.placements.map((p) => `${p.item}→${p.iteration}`))

describe('selecting', () => {
  it('takes one, or adds and takes away', () => {
    const plan = usePlan()
    plan.select('x')
    plan.select('y', true)
    expect(plan.selection).toEqual(['x', 'y'])
    expect(plan.chosen?.key).toBe('y')
    plan.select('x', true)
    expect(plan.selection).toEqual(['y'])
    plan.select('z')
    expect(plan.selection).toEqual(['z'])
    plan.clear()
    expect(plan.chosen).toBeUndefined()
  })

  it('forgets what an edit elsewhere took away', async () => {
    const plan = usePlan()
    plan.select('x')
    const store = useProgram()
    store.program = { ...store.program, items: store.program.items?.filter((i) => i.key !== 'x') }
    await eventually(() => expect(plan.selection).toEqual([]))
  })
})

describe('moving', () => {
  it('goes to the next and the one before among the iterations that are open', async () => {
    const plan = usePlan()
    plan.select('x')
    await plan.shift(1)
    await plan.shift(-1) // there is none before: nothing moves
    expect(moves()).toEqual(['x→3'])
    expect(sent[0].label).toBe('Move x later')
  })

  it('brings an unplaced item into the first open iteration', async () => {
    const plan = usePlan()
    plan.select('z')
    await plan.shift(1)
    expect(moves()).toEqual(['z→2'])
  })

  it('places in the nth, unplaces, and moves several at once as one edit', async () => {
    const plan = usePlan()
    plan.selection = ['x', 'y']
    await plan.placeNth(3)
    await plan.unplace()
    expect(sent.map((s) => s.label)).toEqual(['Place 2 items in coming iteration 3', 'Unplace 2 items'])
    expect(moves()).toEqual(['x→4', 'y→4', 'x→', 'y→'])
  })

  it('leaves what is done or pinned, and says so', async () => {
    const plan = usePlan()
    notes = ['pinned, done cannot move: done, or pinned.']
    await plan.placeIn(['x', 'pinned', 'done'], 'A', '4')
    expect(moves()).toEqual(['x→4', 'pinned→4', 'done→4'])
    expect(useProgram().notice?.text).toContain('pinned, done cannot move')
  })

  it('leaves items of another team where they are', async () => {
    await usePlan().placeIn(['x'], 'B', '4')
    expect(moves()).toEqual([])
  })
})

describe('what is rough', () => {
  it('is moved by itself beside the items, and stays selected where it goes', async () => {
    const store = useProgram()
    const plan = usePlan()
    const said: unknown[] = []
    vi.spyOn(store, 'mean').mockImplementation((intent) => {
      said.push(intent)
      return Promise.resolve({ ...outcome, notes })
    })
    const coming = plan.coming('A').map((it) => it.key)
    const places = [{ team: 'A', iteration: coming[0], size: 4 }]
    store.program = {
      ...store.program,
      items: [
        ...(store.program.items ?? []),
        { key: 'f', title: 'Fog', kind: 'feature', rough: [{ team: 'A', size: 4 }] },
      ],
    }
    store.facts = factsOf(store.program)
    store.facts.items = (store.facts.items ?? []).map((x) =>
      x.key === 'f'
        ? { ...x, leaf: false, rough: [{ team: 'A', least: 4, most: 4, covered: 0, rest: 4, places }] }
        : x,
    )
    const key = roughKey('f', 'A', coming[0])
    expect(plan.thing(key)?.size).toBe(4)
    plan.selection = [key, 'z']
    expect(await plan.placeIn(plan.selection, 'A', coming[1])).toBe(true)
    expect(said).toEqual([
      { do: 'move-rough', item: 'f', team: 'A', from: coming[0], to: coming[1] },
      expect.objectContaining({ do: 'place', placements: [{ item: 'z', iteration: coming[1] }] }),
    ])
    expect(plan.selection).toEqual([roughKey('f', 'A', coming[1]), 'z'])
  })
})

describe('the view', () => {
  it('starts around today with the first team open, once a program', () => {
    const plan = usePlan()
    const axis = useAxis()
    plan.reset()
    expect(axis.from).toBeLessThan(toDay('2027-03-23'))
    expect([...plan.opened]).toEqual(['A'])
    axis.scrollDays(100)
    const from = axis.from
    plan.reset()
    expect(axis.from).toBe(from)
  })

  it('brings an item into view and opens its lane', () => {
    const plan = usePlan()
    const axis = useAxis()
    axis.from = 0
    plan.reveal('y')
    expect(plan.opened.has('A')).toBe(true)
    expect(axis.from).toBeLessThan(toDay('2027-05-01'))
    expect(axis.to).toBeGreaterThan(toDay('2027-05-28'))
    plan.reveal('nothing')
  })

  it('shows exactly what a count counts, and lets go of it again', () => {
    const plan = usePlan()
    plan.show('broken')
    expect(plan.selection.sort()).toEqual(['x', 'y'])
    plan.show('over')
    expect(plan.selection.sort()).toEqual(['pinned', 'x'])
    plan.show('unplaced')
    expect(plan.selection).toEqual(['z'])
    plan.show('unplaced')
    expect(plan.focus).toBeUndefined()
    expect(plan.selection).toEqual([])
  })
})
