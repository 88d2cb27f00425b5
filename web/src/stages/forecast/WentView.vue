<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { answer, client } from '@/api/client'
import ChartCard from '@/ui/ChartCard.vue'
import { useChartLook } from '@/ui/chartLook'
import DateField from '@/ui/DateField.vue'
import { shortDate, timeText, toDate, toDay } from '@/ui/dates'
import { amount, count, percent } from '@/ui/format'
import { useJournal } from '@/frame/journal'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import type { Asked } from './asked'
import { causeTitles, movedMost, saidChart } from './went'
import AnswerPage from './AnswerPage.vue'
import { useQuestion } from './useQuestion'

/** What the forecast said day by day, and what moved it. */
const props = defineProps<{ asked: Asked }>()
const store = useProgram()
const scenarios = useScenarios()
void scenarios.load()
const journal = useJournal()
const look = useChartLook()
const { about, name, text, say, work } = props.asked
const near = computed(() => store.todayDay)
const day = (date?: string) => shortDate(date, near.value)

/** Days are told of what has a date: releases and milestones. */
const landed = computed(() =>
  !props.asked.picked.value.length && (work.kind.value === 'release' || work.kind.value === 'milestone')
    ? { [work.kind.value]: work.key.value }
    : undefined,
)
const history = useQuestion(
  (signal) =>
    landed.value
      ? answer(
          client.GET('/api/v1/programs/{id}/forecast/history', {
            params: { path: { id: store.id }, query: landed.value },
            signal,
          }),
        )
      : undefined,
  () => landed.value,
  {
    // Days that are not reckoned yet are, while one looks on.
    then: (found) => {
      if (found.missing) history.refresh()
    },
  },
)
const days = computed(() => history.answer.value?.days ?? [])
const charts = computed(() =>
  (['chance', 'landing'] as const).map((as) => ({
    as,
    title: as === 'chance' ? 'The chance, day by day' : 'The landing, day by day',
    chart: saidChart(days.value, as, near.value, look()),
  })),
)

/** Since when changes are put down to causes. */
const since = computed({
  get: () => (/^\d{4}-\d\d-\d\d$/.test(text('since')) ? text('since') : toDate(near.value - 7)),
  set: (date) => say({ since: date || undefined }),
})
const quick = computed(() => {
  const began = (store.program.teams ?? [])
    .flatMap((t) => t.iterations ?? [])
    .filter((it) => it.state === 'open')
    .map((it) => it.start)
    .sort()
    .at(-1)
  return [
    ['yesterday', toDate(near.value - 1)],
    ['a week ago', toDate(near.value - 7)],
    ...scenarios.baselines.slice(0, 3).map((b): [string, string] => [b.name, b.day]),
    ...(began ? [['the start of the iteration', toDate(toDay(began) - 1)]] : []),
    ['four weeks ago', toDate(near.value - 28)],
  ]
})
const causes = useQuestion(
  (signal) =>
    answer(
      client.POST('/api/v1/programs/{id}/forecast/causes', {
        params: { path: { id: store.id } },
        body: { ...about.value, since: since.value },
        signal,
      }),
    ),
  () => [about.value, since.value],
  { wait: 40 },
)
const found = computed(() => causes.answer.value)
const points = (chance: number | undefined) =>
  chance === undefined
    ? ''
    : Math.abs(chance) < 0.0005
      ? '0'
      : `${chance > 0 ? '+' : '−'}${amount(Math.abs(chance * 100))}`
const later = (n: number) => (Math.abs(n) < 0.05 ? '0' : `${n > 0 ? '+' : '−'}${amount(Math.abs(n))}`)
const total = computed(() => ({
  days: (found.value?.after.days ?? 0) - (found.value?.before.days ?? 0),
  chance:
    found.value?.after.chance !== undefined && found.value.before.chance !== undefined
      ? found.value.after.chance - found.value.before.chance
      : undefined,
}))
const said = computed(() => {
  const f = found.value
  if (!f) return ''
  if (!f.since) return 'The journal does not reach back that far'
  const n = Math.round((total.value.chance ?? 0) * 100)
  if (total.value.chance !== undefined && n)
    return `${count(Math.abs(n), 'point')} of chance ${n > 0 ? 'gained' : 'lost'} since ${day(f.since)}`
  const d = Math.round(total.value.days)
  return d
    ? `${count(Math.abs(d), 'day')} ${d > 0 ? 'later' : 'earlier'} than on ${day(f.since)}`
    : `As on ${day(f.since)}`
})

/** The day whose edits are looked at. */
const looked = ref('')
watch(about, () => (looked.value = ''))
const moves = useQuestion(
  (signal) =>
    looked.value
      ? answer(
          client.POST('/api/v1/programs/{id}/forecast/moves', {
            params: { path: { id: store.id } },
            body: { ...about.value, day: looked.value },
            signal,
          }),
        )
      : undefined,
  () => [about.value, looked.value],
)
const most = computed(() => movedMost(days.value))
</script>

<template>
  <AnswerPage
    :failure="causes.failure.value || history.failure.value"
    :waiting="causes.asking.value ? 'Reading the journal…' : ''"
    :answer="found"
    :lead="name"
    :said="said"
  >
    <template #more="{ answer: told }">
      <p v-if="told.since">
        <template v-if="told.before.chance !== undefined && told.after.chance !== undefined">
          From <b>{{ percent(told.before.chance) }}</b> to <b>{{ percent(told.after.chance) }}</b>;
        </template>
        even odds from {{ day(told.before.even) }} to {{ day(told.after.even) }}, 85 % from
        {{ day(told.before.safe) }} to {{ day(told.after.safe) }}.
      </p>
    </template>
    <template #default="{ answer: told }">
      <div class="pair">
        <div class="stack">
          <template v-if="landed">
            <p v-if="history.answer.value?.missing" role="status" class="quiet small">
              Reckoning {{ count(history.answer.value.missing, 'day') }} more of the past…
            </p>
            <ChartCard
              v-for="c in charts"
              :key="c.as"
              :title="c.title"
              :says="`${c.title}: ${count(days.length, 'day')}.`"
              :chart="c.chart"
              :file="`forecast-history-${c.as}`"
              :height="170"
              @pick="looked = toDate($event)"
            />
          </template>
          <p v-else class="quiet">What was said day by day is told of releases and milestones.</p>
        </div>
        <div class="stack">
          <section class="card" aria-label="What changed it">
            <h3>What changed it</h3>
            <div class="since">
              <label for="went-since">Since the end of</label>
              <DateField id="went-since" v-model="since" />
              <button v-for="[title, date] in quick" :key="title" class="link small" @click="since = date">
                {{ title }}
              </button>
            </div>
            <table v-if="told.since" class="table">
              <thead>
                <tr>
                  <th>Cause</th>
                  <th class="n">Points</th>
                  <th class="n">Days</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="c in told.causes" :key="c.kind">
                  <td>
                    {{ causeTitles[c.kind] }}
                    <span v-if="c.items" class="small quiet">
                      <template v-for="key in c.items.slice(0, 6)" :key="key">
                        <RouterLink
                          v-if="store.items.has(key)"
                          :to="{ name: 'backlog', params: { id: store.id }, query: { item: key } }"
                          :title="store.items.get(key)?.title"
                          >{{ key }}</RouterLink><template v-else>{{ key }}</template
                        >{{ ' ' }}
                      </template>
                      <template v-if="c.items.length > 6">and {{ c.items.length - 6 }} more</template>
                    </span>
                  </td>
                  <td class="n">{{ points(c.chance) }}</td>
                  <td class="n">{{ later(c.days) }}</td>
                </tr>
                <tr class="sum">
                  <td><b>Together</b></td>
                  <td class="n">
                    <b>{{ points(total.chance) }}</b>
                  </td>
                  <td class="n">
                    <b>{{ later(total.days) }}</b>
                  </td>
                </tr>
              </tbody>
            </table>
            <p class="quiet small">
              Points of chance, and days by which it lands later on average: the plan of then is turned into
              that of today by one group of changes after another, and played after each.
            </p>
          </section>
          <section v-if="landed" class="card" aria-label="Edits that moved it">
            <h3>Edits that moved it</h3>
            <div class="since">
              <button
                v-for="d in most"
                :key="d"
                class="chip"
                :aria-pressed="looked === d"
                @click="looked = looked === d ? '' : d"
              >
                {{ day(d) }}
              </button>
              <span v-if="!most.length" class="quiet">No day moved it by two points or more.</span>
            </div>
            <p v-if="moves.failure.value" role="alert" class="failure">{{ moves.failure.value }}</p>
            <p v-if="moves.asking.value" role="status" class="quiet">Playing each edit of that day…</p>
            <template v-if="moves.answer.value">
              <ol v-if="moves.answer.value.moves.length">
                <li v-for="m in moves.answer.value.moves" :key="m.revision">
                  <button class="link" title="In the journal" @click="journal.show(m.revision)">
                    {{ m.label }}
                  </button>
                  <span class="quiet small">{{ m.by }}, {{ timeText(m.at) }}</span>
                  <span class="worth">{{
                    m.before.chance !== undefined && m.after.chance !== undefined
                      ? `${percent(m.before.chance)} → ${percent(m.after.chance)}`
                      : `${day(m.before.even)} → ${day(m.after.even)}`
                  }}</span>
                </li>
              </ol>
              <p v-else class="quiet">No edit of {{ day(moves.answer.value.day) }} moved it: time did.</p>
              <p v-if="moves.answer.value.leftOut" class="quiet small">
                {{ count(moves.answer.value.leftOut, 'edit') }} of that day were not looked at.
              </p>
            </template>
          </section>
        </div>
      </div>
    </template>
  </AnswerPage>
</template>

<style scoped>
.since {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  margin-bottom: 8px;
}

ol {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 10px;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}

li .link {
  text-align: left;
}

li .quiet {
  grid-row: 2;
}

.worth {
  font-weight: 600;
  white-space: nowrap;
}

td a {
  color: inherit;
}
</style>
