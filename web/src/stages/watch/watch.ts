import { defineStore } from 'pinia'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import { say, type Intent } from '@/api/intents'
import { newest } from '@/api/newest'
import type {
  Change,
  Outcome,
  StepAnswers,
  Task,
  Watch,
  WatchItem,
  WatchProgram,
  WatchTask,
} from '@/api/types'
import { readHours, type Typed } from '@/line/hoursText'
import { withAnswer, type StepAsked } from '@/line/stepAsked'

/** An item that concerns who is signed in, in its program. */
export interface Row {
  id: string
  program: WatchProgram
  item: WatchItem
}

/** A question about an item, in its row. */
export interface Asked {
  row: string
  what: 'blocked' | 'comment' | 'hours' | 'step'
  /** Undefined where it is one of a few answers. */
  text?: string
  /** What is to be known before it goes to a step. */
  of?: StepAsked
}

/** What concerns who is signed in, across programs, and what they do about it. */
export const useWatch = defineStore('watch', () => {
  const found = shallowRef<Watch>()
  const failure = ref('')
  const asked = ref<Asked>()
  /** The row that has the focus. */
  const cursor = ref('')

  /** Whether it is the looking that failed last. */
  let lost = false
  const load = newest(
    () => answer(client.GET('/api/v1/watch')),
    (now) => {
      found.value = now
      if (lost) failure.value = ''
      lost = false
    },
    (error) => {
      failure.value = wordsOf(error)
      lost = true
    },
  )

  const programs = computed(() => found.value?.programs ?? [])
  const rowsOf = (list: 'going' | 'next' | 'review') =>
    computed(() =>
      programs.value.flatMap((program) =>
        program.mine[list].map((item): Row => ({ id: `${program.id}/${item.item}`, program, item })),
      ),
    )
  const going = rowsOf('going')
  const next = rowsOf('next')
  const review = rowsOf('review')
  const rows = computed(() => [...going.value, ...next.value, ...review.value])

  async function focus(id: string): Promise<void> {
    cursor.value = id
    await nextTick()
    document.querySelector<HTMLElement>(`li[data-row="${CSS.escape(id)}"]`)?.focus()
  }

  /**
   * After something that is done about a row the keyboard is on it or, where it is not there any more, on what took its
   * place; unless it is asked something, or somebody has gone elsewhere.
   */
  async function stayOn(id: string, did: Promise<unknown>): Promise<void> {
    const at = rows.value.findIndex((r) => r.id === id)
    await did
    if (asked.value || document.activeElement !== document.body) return
    const there = rows.value.some((r) => r.id === id)
    const next = there ? id : rows.value[Math.min(rows.value.length - 1, at)]?.id
    if (next) await focus(next)
  }

  /** What came of an intent in a program; undefined where it was refused, which is then shown. */
  async function mean(program: WatchProgram, intent: Intent): Promise<Outcome | undefined> {
    failure.value = ''
    let did: Outcome | undefined
    try {
      did = await say(program.id, intent, { revision: program.revision })
    } catch (error) {
      failure.value = wordsOf(error)
    }
    await load()
    return failure.value ? undefined : did
  }
  const make = (row: Row, label: string, changes: Change[]) =>
    mean(row.program, { do: 'make', label: `${row.item.item} ${label}`, changes })
  const set = (row: Row, field: string, value: unknown): Change => ({
    op: 'set',
    kind: 'item',
    key: row.item.item,
    field,
    value,
  })
  const comment = (row: Row, text: string): Change => {
    const key = crypto.randomUUID()
    // The server signs it and says when.
    const value = { key, item: row.item.item, by: '', text }
    return { op: 'add', kind: 'comment', in: row.item.item, key, value }
  }

  const mayMove = (row: Row) => row.program.moves.includes(row.item.item)
  const mayWork = (row: Row, task: Task) =>
    (!!task.owner && !!(task as WatchTask).mine) || row.program.works.includes(row.item.item)

  /** Takes an item to another step, once what the server asks about that is answered. */
  async function move(row: Row, to: number, step?: StepAnswers): Promise<void> {
    if (!row.program.course[to] || to === row.item.at || !mayMove(row)) return
    asks(row, to, step, await mean(row.program, { do: 'take-to-step', item: row.item.item, to, step }))
  }
  function asks(row: Row, to: number, step: StepAnswers = {}, did?: Outcome): void {
    if (!did?.ask) return
    const text = did.ask.answers.length ? undefined : ''
    asked.value = { row: row.id, what: 'step', text, of: { ask: did.ask, to, step } }
  }

  /** Says how a task goes; after the last one it is asked whether the item goes on. */
  async function work(row: Row, task: WatchTask, how: { done?: boolean; hoursLeft?: number }): Promise<void> {
    const did = await mean(row.program, {
      do: 'work-on-task',
      item: row.item.item,
      task: task.at,
      title: task.title,
      ...how,
    })
    if (mayMove(row)) asks(row, row.item.at, {}, did)
  }

  /** Enters hours of today on an item, or on a task of it; what is left of that gets less. */
  async function spend(row: Row, task: WatchTask | undefined, { hours, note }: Typed): Promise<boolean> {
    return !!(await mean(row.program, {
      do: 'enter-time',
      person: row.program.person,
      date: row.program.today,
      item: row.item.item,
      task: task?.title,
      activity: task?.activity,
      hours,
      add: true,
      less: !!task && mayWork(row, task),
      note,
    }))
  }
  /** What hours on an item are on, where no task is named: the one task of one's own that is to do. */
  function taskOf(row: Row): WatchTask | undefined {
    const own = row.item.tasks.filter((t) => t.mine && !t.done)
    return own.length === 1 ? own[0] : undefined
  }

  function ask(row: Row, what: 'blocked' | 'comment' | 'hours'): void {
    if (what !== 'blocked' || mayMove(row))
      asked.value = { row: row.id, what, text: what === 'blocked' ? (row.item.blocked ?? '') : '' }
  }

  /** Makes the edit of what was answered. */
  async function reply(value?: string): Promise<void> {
    const now = asked.value
    asked.value = undefined
    const row = rows.value.find((r) => r.id === now?.row)
    if (!row || !now) return
    const text = (now.text ?? '').trim()
    switch (now.what) {
      case 'step': {
        const { ask, to, step } = now.of!
        const answers = withAnswer(step, ask, value ?? text)
        await move(row, answers ? to : Number(value), answers)
        return
      }
      case 'blocked':
        if (text !== (row.item.blocked ?? ''))
          await make(row, text ? 'is blocked' : 'is free again', [set(row, 'blocked', text)])
        return
      case 'hours': {
        const typed = readHours(text)
        if (!typed) failure.value = `${text} is no number of hours up to 24. Type 2, 2.5 or 1:30.`
        else if (typed.hours) await spend(row, taskOf(row), typed)
        return
      }
      case 'comment':
        if (text) await make(row, 'commented', [comment(row, text)])
        return
    }
  }

  return {
    found,
    failure,
    asked,
    cursor,
    load,
    programs,
    going,
    next,
    review,
    rows,
    focus,
    stayOn,
    mayMove,
    mayWork,
    move,
    work,
    spend,
    taskOf,
    ask,
    reply,
  }
})
