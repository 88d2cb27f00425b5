import { defineStore } from 'pinia'
import { computed, nextTick, ref } from 'vue'
import { answer, client } from '@/api/client'
import type { Course, Item, StepAnswers, Task, UnderWay } from '@/api/types'
import { courseOf, stepOf } from '@/line/course'
import { withAnswer, type StepAsked } from '@/line/stepAsked'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { useShownView } from '@/views/shownView'
import { stillHere } from '@/ui/stillHere'
import { usePaint } from '@/views/usePaint'

/** The step at a place across a box that is as wide as all of them. */
export function stepAt(box: HTMLElement, clientX: number, steps: number): number {
  const { left, width } = box.getBoundingClientRect()
  return Math.min(steps - 1, Math.max(0, Math.floor(((clientX - left) / width) * steps)))
}

/** What rows may be put together by. */
export type RowsBy = 'team' | 'person' | 'feature' | 'rank'

/** Rows that belong together, the most important first. */
export interface RowGroup {
  key: string
  title: string
  rows: Row[]
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

/** A question about an item: what blocks it, or what is to be known before it goes to a step. */
export interface Asked {
  item: string
  text: string
  /** Missing: what blocks it. */
  of?: StepAsked
}

/** An iteration under way with its rows, the most important first. */
export interface Section {
  team: string
  under: UnderWay
  rows: Row[]
  /** Of these what the view keeps. */
  shown: Row[]
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
    [() => store.id, () => store.revision, () => store.today, () => store.explained],
    { wait: 60, forget: ([now], [before]) => now !== before },
  )

  /** What the view keeps, in which colours, and what cards show. */
  const { view, show: showView, colourBy, parts } = useShownView('track')
  const painted = usePaint(
    () => view.value,
    () => colourBy.value,
  )

  const all = computed(() => found.answer.value?.iterations ?? [])
  const course = computed(() => courseOf(store.program.settings.steps))
  const sections = computed<Section[]>(() =>
    all.value
      .filter((under) => !teams.value.length || teams.value.includes(under.team))
      .map((under) => {
        const chances = new Map(under.chances.map((c) => [c.item, c.chance]))
        const rows = under.courses.flatMap((went): Row[] => {
          const item = store.items.get(went.item)
          if (!item) return [] // it has gone meanwhile
          const at = stepOf(course.value, item)
          return [
            { item, course: went, at, chance: item.state === 'done' ? undefined : chances.get(item.key) },
          ]
        })
        return { team: under.team, under, rows, shown: rows.filter((r) => !painted.leftOut.has(r.item.key)) }
      }),
  )
  const rows = computed(() => sections.value.flatMap((s) => s.rows))
  const leftOut = computed(() => sections.value.reduce((n, s) => n + s.rows.length - s.shown.length, 0))
  /** What is shown in the one order of importance, whatever its team. */
  const ordered = computed(() => {
    const rank = new Map(store.program.items?.map((x, i) => [x.key, i]))
    return sections.value
      .flatMap((s) => s.shown)
      .sort((a, b) => (rank.get(a.item.key) ?? 0) - (rank.get(b.item.key) ?? 0))
  })
  const names = computed(() => new Map(store.program.people?.map((p) => [p.key, p.name])))
  /** What burndowns count. */
  const burn = ref<'size' | 'hours'>('size')
  /** What rows are put together by. */
  const by = ref<RowsBy>('team')
  const groups = computed<RowGroup[]>(() => {
    if (by.value === 'rank') return [{ key: '', title: '', rows: ordered.value }]
    if (by.value === 'team')
      return sections.value.map((s) => ({
        key: s.team,
        title: store.teams.get(s.team)?.name ?? s.team,
        rows: s.shown,
      }))
    const of = by.value === 'person' ? (item: Item) => item.assignee ?? '' : featureOf
    const all = new Map<string, Row[]>()
    for (const row of ordered.value) {
      const key = of(row.item)
      all.set(key, [...(all.get(key) ?? []), row])
    }
    const title = (key: string) =>
      by.value === 'person'
        ? (names.value.get(key) ?? 'Nobody yet')
        : key
          ? `${key} ${store.items.get(key)?.title ?? ''}`
          : 'In no feature'
    return [...all].map(([key, rows]) => ({ key, title: title(key), rows }))
  })
  function featureOf(item: Item): string {
    for (let at = store.items.get(item.parent ?? ''); at; at = store.items.get(at.parent ?? ''))
      if (at.kind === 'feature') return at.key
    return ''
  }
  /** Where a step has a limit: the teams that pass it, with how many they have there. */
  const passed = computed(() =>
    course.value.map(({ most }, at) =>
      most
        ? sections.value.flatMap((s) => {
            const n = s.rows.filter((r) => r.at === at).length
            return n > most ? [`${store.teams.get(s.team)?.name} has ${n}`] : []
          })
        : [],
    ),
  )

  /** What each item waits for that is not done; looked through once, however many rows there are. */
  const waits = computed(() => {
    const all = new Map<string, string[]>()
    for (const { item, needs } of store.program.needs ?? [])
      if (store.items.get(needs)?.state !== 'done') all.set(item, [...(all.get(item) ?? []), needs])
    return all
  })

  /** Puts the focus on an item, wherever it stands by now. */
  async function focus(key: string): Promise<void> {
    cursor.value = key
    await nextTick()
    document.querySelector<HTMLElement>(`li[data-item="${CSS.escape(key)}"]`)?.focus()
  }

  /**
   * After something that is done about an item the focus is on it, wherever it stands by then; unless something is asked, or
   * somebody has gone elsewhere before the answer came.
   */
  async function stayOn(key: string, did: Promise<unknown>): Promise<void> {
    const still = stillHere()
    await did
    if (!asked.value && still()) await focus(key)
  }

  const mayMove = (item: Item) => store.may({ op: 'set', kind: 'item', key: item.key, field: 'state' })

  /** What is asked about an item, in its row. */
  const asked = ref<Asked>()
  const mayBlock = (item: Item) => store.may({ op: 'set', kind: 'item', key: item.key, field: 'blocked' })

  /** Takes an item to another step, once what the server asks about that is answered. */
  async function move({ item, at }: Row, to: number, step?: StepAnswers): Promise<void> {
    if (!course.value[to] || to === at || !mayMove(item)) return
    const ask = (await store.mean({ do: 'take-to-step', item: item.key, to, step }, {}, { asks: true }))?.ask
    if (ask) asked.value = { item: item.key, text: '', of: { ask, to, step: step ?? {} } }
  }

  /** The items whose tasks are unfolded, beside all of them where all are. */
  const unfolded = ref(new Set<string>())
  const allUnfolded = ref(false)
  const isUnfolded = (key: string) =>
    (allUnfolded.value || unfolded.value.has(key)) && !!store.itemFacts.get(key)?.tasks
  function unfold(key: string): void {
    const now = new Set(unfolded.value)
    if (!now.delete(key)) now.add(key)
    unfolded.value = now
    void store.bringDetails(key)
  }
  const mayWork = (item: Item, task: Task) =>
    store.may({ op: 'set', kind: 'item', key: item.key, field: 'tasks' }) ||
    (!!task.owner && task.owner === store.mine.person)

  /** Says how a task goes; after the last one it is asked whether the item goes on. */
  async function work(
    { item, at }: Row,
    task: number,
    how: { done?: boolean; hoursLeft?: number },
  ): Promise<void> {
    const did = await store.mean(
      { do: 'work-on-task', item: item.key, task, title: (item.tasks ?? [])[task].title, ...how },
      {},
      { asks: true },
    )
    if (did?.ask && mayMove(item))
      asked.value = { item: item.key, text: '', of: { ask: did.ask, to: at, step: {} } }
  }

  function askBlocked({ item }: Row): void {
    if (mayBlock(item)) asked.value = { item: item.key, text: item.blocked ?? '' }
  }

  /** Makes the edit of what was answered; the question is gone at once. */
  async function reply(value?: string): Promise<void> {
    const now = asked.value
    const item = now && store.items.get(now.item)
    asked.value = undefined
    if (!item) return
    const text = now.text.trim()
    if (now.of) {
      const { ask, to, step } = now.of
      const row = { item, at: stepOf(course.value, item) } as Row
      const answers = withAnswer(step, ask, value ?? text)
      await move(row, answers ? to : Number(value), answers)
    } else if (text !== (item.blocked ?? ''))
      await store.setItem(
        item,
        'blocked',
        text,
        text ? `${item.key} is blocked` : `${item.key} is free again`,
      )
  }

  return {
    teams,
    cursor,
    all,
    course,
    sections,
    rows,
    by,
    burn,
    groups,
    view,
    showView,
    colourBy,
    parts,
    painted,
    leftOut,
    passed,
    focus,
    stayOn,
    waits,
    names,
    failure: found.failure,
    asking: found.asking,
    mayMove,
    mayBlock,
    move,
    asked,
    askBlocked,
    unfolded,
    allUnfolded,
    isUnfolded,
    unfold,
    mayWork,
    work,
    reply,
  }
})
