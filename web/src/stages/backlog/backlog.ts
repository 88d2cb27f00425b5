import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import type { Intent, IntentOf, Said } from '@/api/intents'
import { newest } from '@/api/newest'
import type { Column, Fitted, Item, Listed, View, Outcome } from '@/api/types'
import { useProgram } from '@/line/program'
import { copyOf, useViews } from '@/views/views'
import { fit } from './columnWidths'

/** What somebody asks to be done; who, where and on which revision is added. */

/** What stands beside the list. */
export type Panel = 'item' | 'fit' | 'ready' | 'mix' | 'scope'

/** A line across the list: how far down everything is done by a date, at which odds. */
export type Cut = Fitted['lines'][number]

/** A row of the list as it is drawn. */
export type Line =
  | { type: 'item'; item: Item; depth: number; index: number }
  | { type: 'group'; group: NonNullable<Listed['groups']>[number]; open: boolean; count: number }
  | ({ type: 'cut' } & Cut)
  | { type: 'new' }

/** The view that is shown, its list, and what is selected in it. */
export const useBacklog = defineStore('backlog', () => {
  const program = useProgram()
  const views = useViews()
  /** The view as it is now: it may differ from the saved one of its key. */
  const view = ref<View>({ key: 'all', name: 'Everything' })
  const words = ref('')
  const list = shallowRef<Listed>()
  const failure = ref('')
  const closed = ref<Set<string>>(new Set())
  const panel = ref<Panel>('item')

  /** The cell that the keyboard is on, and the other corner of what is selected. */
  const cursor = ref<{ key: string; column: number }>({ key: '', column: 0 })
  const anchor = ref<{ key: string; column: number }>({ key: '', column: 0 })
  /** Rows picked one by one, beside those between the corners. */
  const picked = ref<Set<string>>(new Set())
  /** Where the line for a new item stands: below this one; undefined while there is none. */
  const adding = ref<string>()
  /** Where that line is drawn while the item above it is not in the list: it was just written. */
  const addingAt = ref('')

  const kept = useLocalStorage<Record<number, { view: View; words: string }>>('jantrel-backlog', {})

  const fields = computed(() => views.fields)
  const standard = computed(() => views.vocabulary?.standard ?? [])
  /** The columns of the view. */
  const chosenColumns = computed<Column[]>(() => {
    const own = view.value.columns?.length ? view.value.columns : standard.value
    return own.filter((c) => fields.value.has(c.field))
  })
  /** How many pixels the columns have; 0: not known yet. */
  const room = ref(0)
  /** Whether the columns are the usual ones, of which some may give way where there is no room. */
  const usualColumns = computed(
    () =>
      chosenColumns.value.length === standard.value.length &&
      chosenColumns.value.every((c) => standard.value.some((s) => s.field === c.field)),
  )
  /** Those that are shown. */
  const columns = computed(() => fit(chosenColumns.value, room.value, usualColumns.value))
  // What a column shows that an outline leaves out is brought for all.
  watch(
    () => columns.value.some((c) => c.field === 'description') && program.status === 'ready',
    (shows) => shows && void program.bringDetails(''),
  )

  const ranked = computed(() => !view.value.sort && !view.value.group)

  /** What by-date lines to draw: set by the panel that asks. */
  const cuts = shallowRef<Cut[]>([])
  const chances = shallowRef<Map<string, number>>(new Map())

  /** Rows, heads and lines in the order in which they are drawn. */
  const lines = computed<Line[]>(() => {
    const found = list.value
    const out: Line[] = []
    if (!found) return out
    const groups = found.groups ?? []
    const cutAfter = new Map<string, Cut[]>()
    if (ranked.value)
      for (const cut of cuts.value)
        cutAfter.set(cut.after ?? '', [...(cutAfter.get(cut.after ?? '') ?? []), cut])
    const draw = (key: string) => {
      for (const cut of [...(cutAfter.get(key) ?? [])].sort((a, b) => b.odds - a.odds))
        out.push({ type: 'cut', ...cut })
    }
    draw('')
    const inList = adding.value === undefined || adding.value === '' || found.rows.includes(adding.value)
    const newBelow = inList ? adding.value : addingAt.value
    if (newBelow === '') out.push({ type: 'new' })
    let group = 0
    let hidden = false
    let below = Infinity
    found.rows.forEach((key, index) => {
      while (group < groups.length && groups[group].from <= index) {
        const head = groups[group]
        hidden = closed.value.has(head.value)
        const next = groups[group + 1]?.from ?? found.rows.length
        out.push({ type: 'group', group: head, open: !hidden, count: next - head.from })
        group++
      }
      const depth = found.depths?.[index] ?? 0
      if (found.depths) {
        if (depth > below) return
        below = closed.value.has(key) ? depth : Infinity
      } else if (hidden) return
      const item = program.items.get(key)
      if (item) out.push({ type: 'item', item, depth, index })
      if (key === newBelow) out.push({ type: 'new' })
      draw(key)
    })
    return out
  })
  /** Keys of the items that are drawn, in order. */
  const shown = computed(() => lines.value.flatMap((l) => (l.type === 'item' ? [l.item.key] : [])))
  const places = computed(() => new Map(shown.value.map((key, i) => [key, i])))

  const range = computed(() => {
    const a = places.value.get(anchor.value.key) ?? places.value.get(cursor.value.key) ?? -1
    const b = places.value.get(cursor.value.key) ?? -1
    const [top, bottom] = a < b ? [a, b] : [b, a]
    const [left, right] =
      anchor.value.column < cursor.value.column
        ? [anchor.value.column, cursor.value.column]
        : [cursor.value.column, anchor.value.column]
    return { top, bottom, left, right }
  })
  /** The picked rows that are shown. */
  const picks = computed(() => (picked.value.size ? shown.value.filter((key) => picked.value.has(key)) : []))
  /** What an action is about: the picked rows, or else those between the corners. */
  const selection = computed<string[]>(() => {
    if (picks.value.length) return picks.value
    const { top, bottom } = range.value
    return top < 0 ? [] : shown.value.slice(top, bottom + 1)
  })
  const selected = computed(() => new Set(selection.value))
  const chosen = computed(() => program.items.get(cursor.value.key))

  let opened = 0
  async function open(): Promise<void> {
    try {
      await begin(program.id)
    } catch (error) {
      failure.value = wordsOf(error)
      return
    }
    await refresh()
  }

  /** Begins with the view that this browser showed last. */
  async function begin(id: number): Promise<void> {
    const known = await views.open()
    if (opened === id || program.id !== id) return
    settle(id)
    const last = kept.value[id]
    view.value = copyOf(last?.view ?? known.readyMade[0])
    words.value = last?.words ?? ''
  }

  /** Nothing of another program stays in view. */
  function settle(id: number): void {
    list.value = undefined
    cursor.value = anchor.value = { key: '', column: 2 }
    picked.value = new Set()
    opened = id
  }

  const refresh = newest(
    (): Promise<Listed> =>
      answer(
        client.POST('/api/v1/programs/{id}/backlog', {
          params: { path: { id: program.id } },
          body: { view: view.value, words: words.value },
        }),
      ),
    (found) => {
      list.value = found
      failure.value = ''
    },
    (error) => (failure.value = wordsOf(error)),
  )

  watch(
    [view, words],
    () => {
      if (opened !== program.id) return
      kept.value = { ...kept.value, [program.id]: { view: view.value, words: words.value } }
    },
    { deep: true },
  )

  function show(next: View, find = ''): void {
    // Who picks a view before all are known has begun with that one.
    if (opened !== program.id) settle(program.id)
    view.value = copyOf(next)
    words.value = find
    picked.value = new Set()
    closed.value = new Set()
    adding.value = undefined
  }

  /**
   * Puts the cursor on a cell. What was picked stays picked; with extend, so do the rows up to
   * there.
   */
  function go(key: string, column = cursor.value.column, extend = false): void {
    cursor.value = { key, column }
    if (!extend) anchor.value = { key, column }
    else if (picks.value.length) {
      const { top, bottom } = range.value
      picked.value = new Set([...picked.value, ...shown.value.slice(top, bottom + 1)])
    }
  }

  /** Selects nothing but the cell that the cursor is on. */
  function unpick(): void {
    picked.value = new Set()
    anchor.value = cursor.value
  }

  function pick(key: string): void {
    const next = new Set(picks.value.length ? picked.value : selection.value)
    // The row that the cursor is on was not picked yet: it only was what an action is about.
    const begins = !picks.value.length && next.size === 1 && next.has(key)
    if (!begins && !next.delete(key)) next.add(key)
    picked.value = next
    cursor.value = anchor.value = { key, column: cursor.value.column }
  }

  function pickAll(): void {
    picked.value = new Set(shown.value)
  }

  /** The head of a group that a row of the list stands under, and its first row. */
  function headOf(index: number) {
    const groups = list.value?.groups ?? []
    const at = groups.findLastIndex((g) => g.from <= index)
    return at < 0 ? undefined : groups[at]
  }

  /** Closes the group that the cursor is in, or in a tree what it is on or part of. */
  function fold(): void {
    const found = list.value
    const key = cursor.value.key
    const index = found?.rows.indexOf(key) ?? -1
    if (!found || index < 0) return
    if (found.depths) {
      const parent = found.rollups?.[key] && !closed.value.has(key) ? key : program.items.get(key)?.parent
      if (!parent || !places.value.has(parent)) return
      toggle(parent)
      go(parent)
      return
    }
    const head = headOf(index)
    if (!head || closed.value.has(head.value)) return
    toggle(head.value)
    const next = found.rows.findIndex((row, i) => i > index && places.value.has(row))
    const before = found.rows.findLastIndex((row, i) => i < index && places.value.has(row))
    if (next >= 0 || before >= 0) go(found.rows[next >= 0 ? next : before])
  }

  /** Opens what the cursor is on in a tree; or the closed group before it, or else the next one. */
  function unfold(): void {
    const found = list.value
    const key = cursor.value.key
    if (!found) return
    if (found.depths) {
      if (closed.value.has(key)) toggle(key)
      return
    }
    const index = found.rows.indexOf(key)
    const shut = (found.groups ?? []).filter((g) => closed.value.has(g.value))
    const head = shut.findLast((g) => g.from <= index) ?? shut[0]
    if (!head) return
    toggle(head.value)
    go(found.rows[head.from])
  }

  function toggle(group: string): void {
    const next = new Set(closed.value)
    if (!next.delete(group)) next.add(group)
    closed.value = next
  }

  /** Makes an edit; undefined if it was refused, which is then shown. */
  async function edit(intent: Intent, said: Partial<Said> = {}): Promise<Outcome | undefined> {
    const done = await program.mean(intent, said)
    if (done?.notes.length && !said.dry)
      program.notice = { text: done.notes.slice(0, 4).join('. ') + '.', severity: 'info' }
    return done
  }

  /** Enters a text in a field of items, all the same; `seen` is the revision that the cell was opened on. */
  const enter = (keys: string[], field: string, text: string, seen = program.revision) =>
    edit({ do: 'enter', keys, fields: [field], cells: [[text]] }, { revision: seen })

  let ranking: Promise<unknown> = Promise.resolve()
  /**
   * Ranks the selection; up and down go by what is shown. One after the other: a key
   * that is held down goes on from where the last step led.
   */
  function rank(to: IntentOf<'rank'>['to'], keys = selection.value): Promise<Outcome | undefined> {
    const moved = [...keys]
    const done = ranking.then(async () => {
      const made = await edit({ do: 'rank', keys: moved, to, shown: shown.value })
      if (made) await refresh()
      return made
    })
    ranking = done
    return done
  }

  return {
    view,
    words,
    list,
    failure,
    closed,
    panel,
    cursor,
    anchor,
    picked,
    adding,
    addingAt,
    fields,
    chosenColumns,
    room,
    columns,
    ranked,
    cuts,
    chances,
    lines,
    shown,
    places,
    range,
    selection,
    selected,
    chosen,
    open,
    refresh,
    show,
    go,
    picks,
    pick,
    pickAll,
    unpick,
    fold,
    unfold,
    toggle,
    edit,
    enter,
    rank,
  }
})
