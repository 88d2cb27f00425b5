<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, ref, useTemplateRef } from 'vue'
import VChart from 'vue-echarts'
import { wordsOf } from '@/api/client'
import type { Chart } from './chart'
import { useChartLook } from './chartLook'
import { csvOf, pngOf, saveFile, svgOf } from './saveFile'

use([LineChart, GridComponent, MarkAreaComponent, MarkLineComponent, SVGRenderer])

/**
 * A picture over time that can be read row by row, by the pointer or the arrow keys; as a table; and as a
 * file.
 */
const props = defineProps<{
  title: string
  note?: string
  /** What it shows, for who cannot see it. */
  says: string
  chart: Chart
  /** What files are called, without their ending. */
  file: string
  height?: number
}>()

const emit = defineEmits<{ pick: [at: number] }>()

const look = useChartLook()
const drawing = useTemplateRef<HTMLElement>('drawing')
const inner = useTemplateRef<InstanceType<typeof VChart>>('inner')
const asTable = ref(false)
const failure = ref('')
/** Which day is read: the row that stands there, or the nearest, also once there are others. */
const at = ref<number>()
const nearest = (day: number): number => {
  let best = -1
  props.chart.rows.forEach((row, i) => {
    if (best < 0 || Math.abs(row.at - day) < Math.abs(props.chart.rows[best].at - day)) best = i
  })
  return best
}
const row = computed(() => (at.value === undefined ? undefined : nearest(at.value)))
const read = computed(() => (row.value === undefined ? undefined : props.chart.rows[row.value]))

const option = computed(() => {
  const { token, text } = look()
  const mark = read.value && {
    type: 'line',
    data: [],
    silent: true,
    markLine: {
      symbol: 'none',
      silent: true,
      animation: false,
      label: { show: false },
      lineStyle: { color: token('--focus'), type: 'solid', width: 2 },
      data: [{ xAxis: read.value.at }],
    },
  }
  return {
    animation: false,
    textStyle: text,
    ...props.chart.option,
    series: [...props.chart.option.series, ...(mark ? [mark] : [])],
  }
})

/** What is read was chosen: by Enter, or a click. */
function pick(): void {
  if (read.value) emit('pick', read.value.at)
}
function key(event: KeyboardEvent): void {
  if (event.key === 'Enter') pick()
  const last = props.chart.rows.length - 1
  const to = {
    ArrowLeft: Math.max(0, (row.value ?? last + 1) - 1),
    ArrowRight: Math.min(last, (row.value ?? -1) + 1),
    Home: 0,
    End: last,
  }[event.key]
  if (to === undefined || last < 0) return
  event.preventDefault()
  at.value = props.chart.rows[to].at
}
function hover(event: { offsetX: number }): void {
  const day = inner.value?.convertFromPixel({ xAxisIndex: 0 }, event.offsetX)
  if (typeof day === 'number') at.value = day
}

async function save(as: 'PNG' | 'SVG' | 'CSV'): Promise<void> {
  failure.value = ''
  try {
    const name = `${props.file}.${as.toLowerCase()}`
    const svg = drawing.value?.querySelector('svg')
    if (as === 'CSV')
      saveFile(
        name,
        new Blob([csvOf([props.chart.columns, ...props.chart.rows.map((r) => r.cells)])], {
          type: 'text/csv',
        }),
      )
    else if (svg && as === 'SVG') saveFile(name, new Blob([svgOf(svg)], { type: 'image/svg+xml' }))
    else if (svg) saveFile(name, await pngOf(svg, look().token('--panel')))
  } catch (error) {
    failure.value = wordsOf(error)
  }
}
</script>

<template>
  <section class="card" :aria-label="title">
    <header>
      <h3>{{ title }}</h3>
      <span class="gap" />
      <slot name="tools" />
      <button class="chip" :aria-pressed="asTable" @click="asTable = !asTable">Table</button>
    </header>
    <p class="note quiet small">
      {{ note }}
      <span class="gap" />
      <button
        v-for="as in ['PNG', 'SVG', 'CSV'] as const"
        :key="as"
        class="link small"
        :aria-label="`${title} as ${as}`"
        :disabled="asTable && as !== 'CSV'"
        @click="save(as)"
      >
        {{ as }}
      </button>
    </p>
    <p v-if="failure" role="alert" class="failure">{{ failure }}</p>
    <div
      v-show="!asTable"
      ref="drawing"
      class="drawing"
      role="application"
      tabindex="0"
      :aria-label="`${says} The arrow keys read it.`"
      @keydown="key"
      @mouseleave="at = undefined"
    >
      <VChart
        ref="inner"
        :option="option"
        :update-options="{ replaceMerge: ['series'] }"
        :style="{ height: `${height ?? 230}px` }"
        autoresize
        @zr:mousemove="hover"
        @zr:click="pick"
      />
    </div>
    <p v-show="!asTable" class="read small" aria-live="polite">{{ read?.text ?? chart.hint }}</p>
    <div v-if="asTable" class="behind" tabindex="0" role="region" :aria-label="`${title} as a table`">
      <table class="table">
        <thead>
          <tr>
            <th v-for="(c, i) in chart.columns" :key="c" :class="{ n: i }">{{ c }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in chart.rows" :key="r.at">
            <td v-for="(c, i) in r.cells" :key="i" :class="{ n: i }">{{ c }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.card {
  min-width: 0;
  padding: 10px 14px;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: var(--panel);
}

header {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
}

header :deep(.chip) {
  flex: none;
  white-space: nowrap;
}

header :deep(select.chip) {
  max-width: 160px;
}

.note {
  display: flex;
  gap: 10px;
  margin: 0;
}

h3 {
  margin: 0;
  font-size: 15px;
  white-space: nowrap;
}

.gap {
  flex: 1;
}

.drawing:focus-visible,
.behind:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: -1px;
}

.read {
  min-height: 18px;
  margin: 2px 0 0;
}

.behind {
  max-height: 260px;
  overflow-y: auto;
}
</style>
