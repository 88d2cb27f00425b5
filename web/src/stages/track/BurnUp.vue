<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Team, TrackPoint, TrackRun, TrackStep } from '@/api/types'
import { shortDay, toDay } from '@/ui/dates'
import { amount, count, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useReading } from './useReading'
import { fullText, isScope, momentOf, stepText } from './words'

/** What there is and what is done of a scope, event by event in true time: in items, or in a team's size. */
const props = defineProps<{
  run: TrackRun
  team?: Team
  due?: string
  name: string
  /** What would be left at an even pace up to the due date, day by day. */
  ideal: TrackPoint[]
}>()
const store = useProgram()

const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 700, height: 0 })
const HEIGHT = 190
const TOP = 8
const LEFT = 34

const of = (sum: { items: number; size: number }) => (props.team ? sum.size : sum.items)
const words = (n: number) => (props.team ? sized(n, props.team) : count(n, 'item'))

const from = computed(() => Math.floor(momentOf(props.run.from)))
const to = computed(() => Math.max(store.todayDay + 1, props.due ? toDay(props.due) + 1 : 0, from.value + 1))
const most = computed(() =>
  Math.max(1, of(props.run.start), of(props.run.total), ...props.run.steps.map((s) => of(s.total))),
)
const x = (at: number) =>
  LEFT +
  ((Math.min(Math.max(at, from.value), to.value) - from.value) / (to.value - from.value)) *
    Math.max(0, width.value - LEFT)
const y = (n: number) => TOP + (1 - n / most.value) * HEIGHT

const now = computed(() => {
  const last = props.run.steps.at(-1)
  return Math.min(to.value, Math.max(store.todayDay + 0.5, last ? momentOf(last.at) : 0))
})
/** A line that keeps its height until the next event. */
function stairs(begin: number, end: number, at: (step: TrackStep) => number): string {
  const points: [number, number][] = [[momentOf(props.run.from), begin]]
  for (const step of props.run.steps) {
    const value = at(step)
    if (value === points[points.length - 1][1]) continue
    points.push([momentOf(step.at), points[points.length - 1][1]], [momentOf(step.at), value])
  }
  points.push([now.value, end])
  return points.map(([t, n]) => `${x(t)},${y(n)}`).join(' ')
}
const total = computed(() => stairs(of(props.run.start), of(props.run.total), (s) => of(s.total)))
const done = computed(() => stairs(of(props.run.doneBefore), of(props.run.done), (s) => of(s.done)))
const water = computed(() => `${x(from.value)},${y(0)} ${done.value} ${x(now.value)},${y(0)}`)
/** What would be done at an even pace: of what there was at the start. */
const even = computed(() =>
  props.ideal.map((p) => `${x(toDay(p.day) + 1)},${y(of(props.run.start) - p.left)}`).join(' '),
)
const marks = computed(() =>
  props.run.steps
    .filter((s) => isScope(s) || s.what === 'finished' || s.what === 'reopened')
    .map((step) => ({ step, x: x(momentOf(step.at)), y: y(of(isScope(step) ? step.total : step.done)) })),
)
const weekends = computed(() => {
  if (to.value - from.value > 120) return []
  const days = []
  for (let day = from.value; day < to.value; day++) if ((((day + 3) % 7) + 7) % 7 >= 5) days.push(day)
  return days
})
const ticks = computed(() =>
  [...new Set([Math.floor(most.value), Math.floor(most.value / 2)])].filter((n) => n > 0),
)

const { read, key, hover, forget } = useReading(() => marks.value)
const readText = computed(() => {
  if (!read.value) return ''
  const { step } = read.value
  return `${fullText(step.at)} ${step.by}: ${stepText(step, props.team)}; ${words(of(step.done))} of ${words(of(step.total))} done`
})
const says = computed(
  () =>
    `Burnup of ${props.name}: ${words(of(props.run.done))} of ${words(of(props.run.total))} done, ${words(of(props.run.doneBefore))} of ${words(of(props.run.start))} at the start. The arrow keys read its ${marks.value.length} events.`,
)
</script>

<template>
  <div ref="box" class="burn">
    <svg
      :width="width"
      :height="HEIGHT + TOP + 18"
      role="img"
      :aria-label="says"
      tabindex="0"
      @keydown="key"
      @mousemove="hover"
      @mouseleave="forget"
      @blur="forget"
    >
      <rect
        v-for="day in weekends"
        :key="day"
        class="off"
        :x="x(day)"
        :y="TOP"
        :width="x(day + 1) - x(day)"
        :height="HEIGHT"
      />
      <g v-for="t in ticks" :key="t">
        <line class="grid" :x1="LEFT" :x2="width" :y1="y(t)" :y2="y(t)" />
        <text :x="LEFT - 5" text-anchor="end" :y="y(t) + 4">{{ amount(t) }}</text>
      </g>
      <polygon class="water" :points="water" />
      <polyline v-if="even" class="ideal" :points="even" />
      <polyline class="line done" :points="done" />
      <polyline class="line total" :points="total" />
      <template v-for="(m, i) in marks" :key="i">
        <circle v-if="isScope(m.step)" class="scope" :cx="m.x" :cy="m.y" r="3" />
      </template>
      <circle v-if="read" class="read" :cx="read.x" :cy="read.y" r="5" />
      <line class="today" :x1="x(now)" :x2="x(now)" :y1="TOP" :y2="TOP + HEIGHT" />
      <template v-if="due">
        <line class="due" :x1="x(toDay(due) + 1)" :x2="x(toDay(due) + 1)" :y1="TOP" :y2="TOP + HEIGHT" />
        <text :x="x(toDay(due) + 1) - 4" text-anchor="end" :y="TOP + HEIGHT - 5">
          due {{ shortDay(toDay(due), store.todayDay) }}
        </text>
      </template>
      <line class="floor" :x1="LEFT" :x2="width" :y1="y(0)" :y2="y(0)" />
      <text :x="LEFT" :y="HEIGHT + TOP + 14">{{ shortDay(from, store.todayDay) }}</text>
      <text v-if="x(now) - LEFT > 80" :x="x(now)" text-anchor="middle" :y="HEIGHT + TOP + 14">today</text>
    </svg>
    <p class="tip small" aria-live="polite">{{ readText }}</p>
  </div>
</template>

<style scoped src="./burn.css"></style>

<style scoped>
svg {
  display: block;
}

.off {
  fill: var(--edge);
  opacity: 0.1;
}

.grid,
.floor {
  stroke: var(--rule);
}

.total {
  stroke: var(--ink);
  stroke-width: 2;
}

.due {
  stroke: var(--over);
  stroke-width: 1.5;
}
</style>
