import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { Item } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { toDay } from '@/ui/dates'
import { usePlan } from './plan'
import { rowsOf } from './bars'

/** Days between two bars of a row. */
const APART = 1

/** The features or initiatives that stand above the lanes, with what is below them. */
export function useBars() {
  const store = useProgram()
  const plan = usePlan()
  const { answer: rollups } = useAnswer(
    () =>
      plan.bars === 'none' || store.status !== 'ready'
        ? undefined
        : answer(client.GET('/api/v1/programs/{id}/rollups', { params: { path: { id: store.id } } })),
    [() => plan.bars, () => store.status, () => store.revision, () => store.id],
    { forget: ([, , , id], [, , , was]) => id !== was },
  )

  const groups = computed(() => (store.program.items ?? []).filter((item) => item.kind === plan.bars))
  const bars = computed(() => {
    const placed = groups.value.flatMap((item) => {
      const rollup = rollups.value?.[item.key]
      if (!rollup?.start || !rollup.end) return []
      return [{ item, rollup, start: toDay(rollup.start), end: toDay(rollup.end) }]
    })
    const rows = rowsOf(placed, APART)
    return placed.map((bar, i) => ({ ...bar, row: rows[i] }))
  })
  const rows = computed(() => Math.max(0, ...bars.value.map((bar) => bar.row + 1)))
  /** Those of which nothing is placed. */
  const without = computed(() => (rollups.value ? groups.value.length - bars.value.length : 0))

  /** The items below a group, by its key; groups among them are left out. */
  const below = computed(() => {
    const lists = new Map<string, Item[]>()
    for (const item of store.program.items ?? []) {
      if (!store.itemFacts.get(item.key)?.leaf) continue
      for (let up = item.parent; up; up = store.items.get(up)?.parent) {
        const list = lists.get(up)
        if (list) list.push(item)
        else lists.set(up, [item])
      }
    }
    return lists
  })
  const itemsOf = (group: string): Item[] => below.value.get(group) ?? []
  /** Whether somebody may move a group: some of its items, at least. */
  const mayMove = (group: string) =>
    itemsOf(group).some(({ key }) => store.may({ op: 'set', kind: 'item', key, field: 'iteration' })) ||
    (!!store.items.get(group)?.rough?.length &&
      store.may({ op: 'set', kind: 'item', key: group, field: 'roughPlaces' }))
  /** The bar that is selected. */
  const chosen = computed(() => bars.value.find((bar) => bar.item.key === plan.group))

  return { bars, rows, without, itemsOf, mayMove, chosen }
}

export type Bars = ReturnType<typeof useBars>
export type Bar = Bars['bars']['value'][number]
