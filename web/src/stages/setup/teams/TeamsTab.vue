<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { count, inPercent, percent } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useWanted } from '@/stages/setup/useWanted'
import NewTeam from './NewTeam.vue'
import TeamPanel from './TeamPanel.vue'

const store = useProgram()
const may = computed(() => store.may({ op: 'add', kind: 'team' }))
const mayFill = computed(() => store.may({ op: 'set', kind: 'program', field: 'fillTo' }))
const teams = computed(() => store.program.teams ?? [])
const chosen = ref('')
const team = computed(() => teams.value.find((t) => t.key === chosen.value) ?? teams.value[0])
const adding = ref(false)
useWanted({ 'new-team': () => (adding.value = true) })

const fill = computed(() => Math.round(store.program.settings.fillTo * 100))
const growth = computed(() => inPercent(store.program.settings.growth ?? 0))
async function setFill(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const value = Number(input.value) / 100
  if (
    !(await store.apply(`Fill to ${percent(value)}`, [
      { op: 'set', kind: 'program', field: 'fillTo', value },
    ]))
  )
    input.value = String(fill.value)
}
const spread = computed(() => store.program.settings.spread || 1)
async function setSpread(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const times = Number(input.value)
  if (!(await setPlay('spread', times === 1 ? 0 : times))) input.value = String(spread.value)
}
async function setGrowth(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  if (!(await setPlay('growth', Number(input.value) / 100))) input.value = String(growth.value)
}
const set = (label: string, field: string, value: unknown) =>
  store.apply(label, [{ op: 'set', kind: 'program', field, value }])
const playing = 'Change how the forecast plays'
/** How the forecast plays: the standing strip shows at once what that does. */
const setPlay = (field: 'landing' | 'growth' | 'spread', value: unknown) => set(playing, field, value)
/** What a program says yes or no to, as it usually is, and what changing it is called. */
const flags = [
  {
    field: 'pullAhead',
    usual: true,
    label: playing,
    text: 'A team with room left takes what is placed later or unplaced',
  },
  {
    field: 'turned',
    usual: true,
    label: playing,
    text: "Sizes are played as the team's have turned out once work on them began",
  },
  {
    field: 'othersAccept',
    usual: false,
    label: 'Who calls items done',
    text: 'An item is called done by somebody other than its assignee',
  },
  {
    field: 'agreements',
    usual: true,
    label: 'Needs between teams',
    text: 'Teams agree on what they need of each other, and by when',
  },
  {
    field: 'askWhy',
    usual: false,
    label: 'Asking why scope changes',
    text: 'Who changes the scope of what has begun is asked why',
  },
] as const
</script>

<template>
  <div class="split">
    <section class="side" aria-label="Teams">
      <header class="titled">
        <h2>Teams</h2>
        <Button
          v-if="may"
          data-new
          title="New team (N)"
          size="small"
          text
          icon="pi pi-plus"
          label="New team"
          @click="adding = true"
        />
      </header>
      <p v-if="!teams.length" class="quiet">
        A team sizes its work in points, days or hours and follows a cadence.
      </p>
      <ul class="plain">
        <li v-for="t in teams" :key="t.key">
          <button class="entry" :aria-pressed="t === team" @click="chosen = t.key">
            <b>{{ t.name || t.key }}</b>
            <span class="quiet"
              >{{ t.key }} · {{ t.unit }} · {{ count(t.members?.length ?? 0, 'member') }}</span
            >
          </button>
        </li>
      </ul>
      <div class="field fill">
        <label for="fill">Drafts fill iterations to</label>
        <span class="check">
          <input
            id="fill"
            v-typing
            class="in number"
            type="number"
            min="1"
            max="100"
            :value="fill"
            :disabled="!mayFill"
            @change="setFill"
          />
          % of capacity
        </span>
        <span class="hint">Below 100 % leaves room for growth. A team may have its own.</span>
      </div>
      <div class="field fill">
        <label for="landing">In the forecast, work is done</label>
        <select
          id="landing"
          class="in"
          :value="store.program.settings.landing || 'day'"
          :disabled="!store.may({ op: 'set', kind: 'program', field: 'landing' })"
          @change="setPlay('landing', ($event.target as HTMLSelectElement).value)"
        >
          <option value="day">on the day on which it is finished</option>
          <option value="iteration-end">at the end of its iteration</option>
        </select>
        <span class="hint">The second is for teams that ship only then.</span>
      </div>
      <label v-for="flag in flags" :key="flag.field" class="check">
        <input
          type="checkbox"
          :checked="store.program.settings[flag.field] ?? flag.usual"
          :disabled="!store.may({ op: 'set', kind: 'program', field: flag.field })"
          @change="set(flag.label, flag.field, ($event.target as HTMLInputElement).checked)"
        /><span>{{ flag.text }}</span>
      </label>
      <div class="field fill">
        <label for="growth">Releases are taken to grow by</label>
        <span class="check">
          <input
            id="growth"
            v-typing
            class="in number"
            type="number"
            min="0"
            max="100"
            step="any"
            :value="growth"
            :disabled="!store.may({ op: 'set', kind: 'program', field: 'growth' })"
            @change="setGrowth"
          />
          % an iteration
        </span>
        <span class="hint">Of their whole size, while they are worked on. A release may have its own.</span>
      </div>
      <div class="field fill">
        <label for="spread">Paces vary</label>
        <span class="check">
          <input
            id="spread"
            v-typing
            class="in number"
            type="number"
            min="1"
            max="5"
            step="any"
            :value="spread"
            :disabled="!store.may({ op: 'set', kind: 'program', field: 'spread' })"
            @change="setSpread"
          />
          times as much as they did
        </span>
        <span class="hint">More than 1 where forecasts were too sure: see Forecast, How good were we?</span>
      </div>
    </section>
    <TeamPanel v-if="team" :key="team.key" :team="team" @gone="chosen = ''" />
    <p v-else class="quiet none">Make a team to begin with.</p>
    <NewTeam v-model:visible="adding" @made="chosen = $event" />
  </div>
</template>

<style scoped>
.fill {
  margin-top: 20px;
}
</style>
