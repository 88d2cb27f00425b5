<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { PaceFor } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { amount, percent } from '@/ui/format'
import { useProgram } from '@/line/program'
import type { Asked } from './asked'
import AnswerPage from './AnswerPage.vue'
import { useHasty } from './useHasty'

/** By how much teams would have to be faster, or the work less, for a date to be met at some odds. */
const props = defineProps<{ asked: Asked }>()
const store = useProgram()
const { about, by, odds } = props.asked
const day = (date?: string) => shortDate(date, store.todayDay)
const found = useHasty(
  (quick, signal) =>
    by.value
      ? answer(
          client.POST('/api/v1/programs/{id}/forecast/pace', {
            params: { path: { id: store.id } },
            body: { ...about.value, by: by.value, odds: odds.value, quick },
            signal,
          }),
        )
      : undefined,
  () => [about.value, by.value, odds.value],
  { fresh: true, wait: 40 },
)
const pace = computed(() => found.answer.value)
const faster = (f: PaceFor) => Math.round((f.factor - 1) * 100)
const said = computed(() => {
  const p = pace.value
  if (!p) return ''
  if (100 * p.chance >= p.odds) return 'It takes nothing more'
  return p.all.met ? `All teams ${faster(p.all)} % faster` : 'More than three times the pace'
})
const hinge = computed(() => pace.value?.teams.find((t) => t.met && t.factor > 1))
/** Where no team can do it alone: the one that gains the most. */
const helps = computed(() => {
  const best = [...(pace.value?.teams ?? [])].sort((a, b) => b.chance - a.chance)[0]
  return best && best.chance > (pace.value?.chance ?? 0) ? best : undefined
})
const name = (key?: string) => store.teams.get(key ?? '')?.name ?? key
</script>

<template>
  <AnswerPage
    :failure="found.failure.value"
    :waiting="
      by
        ? found.asking.value
          ? 'Playing the plan at other paces…'
          : ''
        : 'Say beside by which date it is to be done.'
    "
    :answer="pace"
    :lead="`For ${pace?.name} by ${day(pace?.by)} at ${pace?.odds} %`"
    :said="said"
  >
    <template #more="{ answer: told }">
      <p v-if="found.first.value" role="status" class="quiet">
        A first answer, by {{ told.plays }} plays; it is played on…
      </p>
      <p>
        As things are: <b>{{ percent(told.chance) }}</b>.
        <template v-if="100 * told.chance < told.odds">
          <template v-if="hinge">
            Alone, {{ name(hinge.team) }} could do it: {{ faster(hinge) }} % faster, as much as
            {{ amount(hinge.memberDays) }} more days of its people until then.
          </template>
          <template v-else>
            No team could do it alone<template v-if="helps"
              >; {{ name(helps.team) }} would help the most, {{ percent(helps.chance) }} at
              {{ amount(helps.factor) }} times its pace</template
            >.
          </template>
          <template v-if="told.less">
            Or {{ percent(told.less.share) }} less of what is left, all of it alike.
          </template>
        </template>
      </p>
    </template>
    <template #default="{ answer: told }">
      <section v-if="100 * told.chance < told.odds" class="card" aria-label="Team by team">
        <h3>If one team alone went faster</h3>
        <table class="table">
          <thead>
            <tr>
              <th>Team</th>
              <th class="n">Is the last in</th>
              <th class="n">Faster by</th>
              <th class="n">As many days of its people</th>
              <th class="n">Chance then</th>
              <th />
            </tr>
          </thead>
          <tbody>
            <tr v-for="t in told.teams" :key="t.team">
              <td>{{ name(t.team) }}</td>
              <td class="n">{{ percent(t.decides) }}</td>
              <td class="n">{{ t.met ? `${faster(t)} %` : '–' }}</td>
              <td class="n">{{ t.met && t.memberDays ? amount(t.memberDays) : '–' }}</td>
              <td class="n">{{ percent(t.chance) }}</td>
              <td class="quiet">{{ t.met ? '' : `not even at ${amount(t.factor)} times its pace` }}</td>
            </tr>
            <tr>
              <td><b>All teams</b></td>
              <td />
              <td class="n">
                <b>{{ told.all.met ? `${faster(told.all)} %` : '–' }}</b>
              </td>
              <td class="n">–</td>
              <td class="n">{{ percent(told.all.chance) }}</td>
              <td class="quiet">
                {{ told.all.met ? '' : `not even at ${amount(told.all.factor)} times their pace` }}
              </td>
            </tr>
          </tbody>
        </table>
        <p class="quiet small">
          Each pace is the least whole percent at which {{ told.plays }} plays of the plan reach
          {{ told.odds }} %, needs and days off kept<template v-if="told.ended"
            >; time ran out before all teams were tried</template
          >. A team that is the last in few plays changes little, however fast.
        </p>
      </section>
    </template>
  </AnswerPage>
</template>
