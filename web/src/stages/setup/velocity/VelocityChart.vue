<script setup lang="ts">
import { BarChart, LineChart } from 'echarts/charts'
import {
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed } from 'vue'
import VChart from 'vue-echarts'
import type { TeamVelocity } from '@/api/types'
import { useChartLook } from '@/ui/chartLook'
import { amount } from '@/ui/format'

use([
  BarChart,
  LineChart,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  SVGRenderer,
])

/** Committed and completed a closed iteration, with the measured velocity and its spread. */
const props = defineProps<{
  history: TeamVelocity['history']
  mean: number
  spread: number
  name: (key: string) => string
  unit: string
}>()
const look = useChartLook()

const option = computed(() => {
  const { token, text, rule } = look()
  const spread: [object, object][] = props.spread
    ? [[{ yAxis: Math.max(0, props.mean - props.spread) }, { yAxis: props.mean + props.spread }]]
    : []
  return {
    animation: false,
    textStyle: text,
    grid: { left: 40, right: 14, top: 34, bottom: 26 },
    legend: { top: 0, right: 10, textStyle: text, itemWidth: 14 },
    tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => (typeof v === 'number' ? amount(v) : '–') },
    xAxis: { type: 'category', data: props.history.map((p) => props.name(p.iteration)), axisLabel: text },
    yAxis: {
      type: 'value',
      name: props.unit,
      nameTextStyle: text,
      axisLabel: text,
      splitLine: rule,
    },
    series: [
      {
        name: 'Committed',
        type: 'bar',
        data: props.history.map((p) => p.committed),
        itemStyle: { color: token('--basin'), borderColor: token('--water'), borderWidth: 1 },
      },
      {
        name: 'Completed',
        type: 'bar',
        barGap: '0%',
        data: props.history.map((p) => ({
          value: p.completed,
          itemStyle: { color: p.counts ? token('--water') : token('--done') },
        })),
        itemStyle: { color: token('--water') },
      },
      {
        name: 'With nobody away',
        type: 'line',
        symbolSize: 6,
        data: props.history.map((p) => (p.counts ? Math.round(p.normalised * 10) / 10 : undefined)),
        itemStyle: { color: token('--ink') },
        lineStyle: { color: token('--ink'), width: 1.5, type: 'dashed' },
        markLine: {
          silent: true,
          symbol: 'none',
          data: props.mean ? [{ yAxis: props.mean }] : [],
          lineStyle: { color: token('--ink') },
          label: { formatter: amount(props.mean), color: token('--ink'), position: 'insideEndTop' },
        },
        markArea: { silent: true, data: spread, itemStyle: { color: token('--water'), opacity: 0.12 } },
      },
    ],
  }
})
</script>

<template>
  <figure>
    <VChart
      class="chart"
      :option="option"
      autoresize
      role="img"
      aria-label="Committed and completed in each closed iteration; the table beside it has the figures"
    />
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}

.chart {
  height: 290px;
}
</style>
