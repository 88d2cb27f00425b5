<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { BackTest } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import AnswerPage from './AnswerPage.vue'
import { useQuestion } from './useQuestion'

/** How good forecasts were: what was said of iterations when they began, and how often it came. */
const store = useProgram()
const found = useQuestion(
  (signal) =>
    answer(
      client.GET('/api/v1/programs/{id}/forecast/back-test', {
        params: { path: { id: store.id } },
        signal,
      }),
    ),
  () => '',
  { then: (told) => told.more && found.refresh() },
)
const day = (date?: string) => shortDate(date, store.todayDay)
const test = computed(() => found.answer.value)
const at = (odds: number) => test.value?.kept.find((k) => k.odds === odds)
const n = computed(() => test.value?.iterations.length ?? 0)
/** Fewer than these say little: luck alone would let nearly anything come. */
const FEW = 10
const said = computed(() => {
  const k = at(85)
  if (!k?.of) return 'Nothing can be said yet'
  return `What was said at 85 % came ${k.came} times of ${k.of}`
})
type Kept = BackTest['kept'][number]
const verdict = (k: Kept) => {
  if (!k.of) return ''
  if (k.came < k.least) return 'too sure'
  if (k.came > k.most) return 'too careful'
  return 'as it should'
}
/** What wider paces would have said that is not too sure, or the widest that was tried. */
const wider = computed(() => test.value?.wider.at(-1))
const wide = computed(() => wider.value?.kept.find((k) => k.odds === 85))
const mayWiden = computed(() => store.may({ op: 'set', kind: 'program', field: 'spread' }))
const widen = (spread: number) =>
  store.apply('Change how the forecast plays', [
    { op: 'set', kind: 'program', field: 'spread', value: spread },
  ])
const release = (key: string) => store.program.releases?.find((r) => r.key === key)?.name ?? key
const dateAt = (s: BackTest['releases'][number], odds: number) => s.said.find((d) => d.odds === odds)?.date
const off = (days: number | undefined) =>
  days === undefined
    ? '–'
    : days
      ? `${count(Math.abs(days), 'day')} ${days > 0 ? 'late' : 'early'}`
      : 'that day'
const rows = computed(() => [...(test.value?.iterations ?? [])].reverse())
const team = (key: string) => store.teams.get(key)
const iteration = (of: { team: string; iteration: string }) =>
  team(of.team)?.iterations?.find((it) => it.key === of.iteration)?.name ?? of.iteration
</script>

<template>
  <AnswerPage
    :failure="found.failure.value"
    :waiting="found.asking.value ? 'Reading the journal…' : ''"
    :answer="test"
    :lead="`Of ${count(n, 'closed iteration')}, when they began`"
    :said="said"
  >
    <template #more="{ answer: told }">
      <p v-if="!n">
        It takes iterations that were started and closed under the journal, with work of a size in them.
      </p>
      <p v-else-if="n < FEW">
        {{ count(n, 'iteration') }} say little: luck alone would let {{ at(85)?.least }} to
        {{ at(85)?.most }} of them come.
      </p>
      <p v-if="told.more" role="status" class="quiet">Looking further back…</p>
      <p v-else-if="told.leftOut" class="quiet">
        {{ count(told.leftOut, 'earlier iteration') }} were not looked at.
      </p>
    </template>
    <template #default="{ answer: told }">
      <div class="pair">
        <div class="stack">
          <section class="card" aria-label="What was said and what came">
            <h3>What was said and what came</h3>
            <div class="list" tabindex="0" role="region" aria-label="Iterations, the latest first">
              <table class="table">
                <thead>
                  <tr>
                    <th>Iteration</th>
                    <th>Said on</th>
                    <th class="n">Of</th>
                    <th class="n">50 %</th>
                    <th class="n">85 %</th>
                    <th class="n">95 %</th>
                    <th class="n">Came</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="r in rows" :key="`${r.team} ${r.iteration}`">
                    <td>
                      <RouterLink
                        :to="{
                          name: 'track',
                          params: { id: store.id },
                          query: { as: 'review', team: r.team, iteration: r.iteration },
                        }"
                        >{{ iteration(r) }}</RouterLink
                      >
                      <span class="quiet small"> {{ team(r.team)?.name }}</span>
                    </td>
                    <td>{{ day(r.on) }}</td>
                    <td class="n">{{ sized(r.size, team(r.team)) }}</td>
                    <td v-for="s in r.said" :key="s.odds" class="n">{{ sized(s.size, team(r.team)) }}</td>
                    <td class="n">
                      <b>{{ sized(r.came, team(r.team)) }}</b>
                    </td>
                  </tr>
                </tbody>
              </table>
            </div>
            <p class="quiet small">
              Of what stood in an iteration at the end of its first day: how much of it would be done by its
              end, at these odds, and how much was.
            </p>
          </section>
          <section v-if="told.releases.length" class="card" aria-label="Releases that landed">
            <h3>Releases that landed</h3>
            <table class="table">
              <thead>
                <tr>
                  <th>Weeks before</th>
                  <th class="n">Releases</th>
                  <th class="n">Later than said</th>
                  <th class="n">Early, late</th>
                  <th class="n">By 85 %</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="e in told.errors" :key="e.weeks">
                  <td>{{ e.weeks }}</td>
                  <td class="n">{{ e.of }}</td>
                  <td class="n">
                    <b>{{ amount(e.mean) }}</b> {{ amount(Math.abs(e.mean)) === '1' ? 'day' : 'days' }}
                  </td>
                  <td class="n">{{ e.early }}, {{ e.late }}</td>
                  <td class="n">{{ e.by85 }} of {{ e.of }}</td>
                </tr>
              </tbody>
            </table>
            <details>
              <summary>Each of them</summary>
              <table class="table">
                <thead>
                  <tr>
                    <th>Release</th>
                    <th>Said on</th>
                    <th class="n">50 %</th>
                    <th class="n">85 %</th>
                    <th class="n">Landed</th>
                    <th class="n" />
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="s in told.releases" :key="`${s.release} ${s.weeks}`">
                    <td>{{ release(s.release) }}</td>
                    <td>{{ day(s.on) }}</td>
                    <td class="n">{{ dateAt(s, 50) ? day(dateAt(s, 50)) : 'beyond' }}</td>
                    <td class="n">{{ dateAt(s, 85) ? day(dateAt(s, 85)) : 'beyond' }}</td>
                    <td class="n">{{ day(s.landed) }}</td>
                    <td class="n">{{ off(s.days) }}</td>
                  </tr>
                </tbody>
              </table>
            </details>
            <p class="quiet small">
              Later than said: than the day at even odds, in days on average; less than nothing is earlier.
            </p>
          </section>
        </div>
        <div class="stack">
          <section class="card" aria-label="How often it came">
            <h3>How often it came</h3>
            <table class="table">
              <thead>
                <tr>
                  <th>Said at</th>
                  <th class="n">Really said</th>
                  <th class="n">Came</th>
                  <th class="n">Luck alone</th>
                  <th />
                </tr>
              </thead>
              <tbody>
                <tr v-for="k in told.kept" :key="k.odds">
                  <td>{{ k.odds }} %</td>
                  <td class="n">{{ k.of ? percent(k.said) : '–' }}</td>
                  <td class="n">
                    <b>{{ k.came }}</b> of {{ k.of }}
                  </td>
                  <td class="n">{{ k.of ? `${k.least} to ${k.most}` : '–' }}</td>
                  <td class="quiet small verdict">{{ verdict(k) }}</td>
                </tr>
              </tbody>
            </table>
            <p class="quiet small">
              Really said: the mean chance of what was given, more than the odds where all of it was done in
              most plays. Luck alone: how many would come in 9 of 10 cases, were these right. Too sure: fewer
              came than luck alone explains.
            </p>
          </section>
          <section v-if="wider" class="card" aria-label="Wider settings">
            <h3>Forecasts were too sure</h3>
            <p>
              Had paces been taken to vary {{ wider.spread }} times as much as they did, what would have been
              said at 85 % came {{ wide?.came }} times of {{ wide?.of }}; luck alone lets {{ wide?.least }} to
              {{ wide?.most }} come.
            </p>
            <button
              v-if="mayWiden"
              class="plain-button"
              :disabled="!store.connected"
              @click="widen(wider.spread)"
            >
              Play them so from now on
            </button>
          </section>
          <section v-if="told.teams.length" class="card" aria-label="Committed and completed">
            <h3>Committed and completed</h3>
            <table class="table">
              <thead>
                <tr>
                  <th>Team</th>
                  <th class="n">Iterations</th>
                  <th class="n">Completed of it</th>
                  <th class="n">On average</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="c in told.teams" :key="c.team">
                  <td>{{ team(c.team)?.name }}</td>
                  <td class="n">{{ c.iterations }}</td>
                  <td class="n">{{ amount(c.completed) }} of {{ sized(c.committed, team(c.team)) }}</td>
                  <td class="n">{{ percent(c.mean) }} ± {{ percent(c.spread) }}</td>
                </tr>
              </tbody>
            </table>
          </section>
        </div>
      </div>
    </template>
  </AnswerPage>
</template>

<style scoped>
.list {
  max-height: 480px;
  overflow-y: auto;
}

.list:focus-visible {
  outline: 2px solid var(--focus);
}

td a {
  color: inherit;
}

.verdict {
  white-space: nowrap;
}

.plain-button {
  margin-top: 8px;
}

.list td,
td.n {
  white-space: nowrap;
}

.list a {
  margin-right: 6px;
}
</style>
