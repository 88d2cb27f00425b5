<script setup lang="ts">
import { computed } from 'vue'
import type { CardAbout, ChartAsked, PageCard } from '@/api/types'
import { useProgram } from '@/line/program'
import FilterBuilder from '@/views/FilterBuilder.vue'
import { useViews } from '@/views/views'
import { useReport } from './report'

/** The settings of a card, chosen word by word; what is chosen is drawn at once. */
const props = defineProps<{ card: PageCard }>()
const store = useProgram()
const report = useReport()
const views = useViews()
void views.bring()

const words = computed(() => report.vocabulary?.cards.find((c) => c.kind === props.card.kind))
const chart = computed(() => props.card.chart)
const source = computed(() => report.vocabulary?.sources.find((s) => s.name === chart.value?.of))
const value = (event: Event) => (event.target as HTMLInputElement).value
const put = (more: Partial<PageCard>) => report.put(props.card.key, more)
/** What is left out is taken out, so that a question is always written the same. */
function ask(more: Partial<ChartAsked>): void {
  const next: ChartAsked = { ...chart.value!, ...more }
  if (!next.team) delete next.team
  if (!next.view) delete next.view
  if (!next.within) delete next.within
  if (!next.back) delete next.back
  if (!next.from) delete next.from
  if (!next.largest) delete next.largest
  if (!next.filter?.conditions?.length) delete next.filter
  if (!next.split?.length) delete next.split
  put({ chart: next })
}
function count(of: ChartAsked['of']): void {
  const next = report.vocabulary?.sources.find((s) => s.name === of)
  const split = (chart.value?.split ?? []).filter((name) => next?.splits.some((s) => s.name === name))
  const measure = next?.measures.some((m) => m.name === chart.value?.measure)
    ? chart.value!.measure
    : (next?.measures[0].name ?? 'number')
  ask({
    of,
    measure,
    split,
    within: of === 'hours' ? 56 : of === 'iterations' ? 84 : 0,
    ...(of === 'iterations' ? { filter: undefined, view: '' } : {}),
  })
}
function divide(n: 0 | 1, name: string): void {
  const split = [...(chart.value?.split ?? [])]
  if (name) split[n] = name
  else split.splice(n, 2)
  ask({ split, ...(split.length > 1 ? { back: 0, from: undefined } : {}) })
}
const filter = computed({
  get: () => chart.value?.filter,
  set: (next) => ask({ filter: next }),
})

/** Averages are not laid on one another, and a list or a ring has no past. */
const mean = computed(() => source.value?.measures.find((m) => m.name === chart.value?.measure)?.mean)
const over = computed(() => !!chart.value?.back || !!chart.value?.from)
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
    ...(averaged && ['stacked', 'areas', 'ring'].includes(chart.value!.form) ? { form: 'bars' } : {}),
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
  const form = chart.value!.form
  ask({
    back: days,
    from: undefined,
    ...(days
      ? { split: chart.value?.split?.slice(0, 1), form: ['ring', 'list'].includes(form) ? 'lines' : form }
      : {}),
  })
}
const withins = computed<[number, string][]>(() => {
  const way = chart.value?.of === 'hours' ? 'in the last' : 'of the next'
  return [
    [0, 'all there are'],
    ...[14, 28, 56, 84, 182, 365].map((n): [number, string] => [
      n,
      `${way} ${n / 7 === Math.round(n / 7) ? `${n / 7} weeks` : 'year'}`,
    ]),
  ]
})

/** What the card is about, as one choice: "release:R1". */
const about = computed({
  get: () => {
    const { release, team, item } = props.card.about ?? {}
    return release ? `release:${release}` : team ? `team:${team}` : item ? `item:${item}` : ''
  },
  set: (next) => {
    const [kind, ...key] = next.split(':')
    put({ about: kind ? ({ [kind]: key.join(':') } as CardAbout) : undefined })
  },
})
const abouts = computed(() => {
  const may = words.value?.about ?? []
  return [
    {
      title: 'Releases',
      of: may.includes('release')
        ? (store.program.releases ?? []).map((r) => [`release:${r.key}`, r.name])
        : [],
    },
    {
      title: 'Teams',
      of: may.includes('team') ? (store.program.teams ?? []).map((t) => [`team:${t.key}`, t.name]) : [],
    },
    {
      title: 'Features and initiatives',
      of: may.includes('item')
        ? (store.program.items ?? [])
            .filter((i) => i.kind === 'feature' || i.kind === 'initiative')
            .map((i) => [`item:${i.key}`, `${i.key} ${i.title}`])
        : [],
    },
  ].filter((g) => g.of.length)
})
</script>

<template>
  <aside class="panel" aria-label="Card settings" data-region>
    <header>
      <h2>{{ words?.title }}</h2>
      <button class="round" aria-label="Close the settings" @click="report.chosen = ''">
        <i class="pi pi-times" aria-hidden="true" />
      </button>
    </header>
    <p class="quiet small">{{ words?.says }}</p>
    <label class="field"
      ><span class="label">Title</span>
      <input
        v-typing
        class="in"
        :value="card.title ?? ''"
        maxlength="120"
        :placeholder="words?.title"
        @change="put({ title: value($event).trim() || undefined })"
      />
    </label>
    <label v-if="abouts.length" class="field"
      ><span class="label">About</span>
      <select v-model="about" class="in">
        <option v-if="!words?.must" value="">everything</option>
        <optgroup v-for="g in abouts" :key="g.title" :label="g.title">
          <option v-for="[key, name] in g.of" :key="key" :value="key">{{ name }}</option>
        </optgroup>
      </select>
    </label>
    <label v-if="card.kind === 'text'" class="field"
      ><span class="label">Text, as Markdown</span>
      <textarea
        v-typing
        class="in"
        rows="12"
        maxlength="20000"
        :value="card.text ?? ''"
        @change="put({ text: value($event) })"
      />
    </label>
    <template v-if="chart && source">
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
          <option v-if="chart.back && !backs.some(([d]) => d === chart?.back)" :value="chart.back">
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
          <select class="in" :value="chart.view ?? ''" @change="ask({ view: value($event) })">
            <option value="">none</option>
            <option
              v-for="v in [...(views.vocabulary?.readyMade ?? []), ...views.shared]"
              :key="v.key"
              :value="v.key"
            >
              {{ v.name }}
            </option>
          </select>
        </label>
        <details class="field" :open="!!chart.filter?.conditions?.length">
          <summary>Conditions on {{ source.filter }}</summary>
          <FilterBuilder v-model="filter" :failure="''" :sentence="report.drawnOf(card)?.filter" />
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
    </template>
    <div class="buttons">
      <button class="plain-button" @click="report.take(card.key)">Take it away</button>
    </div>
  </aside>
</template>

<style scoped>
.panel {
  display: flex;
  flex: none;
  flex-direction: column;
  gap: 8px;
  width: 330px;
  padding: 10px 16px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
  overflow: auto;
}

header {
  display: flex;
  align-items: center;
  justify-content: space-between;
}

h2 {
  margin: 0;
  font-size: 17px;
}

p {
  margin: 0;
}

.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}

.field {
  min-width: 0;
}

textarea.in {
  height: auto;
  resize: vertical;
}

summary {
  cursor: pointer;
}

/* The conditions stand one below the other here. */
.panel :deep(.filter) {
  width: auto;
}

.panel :deep(.condition) {
  grid-template-columns: 1fr 1fr 24px;
}

.panel :deep(.condition > .quiet) {
  display: none;
}

.panel :deep(.condition > .values),
.panel :deep(.condition > .in) {
  grid-column: 1 / 3;
  grid-row: 2;
}

.panel :deep(.condition > .round) {
  grid-column: 3;
  grid-row: 1;
}

@media print {
  .panel {
    display: none;
  }
}
</style>
