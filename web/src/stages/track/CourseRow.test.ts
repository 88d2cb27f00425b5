// @vitest-environment jsdom
import { beforeEach, expect, it } from 'vitest'
import { h } from 'vue'
import { withProgram } from '@/line/withProgram'
import { drawn, eventually, typist } from '@/ui/testing'
import TrackStage from './TrackStage.vue'
import { under } from './testing'

const hands = typist()
beforeEach(() => localStorage.clear())

/** The stage with two items under way, on a server that answers edits when it is told to, and somewhere else to go. */
async function stage() {
  const { pinia, answers, asked } = withProgram()
  answers['/api/v1/programs/1/under-way'] = { revision: 0, iterations: [under('A', ['x', 'pinned'])] }
  answers['/api/v1/programs/1/private-views'] = []
  answers['/api/v1/backlog-vocabulary'] = { readyMade: [], fields: [] }
  let answer!: () => void
  const edited = new Promise(
    (resolve) => (answer = () => resolve({ undo: '', redo: '', keys: [], notes: [] })),
  )
  for (const path of ['changes', 'do/take-to-step']) answers[`/api/v1/programs/1/${path}`] = edited
  const host = drawn({ render: () => [h(TrackStage), h('input', { id: 'elsewhere' })] }, {}, pinia)
  const row = () => host.querySelector<HTMLElement>('li[data-item="x"]')!
  await eventually(() => expect(row()).toBeTruthy())
  row().focus()
  /** Answers the edit, once it was asked for. */
  const heard = async () => {
    await eventually(() => expect(asked.some((a) => /changes|take-to-step/.test(a.path))).toBe(true))
    answer()
    await new Promise((resolve) => setTimeout(resolve))
  }
  return { host, row, heard }
}

it('has the keys again as soon as it is said what blocks it, before the server has heard of it', async () => {
  const { host, row, heard } = await stage()
  await hands.keyboard('bNo lamp{Enter}')
  await eventually(() => expect(document.activeElement).toBe(row()))
  expect(host.querySelector('form.ask')).toBeNull()
  await heard()
  expect(document.activeElement).toBe(row())
})

it('takes the keyboard from nobody who has gone on before an answer came', async () => {
  const { host, heard } = await stage()
  await hands.keyboard('{ArrowRight}')
  const elsewhere = host.querySelector<HTMLElement>('#elsewhere')!
  elsewhere.focus()
  await heard()
  expect(document.activeElement).toBe(elsewhere)
})
