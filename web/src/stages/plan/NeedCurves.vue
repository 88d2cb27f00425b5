<script setup lang="ts">
import { computed } from 'vue'
import type { Need } from '@/api/types'
import { pair } from '@/line/pair'
import { useDraft } from './draft'
import { usePlan } from './plan'
import { useAxis } from '@/time/axis'
import { useProgram } from '@/line/program'
import { curve } from './layout'
import { usePlanLayout } from './usePlanLayout'

const store = useProgram()
const plan = usePlan()
const axis = useAxis()
const draft = useDraft()
const layout = usePlanLayout()

/** Drawing more would only be a tangle. */
const MOST = 400

/** The broken needs always, those of the selection too; or all of them. */
const shown = computed<Need[]>(() => {
  const all = (store.program.needs ?? []).filter((n) => {
    const status = store.needFacts.get(pair(n.item, n.needs))?.status
    const touched = plan.selected.has(n.item) || plan.selected.has(n.needs)
    if (plan.showNeeds === 'all') return true
    return plan.showNeeds === 'broken'
      ? status === 'broken' || (touched && plan.focus !== 'over' && plan.focus !== 'broken')
      : touched
  })
  return all.slice(0, MOST)
})

const curves = computed(() => {
  if (draft.visible) return [] // the plan shows what a draft moves instead
  return shown.value.flatMap((need) => {
    const a = layout.blockOf(need.needs)
    const b = layout.blockOf(need.item)
    if (!a || !b) return []
    const [x1, y1] = [a.left + a.width, a.top + a.height / 2]
    const [x2, y2] = [b.left, b.top + b.height / 2]
    if (Math.max(x1, x2) < -200 || Math.min(x1, x2) > axis.width + 200) return []
    const facts = store.needFacts.get(pair(need.item, need.needs))
    const status = facts?.status ?? 'holds'
    const spare = facts?.spare
    const text = spare === undefined ? '' : status === 'broken' ? `−${-spare} d` : `${spare} d spare`
    return [
      {
        key: pair(need.item, need.needs),
        path: curve(x1, y1, x2, y2),
        x: (x1 + x2) / 2,
        y: (y1 + y2) / 2,
        end: [x2, y2],
        status,
        text,
        title: `${need.item} needs ${need.needs}`,
      },
    ]
  })
})

/** Labels of many needs would hide the plan; then only the broken ones have theirs. */
const labelled = computed(() => {
  const few = curves.value.length <= 12
  const taken: { x: number; y: number }[] = []
  return curves.value
    .filter((c) => c.text && (few || c.status === 'broken'))
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
      :class="['curve', c.status]"
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
