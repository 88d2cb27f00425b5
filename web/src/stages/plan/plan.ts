import { defineStore } from 'pinia'
import { computed, ref, shallowRef, toRaw, watch } from 'vue'
import type { Item, NeedRef } from '@/api/types'
import { pair } from '@/line/pair'
import { toDay } from '@/ui/dates'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useShownView } from '@/views/shownView'
import { roughBlocks, roughKey, type RoughBlock } from './rough'
import { useAxis } from '@/time/axis'

/** What a count of the standing strip leads to. */
export type Focus = 'over' | 'broken' | 'notReady' | 'unplaced'

/** What the plan stage shows and what is selected there. */
export const usePlan = defineStore('plan', () => {
  const program = useProgram()
  const axis = useAxis()
  const opened = ref<Set<string>>(new Set())
  const { show: showView, ...looks } = useShownView('plan')
  const selection = ref<string[]>([])
  const focus = ref<Focus>()
  /** The item that the keyboard is on. */
  const cursor = ref('')

  const selected = computed(() => new Set(selection.value))
  const last = computed(() => selection.value[selection.value.length - 1] ?? '')
  const chosen = computed(() => program.items.get(last.value))

  /** What is rough, by the keys of its blocks. */
  const roughs = computed(() => {
    const all = (program.program.items ?? []).flatMap((x) =>
      x.rough?.length ? roughBlocks(x, program.itemFacts.get(x.key)) : [],
    )
    return new Map(all.map((x) => [x.key, x]))
  })
  /** An item, or a block of what is rough. */
  const thing = (key: string): Item | undefined => program.items.get(key) ?? roughs.value.get(key)
  const chosenRough = computed(() => roughs.value.get(last.value))

  const picked = shallowRef<{ group: string; items: string[] }>()
  /** The feature or initiative whose items are selected as a whole; '' for none. */
  const group = computed(() =>
    picked.value && toRaw(selection.value) === picked.value.items ? picked.value.group : '',
  )

  let placedFor = 0
  /** Begins with today in the left third and the first team's lane open, once a program. */
  function reset(): void {
    axis.reset()
    if (placedFor === program.id) return
    placedFor = program.id
    selection.value = []
    focus.value = undefined
    const first = program.program.teams?.[0]
    opened.value = new Set(first ? [first.key] : [])
  }

  function toggleLane(team: string): void {
    const next = new Set(opened.value)
    if (!next.delete(team)) next.add(team)
    opened.value = next
  }

  /** Selects an item alone, or with `more` adds it to or takes it from the selection. */
  function select(key: string, more = false): void {
    if (!more) selection.value = [key]
    else if (selected.value.has(key)) selection.value = selection.value.filter((x) => x !== key)
    else selection.value = [...selection.value, key]
    cursor.value = key
  }

  function selectGroup(key: string, items: string[]): void {
    picked.value = { group: key, items }
    selection.value = items
  }

  function clear(): void {
    selection.value = []
    focus.value = undefined
  }

  /** Brings an item's iteration into view and opens its team's lane. */
  function reveal(key: string): void {
    const item = thing(key)
    if (!item?.team) return
    if (!opened.value.has(item.team)) toggleLane(item.team)
    const iteration = iterationOf(item)
    if (!iteration) return
    axis.reveal(toDay(iteration.start), toDay(iteration.end))
  }

  const iterationOf = (item: Item) =>
    program.teams.get(item.team ?? '')?.iterations?.find((it) => it.key === item.iteration)

  /** The items behind a count of the standing strip. */
  function behind(what: Focus): string[] {
    const counts = program.counts
    if (what === 'broken') return [...new Set(counts.broken.flatMap((x: NeedRef) => [x.item, x.needs]))]
    if (what !== 'over') return counts[what]
    const over = new Set(counts.over.map((x) => pair(x.team, x.key)))
    return (program.program.items ?? [])
      .filter((x) => over.has(pair(x.team, x.iteration)) && !x.keptOut && program.itemFacts.get(x.key)?.leaf)
      .map((x) => x.key)
  }

  /** Shows exactly what a count counts: selected, and brought into view. */
  function show(what: Focus): void {
    if (focus.value === what) {
      clear()
      return
    }
    focus.value = what
    if (what === 'broken') looks.showNeeds.value = 'broken'
    selection.value = [...behind(what)]
    for (const key of what === 'over' || what === 'broken' ? [...selection.value].reverse() : []) reveal(key)
  }

  /** The iterations that items of a team can be placed in, earliest first. */
  const coming = (team: string) =>
    (program.teams.get(team)?.iterations ?? [])
      .filter((it) => program.iterationFacts.get(team, it.key)?.usable)
      .sort((a, b) => a.start.localeCompare(b.start))

  /** Places items by a function that names each one's iteration; '' unplaces, undefined leaves it. */
  async function place(
    keys: string[],
    where: (item: Item) => string | undefined,
    label: string,
  ): Promise<boolean> {
    for (const key of keys) {
      const block = roughs.value.get(key)
      if (block && !(await placeRough(block, where(block)))) return false
    }
    const placements = keys.flatMap((key) => {
      const item = program.items.get(key)
      const iteration = item && where(item)
      return iteration === undefined || iteration === (item?.iteration ?? '')
        ? []
        : [{ item: key, iteration }]
    })
    if (!placements.length) return true
    const done = await program.mean({ do: 'place', label: label.slice(0, 200), placements })
    // What is done or pinned stays, and the server says so.
    if (done?.notes.length) program.notice = { text: done.notes.join(' '), severity: 'warn' }
    return !!done
  }

  /** Places what is rough in one iteration; the selection goes along. */
  async function placeRough(block: RoughBlock, to: string | undefined): Promise<boolean> {
    if (to === undefined || to === (block.iteration ?? '')) return true
    const { of: item, team = '', iteration: from } = block
    const were = selection.value
    const done = await program.mean({ do: 'move-rough', item, team, from, to: to || undefined })
    const moved = roughKey(item, team, to)
    if (done) selection.value = were.map((key) => (key === block.key ? moved : key))
    return !!done
  }

  const named = (keys: string[]): string => (keys.length === 1 ? keys[0] : count(keys.length, 'item'))

  /** Moves the selection by so many iterations, each item among its team's own. */
  function shift(by: number): Promise<boolean> {
    const keys = selection.value
    return place(
      keys,
      (item) => {
        const list = coming(item.team ?? '')
        const at = list.findIndex((it) => it.key === item.iteration)
        if (at < 0) return by > 0 ? list[0]?.key : undefined
        return list[at + by]?.key
      },
      `Move ${named(keys)} ${by < 0 ? 'earlier' : 'later'}`,
    )
  }

  const placeNth = (n: number): Promise<boolean> =>
    place(
      selection.value,
      (item) => coming(item.team ?? '')[n - 1]?.key,
      `Place ${named(selection.value)} in coming iteration ${n}`,
    )

  const unplace = (keys = selection.value): Promise<boolean> =>
    place(keys, () => '', `Unplace ${named(keys)}`)

  const placeIn = (keys: string[], team: string, iteration: string): Promise<boolean> =>
    place(
      keys,
      (item) => (item.team === team ? iteration : undefined),
      `Move ${named(keys)} to ${program.iterationName(team, iteration)}`,
    )

  // An edit elsewhere may take away what is selected.
  watch(
    () => program.items,
    (items) => {
      const there = (key: string) => items.has(key) || roughs.value.has(key)
      if (!selection.value.every(there)) selection.value = selection.value.filter(there)
    },
  )

  return {
    opened,
    ...looks,
    showView,
    selection,
    selected,
    chosen,
    chosenRough,
    roughs,
    thing,
    group,
    focus,
    cursor,
    reset,
    toggleLane,
    select,
    selectGroup,
    clear,
    reveal,
    behind,
    show,
    coming,
    iterationOf,
    shift,
    placeNth,
    unplace,
    placeIn,
  }
})
