<script setup lang="ts">
import { computed } from 'vue'
import type { Need } from '@/api/types'
import { pair } from '@/line/pair'
import { useDraft } from './draft'
import { usePlan } from './plan'
import { useAxis } from '@/time/axis'
import { useProgram } from '@/line/program'
import { curve } from './layout'
import { bundled, chainOf, shownNeeds } from './needsShown'
import { usePlanLayout } from './usePlanLayout'

const store = useProgram()
const plan = usePlan()
const axis = useAxis()
const draft = useDraft()
const layout = usePlanLayout()

/** Drawing more would only be a tangle. */
const MOST = 400

const statusOf = (n: Need) => store.needFacts.get(pair(n.item, n.needs))?.status ?? 'holds'
const teamOf = (key: string) => store.items.get(key)?.team
/** Where a count of the strip leads, just what it counts is seen. */
const selected = computed(() =>
  plan.focus === 'over' || plan.focus === 'broken' ? new Set<string>() : plan.selected,
)
const chain = computed(() => chainOf(store.program.needs ?? [], selected.value))
const shown = computed<Need[]>(() =>
  shownNeeds(store.program.needs ?? [], plan.showNeeds, {
    status: statusOf,
    team: teamOf,
    chain: chain.value,
  }),
)

/** A need with the blocks that it is drawn between; nothing where one of them has no place, or both are out of view. */
const drawn = computed(() => {
  if (draft.visible) return [] // the plan shows what a draft moves instead
  return shown.value.slice(0, MOST).flatMap((need) => {
    const a = layout.blockOf(need.needs)
    const b = layout.blockOf(need.item)
    if (!a || !b) return []
    const [x1, y1] = [a.left + a.width, a.top + a.height / 2]
    const [x2, y2] = [b.left, b.top + b.height / 2]
    if (Math.max(x1, x2) < -200 || Math.min(x1, x2) > axis.width + 200) return []
    return [{ need, x1, y1, x2, y2, status: statusOf(need), chained: chain.value.has(need) }]
  })
})
type Drawn = (typeof drawn.value)[number]

const many = computed(() =>
  bundled(
    drawn.value,
    ({ need }) => {
      const [a, b] = [store.items.get(need.needs), store.items.get(need.item)]
      return [a?.team, a?.iteration, b?.team, b?.iteration].join('\n')
    },
    (d) => d.chained || d.status === 'broken' || plan.showNeeds === 'broken' || plan.showNeeds === 'tight',
  ),
)
/** While something is selected, its chain stands out. */
const faded = (d: Drawn) => selected.value.size > 0 && !d.chained && d.status !== 'broken'

/** Where many are drawn, those that hold step back. */
const calm = computed(() => plan.showNeeds === 'across' || plan.showNeeds === 'all')

const curves = computed(() => [
  ...many.value.single.map((d) => {
    const { need, x1, y1, x2, y2, status } = d
    const spare = store.needFacts.get(pair(need.item, need.needs))?.spare
    const text = spare === undefined ? '' : status === 'broken' ? `−${-spare} d` : `${spare} d spare`
    return {
      key: pair(need.item, need.needs),
      path: curve(x1, y1, x2, y2),
      x: (x1 + x2) / 2,
      y: (y1 + y2) / 2,
      status,
      faded: faded(d),
      text: faded(d) ? '' : text,
      title: `${need.item} needs ${need.needs}`,
      width: undefined as number | undefined,
    }
  }),
  ...many.value.bundles.map(({ key, needs }) => {
    const mean = (of: (d: Drawn) => number) => needs.reduce((sum, d) => sum + of(d), 0) / needs.length
    const [x1, y1, x2, y2] = [mean((d) => d.x1), mean((d) => d.y1), mean((d) => d.x2), mean((d) => d.y2)]
    return {
      key,
      path: curve(x1, y1, x2, y2),
      x: (x1 + x2) / 2,
      y: (y1 + y2) / 2,
      status: needs.some((d) => d.status === 'tight') ? 'tight' : 'holds',
      faded: needs.every(faded),
      text: `${needs.length} needs`,
      title: needs.map((d) => `${d.need.item} needs ${d.need.needs}`).join('\n'),
      width: 2 + Math.min(6, needs.length * 0.6),
    }
  }),
])

/** Labels of many needs would hide the plan; then only bundles and what is broken have theirs. */
const labelled = computed(() => {
  const few = curves.value.filter((c) => !c.faded).length <= 12
  const taken: { x: number; y: number }[] = []
  return curves.value
    .filter((c) => c.text && !c.faded && (few || c.status === 'broken' || c.width))
    .map((c) => {
      let y = c.y
      // Labels that would lie over each other move down.
      while (taken.some((t) => Math.abs(t.x - c.x) < 62 && Math.abs(t.y - y) < 17)) y += 17
      taken.push({ x: c.x, y })
      return { ...c, y }
    })
})
</script>

<template>
  <svg class="curves" width="100%" :height="layout.height.value" aria-hidden="true">
    <defs>
      <marker
        id="need-end"
        viewBox="0 0 8 8"
        refX="7"
        refY="4"
        markerUnits="userSpaceOnUse"
        markerWidth="10"
        markerHeight="10"
        orient="auto"
      >
        <path d="M0 0L8 4L0 8z" fill="var(--needs)" />
      </marker>
    </defs>
    <path
      v-for="c in curves"
      :key="c.key"
      :d="c.path"
      :class="['curve', c.status, { faded: c.faded, calm }]"
      :style="{ strokeWidth: c.width }"
      marker-end="url(#need-end)"
    >
      <title>{{ c.title }}</title>
    </path>
    <g v-for="c in labelled" :key="c.key" :class="['tag', c.status]" :transform="`translate(${c.x} ${c.y})`">
      <rect :x="-c.text.length * 3.1 - 7" y="-8" :width="c.text.length * 6.2 + 14" height="16" rx="8" />
      <text y="4" text-anchor="middle">{{ c.text }}</text>
    </g>
  </svg>
</template>

<style scoped>
.curves {
  position: absolute;
  inset: 0 0 0 158px;
  width: calc(100% - 158px);
  overflow: hidden;
  pointer-events: none;
  z-index: 5;
}

.curve {
  fill: none;
  stroke: var(--needs);
  stroke-width: 1.6;
}

.curve.broken {
  stroke-dasharray: 6 4;
  stroke-width: 2.4;
}

.curve.holds.calm:not(.faded) {
  opacity: 0.5;
}

.curve.faded {
  opacity: 0.2;
}

.tag rect {
  fill: var(--panel);
  stroke: var(--needs);
}

.tag text {
  fill: var(--needs);
  font-size: 11px;
  font-weight: 600;
}

.tag.broken rect {
  fill: var(--needs);
}

.tag.broken text {
  fill: var(--panel);
}
</style>
