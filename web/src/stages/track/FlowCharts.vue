<script setup lang="ts">
import { BarChart, LineChart } from 'echarts/charts'
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed } from 'vue'
import VChart from 'vue-echarts'
import type { ScopeHistory } from '@/api/types'
import { stateTitles } from '@/line/course'
import { useProgram } from '@/line/program'
import { useChartLook } from '@/ui/chartLook'
import { stateColours } from '@/ui/colours'
import { shortDate } from '@/ui/dates'
import { count } from '@/ui/format'

use([BarChart, LineChart, GridComponent, LegendComponent, TooltipComponent, SVGRenderer])

/** How items flow: how many are in each state day by day, how long they take, how many a week are done. */
const props = defineProps<{ history: ScopeHistory }>()
const store = useProgram()
const look = useChartLook()

const short = (day: string) => shortDate(day, store.todayDay)

const states = computed(() => {
  const { token, text, rule } = look()
  const of = (['done', 'review', 'doing', 'todo'] as const).map((state) => ({
    state,
    color: token(stateColours[state]),
  }))
  return {
    animation: false,
    textStyle: text,
    grid: { left: 34, right: 8, top: 28, bottom: 22 },
    legend: { top: 0, right: 0, textStyle: text, itemWidth: 12 },
    tooltip: { trigger: 'axis' },
    xAxis: {
      type: 'category',
      boundaryGap: false,
      data: props.history.flow.map((f) => short(f.day)),
      axisLabel: text,
    },
    yAxis: { type: 'value', minInterval: 1, axisLabel: text, splitLine: rule },
    series: of.map(({ state, color }) => ({
      name: stateTitles.get(state),
      type: 'line',
      stack: 'all',
      step: 'end',
      symbol: 'none',
      lineStyle: { width: 1, color: token('--edge') },
      itemStyle: { color },
      areaStyle: { color, opacity: state === 'todo' ? 0.25 : 1 },
      data: props.history.flow.map((f) => f[state]),
    })),
  }
})
const weeks = computed(() => {
  const { token, text, rule } = look()
  return {
    animation: false,
    textStyle: text,
    grid: { left: 34, right: 8, top: 28, bottom: 22 },
    tooltip: { trigger: 'axis' },
    xAxis: { type: 'category', data: props.history.pass.weeks.map((w) => short(w.monday)), axisLabel: text },
    yAxis: { type: 'value', minInterval: 1, axisLabel: text, splitLine: rule },
    series: [
      {
        name: 'done in the week from',
        type: 'bar',
        barMaxWidth: 26,
        itemStyle: { color: token('--c0') },
        data: props.history.pass.weeks.map((w) => w.done),
      },
    ],
  }
})
const flowText = computed(() => {
  const now = props.history.flow.at(-1)
  return now
    ? `Items by state: ${now.todo} to do, ${now.doing} doing, ${now.review} in review, ${now.done} done today`
    : 'Items by state: nothing yet'
})
const weekText = computed(() => {
  const last = props.history.pass.weeks.slice(-4)
  return `Done a week: ${last.map((w) => `${w.done} from ${short(w.monday)}`).join(', ')}`
})
const usual = computed(() => props.history.pass.days)
</script>

<template>
  <div class="flow">
    <section aria-label="Items by state">
      <h3>Items by state, day by day</h3>
      <div role="img" :aria-label="flowText"><VChart class="chart" :option="states" autoresize /></div>
    </section>
    <section aria-label="Done a week">
      <h3>Done a week</h3>
      <div role="img" :aria-label="weekText"><VChart class="chart" :option="weeks" autoresize /></div>
    </section>
    <section aria-label="From start to done">
      <h3>From start to done</h3>
      <p v-if="usual">
        Half take {{ count(usual.half, 'day') }} or less, 85 % {{ count(usual.most, 'day') }} or less:
        <span class="quiet">{{ count(usual.of, 'item') }} tell.</span>
      </p>
      <p v-else class="quiet">No item was begun and done yet, as far as the journal tells.</p>
      <h3>Under way, the longest first</h3>
      <ol v-if="history.pass.going.length" tabindex="0" aria-label="Under way, the longest first">
        <li v-for="g in history.pass.going" :key="g.item" :class="{ over: g.over }">
          <RouterLink :to="{ name: 'backlog', params: { id: store.id }, query: { item: g.item } }"
            ><b>{{ g.item }}</b> {{ store.items.get(g.item)?.title }}</RouterLink
          >
          <span class="days">{{ g.long ? 'over ' : '' }}{{ count(g.days, 'day') }}</span>
        </li>
      </ol>
      <p v-else class="quiet">Nothing.</p>
    </section>
  </div>
</template>

<style scoped>
.flow {
  display: grid;
  grid-template-columns: 2fr 1.2fr minmax(280px, 1.3fr);
  gap: 16px 24px;
}

section {
  min-width: 0;
}

h3 {
  margin: 0 0 4px;
  font-size: 14px;
}

.chart {
  height: 190px;
}

p {
  margin: 0 0 8px;
}

ol {
  max-height: 130px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}

ol:focus-visible {
  outline: 2px solid var(--focus);
}

li {
  display: flex;
  gap: 8px;
  justify-content: space-between;
  padding: 2px 0;
}

a {
  overflow: hidden;
  color: inherit;
  text-decoration: none;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.days {
  flex: none;
}

.over .days {
  color: var(--over);
  font-weight: 600;
}
</style>
