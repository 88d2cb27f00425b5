import { computed, inject, provide, type InjectionKey, type Ref } from 'vue'
import { answer, client } from '@/api/client'
import type { ColourRule, Item } from '@/api/types'
import { pair } from '@/line/pair'
import { useAnswer } from '@/line/useAnswer'
import { paints } from '@/views/paints'
import { colourOf, legend } from '@/ui/colours'
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

  /** What the view leaves out and colours, as the server said last. */
  const { answer: paint, failure: paintFailure } = useAnswer(
    () =>
      store.status !== 'ready' || !(plan.view.filter?.conditions?.length || plan.view.colours?.length)
        ? undefined
        : answer(
            client.POST('/api/v1/programs/{id}/paint', {
              params: { path: { id: store.id } },
              body: { view: plan.view },
            }),
          ),
    [
      () => JSON.stringify([plan.view.filter, plan.view.colours]),
      () => store.status,
      () => store.revision,
      () => store.id,
    ],
    { forget: ([, , , id], [, , , was]) => id !== was },
  )
  const leftOut = computed(() => new Set(paint.value?.leftOut))
  const ruleOf = computed(() => {
    const of = new Map<string, ColourRule>()
    paint.value?.colours.forEach((keys, r) => {
      const rule = plan.view.colours?.[r]
      if (rule) for (const key of keys) of.set(key, rule)
    })
    return of
  })

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

  const swatches = computed(() => legend(plan.colourBy, store.program))
  const colours = computed(() => new Map(swatches.value.map((s) => [s.key, s.colour])))
  /** The rule that colours an item; undefined where none holds, or where colours mean something else. */
  const rule = (item: Item) => (plan.colourBy === 'rules' ? ruleOf.value.get(ownerOf(item)) : undefined)
  function colour(item: Item): string {
    const painted = rule(item)
    if (painted) return paints[painted.colour].fill
    return colourOf(plan.colourBy, colours.value, item, store.itemFacts.get(ownerOf(item)))
  }

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
    swatches,
    rule,
    colour,
    leftOut,
    paint,
    paintFailure,
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
