import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { answer, client } from '@/api/client'
import type { Course, Item, ItemState, UnderWay } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'

/** The states that an item runs through, in order. */
export const steps: { state: ItemState; title: string }[] = [
  { state: 'todo', title: 'to do' },
  { state: 'doing', title: 'doing' },
  { state: 'review', title: 'in review' },
  { state: 'done', title: 'done' },
]

/** One item of an iteration under way, as a row. */
export interface Row {
  item: Item
  course: Course
  /** Where it is among the steps. */
  at: number
  /** How likely it is to be done by the last day; none where it is done. */
  chance?: number
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

  const mayMove = (item: Item) => store.may({ op: 'set', kind: 'item', key: item.key, field: 'state' })

  /** Takes an item to another step. */
  async function move({ item, at }: Row, to: number): Promise<void> {
    const step = steps[to]
    if (!step || to === at || !mayMove(item)) return
    await store.setItem(item, 'state', step.state, `${item.key} ${step.title}`)
  }

  return {
    teams,
    cursor,
    all,
    sections,
    rows,
    failure: found.failure,
    asking: found.asking,
    mayMove,
    move,
  }
})
