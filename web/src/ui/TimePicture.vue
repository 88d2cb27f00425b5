<script setup lang="ts">
import { LineChart } from 'echarts/charts'
import { GridComponent, MarkAreaComponent, MarkLineComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, ref, useTemplateRef } from 'vue'
import VChart from 'vue-echarts'
import type { Chart } from './chart'
import { useChartLook } from './chartLook'

use([LineChart, GridComponent, MarkAreaComponent, MarkLineComponent, SVGRenderer])

/** A picture over time that can be read row by row, by the pointer or the arrow keys. */
const props = defineProps<{
  /** What it shows, for who cannot see it. */
  says: string
  chart: Chart
  height: number
}>()
const emit = defineEmits<{ pick: [at: number] }>()

const look = useChartLook()
const inner = useTemplateRef<InstanceType<typeof VChart>>('inner')
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
</script>

<template>
  <div>
    <div
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
        :style="{ height: `${height}px` }"
        autoresize
        @zr:mousemove="hover"
        @zr:click="pick"
      />
    </div>
    <p class="read small" aria-live="polite">{{ read?.text ?? chart.hint }}</p>
  </div>
</template>

<style scoped>
.drawing:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: -1px;
}

.read {
  min-height: 18px;
  margin: 2px 0 0;
}
</style>
