<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Change } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { amount, count, sized } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useSetUp } from '@/stages/setup/setup'
import { useProposals } from '@/line/proposals'
import VelocityChart from './VelocityChart.vue'

const store = useProgram()
const setUp = useSetUp()
const proposals = useProposals()
const teams = computed(() => store.program.teams ?? [])
const chosen = ref(String(useRoute().query.team ?? ''))
const team = computed(() => teams.value.find((t) => t.key === chosen.value) ?? teams.value[0])
const velocity = computed(() => setUp.velocities.get(team.value?.key ?? ''))
const history = computed(() => velocity.value?.history ?? [])
const iterations = computed(() => new Map((team.value?.iterations ?? []).map((it) => [it.key, it])))
const name = (key: string) => iterations.value.get(key)?.name || key
const may = (field: string) => store.may({ op: 'set', kind: 'team', key: team.value?.key, field })
const mayIteration = computed(() =>
  store.may({ op: 'set', kind: 'iteration', in: team.value?.key, field: 'leftOut' }),
)
const confidences = [50, 70, 85, 95]
const trusts = {
  history: '',
  'short history': 'few closed iterations, so the range is wide',
  'no history':
    'no closed iteration counts yet: from the agreed velocity or available time, with a very wide range',
  'nothing to go by': 'neither history nor a capacity to go by',
} as const

const set = (iteration: string, field: string, value: unknown): Change => ({
  op: 'set',
  kind: 'iteration',
  in: team.value!.key,
  key: iteration,
  field,
  value,
})
const leaving = ref('')
const reason = ref('')

async function leaveOut(iteration: string): Promise<void> {
  if (
    await store.apply(`Leave ${name(iteration)} out of velocity`, [
      set(iteration, 'leftOut', reason.value.trim()),
    ])
  ) {
    leaving.value = ''
    reason.value = ''
    await onward(iteration)
  }
}
async function countAgain(iteration: string): Promise<void> {
  if (await store.apply(`Count ${name(iteration)} again`, [set(iteration, 'leftOut', '')]))
    await onward(iteration)
}
/** The focus goes to what can be done next with an iteration, once it is there. */
async function onward(iteration: string): Promise<void> {
  await setUp.refresh()
  await nextTick()
  document.querySelector<HTMLElement>(`[data-past="${CSS.escape(iteration)}"]`)?.focus()
}
const lookBack = (event: Event) => {
  const n = Number((event.target as HTMLSelectElement).value)
  return store.apply(`Velocity of ${team.value!.name} from ${n ? `the last ${n}` : 'all'}`, [
    { op: 'set', kind: 'team', key: team.value!.key, field: 'lookback', value: n },
  ])
}
const agree = (iteration: string, i: number) => {
  const s = velocity.value!.coming.find((x) => x.iteration === iteration)!
  const value = Math.round(s.amounts[i] * 10) / 10
  const note = `Agreed at ${confidences[i]} % confidence, from ${count(s.samples, 'iteration')}`
  return store.apply(`Agree on ${sized(value, team.value)} for ${name(iteration)}`, [
    set(iteration, 'capacity', value),
    set(iteration, 'capacityNote', note),
  ])
}
const agreeVelocity = () => {
  const value = Math.round(velocity.value!.mean * 10) / 10
  return store.apply(`Agree on a velocity of ${sized(value, team.value)}`, [
    { op: 'set', kind: 'team', key: team.value!.key, field: 'velocity', value },
  ])
}
</script>

<template>
  <div v-if="team" class="velocity">
    <div class="row tools">
      <label for="v-team" class="quiet">Team</label>
      <select id="v-team" v-model="chosen" class="in pick">
        <option v-for="(t, i) in teams" :key="t.key" :value="i ? t.key : chosen === t.key ? t.key : ''">
          {{ t.name }}
        </option>
      </select>
      <span class="quiet">counts</span>
      <select
        class="in pick"
        aria-label="Which iterations count"
        :value="team.lookback ?? 0"
        :disabled="!may('lookback')"
        @change="lookBack"
      >
        <option :value="0">all closed iterations</option>
        <option v-for="n in [3, 4, 5, 6, 8, 10, 12]" :key="n" :value="n">the last {{ n }}</option>
      </select>
      <span class="wide" />
      <span v-if="velocity?.counting">
        Measured <b>{{ sized(velocity.mean, team) }}</b> an iteration with nobody away, spread
        {{ amount(velocity.spread)
        }}<template v-if="team.velocity !== undefined">; agreed {{ sized(team.velocity, team) }}</template>
      </span>
      <Button
        v-if="velocity?.counting && may('velocity')"
        size="small"
        outlined
        label="Agree on the measured one"
        :disabled="Math.abs((team.velocity ?? -1) - Math.round(velocity.mean * 10) / 10) < 1e-9"
        @click="agreeVelocity"
      />
    </div>
    <p v-if="!history.length" class="quiet">
      No iteration of {{ team.name }} is closed yet. Closing one (under Calendar) notes what was committed and
      completed.
    </p>
    <div v-else class="past">
      <VelocityChart
        :history="history"
        :mean="velocity!.mean"
        :spread="velocity!.spread"
        :name="name"
        :unit="team.unit"
      />
      <table class="table">
        <thead>
          <tr>
            <th>Iteration</th>
            <th class="n">Committed</th>
            <th class="n">Completed</th>
            <th class="n" title="In number of items: committed, completed">Items</th>
            <th class="n">Days worked</th>
            <th class="n" title="Completed ÷ days worked × the days of the complete team">
              With nobody away
            </th>
            <th>Counts</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in [...history].reverse()" :key="p.iteration" :class="{ out: !p.counts }">
            <td>
              {{ name(p.iteration) }}
              <span class="quiet small">{{
                shortDate(iterations.get(p.iteration)?.end, store.todayDay)
              }}</span>
            </td>
            <td class="n">{{ p.committed === undefined ? '' : amount(p.committed) }}</td>
            <td class="n">
              <b>{{ amount(p.completed) }}</b>
            </td>
            <td class="n">{{ p.committedItems ?? '–' }}, {{ p.completedItems ?? '–' }}</td>
            <td class="n">{{ amount(p.daysWorked) }}</td>
            <td class="n">{{ amount(p.normalised) }}</td>
            <td>
              <form v-if="leaving === p.iteration" class="row" @submit.prevent="leaveOut(p.iteration)">
                <input
                  v-model="reason"
                  v-focus
                  class="in why"
                  placeholder="why?"
                  aria-label="Why it is left out"
                  maxlength="200"
                  required
                />
                <Button type="submit" size="small" label="Leave out" />
              </form>
              <template v-else-if="p.leftOut">
                no: {{ p.leftOut }}
                <button
                  v-if="mayIteration"
                  class="link"
                  :data-past="p.iteration"
                  @click="countAgain(p.iteration)"
                >
                  count it again
                </button>
              </template>
              <template v-else>
                {{ p.counts ? 'yes' : 'no: too long ago' }}
                <button
                  v-if="mayIteration && p.counts"
                  class="link"
                  :data-past="p.iteration"
                  @click="((leaving = p.iteration), (reason = ''))"
                >
                  leave out
                </button>
              </template>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <h2>Suggested capacity</h2>
    <table v-if="velocity?.coming.length" class="table coming">
      <thead>
        <tr>
          <th>Iteration</th>
          <th class="n">Member-days there</th>
          <th v-for="c in confidences" :key="c" class="n">
            {{ c }} % sure of
            <button
              v-if="mayIteration"
              class="link small"
              :aria-label="`Agree on ${c} % for all coming iterations`"
              @click="proposals.propose({ do: 'agree-on', team: team.key, confidence: c / 100 })"
            >
              for all…
            </button>
          </th>
          <th>Now</th>
          <th>From</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in velocity.coming" :key="s.iteration">
          <td>{{ name(s.iteration) }}</td>
          <td class="n">{{ amount(s.days) }}</td>
          <td v-for="(a, i) in s.amounts" :key="i" class="n">
            <template v-if="s.trust === 'nothing to go by'">–</template>
            <button
              v-else-if="mayIteration"
              class="link"
              :title="`Agree on ${sized(a, team)} for ${name(s.iteration)}`"
              :aria-label="`Agree on ${sized(a, team)} for ${name(s.iteration)}, ${confidences[i]} % sure`"
              @click="agree(s.iteration, i)"
            >
              {{ amount(a) }}
            </button>
            <template v-else>{{ amount(a) }}</template>
          </td>
          <td>
            {{ sized(store.iterationFacts.get(team.key, s.iteration)?.capacity ?? 0, team) }}
            <span v-if="iterations.get(s.iteration)?.capacity !== undefined" class="quiet small"
              >by hand</span
            >
          </td>
          <td class="quiet">
            {{ count(s.samples, 'iteration')
            }}<template v-if="trusts[s.trust]">: {{ trusts[s.trust] }}</template>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-else class="quiet">There is no iteration to come.</p>
    <p class="quiet small">
      What the team completes or more with these odds, from its pace ({{
        velocity?.coming[0] ? Math.round(velocity.coming[0].pace * 100) / 100 : 'no'
      }}
      {{ team.unit }} a member-day) and who is there. A click agrees on it for that iteration, “for all” for
      every one to come.
    </p>
  </div>
  <p v-else class="quiet none">There are no teams yet.</p>
</template>

<style scoped>
.velocity {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding: 10px 16px 20px;
}

.tools {
  align-items: center;
  margin-bottom: 8px;
}

.pick {
  width: 190px;
}

.past {
  display: grid;
  grid-template-columns: minmax(380px, 1fr) minmax(560px, 1.2fr);
  gap: 20px;
  align-items: start;
}

.out td {
  color: var(--quiet);
}

.why {
  width: 150px;
}

h2 {
  font-size: 17px;
  margin: 18px 0 6px;
}

.coming {
  max-width: 1000px;
}

.none {
  padding: 30px;
}
</style>
