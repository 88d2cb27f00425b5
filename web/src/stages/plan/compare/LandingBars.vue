<script setup lang="ts">
import { computed } from 'vue'
import type { Landing } from '@/api/types'
import { dateAt, landingRange } from '@/line/landingRange'
import { monthTicks, toDay, type Day } from '@/ui/dates'

/** When a release lands in each line, 50 to 85 %, as bars on one axis of time with the due date marked. */
const props = defineProps<{
  lands: (Landing | null | undefined)[]
  colours: string[]
  from: Day
  to: Day
  near: Day
}>()
const width = 300
const row = 14
const height = computed(() => props.lands.length * row + 4)
const x = (day: Day) => ((day - props.from) / Math.max(1, props.to - props.from)) * width
const bars = computed(() =>
  props.lands.map((l, i) => {
    const even = dateAt(l ?? undefined, 50)
    const safe = dateAt(l ?? undefined, 85) ?? even
    if (!l || !even || !safe) return undefined
    const left = x(toDay(even))
    return {
      left,
      width: Math.max(6, x(toDay(safe)) - left),
      y: i * row + 4,
      says: landingRange(l, props.near),
    }
  }),
)
const dues = computed(() => props.lands.map((l) => (l?.due ? x(toDay(l.due)) : undefined)))
const ticks = computed(() => monthTicks(props.from, props.to).filter((t) => t.day >= props.from))
</script>

<template>
  <svg :viewBox="`0 0 ${width} ${height}`" :height="height" preserveAspectRatio="none" aria-hidden="true">
    <line v-for="t in ticks" :key="t.day" :x1="x(t.day)" :x2="x(t.day)" y1="0" :y2="height" class="month" />
    <template v-for="(b, i) in bars" :key="i">
      <line x1="0" :x2="width" :y1="i * row + 9" :y2="i * row + 9" class="axis" />
      <rect v-if="b" :x="b.left" :y="b.y" :width="b.width" height="10" rx="5" :fill="colours[i]">
        <title>{{ b.says }}</title>
      </rect>
      <line
        v-if="dues[i] !== undefined"
        :x1="dues[i]"
        :x2="dues[i]"
        :y1="i * row + 1"
        :y2="i * row + 17"
        class="due"
      />
    </template>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
}

.axis {
  stroke: var(--rule);
  stroke-width: 1.5;
}

.month {
  stroke: var(--rule);
  stroke-dasharray: 2 3;
}

.due {
  stroke: var(--ink);
  stroke-width: 2;
}
</style>
