<script setup lang="ts">
import { BarChart, LineChart, PieChart } from 'echarts/charts'
import { GridComponent, LegendComponent, LegendScrollComponent, TooltipComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { computed, ref, shallowRef, watch } from 'vue'
import VChart from 'vue-echarts'
import type { ChartAsked, ChartDrawn } from '@/api/types'
import { useProgram } from '@/line/program'
import { useChartLook } from '@/ui/chartLook'
import { shortDate } from '@/ui/dates'
import { count } from '@/ui/format'
import { changed, draw, worded, type Part } from '../drawing'
import ThingLine from '../ThingLine.vue'

use([
  BarChart,
  LineChart,
  PieChart,
  GridComponent,
  LegendComponent,
  LegendScrollComponent,
  TooltipComponent,
  SVGRenderer,
])

/** A chart of one's own: a picture, a figure, a table or a list. What it shows can be read by keys, and leads to what it counts. */
const props = defineProps<{
  chart: ChartAsked
  drawn: ChartDrawn | undefined
  height: number
  title: string
  /** It stands as it is: what it counts is not looked at from here. */
  quiet?: boolean
}>()
const emit = defineEmits<{ look: [part: Part] }>()
const store = useProgram()
const look = useChartLook()

/** What is drawn: until there is an answer to what is asked now, that of before, paler. */
const shown = shallowRef<{ chart: ChartAsked; drawn: ChartDrawn }>()
watch(
  [() => props.chart, () => props.drawn],
  ([chart, drawn]) => drawn && (shown.value = { chart: { ...chart }, drawn }),
  { immediate: true },
)
const waiting = computed(() => !props.drawn)
const form = computed(() => shown.value?.chart.form ?? 'bars')
const picture = computed(() =>
  shown.value ? draw(shown.value.chart, shown.value.drawn, store.todayDay, look()) : undefined,
)
const table = computed(() => shown.value?.drawn.table)
const series = computed(() => shown.value?.drawn.series)
const empty = computed(() => (table.value ? !table.value.count : !series.value?.counts.some((n) => n)))
const figure = computed(() => {
  if (series.value) return worded(series.value.totals.at(-1) ?? undefined, series.value)
  return table.value ? worded(table.value.total ?? undefined, table.value) : ''
})
const change = computed(() => {
  const s = series.value
  const [first, last] = [s?.totals[0], s?.totals.at(-1)]
  if (!s || s.days.length < 2 || first == null || last == null) return ''
  return `${changed(last - first, s)} since ${shortDate(s.days[0], store.todayDay)}`
})

const option = computed(() => {
  const { text, token } = look()
  return {
    animation: false,
    textStyle: text,
    tooltip: {
      trigger: 'item',
      confine: true,
      backgroundColor: token('--panel'),
      borderColor: token('--rule'),
      textStyle: { color: token('--ink'), fontSize: 12 },
      valueFormatter: (n: unknown) =>
        typeof n === 'number' ? worded(n, series.value ?? table.value ?? { unit: 'number' }) : '–',
    },
    ...picture.value?.option,
  }
})
/** Which part is read; none before the first key. */
const at = ref(-1)
watch(picture, (p) => (at.value = Math.min(at.value, (p?.parts.length ?? 0) - 1)))
const read = computed(() => picture.value?.parts[at.value])
function key(event: KeyboardEvent): void {
  const last = (picture.value?.parts.length ?? 0) - 1
  if (event.key === 'Enter' && read.value) return void emit('look', read.value)
  const to = {
    ArrowLeft: Math.max(0, at.value < 0 ? last : at.value - 1),
    ArrowUp: Math.max(0, at.value < 0 ? last : at.value - 1),
    ArrowRight: Math.min(last, at.value + 1),
    ArrowDown: Math.min(last, at.value + 1),
    Home: 0,
    End: last,
  }[event.key]
  if (to === undefined || last < 0) return
  event.preventDefault()
  at.value = to
}
function click(event: { seriesIndex?: number; dataIndex?: number }): void {
  const part = picture.value?.parts[picture.value.at(event.seriesIndex ?? 0, event.dataIndex ?? 0)]
  if (part) emit('look', part)
}
const whole: Part = { row: '', column: '', text: '' }
const readHeight = 18
defineExpose({
  table: computed(() => picture.value && { columns: picture.value.columns, rows: picture.value.rows }),
})
</script>

<template>
  <p v-if="shown?.drawn.failed" role="alert" class="failure">{{ shown.drawn.failed }}</p>
  <p v-else-if="!shown" role="status" class="quiet">Counting…</p>
  <div v-else-if="form === 'figure'" class="figure" :class="{ waiting }">
    <button
      class="number"
      :aria-label="`${title}: ${figure}. Show what it counts`"
      :disabled="quiet || !!shown.chart.split?.length"
      @click="emit('look', whole)"
    >
      {{ figure }}
    </button>
    <span class="quiet">{{ change }}</span>
  </div>
  <ol
    v-else-if="form === 'list'"
    class="list"
    :class="{ waiting }"
    tabindex="0"
    :aria-label="`${title}, in full`"
    :style="{ maxHeight: `${height}px` }"
  >
    <ThingLine v-for="(t, i) in table?.things" :key="i" :thing="t" :of="table!" :quiet="quiet" />
    <li v-if="!table?.things?.length" class="quiet">Nothing.</li>
    <li
      v-else-if="table.count > table.things.length"
      class="quiet"
      :data-more="table.count - table.things.length"
    >
      {{ count(table.count - table.things.length, 'more', 'more') }}
    </li>
  </ol>
  <div
    v-else-if="form === 'table'"
    class="behind"
    :class="{ waiting }"
    tabindex="0"
    role="region"
    :aria-label="`${title}, in full`"
    :style="{ maxHeight: `${height}px` }"
  >
    <table class="table">
      <thead>
        <tr>
          <th v-for="(c, i) in picture?.columns" :key="i" scope="col" :class="{ n: i }">{{ c }}</th>
        </tr>
      </thead>
      <tbody v-if="table">
        <tr v-for="(r, i) in table.rows" :key="r.key">
          <th scope="row">{{ r.title || 'All' }}</th>
          <template v-if="shown.chart.split?.[1]">
            <td v-for="(c, n) in table.columns" :key="c.key" class="n">
              <button
                v-if="table.counts[i][n]"
                class="link"
                :disabled="quiet"
                @click="emit('look', { row: r.key, column: c.key, text: '' })"
              >
                {{ worded(table.cells[i][n] ?? undefined, table) }}
              </button>
            </td>
            <td class="n">{{ worded(table.totals[i] ?? undefined, table) }}</td>
          </template>
          <td v-else class="n">
            <button
              class="link"
              :disabled="quiet"
              @click="emit('look', { row: r.key, column: '', text: '' })"
            >
              {{ worded(table.totals[i] ?? undefined, table) }}
            </button>
          </td>
        </tr>
      </tbody>
      <tbody v-else>
        <tr v-for="r in picture?.rows" :key="String(r[0])">
          <td v-for="(c, i) in r" :key="i" :class="{ n: i }">
            {{ i ? c : shortDate(String(c), store.todayDay) }}
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <p v-else-if="empty" class="quiet">Nothing to count.</p>
  <div v-else :class="{ waiting }">
    <div
      class="drawing"
      role="application"
      tabindex="0"
      :aria-label="`${title}. ${shown.drawn.sentence ?? ''} The arrow keys read it${quiet ? '' : ', Enter shows what it counts'}.`"
      @keydown="key"
    >
      <VChart
        :option="option"
        :update-options="{ notMerge: true }"
        :style="{ height: `${height - readHeight}px` }"
        autoresize
        @click="click"
      />
    </div>
    <p class="read small quiet" aria-live="polite">{{ read?.text ?? '' }}</p>
  </div>
</template>

<style scoped>
.waiting {
  opacity: 0.5;
}

.figure {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
}

.number {
  padding: 0;
  border: 0;
  background: none;
  color: var(--ink);
  font: 600 52px/1.1 var(--heading);
  font-variant-numeric: tabular-nums;
  cursor: pointer;
}

.number:disabled {
  cursor: default;
}

.list {
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}

.behind {
  overflow: auto;
}

.drawing:focus-visible,
.list:focus-visible,
.behind:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: -1px;
}

.read {
  height: 18px;
  margin: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
