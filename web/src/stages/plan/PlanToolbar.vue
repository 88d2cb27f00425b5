<script setup lang="ts">
import Popover from 'primevue/popover'
import { ref } from 'vue'
import type { ColourBy } from '@/ui/colours'
import TimeTools from '@/time/TimeTools.vue'
import type { ShowNeeds } from './needsShown'
import { usePlan } from './plan'
import type { Density } from './layout'
import { barNames, partNames } from './useLook'
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
  ['selected', 'of the selection’s chain'],
  ['broken', 'that are broken'],
  ['tight', 'broken or without a spare day'],
  ['across', 'across teams'],
  ['all', 'all'],
]
const densities: [Density, string][] = [
  ['compact', 'Compact'],
  ['usual', 'Usual'],
  ['roomy', 'Roomy'],
]
const menu = ref<InstanceType<typeof Popover>>()
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
    <label class="quiet" for="show-needs">Needs</label>
    <select id="show-needs" v-model="plan.showNeeds" class="in needs">
      <option v-for="[value, says] in needs" :key="value" :value="value">{{ says }}</option>
    </select>
    <button class="chip" aria-haspopup="dialog" @click="menu?.toggle($event)">Look…</button>
    <Popover ref="menu" aria-label="How the plan looks">
      <div class="look">
        <fieldset>
          <legend>Lanes</legend>
          <label v-for="[value, label] in densities" :key="value" class="check">
            <input v-model="plan.density" type="radio" name="density" :value="value" /> {{ label }}
          </label>
        </fieldset>
        <fieldset>
          <legend>Above the lanes</legend>
          <label v-for="(label, value) in barNames" :key="value" class="check">
            <input v-model="plan.bars" type="radio" name="bars" :value="value" /> {{ label }}
          </label>
        </fieldset>
        <fieldset>
          <legend>Blocks show</legend>
          <label v-for="(label, part) in partNames" :key="part" class="check">
            <input v-model="plan.parts" type="checkbox" :value="part" /> {{ label }}
          </label>
        </fieldset>
        <label class="check">
          <input v-model="plan.onlyNeeds" type="checkbox" /> Only blocks with needs stand out
        </label>
      </div>
    </Popover>
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

.needs {
  height: 26px;
  width: 150px;
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

.look {
  display: grid;
  gap: 8px;
}

.look fieldset {
  display: grid;
  grid-template-columns: repeat(2, auto);
  gap: 2px 14px;
  border: 0;
  margin: 0;
  padding: 0;
}

.look legend {
  padding: 0;
  font: 650 13px var(--heading);
}
</style>
