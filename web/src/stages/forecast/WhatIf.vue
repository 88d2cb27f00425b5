<script setup lang="ts">
import { computed } from 'vue'
import type { WhenAsked } from '@/api/types'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import type { Asked } from './asked'
import WhatIfMore from './WhatIfMore.vue'

/** What plays take otherwise than the plan and its past say; nothing of the plan changes. */
const props = defineProps<{ teams: string[]; release?: string; about: Asked['about']['value'] }>()
const store = useProgram()
const scenarios = useScenarios()
const asIf = defineModel<NonNullable<WhenAsked['if']>>({ required: true })

const percentOf = (factor: number) => Math.round((factor - 1) * 100)
const sliders = computed(() => [
  {
    key: 'scope',
    name: 'Work left',
    at: Math.round((asIf.value.scope ?? 0) * 100),
    set: (n: number) => (asIf.value = { ...asIf.value, scope: n ? n / 100 : undefined }),
  },
  ...['', ...props.teams].map((team) => ({
    key: `pace:${team}`,
    name: team ? `Pace of ${store.teams.get(team)?.name ?? team}` : 'Pace of all teams',
    at: percentOf(asIf.value.pace?.[team] ?? 1),
    set: (n: number) => {
      const pace = { ...asIf.value.pace }
      if (n) pace[team] = 1 + n / 100
      else delete pace[team]
      asIf.value = { ...asIf.value, pace: Object.keys(pace).length ? pace : undefined }
    },
  })),
])
const pulls = computed(() => asIf.value.pullAhead ?? store.program.settings?.pullAhead !== false)
const switches = [
  ['noGrowth', 'Releases do not grow'],
  ['noTurned', 'Sizes turn out as set'],
  ['noRisks', 'No risk strikes'],
] as const
const changed = computed(() => Object.values(asIf.value).some((v) => v !== undefined))
const signed = (n: number) => (n ? `${n > 0 ? '+' : '−'}${Math.abs(n)} %` : 'as it is')
const keep = () =>
  (scenarios.asked = {
    begin: { do: 'keep-what-if', ...props.about, if: asIf.value },
    name: 'What if',
  })
function pull(on: boolean): void {
  const usual = store.program.settings?.pullAhead !== false
  asIf.value = { ...asIf.value, pullAhead: on === usual ? undefined : on }
}
</script>

<template>
  <section class="what-if" aria-label="What if">
    <h2>
      What if
      <button class="link small" :disabled="!changed" @click="asIf = {}">Reset</button>
      <button
        class="link small"
        :disabled="!changed || !scenarios.mayMake"
        title="A new scenario with what is supposed in it, as far as a plan can say it"
        @click="keep"
      >
        Keep as scenario…
      </button>
    </h2>
    <label v-for="s in sliders" :key="s.key" class="slider">
      <span class="name">{{ s.name }}</span>
      <span class="small" :class="{ quiet: !s.at }">{{ signed(s.at) }}</span>
      <input
        type="range"
        min="-50"
        max="100"
        step="5"
        :value="s.at"
        :aria-label="s.name"
        :aria-valuetext="signed(s.at)"
        @input="s.set(Number(($event.target as HTMLInputElement).value))"
      />
    </label>
    <label v-for="[field, name] in switches" :key="field" class="check">
      <input
        type="checkbox"
        :checked="!!asIf[field]"
        @change="asIf = { ...asIf, [field]: ($event.target as HTMLInputElement).checked || undefined }"
      />
      {{ name }}
    </label>
    <label class="check">
      <input type="checkbox" :checked="pulls" @change="pull(($event.target as HTMLInputElement).checked)" />
      Teams take work ahead
    </label>
    <WhatIfMore v-model="asIf" :teams="teams" :release="release" />
    <p class="quiet small">The plan stays as it is.</p>
  </section>
</template>

<style scoped>
.what-if {
  display: grid;
  gap: 8px;
}

h2,
p {
  margin: 0;
}

h2 {
  display: flex;
  justify-content: space-between;
  font-size: 16px;
}

.slider {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 8px;
}

.slider .name {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.slider input {
  grid-column: 1 / -1;
  width: 100%;
  accent-color: var(--water);
}

.check {
  min-height: 22px;
}
</style>
