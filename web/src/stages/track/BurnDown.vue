<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Team, UnderWay } from '@/api/types'
import { shortDate, toDate, toDay } from '@/ui/dates'
import { amount, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useReading } from './useReading'
import { isScope, momentOf, stepText, whenText } from './words'

/**
 * What is left of an iteration, step by step in true time: its size, with what is likely by its
 * end, or the hours left of its tasks.
 */
const props = defineProps<{ under: UnderWay; team?: Team; start: string; end: string; hours?: boolean }>()
const store = useProgram()

const box = ref<HTMLElement>()
const { width } = useElementSize(box, { width: 480, height: 0 })
const HEIGHT = 92
const TOP = 6

const from = computed(() => toDay(props.start))
const to = computed(() => toDay(props.end) + 1)
/** What is drawn, in the team's unit or in hours. */
interface Series {
  begin: number
  left: number
  /** Of each: when, what is left after it, what it was, and whether it changed what there is to do. */
  steps: { at: string; by: string; left: number; text: string; scope: boolean }[]
}
const inWords = (n: number) => (props.hours ? `${amount(n)} h` : sized(n, props.team))
const series = computed<Series>(() => {
  const { under } = props
  if (props.hours)
    return {
      begin: under.hours.start,
      left: under.hours.left,
      steps: under.hours.steps.map((s) => ({
        ...s,
        text: `${s.item} from ${inWords(s.from)} to ${inWords(s.to)}`,
        scope: s.to > s.from,
      })),
    }
  const left = (s: { total: { size: number }; done: { size: number } }) => s.total.size - s.done.size
  return {
    begin: under.start.size - under.doneBefore.size,
    left: left(under),
    steps: under.steps.map((s) => ({
      at: s.at,
      by: s.by,
      left: left(s),
      text: stepText(s, props.team),
      scope: isScope(s),
    })),
  }
})
const most = computed(() =>
  Math.max(series.value.begin, ...series.value.steps.map((s) => s.left), series.value.left, 1),
)
const x = (at: number) =>
  ((Math.min(Math.max(at, from.value), to.value) - from.value) / (to.value - from.value)) * width.value
const y = (size: number) => TOP + (1 - size / most.value) * HEIGHT

/** Up to when the line is known: now, within today. */
const now = computed(() => {
  const last = series.value.steps.at(-1)
  const today = store.todayDay + 0.5
  return Math.min(to.value, Math.max(today, last ? momentOf(last.at) : 0, momentOf(props.under.from)))
})
const points = computed(() => {
  const list: [number, number][] = [[momentOf(props.under.from), series.value.begin]]
  for (const step of series.value.steps) {
    const at = momentOf(step.at)
    list.push([at, list[list.length - 1][1]], [at, step.left])
  }
  list.push([now.value, series.value.left])
  return list
})
const line = computed(() => points.value.map(([at, size]) => `${x(at)},${y(size)}`).join(' '))
const water = computed(() => `${x(points.value[0][0])},${y(0)} ${line.value} ${x(now.value)},${y(0)}`)
const ideal = computed(() =>
  props.under.ideal.map((p) => `${x(toDay(p.day) + 1)},${y(props.hours ? p.hours : p.left)}`).join(' '),
)
/** From what is left now to what is likely to be left at the end: at 95 % down to 50 %. */
const fan = computed(() => {
  const of = (odds: number) => props.under.likely.find((l) => l.odds === odds)?.size
  const [half, most95] = [of(50), of(95)]
  if (props.hours || half === undefined || most95 === undefined || now.value >= to.value) return ''
  const total = props.under.total.size
  return `${x(now.value)},${y(series.value.left)} ${x(to.value)},${y(total - most95)} ${x(to.value)},${y(total - half)}`
})
const off = computed(() => {
  const works = new Set(props.under.days)
  const days = []
  for (let day = from.value; day < to.value; day++) if (!works.has(toDate(day))) days.push(day)
  return days
})
const marks = computed(() =>
  series.value.steps.map((step, i) => ({ step, i, x: x(momentOf(step.at)), y: y(step.left) })),
)

const { read, key, hover, forget } = useReading(() => marks.value)
const readText = computed(() =>
  read.value
    ? `${whenText(read.value.step.at)} ${read.value.step.by}: ${read.value.step.text}; ${inWords(read.value.step.left)} left`
    : '',
)
const says = computed(
  () =>
    `Burndown${props.hours ? ' by hours' : ''}: ${inWords(series.value.begin)} to do at the start, ${inWords(series.value.left)} left. The arrow keys read its ${series.value.steps.length} events.`,
)
</script>

<template>
  <p v-if="hours && !series.begin && !series.steps.length" class="quiet">
    None of its tasks says how many hours it takes.
  </p>
  <div v-else ref="box" class="burn">
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
      <polygon class="water" :points="water" />
      <rect
        v-for="day in off"
        :key="day"
        class="off"
        :x="x(day)"
        :y="TOP"
        :width="Math.max(0, x(day + 1) - x(day))"
        :height="HEIGHT"
      />
      <polygon v-if="fan" class="fan" :points="fan" />
      <polyline class="ideal" :points="ideal" />
      <polyline class="line" :points="line" />
      <template v-for="m in marks" :key="m.i">
        <circle v-if="m.step.scope" class="scope" :cx="m.x" :cy="m.y" r="3.5" />
      </template>
      <circle v-if="read" class="read" :cx="read.x" :cy="read.y" r="5" />
      <line
        class="today"
        :x1="x(store.todayDay + 0.5)"
        :x2="x(store.todayDay + 0.5)"
        :y1="TOP"
        :y2="TOP + HEIGHT"
      />
      <line class="floor" :x1="0" :x2="width" :y1="y(0)" :y2="y(0)" />
      <text x="2" :y="HEIGHT + TOP + 14">{{ shortDate(start, store.todayDay) }}</text>
      <text :x="width - 2" text-anchor="end" :y="HEIGHT + TOP + 14">
        {{ shortDate(end, store.todayDay) }}
      </text>
      <text :x="width - 4" text-anchor="end" :y="TOP + 11">{{ inWords(most) }}</text>
    </svg>
    <p class="tip small" aria-live="polite">{{ readText }}</p>
  </div>
</template>

<style scoped src="./burn.css"></style>

<style scoped>
svg {
  display: block;
  background: var(--panel);
}

.off {
  fill: var(--edge);
  opacity: 0.12;
}

.fan {
  fill: var(--water);
  fill-opacity: 0.3;
  stroke: var(--water);
  stroke-opacity: 0.6;
}

.floor {
  stroke: var(--rule);
}
</style>
