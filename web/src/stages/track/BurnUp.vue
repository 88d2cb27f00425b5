<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Team, TrackPoint, TrackRun } from '@/api/types'
import { shortDay, toDay } from '@/ui/dates'
import { amount, count, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useReading } from './useReading'
import { fullText, isScope, momentOf, stepText } from './words'

/**
 * What there is and what is done of a scope, event by event in true time, in items or in a team's size; or
 * the hours that are left of its tasks.
 */
const props = defineProps<{
  run: TrackRun
  team?: Team
  due?: string
  name: string
  /** What would be left at an even pace up to the due date, day by day. */
  ideal: TrackPoint[]
  hours?: boolean
}>()
const store = useProgram()

const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 700, height: 0 })
const HEIGHT = 190
const TOP = 8
const LEFT = 34

const of = (sum: { items: number; size: number }) => (props.team ? sum.size : sum.items)
const words = (n: number) =>
  props.hours ? `${amount(n)} h` : props.team ? sized(n, props.team) : count(n, 'item')

/** A line that keeps its height until the next event. */
interface Stairs {
  begin: number
  end: number
  steps: { at: string; value: number }[]
}
/** An event that can be read: on which line it stands, and whether it changed what there is to do. */
interface Mark {
  at: string
  value: number
  scope: boolean
  text: string
}
/** What is done, or the hours left; what there is, in items or size; and the events. */
const series = computed<{ water: Stairs; total?: Stairs; marks: Mark[] }>(() => {
  const { run } = props
  if (props.hours) {
    const steps = run.hours.steps.map((s) => ({ at: s.at, value: s.left }))
    const marks = run.hours.steps.map((s) => ({
      at: s.at,
      value: s.left,
      scope: s.to > s.from,
      text: `${fullText(s.at)} ${s.by}: ${s.item} from ${words(s.from)} to ${words(s.to)}; ${words(s.left)} left`,
    }))
    return { water: { begin: run.hours.start, end: run.hours.left, steps }, marks }
  }
  const stairs = (part: 'done' | 'total', begin: number): Stairs => ({
    begin,
    end: of(run[part]),
    steps: run.steps.map((s) => ({ at: s.at, value: of(s[part]) })),
  })
  const marks = run.steps
    .filter((s) => isScope(s) || s.what === 'finished' || s.what === 'reopened')
    .map((s) => ({
      at: s.at,
      value: of(isScope(s) ? s.total : s.done),
      scope: isScope(s),
      text: `${fullText(s.at)} ${s.by}: ${stepText(s, props.team)}; ${words(of(s.done))} of ${words(of(s.total))} done`,
    }))
  return { water: stairs('done', of(run.doneBefore)), total: stairs('total', of(run.start)), marks }
})

const from = computed(() => Math.floor(momentOf(props.run.from)))
const to = computed(() => Math.max(store.todayDay + 1, props.due ? toDay(props.due) + 1 : 0, from.value + 1))
const most = computed(() =>
  [series.value.water, series.value.total].reduce(
    (most, line) =>
      line ? line.steps.reduce((n, s) => Math.max(n, s.value), Math.max(most, line.begin, line.end)) : most,
    1,
  ),
)
const x = (at: number) =>
  LEFT +
  ((Math.min(Math.max(at, from.value), to.value) - from.value) / (to.value - from.value)) *
    Math.max(0, width.value - LEFT)
const y = (n: number) => TOP + (1 - n / most.value) * HEIGHT

const now = computed(() => {
  const last = series.value.water.steps.at(-1)
  return Math.min(to.value, Math.max(store.todayDay + 0.5, last ? momentOf(last.at) : 0))
})
function drawn(line: Stairs): string {
  const points: [number, number][] = [[momentOf(props.run.from), line.begin]]
  for (const { at, value } of line.steps) {
    if (value === points[points.length - 1][1]) continue
    points.push([momentOf(at), points[points.length - 1][1]], [momentOf(at), value])
  }
  points.push([now.value, line.end])
  return points.map(([t, n]) => `${x(t)},${y(n)}`).join(' ')
}
const total = computed(() => series.value.total && drawn(series.value.total))
const done = computed(() => drawn(series.value.water))
const water = computed(() => `${x(from.value)},${y(0)} ${done.value} ${x(now.value)},${y(0)}`)
/** What would be done at an even pace of what there was at the start, or the hours that would be left. */
const even = computed(() =>
  props.ideal
    .map((p) => `${x(toDay(p.day) + 1)},${y(props.hours ? p.hours : of(props.run.start) - p.left)}`)
    .join(' '),
)
const marks = computed(() => series.value.marks.map((m) => ({ ...m, x: x(momentOf(m.at)), y: y(m.value) })))
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
const readText = computed(() => read.value?.text ?? '')
const says = computed(() => {
  const { water, total } = series.value
  const what = total
    ? `Burnup of ${props.name}: ${words(water.end)} of ${words(total.end)} done, ${words(water.begin)} of ${words(total.begin)} at the start`
    : `Burndown of ${props.name}: ${words(water.end)} left, ${words(water.begin)} at the start`
  return `${what}. The arrow keys read its ${marks.value.length} events.`
})
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
      <polyline v-if="total" class="line total" :points="total" />
      <template v-for="(m, i) in marks" :key="i">
        <circle v-if="m.scope" class="scope" :cx="m.x" :cy="m.y" r="3" />
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
