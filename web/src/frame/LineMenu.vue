<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Scenario } from '@/api/types'
import { manages } from '@/line/may'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import DateField from '@/ui/DateField.vue'
import { shortDate } from '@/ui/dates'
import { count } from '@/ui/format'
import { useAttempt } from '@/ui/useAttempt'
import PrivateScenarios from './PrivateScenarios.vue'

/** Which line of the program is in view, and the others to go to. */
const store = useProgram()
const scenarios = useScenarios()
const menu = ref<InstanceType<typeof Popover>>()
const day = ref('')
const router = useRouter()
const label = computed(() => {
  if (store.past) return 'The past'
  return store.line.scenario ? (scenarios.name ?? 'A scenario') : 'Live plan'
})

function open(event: Event): void {
  menu.value?.toggle(event)
  void scenarios.load()
}

function go(line: { scenario?: number; at?: string }): void {
  menu.value?.hide()
  void scenarios.show(line)
}

function ask(asked: { of?: Scenario }): void {
  menu.value?.hide()
  scenarios.asked = asked
}

/** What became of the line in view since a moment. */
function since(of: string): void {
  menu.value?.hide()
  void router.push({ name: 'plan', params: { id: store.id }, query: { as: 'since', of } })
}

function compare(): void {
  menu.value?.hide()
  void router.push({ name: 'plan', params: { id: store.id }, query: { as: 'compare' } })
}

const { failure, busy, attempt } = useAttempt()
const freezeAs = ref('')
async function freeze(): Promise<void> {
  const name = freezeAs.value.trim()
  if (name && (await attempt(() => scenarios.freeze(name)))) freezeAs.value = ''
}

function look(): void {
  if (day.value) go({ at: day.value })
}
const managing = computed(() => manages(store.mine))
const mayEdit = (s: Scenario) => s.mine || managing.value
</script>

<template>
  <button
    class="line"
    :class="{ other: store.past || store.line.scenario }"
    aria-haspopup="true"
    :aria-label="`In view: ${label}`"
    :title="`In view: ${label}`"
    @click="open"
  >
    <span>{{ label }}</span>
    <i class="pi pi-chevron-down" aria-hidden="true" />
  </button>
  <Popover ref="menu">
    <div class="lines">
      <button
        v-focus
        class="row"
        :aria-current="!store.past && !store.line.scenario ? 'true' : undefined"
        @click="go({})"
      >
        <b>Live plan</b>
      </button>
      <h3>Scenarios</h3>
      <p v-if="!scenarios.list.length" class="quiet small">
        None yet. A scenario is a copy of the plan in which everything can be tried.
      </p>
      <div v-for="s in scenarios.list" :key="s.id" class="pair">
        <button
          class="row"
          :aria-current="store.line.scenario === s.id ? 'true' : undefined"
          :title="s.note"
          @click="go({ scenario: s.id })"
        >
          <span class="dot" :style="{ background: scenarios.colourOf(s.id) }" aria-hidden="true" />
          <span class="name">{{ s.name }}</span>
          <span class="quiet small"
            >{{ s.mine ? (s.shared ? 'yours, shared' : 'yours, private') : s.by }} ·
            {{ count(s.edits, 'edit') }}</span
          >
        </button>
        <button
          v-if="mayEdit(s)"
          class="plain-button icon"
          :aria-label="`Name and note of ${s.name}`"
          title="Name, note, who sees it"
          @click="ask({ of: s })"
        >
          <i class="pi pi-pencil" aria-hidden="true" />
        </button>
      </div>
      <button v-if="scenarios.mayMake" class="plain-button" @click="ask({})">
        <i class="pi pi-plus" aria-hidden="true" /> New scenario…
      </button>
      <button class="plain-button" @click="compare()">
        <i class="pi pi-arrows-h" aria-hidden="true" /> Compare…
      </button>
      <PrivateScenarios v-if="managing" />
      <h3>Baselines</h3>
      <p v-if="!scenarios.baselines.length" class="quiet small">
        None yet. A baseline is the plan of a moment under a name, to hold later ones against.
      </p>
      <div v-for="b in scenarios.baselines" :key="b.id" class="pair">
        <button
          class="row"
          :aria-current="store.line.at === `baseline-${b.id}` ? 'true' : undefined"
          :title="b.note"
          @click="go({ at: `baseline-${b.id}` })"
        >
          <span class="name">{{ b.name }}</span>
          <span class="quiet small">{{ shortDate(b.day, store.todayDay) }} · {{ b.by }}</span>
        </button>
        <button class="plain-button" :aria-label="`Since ${b.name}`" @click="since(`baseline-${b.id}`)">
          since then
        </button>
        <button
          v-if="scenarios.mayFreeze"
          class="plain-button icon"
          :aria-label="`Remove the baseline ${b.name}`"
          title="Remove it; the journal keeps what it was"
          @click="attempt(() => scenarios.forget(b.id))"
        >
          <i class="pi pi-trash" aria-hidden="true" />
        </button>
      </div>
      <form v-if="scenarios.mayFreeze && !store.line.scenario" class="look" @submit.prevent="freeze">
        <label for="freeze-as">Freeze as</label>
        <input id="freeze-as" v-model="freezeAs" class="in" maxlength="120" placeholder="a name" />
        <button class="plain-button" :disabled="!freezeAs.trim() || busy">Freeze</button>
      </form>
      <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
      <h3>The past</h3>
      <form class="look" @submit.prevent="look">
        <label for="look-at">Look at the end of</label>
        <DateField id="look-at" v-model="day" />
        <button class="plain-button" :disabled="!day">Look</button>
        <button type="button" class="plain-button" :disabled="!day" @click="since(day)">since then</button>
      </form>
    </div>
  </Popover>
</template>

<style scoped>
.line {
  display: flex;
  gap: 6px;
  align-items: center;
  max-width: 190px;
  height: 26px;
  margin-right: 10px;
  padding: 0 10px;
  border: 1px solid var(--bar-quiet);
  border-radius: 13px;
  background: none;
  color: var(--bar-text);
  cursor: pointer;
}

.line span {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.line .pi {
  font-size: 10px;
}

.other {
  background: var(--paper);
  color: var(--ink);
}

.lines {
  display: grid;
  gap: 6px;
  width: 420px;
  max-height: 70vh;
  overflow: auto;
}

h3 {
  margin: 6px 0 0;
  font-size: 13px;
}

p {
  margin: 0;
}

.pair {
  display: flex;
  gap: 4px;
  align-items: center;
}

.row {
  display: flex;
  flex: 1;
  gap: 8px;
  align-items: center;
  min-width: 0;
  padding: 5px 8px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
}

.row:hover,
.row[aria-current] {
  border-color: var(--edge);
  background: var(--tint);
}

.name {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.dot {
  flex: none;
  width: 10px;
  height: 10px;
  border-radius: 50%;
}

.look {
  display: flex;
  gap: 8px;
  align-items: center;
}

.look :deep(input) {
  width: 120px;
}
</style>
