// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { Change, Lever } from '@/api/types'
import { useDraft } from './draft'
import { useGhosts } from './ghosts'
import { useLevers } from './levers'
import { useProgram } from '@/line/program'
import { factsOf, smallProgram } from '@/line/testing'
import { eventually } from '@/ui/testing'

const stand = { late: 1, expectedLateDays: 2, over: 0, broken: 0, missed: 0 }
const lever: Lever = {
  kind: 'move',
  text: 'Move x to A·3',
  label: 'Move x to A·3',
  item: 'x',
  moves: [{ item: 'x', team: 'A', from: '2', to: '3' }],
  changes: [{ op: 'set', kind: 'item', key: 'x', field: 'iteration', value: '3' }],
  then: { ...stand, late: 0 },
}

let asked: unknown[]
let sent: { label: string; changes: Change[] }[]

beforeEach(() => {
  setActivePinia(createPinia())
  asked = []
  sent = []
  const store = useProgram()
  store.program = smallProgram()
  store.facts = factsOf(store.program)
  store.mine = { role: 'program manager', author: '1', teams: [], rights: [] }
  vi.spyOn(store, 'apply').mockImplementation((label, changes) => {
    sent.push({ label, changes })
    store.revision++
    return Promise.resolve(true)
  })
  vi.stubGlobal('fetch', async (request: Request) => {
    asked.push(await request.json())
    const found = { plays: 100, name: 'First Light', now: stand, levers: [lever], tried: asked.length, of: 3 }
    return Response.json({ revision: useProgram().revision, ...found, more: asked.length < 3 })
  })
})

it('shows the moves of the lever that is tried, in place of a draft', async () => {
  const levers = useLevers()
  useDraft().visible = true
  levers.open({ release: 'R1' })
  expect(useDraft().visible).toBe(false)
  await eventually(() => expect(levers.found?.levers).toHaveLength(1))
  await eventually(() => expect(levers.asking).toBe(false))
  expect(asked, 'until there is no more').toEqual([
    { release: 'R1', quick: true },
    { release: 'R1' },
    { release: 'R1' },
  ])
  expect(levers.found?.tried).toBe(3)
  const ghosts = useGhosts()
  expect(ghosts.value).toEqual([])
  levers.toggle(lever)
  expect(ghosts.value).toEqual(lever.moves)
  expect(levers.moving.has('x')).toBe(true)
  levers.toggle(lever)
  expect(ghosts.value).toEqual([])
})

it('applies a lever as one edit, and asks again for what would mend the rest', async () => {
  const levers = useLevers()
  levers.open({ release: 'R1' })
  await eventually(() => expect(levers.found?.levers).toHaveLength(1))
  await eventually(() => expect(asked).toHaveLength(3))
  await levers.apply(lever)
  expect(sent).toEqual([{ label: lever.label, changes: lever.changes }])
  await eventually(() => expect(asked).toHaveLength(4))
  expect(asked[3]).toEqual({ release: 'R1' })
  levers.close()
  await eventually(() => expect(levers.found).toBeUndefined())
})
