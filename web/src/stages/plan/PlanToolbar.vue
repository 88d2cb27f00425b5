<script setup lang="ts">
import type { ColourBy } from '@/ui/colours'
import TimeTools from '@/time/TimeTools.vue'
import { usePlan, type ShowNeeds } from './plan'
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
</script>

<template>
  <div class="toolbar" data-region role="toolbar" aria-label="What the plan shows">
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
    <TimeTools @today="$emit('today')" />
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
</style>
