<script setup lang="ts">
import { ofLine } from '@/api/inView'
import { computed, defineAsyncComponent } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer, client } from '@/api/client'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import { shortDate, toDate, toDay } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'
import { useWork } from '@/views/work'
import WorkPick from '@/views/WorkPick.vue'
import BurnUp from './BurnUp.vue'
import ScopeEvents from './ScopeEvents.vue'
import ScopeLedger from './ScopeLedger.vue'
import ScopeProgress from './ScopeProgress.vue'
import { momentOf } from './words'

/** How the work of a release, a feature, a team or all came about: burnup, ledger, progress and flow. */
const FlowCharts = defineAsyncComponent(() => import('./FlowCharts.vue'))
const store = useProgram()
const scenarios = useScenarios()
void scenarios.load()
const route = useRoute()
const router = useRouter()
const text = (key: string): string => (typeof route.query[key] === 'string' ? route.query[key] : '')
const say = (query: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...query } })

/** What it is about, as in the address: "release:R1", "item:FE-3", "team:LC", "view:…", "mine:…", or "all". */
const { groups, of, key, name, release, scope } = useWork(() => text('of'))

/** Since when changes are summed up: its start, yesterday, a week ago, or a day. */
const since = computed(() => text('since'))
const sinceDay = computed(() => {
  if (since.value === 'yesterday') return toDate(store.todayDay - 1)
  if (since.value === 'week') return toDate(store.todayDay - 7)
  return /^\d{4}-\d\d-\d\d$/.test(since.value) && !Number.isNaN(toDay(since.value)) ? since.value : ''
})
/** Whether that is the day of a baseline. */
const isBaseline = computed(() => scenarios.baselines.some((b) => b.day === since.value))
const sinceText = computed(() =>
  sinceDay.value ? `on ${shortDate(sinceDay.value, store.todayDay)}` : 'at the start',
)
function choose(event: Event): void {
  const value = (event.target as HTMLSelectElement).value
  say({ since: value === 'day' ? toDate(store.todayDay - 14) : value || undefined })
}
/** Whose line is drawn: a team's, in its unit, or that of all, in items. */
const line = computed(() => {
  const asked = text('line')
  return store.teams.has(asked) ? asked : ''
})
/** Whether the hours left of its tasks are drawn. */
const hours = computed(() => text('in') === 'hours')
const drawnIn = computed({
  get: () => `${hours.value ? 'hours:' : ''}${line.value}`,
  set: (value) => {
    const [team, unit] = value.split(':').reverse()
    say({ line: team || undefined, in: unit || undefined })
  },
})
const what = computed({ get: () => text('what'), set: (value) => say({ what: value || undefined }) })

const found = useAnswer(
  () =>
    store.id
      ? answer(
          client.GET('/api/v1/programs/{id}/scope-history', {
            params: {
              path: { id: store.id },
              query: {
                ...scope.value,
                line: line.value || undefined,
                since: sinceDay.value || undefined,
              },
            },
          }),
        )
      : undefined,
  [() => store.id, () => store.revision, () => store.today, of, line, sinceDay, () => store.explained],
  { wait: 30, forget: ([id, , , now], [before, , , then]) => id !== before || now !== then },
)
const history = computed(() => found.answer.value)
const run = computed(() =>
  line.value ? history.value?.teams.find((t) => t.team === line.value) : history.value?.all,
)
const team = computed(() => store.teams.get(line.value))
const head = computed(() => {
  const sums = history.value?.all
  if (!sums) return ''
  if (!sums.total.items) return 'It holds no items.'
  return `${sums.done.items} of ${count(sums.total.items, 'item')} done, ${percent(sums.done.items / sums.total.items)}`
})
/** The journal may begin after the scope did. */
const began = computed(() => {
  const from = history.value && Math.floor(momentOf(history.value.all.from))
  if (from === undefined) return ''
  return release.value?.start && toDay(release.value.start) >= from
    ? ''
    : `The journal tells from ${shortDate(toDate(from), store.todayDay)} on.`
})
const file = computed(() =>
  ofLine(
    `/api/v1/programs/${store.id}/reports/release-review?${new URLSearchParams({ release: key.value }).toString()}`,
  ),
)
const lines = computed(() => history.value?.teams.filter((t) => t.team).map((t) => t.team) ?? [])
</script>

<template>
  <div class="view">
    <header>
      <label class="check"
        >Of
        <WorkPick
          :groups="groups"
          :model-value="of"
          @update:model-value="say({ of: $event, line: undefined })"
        />
      </label>
      <label class="check"
        >changes since
        <select
          class="in"
          aria-label="Changes since"
          :value="isBaseline || sinceDay !== since || !since ? since : 'day'"
          @change="choose"
        >
          <option value="">its start</option>
          <option value="yesterday">yesterday</option>
          <option value="week">a week ago</option>
          <option v-for="b in scenarios.baselines" :key="b.id" :value="b.day">{{ b.name }}</option>
          <option value="day">a day…</option>
        </select>
      </label>
      <input
        v-if="sinceDay === since && since && !isBaseline"
        v-typing
        class="in"
        type="date"
        aria-label="Since which day"
        :value="since"
        @change="say({ since: ($event.target as HTMLInputElement).value || undefined })"
      />
      <label class="check"
        >drawn in
        <select
          class="in"
          aria-label="Drawn in"
          :value="drawnIn"
          @change="drawnIn = ($event.target as HTMLSelectElement).value"
        >
          <option value="">items of all</option>
          <option v-for="t in lines" :key="t" :value="t">
            {{ store.teams.get(t)?.unit }} of {{ store.teams.get(t)?.name }}
          </option>
          <option value="hours:">hours left of all</option>
          <option v-for="t in lines" :key="`hours:${t}`" :value="`hours:${t}`">
            hours left of {{ store.teams.get(t)?.name }}
          </option>
        </select>
      </label>
      <a v-if="release && history" class="chip" :href="file" download>Markdown</a>
    </header>
    <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
    <p v-if="!history && found.asking.value" role="status" class="quiet">Reading the journal…</p>
    <template v-if="history">
      <div class="titled">
        <h2>{{ name }}</h2>
        <p>
          {{ head }}
          <template v-if="run && team">
            · {{ team.name }} {{ sized(run.done.size, team) }} of {{ sized(run.total.size, team) }}
          </template>
          <template v-if="run && hours"> · {{ amount(run.hours.left) }} h left of its tasks</template>
          <template v-if="release?.due"> · due {{ shortDate(release.due, store.todayDay) }}</template>
        </p>
        <p class="quiet small">{{ began }}</p>
      </div>
      <div class="first">
        <BurnUp
          v-if="run"
          :run="run"
          :team="team"
          :due="release?.due"
          :ideal="history.ideal"
          :name="name"
          :hours="hours"
        />
        <p v-else class="quiet">{{ team?.name }} has no work there.</p>
        <ScopeEvents
          v-model:what="what"
          :steps="run?.steps ?? []"
          :team="team"
          :from="run?.since.from ?? history.all.from"
          :left-out="history.leftOut"
        />
      </div>
      <ScopeLedger
        :history="history"
        :line="line"
        :what="what"
        :since="sinceText"
        @read="(to, kind) => say({ line: to || undefined, what: kind })"
      />
      <template v-if="history.all.total.items">
        <ScopeProgress :history="history" :release="release?.key" />
        <FlowCharts :history="history" />
      </template>
    </template>
  </div>
</template>

<style scoped>
.view {
  display: grid;
  gap: 14px;
  padding: 10px 16px 24px;
}

header {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
}

header label {
  white-space: nowrap;
}

header a {
  margin-left: auto;
  line-height: 26px;
  text-decoration: none;
}

header select {
  max-width: 260px;
}

.titled {
  display: flex;
  gap: 4px 14px;
  align-items: baseline;
}

h2,
p {
  margin: 0;
}

h2 {
  font-size: 18px;
}

.first {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 24px;
}
</style>
