// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import type { Question } from '@/api/types'
import { found } from './testing'
import { useWatch } from './watch'

/** What was sent: the name of each intent and what it says. */
const sent: [string, unknown][] = []
let refuse = ''
/** What the server asks of the next intent. */
let asks: Question | undefined
beforeEach(() => {
  setActivePinia(createPinia())
  sent.length = 0
  refuse = ''
  vi.stubGlobal('fetch', async (request: Request) => {
    if (request.method === 'GET') return Response.json(found)
    const body = (await request.json()) as { revision: number; intent: unknown }
    expect(body.revision).toBe(5)
    sent.push([request.url.replace(/.*\/programs\//, ''), body.intent])
    if (refuse) return Response.json({ status: 409, detail: refuse }, { status: 409 })
    const ask = asks
    asks = undefined
    return Response.json({ ask })
  })
})

it('takes what is one’s own along its course, in its own program', async () => {
  const watch = useWatch()
  await watch.load()
  expect(watch.rows.map((r) => r.id)).toEqual(['7/A', '7/B', '7/C'])
  await watch.move(watch.rows[0], 2)
  expect(sent).toEqual([['7/do/take-to-step', { item: 'A', to: 2 }]])
  await watch.move(watch.rows[0], -1)
  await watch.move(watch.rows[1], 2) // another's
  expect(sent).toHaveLength(1)
})

it('asks what the server asks of a step, and says so', async () => {
  const watch = useWatch()
  await watch.load()
  asks = { text: 'Sent back, why', field: 'why', answer: '', answers: [] }
  await watch.move(watch.rows[2], 2)
  expect(watch.asked).toMatchObject({ row: '7/C', what: 'step', text: '' })
  watch.asked!.text = ' Too dim '
  await watch.reply()
  expect(sent[1][1]).toEqual({ item: 'C', to: 2, step: { why: 'Too dim' } })
  asks = { text: 'Open', field: 'tasks', answer: '', answers: [{ value: 'done', text: 'Mark as done' }] }
  await watch.move(watch.rows[2], 4)
  expect(watch.asked?.text).toBeUndefined()
  await watch.reply('done')
  expect(sent[3][1]).toEqual({ item: 'C', to: 4, step: { tasks: 'done' } })
})

it('says how tasks go, and after the last one asks whether the item goes on', async () => {
  const watch = useWatch()
  await watch.load()
  const [a, b] = watch.rows
  expect(b.item.tasks.map((t) => watch.mayWork(b, t))).toEqual([true, false])
  await watch.work(b, b.item.tasks[0], { done: true })
  expect(sent[0]).toEqual(['7/do/work-on-task', { item: 'B', task: 0, title: 'Wire', done: true }])
  expect(watch.asked).toBeUndefined()
  asks = { text: 'All done', field: 'to', answer: '', answers: [{ value: '2', text: 'On to sea trial' }] }
  await watch.work(a, a.item.tasks[1], { done: true })
  expect(watch.asked).toMatchObject({ row: '7/A', what: 'step' })
  await watch.reply('2')
  expect(sent[2]).toEqual(['7/do/take-to-step', { item: 'A', to: 2 }])
})

it('enters hours of today, on the one task that is one’s own to do', async () => {
  const watch = useWatch()
  await watch.load()
  const on = { person: 'me', date: '2027-03-02', add: true }
  watch.ask(watch.rows[0], 'hours')
  watch.asked!.text = '1:30 cut the glass'
  await watch.reply()
  expect(sent[0]).toEqual([
    '7/do/enter-time',
    { ...on, item: 'A', task: 'Try', less: true, hours: 1.5, note: 'cut the glass' },
  ])
  watch.ask(watch.rows[2], 'hours')
  watch.asked!.text = '2'
  await watch.reply()
  expect(sent[1][1]).toEqual({ ...on, item: 'C', less: false, hours: 2 })
  watch.ask(watch.rows[0], 'hours')
  watch.asked!.text = 'a lot'
  await watch.reply()
  expect(watch.failure).toContain('a lot is no number of hours')
  expect(sent).toHaveLength(2)
})

it('says what went wrong, until it is looked again', async () => {
  const watch = useWatch()
  await watch.load()
  refuse = 'Somebody changed this meanwhile.'
  watch.ask(watch.rows[0], 'blocked')
  watch.asked!.text = 'No boat'
  await watch.reply()
  expect(watch.failure).toBe('Somebody changed this meanwhile.')
  refuse = ''
  watch.ask(watch.rows[0], 'comment')
  await watch.reply() // nothing was said
  expect(sent).toHaveLength(1)
})
