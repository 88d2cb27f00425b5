import { defineStore } from 'pinia'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import { say, type Intent } from '@/api/intents'
import { newest } from '@/api/newest'
import type { Change, Task, Watch, WatchItem, WatchProgram, WatchTask } from '@/api/types'
import { titleOf } from '@/line/course'
import { readHours, type Typed } from '@/line/hoursText'

/** An item that concerns who is signed in, in its program. */
export interface Row {
  id: string
  program: WatchProgram
  item: WatchItem
}

/** A question about an item, in its row. */
export interface Asked {
  row: string
  what: 'blocked' | 'back' | 'comment' | 'hours' | 'on'
  /** Undefined where only a yes is asked for. */
  text?: string
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

  async function mean(program: WatchProgram, intent: Intent): Promise<boolean> {
    failure.value = ''
    try {
      await say(program.id, intent, { revision: program.revision })
    } catch (error) {
      failure.value = wordsOf(error)
    }
    await load()
    return !failure.value
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

  const step = (row: Row, at: number) => row.program.course[at]
  const putting = (row: Row, to: number): Change[] => {
    const { state, name } = step(row, to)
    return [set(row, 'state', state), set(row, 'step', name || null)]
  }

  /** Takes an item to another step; of one that goes from review back to work it is asked why. */
  async function move(row: Row, to: number): Promise<void> {
    if (!step(row, to) || to === row.item.at || !mayMove(row)) return
    if (row.item.state === 'review' && step(row, to).state === 'doing')
      asked.value = { row: row.id, what: 'back', text: '' }
    else await make(row, titleOf(step(row, to)), putting(row, to))
  }

  /** Says how a task goes; after the last one it is asked whether the item goes on. */
  async function work(row: Row, task: WatchTask, how: { done?: boolean; hoursLeft?: number }): Promise<void> {
    const last = how.done && row.item.tasks.every((t) => t.done || t.at === task.at)
    const done = await mean(row.program, {
      do: 'work-on-task',
      item: row.item.item,
      task: task.at,
      title: task.title,
      ...how,
    })
    if (done && last && mayMove(row) && row.item.state !== 'review' && step(row, row.item.at + 1))
      asked.value = { row: row.id, what: 'on' }
  }

  /** Enters hours of today on an item, or on a task of it; what is left of that gets less. */
  async function spend(row: Row, task: WatchTask | undefined, { hours, note }: Typed): Promise<boolean> {
    return mean(row.program, {
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
    })
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
  async function reply(): Promise<void> {
    const now = asked.value
    asked.value = undefined
    const row = rows.value.find((r) => r.id === now?.row)
    if (!row || !now) return
    const text = (now.text ?? '').trim()
    const { course } = row.program
    switch (now.what) {
      case 'on':
        await make(row, titleOf(course[row.item.at + 1]), putting(row, row.item.at + 1))
        return
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
      case 'back': {
        const to = course.findLastIndex((s) => s.state === 'doing')
        await make(row, 'sent back', [
          ...putting(row, to),
          ...(text ? [comment(row, `Sent back: ${text}`)] : []),
        ])
      }
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
