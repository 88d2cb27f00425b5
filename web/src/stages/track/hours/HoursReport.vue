<script setup lang="ts">
import { ofLine } from '@/api/inView'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answer, client } from '@/api/client'
import type { HoursLine } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import DateField from '@/ui/DateField.vue'
import { shortDate, toDate } from '@/ui/dates'
import { amount, count, sized } from '@/ui/format'

/** Hours of capacity, planned and spent over some weeks, by person, team, item or activity. */
const store = useProgram()
const route = useRoute()
const router = useRouter()
const say = (query: Record<string, string | undefined>) =>
  void router.replace({ query: { ...route.query, ...query } })
const text = (value: unknown) => (typeof value === 'string' ? value : undefined)

const splits = ['person', 'team', 'item', 'activity'] as const
const by = computed(() => splits.find((s) => s === route.query.split) ?? 'person')
const from = computed(() => text(route.query.from) ?? toDate(store.todayDay - 27))
const to = computed(() => text(route.query.to) ?? store.today)
const team = computed(() => store.teams.get(text(route.query.team) ?? '')?.key)
const asked = computed(() => ({
  from: from.value,
  to: to.value,
  by: by.value,
  ...(team.value && { teams: [team.value] }),
}))

const found = useAnswer(
  () =>
    store.id
      ? answer(
          client.GET('/api/v1/programs/{id}/hours', {
            params: { path: { id: store.id }, query: asked.value },
          }),
        )
      : undefined,
  [() => store.id, () => store.revision, asked],
  { wait: 30, forget: ([, , now], [, , before]) => JSON.stringify(now) !== JSON.stringify(before) },
)
const report = computed(() => found.answer.value)
const works = computed(() => by.value === 'person' || by.value === 'team')
const none = { person: 'nobody', team: 'no team', item: 'no item', activity: 'no activity' }
const name = (l: HoursLine) =>
  !l.key
    ? none[by.value]
    : by.value === 'item'
      ? `${l.key} ${l.title === l.key ? '' : l.title}`
      : (l.title ?? l.key)
const file = (format: 'xlsx' | 'csv') => {
  const query = new URLSearchParams({ from: from.value, to: to.value, by: by.value, format })
  if (team.value) query.append('teams', team.value)
  return ofLine(`/api/v1/programs/${store.id}/reports/hours?${query.toString()}`)
}
const figure = (n: number) => (n ? amount(n) : '·')
const shown = computed(
  () => report.value?.lines.filter((l) => l.capacity || l.planned || l.spent || l.left) ?? [],
)
</script>

<template>
  <div class="report">
    <div class="tools">
      <label class="by"
        ><span class="quiet">by</span>
        <select class="chip" :value="by" @change="say({ split: ($event.target as HTMLSelectElement).value })">
          <option v-for="s in splits" :key="s" :value="s">{{ s }}</option>
        </select>
      </label>
      <label class="by"
        ><span class="quiet">of</span>
        <select
          class="chip"
          :value="team ?? ''"
          @change="say({ team: ($event.target as HTMLSelectElement).value || undefined })"
        >
          <option value="">all teams</option>
          <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
        </select>
      </label>
      <label class="by"
        ><span class="quiet">from</span>
        <DateField :model-value="from" aria-label="From" @update:model-value="(d) => d && say({ from: d })" />
      </label>
      <label class="by"
        ><span class="quiet">to</span>
        <DateField
          :model-value="to"
          :min="from"
          aria-label="To"
          @update:model-value="(d) => d && say({ to: d })"
        />
      </label>
      <span class="gap" />
      <a class="chip" :href="file('xlsx')" download>XLSX</a>
      <a class="chip" :href="file('csv')" download>CSV</a>
    </div>
    <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
    <p v-else-if="!report" role="status" class="quiet">Adding up…</p>
    <template v-else>
      <p v-if="!shown.length" class="quiet">
        No hours were planned or spent in these days. They are planned by the hours estimated for tasks, and
        entered under A week.
      </p>
      <div v-else class="wide" tabindex="0" role="region" aria-label="Hours by week">
        <table :aria-label="`Hours by ${by}`">
          <thead>
            <tr>
              <th scope="col">{{ by === 'item' ? 'Item' : by[0].toUpperCase() + by.slice(1) }}</th>
              <th v-if="works" scope="col" class="number">Capacity</th>
              <th scope="col" class="number">Planned</th>
              <th scope="col" class="number">Spent</th>
              <th scope="col" class="number" title="Of tasks that are to do in these days' iterations">
                Left
              </th>
              <th v-for="w in report.weeks" :key="w" scope="col" class="number week">
                {{ shortDate(w, store.todayDay) }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in shown" :key="l.key">
              <th scope="row">
                <RouterLink
                  v-if="by === 'item' && store.items.has(l.key)"
                  :to="{ name: 'backlog', params: { id: store.id }, query: { item: l.key } }"
                  >{{ name(l) }}</RouterLink
                >
                <template v-else>{{ name(l) }}</template>
              </th>
              <td v-if="works" class="number">{{ figure(l.capacity) }}</td>
              <td class="number">{{ figure(l.planned) }}</td>
              <td class="number">
                <b :class="{ over: works && l.spent > l.capacity + 0.05 }">{{ figure(l.spent) }}</b>
              </td>
              <td class="number">{{ figure(l.left) }}</td>
              <td v-for="(c, i) in l.weeks" :key="i" class="number week">
                <template v-if="c.spent || c.planned || c.capacity">
                  <span :class="{ over: works && c.spent > c.capacity + 0.05 }">{{ figure(c.spent) }}</span>
                  <span v-if="works ? c.capacity : c.planned" class="quiet small of"
                    >of {{ figure(works ? c.capacity : c.planned) }}</span
                  >
                </template>
              </td>
            </tr>
          </tbody>
          <tfoot>
            <tr>
              <th scope="row">All</th>
              <td v-if="works" class="number">{{ figure(report.all.capacity) }}</td>
              <td class="number">{{ figure(report.all.planned) }}</td>
              <td class="number">{{ figure(report.all.spent) }}</td>
              <td class="number">{{ figure(report.all.left) }}</td>
              <td v-for="(c, i) in report.all.weeks" :key="i" class="number week">
                {{ figure(c.spent) }}
                <span class="quiet small of">of {{ figure(works ? c.capacity : c.planned) }}</span>
              </td>
            </tr>
          </tfoot>
        </table>
      </div>
      <p v-if="shown.length" class="quiet small">
        A week reads spent of {{ works ? 'capacity' : 'planned' }}. Planned are the hours estimated for tasks,
        or sizes in days and hours, spread over the working days of their iterations.
      </p>
      <section v-if="report.sized.length" aria-label="Sizes against hours">
        <h3>Sizes against hours, of what was done in these days</h3>
        <details v-for="s in report.sized" :key="s.team">
          <summary>
            <b>{{ store.teams.get(s.team)?.name }}</b>
            {{ amount(s.hours) }} h for {{ sized(s.size, store.teams.get(s.team)) }} in
            {{ count(s.items.length, 'item') }}: <b>{{ amount(s.perUnit) }} h</b> a {{ s.unit.slice(0, -1) }}
          </summary>
          <ul>
            <li v-for="x in s.items" :key="x.item">
              <RouterLink :to="{ name: 'backlog', params: { id: store.id }, query: { item: x.item } }"
                ><b>{{ x.item }}</b> {{ store.items.get(x.item)?.title }}</RouterLink
              >
              <span class="quiet small">
                {{ amount(x.hours) }} h for {{ sized(x.size, store.teams.get(s.team)) }},
                {{ amount(x.hours / x.size) }} h a {{ s.unit.slice(0, -1) }}</span
              >
            </li>
          </ul>
        </details>
      </section>
    </template>
  </div>
</template>

<style scoped>
.report {
  display: grid;
  gap: 10px;
}

.tools,
.by {
  display: flex;
  gap: 8px;
  align-items: center;
}

.gap {
  flex: 1;
}

.tools a {
  line-height: 26px;
  text-decoration: none;
}

.wide {
  overflow-x: auto;
}

table {
  border-collapse: collapse;
}

th,
td {
  padding: 4px 10px;
  border-bottom: 1px solid var(--rule);
  text-align: left;
  font-weight: 400;
  white-space: nowrap;
}

thead th,
tfoot th,
tfoot td {
  font-weight: 600;
}

th:first-child {
  position: sticky;
  left: 0;
  max-width: 320px;
  overflow: hidden;
  background: var(--paper);
  text-overflow: ellipsis;
}

.number {
  text-align: right;
}

.week {
  border-left: 1px solid var(--rule);
}

.of {
  margin-left: 4px;
  font-weight: 400;
}

.over {
  color: var(--over);
}

p,
h3,
ul {
  margin: 0;
}

h3 {
  margin-top: 8px;
  font-size: 14px;
}

ul {
  padding: 2px 0 6px 20px;
  list-style: none;
}

a {
  color: inherit;
}

summary {
  cursor: pointer;
}

@media print {
  .tools {
    display: none;
  }
}
</style>
