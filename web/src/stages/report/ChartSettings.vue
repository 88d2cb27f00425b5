<script setup lang="ts">
import { computed } from 'vue'
import type { ChartAsked } from '@/api/types'
import { useProgram } from '@/line/program'
import FilterBuilder from '@/views/FilterBuilder.vue'
import { useViews } from '@/views/views'
import { useReport } from './report'
import { choiceOf, viewChoices, viewOf } from './viewChoices'

/** What a chart asks, chosen word by word. */
const chart = defineModel<ChartAsked>({ required: true })
/** What its conditions say as a sentence, as the server answered. */
const props = defineProps<{
  sentence?: string
  /** Others read it: no view of one's own. */
  forAll?: boolean
}>()
const store = useProgram()
const report = useReport()
const views = useViews()
void views.bring()

const source = computed(() => report.vocabulary?.sources.find((s) => s.name === chart.value.of))
const value = (event: Event) => (event.target as HTMLInputElement).value
/** What is left out is taken out, so that a question is always written the same. */
function ask(more: Partial<ChartAsked>): void {
  const next: ChartAsked = { ...chart.value, ...more }
  if (!next.team) delete next.team
  if (!next.view) delete next.view
  if (!next.mine) delete next.mine
  if (!next.within) delete next.within
  if (!next.back) delete next.back
  if (!next.from) delete next.from
  if (!next.largest) delete next.largest
  if (!next.filter?.conditions?.length) delete next.filter
  if (!next.split?.length) delete next.split
  chart.value = next
}
function count(of: ChartAsked['of']): void {
  const next = report.vocabulary?.sources.find((s) => s.name === of)
  const split = (chart.value.split ?? []).filter((name) => next?.splits.some((s) => s.name === name))
  const measure = next?.measures.some((m) => m.name === chart.value.measure)
    ? chart.value.measure
    : (next?.measures[0].name ?? 'number')
  ask({
    of,
    measure,
    split,
    within: of === 'hours' ? 56 : of === 'iterations' ? 84 : 0,
    ...(of === 'iterations' ? { filter: undefined, view: '', mine: undefined } : {}),
  })
}
function divide(n: 0 | 1, name: string): void {
  const split = [...(chart.value.split ?? [])]
  if (name) split[n] = name
  else split.splice(n, 2)
  ask({ split, ...(split.length > 1 ? { back: 0, from: undefined } : {}) })
}
const filter = computed({
  get: () => chart.value.filter,
  set: (next) => ask({ filter: next }),
})

/** Averages are not laid on one another, and a list or a ring has no past. */
const mean = computed(() => source.value?.measures.find((m) => m.name === chart.value.measure)?.mean)
const over = computed(() => !!chart.value.back || !!chart.value.from)
const forms = computed(() =>
  (
    [
      ['bars', 'bars side by side'],
      ['stacked', 'bars on one another'],
      ['lines', 'lines'],
      ['areas', 'areas on one another'],
      ['ring', 'a ring'],
      ['table', 'a table'],
      ['figure', 'a figure'],
      ['list', 'a list'],
    ] as [ChartAsked['form'], string][]
  ).filter(
    ([form]) =>
      !(mean.value && ['stacked', 'areas', 'ring'].includes(form)) &&
      !(over.value && ['ring', 'list'].includes(form)),
  ),
)
function measure(name: string): void {
  const averaged = source.value?.measures.find((m) => m.name === name)?.mean
  ask({
    measure: name,
    ...(averaged && ['stacked', 'areas', 'ring'].includes(chart.value.form) ? { form: 'bars' } : {}),
  })
}
const backs: [number, string][] = [
  [0, 'as it is now'],
  [7, 'over the last week'],
  [14, 'over the last 2 weeks'],
  [28, 'over the last 4 weeks'],
  [84, 'over the last 12 weeks'],
  [182, 'over the last 26 weeks'],
  [365, 'over the last year'],
  [1830, 'since the data began'],
]
function back(days: number): void {
  const form = chart.value.form
  ask({
    back: days,
    from: undefined,
    ...(days
      ? { split: chart.value.split?.slice(0, 1), form: ['ring', 'list'].includes(form) ? 'lines' : form }
      : {}),
  })
}
const withins = computed<[number, string][]>(() => {
  const way = chart.value.of === 'hours' ? 'in the last' : 'of the next'
  return [
    [0, 'all there are'],
    ...[14, 28, 56, 84, 182, 365].map((n): [number, string] => [
      n,
      `${way} ${n / 7 === Math.round(n / 7) ? `${n / 7} weeks` : 'year'}`,
    ]),
  ]
})
</script>

<template>
  <div v-if="source" class="chart">
    <label class="field"
      ><span class="label">Count</span>
      <select class="in" :value="chart.of" @change="count(value($event) as ChartAsked['of'])">
        <option v-for="s in report.vocabulary?.sources" :key="s.name" :value="s.name">{{ s.title }}</option>
      </select>
    </label>
    <label class="field"
      ><span class="label">Measure</span>
      <select class="in" :value="chart.measure" @change="measure(value($event))">
        <option v-for="m in source.measures" :key="m.name" :value="m.name">{{ m.title }}</option>
      </select>
    </label>
    <div class="pair">
      <label v-for="n in [0, 1] as const" :key="n" class="field"
        ><span class="label">{{ n ? 'and by' : 'Divided by' }}</span>
        <select
          class="in"
          :value="chart.split?.[n] ?? ''"
          :disabled="n === 1 && (!chart.split?.length || over)"
          @change="divide(n, value($event))"
        >
          <option value="">nothing</option>
          <option
            v-for="s in source.splits"
            :key="s.name"
            :value="s.name"
            :disabled="chart.split?.[1 - n] === s.name"
          >
            {{ s.title }}{{ s.weeks ? ', by week' : '' }}
          </option>
        </select>
      </label>
    </div>
    <label class="field"
      ><span class="label">Drawn as</span>
      <select class="in" :value="chart.form" @change="ask({ form: value($event) as ChartAsked['form'] })">
        <option v-for="[form, name] in forms" :key="form" :value="form">{{ name }}</option>
      </select>
    </label>
    <label class="field"
      ><span class="label">When</span>
      <select class="in" :value="chart.back ?? 0" @change="back(Number(value($event)))">
        <option v-for="[days, name] in backs" :key="days" :value="days">{{ name }}</option>
        <option v-if="chart.back && !backs.some(([d]) => d === chart.back)" :value="chart.back">
          over the last {{ chart.back }} days
        </option>
      </select>
    </label>
    <label v-if="chart.of === 'hours' || chart.of === 'iterations'" class="field"
      ><span class="label">Which</span>
      <select class="in" :value="chart.within ?? 0" @change="ask({ within: Number(value($event)) })">
        <option v-for="[days, name] in withins" :key="days" :value="days">{{ name }}</option>
      </select>
    </label>
    <label class="field"
      ><span class="label">Of team</span>
      <select class="in" :value="chart.team ?? ''" @change="ask({ team: value($event) })">
        <option value="">all teams</option>
        <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
      </select>
    </label>
    <template v-if="source.filter">
      <label class="field"
        ><span class="label">Of view</span>
        <select
          class="in"
          :value="choiceOf(chart)"
          @change="ask({ view: undefined, mine: undefined, ...viewOf(value($event)) })"
        >
          <option value="">none</option>
          <optgroup v-for="g in viewChoices(!props.forAll)" :key="g.title" :label="g.title">
            <option v-for="[choice, name] in g.of" :key="choice" :value="choice">{{ name }}</option>
          </optgroup>
        </select>
      </label>
      <details class="field" :open="!!chart.filter?.conditions?.length">
        <summary>Conditions on {{ source.filter }}</summary>
        <FilterBuilder v-model="filter" :failure="''" :sentence="sentence" />
      </details>
    </template>
    <label class="check"
      ><input
        type="checkbox"
        :checked="chart.largest"
        @change="ask({ largest: ($event.target as HTMLInputElement).checked })"
      />
      the largest first</label
    >
  </div>
</template>

<style scoped>
.chart {
  display: grid;
  gap: 8px;
}

.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}

.field {
  min-width: 0;
}

summary {
  cursor: pointer;
}

/* The conditions stand one below the other here. */
.chart :deep(.filter) {
  width: auto;
}

.chart :deep(.condition) {
  grid-template-columns: 1fr 1fr 24px;
}

.chart :deep(.condition > .quiet) {
  display: none;
}

.chart :deep(.condition > .values),
.chart :deep(.condition > .in) {
  grid-column: 1 / 3;
  grid-row: 2;
}

.chart :deep(.condition > .round) {
  grid-column: 3;
  grid-row: 1;
}
</style>
