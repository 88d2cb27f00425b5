<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { Cut } from '@/api/types'
import { shortDate, toDate } from '@/ui/dates'
import { count, percent, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import type { Asked } from './asked'
import AnswerPage from './AnswerPage.vue'
import { useQuestion } from './useQuestion'

/** How far down the rank everything is done by a date; and what would have to go for the rest to be. */
const props = defineProps<{ asked: Asked }>()
const store = useProgram()
const { about, by, odds, text, say } = props.asked

/** The date that is asked about; without one, the next eight weeks. */
const until = computed(() => by.value || toDate(store.todayDay + 56))
const teams = computed(() =>
  text('teams')
    .split(',')
    .filter((key) => store.teams.has(key)),
)
const day = (date?: string) => shortDate(date, store.todayDay)
const body = computed(() => ({ ...about.value, by: until.value }))
const path = computed(() => ({ path: { id: store.id } }))
const found = useQuestion(
  (signal) =>
    answer(
      client.POST('/api/v1/programs/{id}/forecast/fits', {
        params: path.value,
        body: { ...body.value, teams: teams.value.length ? teams.value : undefined },
        signal,
      }),
    ),
  () => body.value,
  { also: () => teams.value },
)
const cut = useQuestion<Cut>(
  (signal) =>
    answer(
      client.POST('/api/v1/programs/{id}/forecast/cut', {
        params: path.value,
        body: { ...body.value, odds: odds.value },
        signal,
      }),
    ),
  () => [body.value, odds.value],
  { fresh: true, wait: 60 },
)
const fit = computed(() => found.answer.value)
const lines = computed(() => fit.value?.lines ?? [])
const at = (n: number) => lines.value.find((l) => l.odds === n)
/** The list as it reads: items by rank, and the lines between them. */
const list = computed(() => {
  const all = fit.value?.items ?? []
  const safe = at(95)?.items ?? 0
  const likely = at(85)?.items ?? 0
  const even = at(50)?.items ?? 0
  return all.map((key, i) => ({
    key,
    item: store.items.get(key),
    chance: fit.value!.chances[i],
    where: i < safe ? '95' : i < likely ? '85' : i < even ? '50' : '',
    line: [
      ...(i === safe && safe > 0 ? ['95 %'] : []),
      ...(i === likely && likely > safe ? ['85 %'] : []),
      ...(i === even && even > likely ? ['50 %'] : []),
    ],
  }))
})
/** The lines at the other odds. */
const others = computed(
  () =>
    lines.value
      .filter((l) => l.odds !== odds.value)
      .reverse()
      .map((l, i) => `${i ? 'at' : 'At'} ${l.odds} % the first ${l.items}`)
      .join(', ') + '.',
)
/** What just misses: the first below the line that is asked about. */
const misses = computed(() => {
  const line = at(odds.value)
  return line?.next ? store.items.get(line.next) : undefined
})
const said = computed(() => {
  const n = at(odds.value)?.items ?? 0
  const all = fit.value?.items.length ?? 0
  if (!all) return 'Nothing is left to do'
  return n === all
    ? `All ${count(all, 'item')} fit by ${day(until.value)}`
    : `The first ${n} of ${count(all, 'item')} by ${day(until.value)}`
})
const may = computed(() => cut.answer.value?.changes.every((c) => store.may(c)) ?? false)
async function takeOut(): Promise<void> {
  const c = cut.answer.value
  if (c)
    await store.apply(
      `Keep ${count(c.out.length, 'item')} out, so that ${c.name} fits by ${day(c.by)}`,
      c.changes,
    )
}
const toggle = (team: string) => {
  const next = teams.value.includes(team) ? teams.value.filter((t) => t !== team) : [...teams.value, team]
  say({ teams: next.length ? next.join(',') : undefined })
}
</script>

<template>
  <AnswerPage
    :failure="found.failure.value || cut.failure.value"
    :waiting="found.asking.value ? 'Playing the plan…' : ''"
    :answer="fit"
    :lead="`Of ${fit?.name}, taken by rank, at odds of ${odds} %`"
    :said="said"
  >
    <template #more="{ answer: told }">
      <p v-if="told.items.length">
        {{ others }} All of it: <b>{{ percent(told.all) }}</b> by rank<template v-if="cut.answer.value"
          >, <b>{{ percent(cut.answer.value.chance) }}</b> as it is planned</template
        >. <template v-if="misses">{{ misses.key }} {{ misses.title }} just misses.</template>
      </p>
      <p v-if="told.leftOut.length" class="small caution">
        Not counted: {{ told.leftOut.slice(0, 8).join(', ') }}{{ told.leftOut.length > 8 ? ' …' : '' }},
        without a team or a size to go by.
      </p>
    </template>
    <template #default="{ answer: told }">
      <div class="teams" role="group" aria-label="Of which teams">
        <button class="chip" :aria-pressed="!teams.length" @click="say({ teams: undefined })">
          All teams
        </button>
        <button
          v-for="t in store.program.teams ?? []"
          :key="t.key"
          class="chip"
          :aria-pressed="teams.includes(t.key)"
          @click="toggle(t.key)"
        >
          {{ t.name }}
        </button>
        <button class="link" @click="by = toDate(store.todayDay + 56)">The next 8 weeks</button>
      </div>
      <div class="pair">
        <section class="card" aria-label="The list by rank">
          <h3>The list, most important first</h3>
          <div class="list" tabindex="0" role="region" aria-label="Items by rank, with their chances">
            <table class="table">
              <thead>
                <tr>
                  <th>Item</th>
                  <th>Team</th>
                  <th class="n">Size</th>
                  <th class="n">By {{ day(until) }}</th>
                </tr>
              </thead>
              <tbody>
                <template v-for="r in list" :key="r.key">
                  <tr v-for="l in r.line" :key="l" class="line">
                    <td colspan="4">All above is done by {{ day(until) }} at odds of {{ l }}</td>
                  </tr>
                  <tr :class="{ out: !r.where }">
                    <td>
                      <RouterLink :to="{ name: 'backlog', params: { id: store.id }, query: { item: r.key } }"
                        ><b>{{ r.key }}</b> {{ r.item?.title }}</RouterLink
                      >
                    </td>
                    <td>{{ store.teams.get(r.item?.team ?? '')?.name }}</td>
                    <td class="n">{{ sized(r.item?.size, store.teams.get(r.item?.team ?? '')) }}</td>
                    <td class="n">{{ percent(r.chance) }}</td>
                  </tr>
                </template>
              </tbody>
            </table>
          </div>
        </section>
        <div class="stack">
          <section class="card" aria-label="What would have to go">
            <h3>What would have to go</h3>
            <p v-if="!cut.answer.value" class="quiet" role="status">
              {{ cut.asking.value ? 'Trying what could go…' : '' }}
            </p>
            <template v-else>
              <p v-if="!cut.answer.value.out.length && cut.answer.value.met">
                Nothing: as it is planned, all of it is done by {{ day(cut.answer.value.by) }} with
                {{ percent(cut.answer.value.chance) }}.
              </p>
              <p v-else-if="cut.answer.value.ended && !cut.answer.value.met">
                Time ran out before it was found what would have to go. Ask about less work at once.
              </p>
              <p v-else-if="!cut.answer.value.met">
                Not even all that has not begun would do: without it, what is under way and what others need
                is done by {{ day(cut.answer.value.by) }} with {{ percent(cut.answer.value.then) }}.
              </p>
              <template v-else>
                <p>
                  Without {{ count(cut.answer.value.out.length, 'item') }}, the rest is done by
                  {{ day(cut.answer.value.by) }} with <b>{{ percent(cut.answer.value.then) }}</b> instead of
                  {{ percent(cut.answer.value.chance) }}. The least important go, and none of them could stay.
                </p>
                <ul>
                  <li v-for="key in cut.answer.value.out" :key="key">
                    <RouterLink :to="{ name: 'backlog', params: { id: store.id }, query: { item: key } }"
                      ><b>{{ key }}</b> {{ store.items.get(key)?.title }}</RouterLink
                    >
                    <span class="quiet">
                      · {{ store.teams.get(store.items.get(key)?.team ?? '')?.name }},
                      {{
                        sized(store.items.get(key)?.size, store.teams.get(store.items.get(key)?.team ?? ''))
                      }}
                    </span>
                  </li>
                </ul>
                <p v-if="cut.answer.value.ended" class="quiet small">
                  The search was ended early: less might do.
                </p>
                <div class="buttons">
                  <Button
                    size="small"
                    :label="`Keep ${count(cut.answer.value.out.length, 'item')} out`"
                    :disabled="!may"
                    :title="may ? 'One step, which undo takes back' : 'Not yours to change'"
                    @click="takeOut"
                  />
                </div>
              </template>
            </template>
          </section>
          <section class="card" aria-label="By team">
            <h3>How far each team gets</h3>
            <table class="table">
              <thead>
                <tr>
                  <th>Team</th>
                  <th v-for="l in lines" :key="l.odds" class="n">{{ l.odds }} %</th>
                  <th class="n">of</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="t in told.teams" :key="t.team">
                  <td>{{ store.teams.get(t.team)?.name }}</td>
                  <td
                    v-for="l in t.lines"
                    :key="l.odds"
                    class="n"
                    :title="l.after ? `down to ${l.after}` : 'none'"
                  >
                    {{ l.items }}
                  </td>
                  <td class="n">{{ t.items }}</td>
                </tr>
              </tbody>
            </table>
            <p class="quiet small">
              Plain arithmetic, without needs and days off: the first {{ told.plain.fits }}.
            </p>
          </section>
        </div>
      </div>
    </template>
  </AnswerPage>
</template>

<style scoped>
.teams {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}

.list {
  max-height: 520px;
  overflow-y: auto;
}

.list:focus-visible {
  outline: 2px solid var(--focus);
}

.list a,
li a {
  color: inherit;
  text-decoration: none;
}

a:hover {
  text-decoration: underline;
}

.line td {
  padding: 2px 8px;
  border-bottom: 2px solid var(--water);
  color: var(--water);
  font-size: 12px;
}

.out td {
  color: var(--quiet);
}

.caution {
  color: var(--caution);
}
</style>
