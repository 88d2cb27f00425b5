<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, nextTick, ref } from 'vue'
import type { Scenario } from '@/api/types'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'
import DateField from '@/ui/DateField.vue'
import { count } from '@/ui/format'

/** Which line of the program is in view, and the others to go to. */
const store = useProgram()
const scenarios = useScenarios()
const menu = ref<InstanceType<typeof Popover>>()
const day = ref('')
const label = computed(() => {
  if (store.past) return 'The past'
  return store.line.scenario ? (scenarios.name ?? 'A scenario') : 'Live plan'
})

async function open(event: Event): Promise<void> {
  menu.value?.toggle(event)
  await scenarios.load()
  await nextTick()
}

function go(line: { scenario?: number; at?: string }): void {
  menu.value?.hide()
  void scenarios.show(line)
}

function ask(asked: { of?: Scenario }): void {
  menu.value?.hide()
  scenarios.asked = asked
}

function look(): void {
  if (day.value) go({ at: day.value })
}
const mayEdit = (s: Scenario) =>
  s.mine || store.mine.role === 'administrator' || store.mine.role === 'program manager'
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
      <h3>The past</h3>
      <form class="look" @submit.prevent="look">
        <label for="look-at">Look at the end of</label>
        <DateField id="look-at" v-model="day" />
        <button class="plain-button" :disabled="!day">Look</button>
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
  width: 360px;
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
