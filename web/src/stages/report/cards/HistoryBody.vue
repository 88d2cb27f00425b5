<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { ScopeHistory } from '@/api/types'
import { stateTitles } from '@/line/course'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { dayAxis, type Chart } from '@/ui/chart'
import { useChartLook } from '@/ui/chartLook'
import { stateColours } from '@/ui/colours'
import TimePicture from '@/ui/TimePicture.vue'
import { shortDate, toDay } from '@/ui/dates'
import { amount, count } from '@/ui/format'
import type { Body } from './body'

/** How some work came about, by the journal: items by state day by day, or what came and went. */
const props = defineProps<Body>()
const store = useProgram()
const look = useChartLook()
const found = useAnswer<ScopeHistory | undefined>(
  (signal) =>
    props.told
      ? Promise.resolve(props.told.history)
      : store.id
        ? answer(
            client.GET('/api/v1/programs/{id}/scope-history', {
              params: { path: { id: store.id }, query: { ...props.card.about } },
              signal,
            }),
          )
        : undefined,
  [
    () => store.id,
    () => JSON.stringify(props.card.about),
    () => props.told,
    () => store.revision,
    () => store.today,
  ],
  { wait: 40, forget: ([id, about], [before, was]) => id !== before || about !== was },
)
const states = ['done', 'review', 'doing', 'todo'] as const
const near = (day: string) => shortDate(day, store.todayDay)
const flow = computed<Chart | undefined>(() => {
  const days = found.answer.value?.flow
  if (!days?.length) return undefined
  const { token, text, rule } = look()
  return {
    option: {
      grid: { left: 34, right: 8, top: 10, bottom: 22 },
      xAxis: dayAxis(
        toDay(days[0].day),
        Math.max(toDay(days.at(-1)!.day), toDay(days[0].day) + 7),
        text,
        store.todayDay,
      ),
      yAxis: { type: 'value', minInterval: 1, axisLabel: text, splitLine: rule },
      series: states.map((state) => ({
        name: stateTitles.get(state),
        type: 'line',
        stack: 'all',
        step: 'end',
        symbol: 'none',
        silent: true,
        lineStyle: { width: 1, color: token('--panel') },
        areaStyle: { color: token(stateColours[state]), opacity: state === 'todo' ? 0.25 : 1 },
        data: days.map((d) => [toDay(d.day), d[state]]),
      })),
    },
    columns: ['Day', ...states.map((s) => stateTitles.get(s) ?? s)],
    rows: days.map((d) => ({
      at: toDay(d.day),
      cells: [d.day, ...states.map((s) => d[s])],
      text: `${near(d.day)}: ${d.done} done, ${d.review} in review, ${d.doing} doing, ${d.todo} to do`,
    })),
    hint: 'From below: done, in review, doing, to do.',
  }
})
const sums = computed(() => {
  const run = found.answer.value?.all
  if (!run) return []
  return [
    ['At the start', run.start.items],
    ['Added', run.added.items],
    ['Taken out', -run.removed.items],
    ['Now', run.total.items],
    ['Done', run.done.items],
    ['Left', run.left.items],
  ] as [string, number][]
})
const sentence = computed(() => {
  const told = found.answer.value
  if (!told) return found.asking.value ? 'Reading the journal…' : ''
  if (props.card.kind === 'ledger') {
    const { start, total, done, from } = told.all
    const by = total.items - start.items
    const grown = by ? `${count(Math.abs(by), 'item')} ${by > 0 ? 'more' : 'fewer'} than` : 'as many as'
    return `${done.items} of ${count(total.items, 'item')} done; ${grown} on ${near(from.slice(0, 10))}.`
  }
  const going = told.pass.going
  const usual = told.pass.days
  const longest = going[0] ? `, the longest for ${count(going[0].days, 'day')} (${going[0].item})` : ''
  return `${count(going.length, 'item')} under way${longest}.${usual ? ` Half take ${count(usual.half, 'day')} or less.` : ''}`
})
/** The same work, as the address of the scope has it. */
const scope = computed(() => {
  const [kind, key] = Object.entries(props.card.about ?? {}).find(([, key]) => key) ?? []
  return kind ? `${kind}:${key}` : 'all'
})
defineExpose({
  sentence,
  table: computed(() =>
    props.card.kind === 'ledger'
      ? { columns: ['What', 'Items'], rows: sums.value }
      : flow.value && { columns: flow.value.columns, rows: flow.value.rows.map((r) => r.cells) },
  ),
})
</script>

<template>
  <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
  <div v-else-if="card.kind === 'ledger'" class="sums" :style="{ maxHeight: `${height}px` }">
    <dl v-for="[what, n] in sums" :key="what">
      <dt class="quiet">{{ what }}</dt>
      <dd>{{ n < 0 ? `−${amount(-n)}` : amount(n) }}</dd>
    </dl>
    <RouterLink
      class="link"
      :to="{
        name: 'track',
        params: { id: store.id },
        query: {
          as: 'scope',
          of: scope,
        },
      }"
      >Its events</RouterLink
    >
  </div>
  <TimePicture v-else-if="flow" :says="`${title}. ${sentence}`" :chart="flow" :height="height - 22" />
  <p v-else-if="found.answer.value" class="quiet">The journal has nothing of it yet.</p>
</template>

<style scoped>
.sums {
  display: flex;
  flex-wrap: wrap;
  gap: 10px 26px;
  align-items: end;
  overflow: auto;
}

dl,
dd {
  margin: 0;
}

dd {
  font: 600 30px/1.2 var(--heading);
  font-variant-numeric: tabular-nums;
}
</style>
