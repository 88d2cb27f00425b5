<script setup lang="ts">
import { computed } from 'vue'
import type { ColourBy } from '@/shared/colours'
import { shortDay } from '@/shared/dates'
import { usePlan, type ShowNeeds } from '@/stores/plan'
import { usePlanLayout } from './usePlanLayout'

defineEmits<{ help: []; today: [] }>()
const plan = usePlan()
const layout = usePlanLayout()

const colourings: [ColourBy, string][] = [
  ['release', 'Release'],
  ['kind', 'Kind'],
  ['readiness', 'Readiness'],
]
const needs: [ShowNeeds, string][] = [
  ['selected', 'Selected'],
  ['broken', 'Broken'],
  ['all', 'All'],
]
const weeks = computed(() => Math.round((plan.to - plan.from) / 7))
const range = computed(
  () => `${shortDay(Math.ceil(plan.from))} – ${shortDay(Math.floor(plan.to), Math.ceil(plan.from))}`,
)
</script>

<template>
  <div class="toolbar" role="toolbar" aria-label="What the plan shows">
    <span class="quiet">Colour by</span>
    <button
      v-for="[value, label] in colourings"
      :key="value"
      class="chip"
      :aria-pressed="plan.colourBy === value"
      @click="plan.colourBy = value"
    >
      {{ label }}
    </button>
    <ul class="legend" aria-label="Legend">
      <li v-for="s in layout.swatches.value" :key="s.key">
        <span :style="{ background: s.colour }" />{{ s.label }}
      </li>
    </ul>
    <span class="quiet">Needs</span>
    <button
      v-for="[value, label] in needs"
      :key="value"
      class="chip needs"
      :aria-pressed="plan.showNeeds === value"
      @click="plan.showNeeds = value"
    >
      {{ label }}
    </button>
    <span class="gap" />
    <button class="round" aria-label="Earlier" title="Earlier (Shift+←)" @click="plan.scrollDays(-14)">
      <i class="pi pi-chevron-left" aria-hidden="true" />
    </button>
    <button class="chip" title="Go to today (T)" @click="$emit('today')">Today</button>
    <button class="round" aria-label="Later" title="Later (Shift+→)" @click="plan.scrollDays(14)">
      <i class="pi pi-chevron-right" aria-hidden="true" />
    </button>
    <span class="range quiet">{{ range }}</span>
    <button class="round" aria-label="Zoom out" title="Zoom out (−)" @click="plan.zoomBy(0.8)">
      <i class="pi pi-minus" aria-hidden="true" />
    </button>
    <span class="quiet">{{ weeks }} weeks</span>
    <button class="round" aria-label="Zoom in" title="Zoom in (+)" @click="plan.zoomBy(1.25)">
      <i class="pi pi-plus" aria-hidden="true" />
    </button>
    <button class="round" aria-label="Keys" title="Keys (?)" @click="$emit('help')"><b>?</b></button>
  </div>
</template>

<style scoped>
.toolbar {
  display: flex;
  flex: none;
  align-items: center;
  gap: 5px;
  min-height: 32px;
  padding: 3px 16px;
  white-space: nowrap;
  overflow-x: auto;
}

.chip,
.round {
  height: 22px;
  border: 1px solid var(--edge);
  border-radius: 11px;
  padding: 0 10px;
  background: var(--panel);
  font-size: 12px;
  cursor: pointer;
}

.round {
  width: 22px;
  padding: 0;
  flex: none;
}

.round .pi {
  font-size: 10px;
}

.chip[aria-pressed='true'] {
  background: var(--ink);
  border-color: var(--ink);
  color: var(--panel);
}

.chip.needs[aria-pressed='true'] {
  background: var(--needs-soft);
  border-color: var(--needs);
  color: var(--needs);
}

.legend {
  display: flex;
  gap: 10px;
  list-style: none;
  margin: 0 14px 0 6px;
  padding: 0;
  font-size: 11px;
  overflow: hidden;
}

.legend li {
  display: flex;
  gap: 4px;
  align-items: center;
}

.legend span {
  width: 10px;
  height: 10px;
  border-radius: 2px;
}

.gap {
  flex: 1;
}

.range {
  min-width: 118px;
  text-align: center;
}
</style>
