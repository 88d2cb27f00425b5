import { defineStore } from 'pinia'
import { computed, nextTick, ref } from 'vue'
import { answer, client } from '@/api/client'
import type { Change, Course, Item, ItemState, UnderWay } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'

/** The states that an item runs through, in order. */
export const steps: { state: ItemState; title: string }[] = [
  { state: 'todo', title: 'to do' },
  { state: 'doing', title: 'doing' },
  { state: 'review', title: 'in review' },
  { state: 'done', title: 'done' },
]

/** The step at a place across a box that is as wide as all of them. */
export function stepAt(box: HTMLElement, clientX: number): number {
  const { left, width } = box.getBoundingClientRect()
  return Math.min(steps.length - 1, Math.max(0, Math.floor(((clientX - left) / width) * steps.length)))
}

/** One item of an iteration under way, as a row. */
export interface Row {
  item: Item
  course: Course
  /** Where it is among the steps. */
  at: number
  /** How likely it is to be done by the last day; none where it is done. */
  chance?: number
}

/** A question about an item: what blocks it, or why it is sent back. */
export interface Asked {
  item: string
  what: 'blocked' | 'back'
  text: string
}

/** An iteration under way with its rows, the most important first. */
export interface Section {
  team: string
  under: UnderWay
  rows: Row[]
}

/** What the track stage shows: the iterations under way of some teams. */
export const useTrack = defineStore('track', () => {
  const store = useProgram()
  /** The teams in view; empty: all that are in an iteration. */
  const teams = ref<string[]>([])
  /** The item whose row has the focus. */
  const cursor = ref('')

  const found = useAnswer(
    () =>
      store.id
        ? answer(client.GET('/api/v1/programs/{id}/under-way', { params: { path: { id: store.id } } }))
        : undefined,
    [() => store.id, () => store.revision, () => store.today],
    { wait: 60, forget: ([now], [before]) => now !== before },
  )

  const all = computed(() => found.answer.value?.iterations ?? [])
  const sections = computed<Section[]>(() =>
    all.value
      .filter((under) => !teams.value.length || teams.value.includes(under.team))
      .map((under) => {
        const chances = new Map(under.chances.map((c) => [c.item, c.chance]))
        const rows = under.courses.flatMap((course): Row[] => {
          const item = store.items.get(course.item)
          if (!item) return [] // it has gone meanwhile
          const at = Math.max(
            0,
            steps.findIndex((s) => s.state === (item.state || 'todo')),
          )
          return [{ item, course, at, chance: item.state === 'done' ? undefined : chances.get(item.key) }]
        })
        return { team: under.team, under, rows }
      }),
  )
  const rows = computed(() => sections.value.flatMap((s) => s.rows))
  /** The same in the one order of importance, whatever their team. */
  const ordered = computed(() => {
    const rank = new Map(store.program.items?.map((x, i) => [x.key, i]))
    return [...rows.value].sort((a, b) => (rank.get(a.item.key) ?? 0) - (rank.get(b.item.key) ?? 0))
  })
  /** What each item waits for that is not done; looked through once, however many rows there are. */
  const waits = computed(() => {
    const all = new Map<string, string[]>()
    for (const { item, needs } of store.program.needs ?? [])
      if (store.items.get(needs)?.state !== 'done') all.set(item, [...(all.get(item) ?? []), needs])
    return all
  })
  const names = computed(() => new Map(store.program.people?.map((p) => [p.key, p.name])))

  /** Puts the focus on an item, wherever it stands by now. */
  async function focus(key: string): Promise<void> {
    cursor.value = key
    await nextTick()
    document.querySelector<HTMLElement>(`li[data-item="${CSS.escape(key)}"]`)?.focus()
  }

  const mayMove = (item: Item) => store.may({ op: 'set', kind: 'item', key: item.key, field: 'state' })

  /** What is asked about an item, in its row. */
  const asked = ref<Asked>()
  const mayBlock = (item: Item) => store.may({ op: 'set', kind: 'item', key: item.key, field: 'blocked' })

  /** Takes an item to another step; of one that goes from review back to work it is asked why. */
  async function move({ item, at }: Row, to: number): Promise<void> {
    const step = steps[to]
    if (!step || to === at || !mayMove(item)) return
    if (steps[at].state === 'review' && step.state === 'doing')
      asked.value = { item: item.key, what: 'back', text: '' }
    else await store.setItem(item, 'state', step.state, `${item.key} ${step.title}`)
  }

  function askBlocked({ item }: Row): void {
    if (mayBlock(item)) asked.value = { item: item.key, what: 'blocked', text: item.blocked ?? '' }
  }

  /** Makes the edit of what was answered. */
  async function reply(): Promise<void> {
    const now = asked.value
    const item = now && store.items.get(now.item)
    asked.value = undefined
    if (!item) return
    const why = now.text.trim()
    if (now.what === 'blocked') {
      if (why !== (item.blocked ?? ''))
        await store.setItem(
          item,
          'blocked',
          why,
          why ? `${item.key} is blocked` : `${item.key} is free again`,
        )
      return
    }
    const changes: Change[] = [{ op: 'set', kind: 'item', key: item.key, field: 'state', value: 'doing' }]
    if (why && store.may({ op: 'add', kind: 'comment', in: item.key })) {
      const key = crypto.randomUUID()
      // The server signs it and says when.
      const value = { key, item: item.key, by: '', text: `Sent back: ${why}` }
      changes.push({ op: 'add', kind: 'comment', in: item.key, key, value })
    }
    await store.apply(`${item.key} sent back`, changes)
  }

  return {
    teams,
    cursor,
    all,
    sections,
    rows,
    ordered,
    focus,
    waits,
    names,
    failure: found.failure,
    asking: found.asking,
    mayMove,
    mayBlock,
    move,
    asked,
    askBlocked,
    reply,
  }
})
