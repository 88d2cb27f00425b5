<script setup lang="ts">
import { computed, ref } from 'vue'
import { answer, client } from '@/api/client'
import DateField from '@/ui/DateField.vue'
import { shortDate, toDate } from '@/ui/dates'
import { count, percent } from '@/ui/format'
import { cannotLand, dateAt } from '@/line/landingRange'
import { pair } from '@/line/pair'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import type { Asked } from './asked'
import AnswerPage from './AnswerPage.vue'
import PromiseList from './PromiseList.vue'
import SafetyMark from './SafetyMark.vue'
import { useQuestion } from './useQuestion'
import { caughtUp } from '@/line/useAnswer'

/** Whether the dates of all releases and milestones are safe: now, on a day before, and what could be promised. */
const props = defineProps<{ asked: Asked }>()
const store = useProgram()
const scenarios = useScenarios()
void scenarios.load()
/** Needs that the plan has done after the day that their teams agreed on. */
const MOST_MISSED = 10
const missed = computed(() =>
  (store.program.needs ?? []).filter((n) => store.needFacts.get(pair(n.item, n.needs))?.missed),
)
const teamOf = (item: string) => store.teams.get(store.items.get(item)?.team ?? '')?.name ?? 'nobody'
const { text, say } = props.asked
const since = computed({
  get: () => (/^\d{4}-\d\d-\d\d$/.test(text('since')) ? text('since') : toDate(store.todayDay - 7)),
  set: (date) => say({ since: date && date !== toDate(store.todayDay - 7) ? date : undefined }),
})
const found = useQuestion(
  (signal) =>
    answer(
      client.GET('/api/v1/programs/{id}/forecast/dates', {
        params: { path: { id: store.id }, query: { since: since.value } },
        signal,
      }),
    ),
  () => '',
  { also: () => since.value },
)
const day = (date?: string) => shortDate(date, store.todayDay)
const odds = [50, 70, 85, 95]
const promises = ref<InstanceType<typeof PromiseList>>()
const mayPromise = computed(() => store.may({ op: 'add', kind: 'promise' }))
const rows = computed(() =>
  (found.answer.value?.dates ?? []).map((d) => ({
    ...d,
    of: `${d.kind}:${d.now.key}`,
    over: !d.now.left && !d.now.rough,
    moved:
      d.now.chance !== undefined && d.then?.chance !== undefined
        ? Math.round((d.now.chance - d.then.chance) * 100)
        : undefined,
    dueMoved: d.then?.due !== d.now.due ? d.then?.due : undefined,
  })),
)
const said = computed(() => {
  const dated = rows.value.filter((r) => r.now.due && !r.over)
  if (!dated.length) return 'Nothing with a due date is left to do'
  const safe = dated.filter((r) => r.safety === 'safe').length
  return safe === dated.length
    ? `All ${dated.length} dates are safe`
    : `${safe} of ${count(dated.length, 'date')} ${safe === 1 ? 'is' : 'are'} safe`
})
</script>

<template>
  <AnswerPage
    :failure="found.failure.value"
    :waiting="found.asking.value ? 'Playing the plan…' : ''"
    :answer="found.answer.value"
    lead="At odds of 85 % or more"
    :said="said"
  >
    <template #default="{ answer: answers }">
      <section class="card" aria-label="All dates">
        <div class="since">
          <label for="forecast-since">Compared with</label>
          <DateField id="forecast-since" v-model="since" />
          <button
            v-for="b in scenarios.baselines.slice(0, 3)"
            :key="b.id"
            class="link small"
            :title="`The end of ${day(b.day)}, when it was frozen`"
            @click="since = b.day"
          >
            {{ b.name }}
          </button>
          <span v-if="!answers.then" class="quiet">The journal does not reach back to it.</span>
        </div>
        <table class="table">
          <thead>
            <tr>
              <th>What</th>
              <th>Due</th>
              <th class="n">Chance</th>
              <th />
              <th class="n">{{ day(since) }}</th>
              <th class="n">Since then</th>
              <th v-for="n in odds" :key="n" class="n">{{ n }} %: by</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.of">
              <td>
                <button class="link" @click="say({ ask: undefined, of: r.of, by: undefined })">
                  {{ r.name }}
                </button>
                <span v-if="r.kind === 'milestone'" class="quiet small"> milestone</span>
              </td>
              <td class="due">
                {{ r.now.due ? day(r.now.due) : 'no date' }}
                <span v-if="r.dueMoved" class="quiet small">was {{ day(r.dueMoved) }}</span>
              </td>
              <template v-if="r.over">
                <td colspan="8" class="quiet">nothing left to do</td>
              </template>
              <template v-else>
                <td class="n">
                  <b>{{ r.now.chance === undefined ? '–' : percent(r.now.chance) }}</b>
                </td>
                <td>
                  <SafetyMark v-if="r.safety" :safety="r.safety" />
                </td>
                <td class="n">{{ r.then?.chance === undefined ? '–' : percent(r.then.chance) }}</td>
                <td class="n">
                  {{
                    r.moved === undefined
                      ? '–'
                      : r.moved
                        ? `${r.moved > 0 ? '+' : '−'}${Math.abs(r.moved)} points`
                        : 'the same'
                  }}
                </td>
                <td v-if="r.now.cannot?.length" colspan="4" class="quiet">{{ cannotLand(r.now, 2) }}</td>
                <template v-else>
                  <td v-for="n in odds" :key="n" class="n">
                    <button
                      v-if="dateAt(r.now, n) && mayPromise"
                      class="link"
                      title="Promise this date"
                      :aria-label="`Promise ${r.name} by ${day(dateAt(r.now, n))}`"
                      @click="promises?.give(r.of, dateAt(r.now, n))"
                    >
                      {{ day(dateAt(r.now, n)) }}
                    </button>
                    <template v-else>{{ dateAt(r.now, n) ? day(dateAt(r.now, n)) : 'beyond' }}</template>
                  </td>
                </template>
              </template>
            </tr>
          </tbody>
        </table>
        <p v-if="!rows.length" class="quiet">This program has neither releases nor milestones.</p>
        <p class="quiet small">
          The dates on the right are the first that {{ answers.plays }} plays of the plan reach at these odds.
          What was then is reckoned with all that was known at the end of that day.
        </p>
      </section>
      <section v-if="missed.length" class="card" aria-label="Days that teams agreed on">
        <h3>
          {{ count(missed.length, 'day') }} that teams agreed on
          {{ missed.length === 1 ? 'is' : 'are' }} missed as planned
        </h3>
        <p v-for="n in missed.slice(0, MOST_MISSED)" :key="`${n.item} ${n.needs}`">
          <b>{{ n.needs }}</b> of {{ teamOf(n.needs) }} for <b>{{ n.item }}</b> of {{ teamOf(n.item) }},
          agreed for
          {{ day(n.given!) }}
        </p>
        <RouterLink class="link" :to="{ name: 'plan', params: { id: store.id }, query: { as: 'needs' } }"
          >Their odds, and what mends them</RouterLink
        >
      </section>
      <PromiseList
        v-if="rows.length"
        ref="promises"
        :watched="answers.promises"
        :caught-up="() => caughtUp(found.answer, () => store.revision)"
      />
    </template>
  </AnswerPage>
</template>

<style scoped>
.table td.n,
.due {
  white-space: nowrap;
}

.since {
  display: flex;
  gap: 10px;
  align-items: center;
  margin-bottom: 8px;
}
</style>
