import { computed, inject, provide, type InjectionKey, type Ref } from 'vue'
import type { Item } from '@/api/types'
import { pair } from '@/line/pair'
import { usePaint } from '@/views/usePaint'
import { toDay } from '@/ui/dates'
import { usePlan } from './plan'
import { isRough, ownerOf } from './rough'
import { useAxis } from '@/time/axis'
import { useProgram } from '@/line/program'
import { basinOf, blocksOf, lanesOf, scaleOf, stacksOf, type Basin, type Block, type Lane } from './layout'

/** The lanes as they are drawn, shared by all that draws or hits them. */
function makeLayout(view: { top: Ref<number>; height: Ref<number> }) {
  const store = useProgram()
  const plan = usePlan()
  const axis = useAxis()

  const lanes = computed(() => lanesOf(store.program.teams ?? [], plan.opened, plan.density))
  const laneOf = computed(() => new Map(lanes.value.map((lane) => [lane.team.key, lane])))
  const height = computed(() => lanes.value.reduce((sum, lane) => sum + lane.height, 0))
  /** Only these are drawn; the header and the bars of features stand above them. */
  const visibleLanes = computed(() =>
    lanes.value.filter(
      (x) => x.top + x.height >= view.top.value - 200 && x.top <= view.top.value + view.height.value + 60,
    ),
  )
  const stacks = computed(() =>
    stacksOf(
      [...(store.program.items ?? []), ...plan.roughs.values()],
      (x) => isRough(x) || (store.itemFacts.get(x.key)?.leaf ?? false),
    ),
  )

  const painted = usePaint(
    () => plan.view,
    () => plan.colourBy,
  )
  const leftOut = computed(() => painted.leftOut)

  const scales = computed(() => {
    const byTeam = new Map<string, typeof store.facts.iterations>()
    for (const f of store.facts.iterations ?? []) byTeam.set(f.team, [...(byTeam.get(f.team) ?? []), f])
    return new Map(lanes.value.map((lane) => [lane.team.key, scaleOf(lane, byTeam.get(lane.team.key) ?? [])]))
  })

  function basin(lane: Lane, iteration: { key: string; start: string; end: string }): Basin {
    const facts = store.iterationFacts.get(lane.team.key, iteration.key)
    const span = { start: toDay(iteration.start), end: toDay(iteration.end) }
    return basinOf(lane, span, facts, scales.value.get(lane.team.key) ?? 1, axis.from, axis.zoom)
  }

  const stackOf = (lane: Lane, iteration: string) => stacks.value.get(pair(lane.team.key, iteration)) ?? []
  const blocks = (lane: Lane, at: Basin, iteration: string): Block[] =>
    blocksOf(
      at,
      stackOf(lane, iteration).filter((item) => !leftOut.value.has(ownerOf(item))),
    )
  /** What stands in an iteration and is left out by the view: it takes its room all the same. */
  function unseen(lane: Lane, at: Basin, iteration: string): { items: number; size: number; height: number } {
    const items = stackOf(lane, iteration).filter((item) => leftOut.value.has(ownerOf(item)))
    const size = items.reduce((sum, item) => sum + (item.size ?? 0), 0)
    return { items: items.length, size, height: size * at.scale }
  }

  /** Where an item's block is, on screen or off; undefined for unplaced items. */
  function blockOf(key: string): Block | undefined {
    const item = plan.thing(key)
    const lane = laneOf.value.get(item?.team ?? '')
    const iteration = lane?.team.iterations?.find((it) => it.key === item?.iteration)
    if (!item || !lane || !iteration) return undefined
    return blocks(lane, basin(lane, iteration), iteration.key).find((b) => b.item.key === key)
  }

  /** The items at either end of a need. */
  const needing = computed(() => new Set((store.program.needs ?? []).flatMap((n) => [n.item, n.needs])))
  /** Whether a block steps back: only those with needs are to stand out, and it has none. */
  const hushed = (item: Item) => plan.onlyNeeds && !needing.value.has(ownerOf(item))

  const rule = (item: Item) => painted.rule(ownerOf(item))
  const colour = (item: Item) => painted.colour(item, ownerOf(item))

  return {
    lanes,
    visibleLanes,
    height,
    stacks,
    basin,
    blocks,
    unseen,
    blockOf,
    hushed,
    painted,
    rule,
    colour,
    leftOut,
  }
}

type Layout = ReturnType<typeof makeLayout>

const key: InjectionKey<Layout> = Symbol('plan layout')

export function providePlanLayout(view: { top: Ref<number>; height: Ref<number> }): Layout {
  const layout = makeLayout(view)
  provide(key, layout)
  return layout
}

export function usePlanLayout(): Layout {
  const layout = inject(key)
  if (!layout) throw new Error('there is no plan stage around this component')
  return layout
}
