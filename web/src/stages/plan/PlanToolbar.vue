<script setup lang="ts">
import Popover from 'primevue/popover'
import { ref } from 'vue'
import RulesLegend from '@/views/RulesLegend.vue'
import { barNames, partNames } from '@/views/shownView'
import ViewTools from '@/views/ViewTools.vue'
import TimeTools from '@/time/TimeTools.vue'
import type { ShowNeeds } from './needsShown'
import { useProgram } from '@/line/program'
import { useGhostLine } from './compare/compare'
import { usePlan } from './plan'
import type { Density } from './layout'
import { usePlanLayout } from './usePlanLayout'

defineEmits<{ help: []; today: [] }>()
const store = useProgram()
const plan = usePlan()
const layout = usePlanLayout()

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
const ghost = useGhostLine()
const menu = ref<InstanceType<typeof Popover>>()
</script>

<template>
  <div class="toolbar" data-region role="toolbar" aria-label="What the plan shows">
    <ViewTools
      v-model:view="plan.view"
      v-model:colour-by="plan.colourBy"
      :painted="layout.painted"
      :looks="['colourBy', 'needs', 'density', 'blocks', 'onlyNeeds', 'bars']"
      keeps="Its conditions, colour rules and the look of the plan are kept."
      about="What the plan shows"
      @show="plan.showView($event)"
    />
    <label class="quiet" for="show-needs">Needs</label>
    <select id="show-needs" v-model="plan.showNeeds" class="in needs">
      <option v-for="[value, says] in needs" :key="value" :value="value">{{ says }}</option>
    </select>
    <RouterLink
      class="round"
      :to="{ name: 'plan', params: { id: store.id }, query: { as: 'needs' } }"
      aria-label="Who owes whom"
      title="Who owes whom: the map of needs"
      ><i class="pi pi-table" aria-hidden="true"
    /></RouterLink>
    <button
      v-if="ghost.of && ghost.name"
      class="chip"
      :title="`Where the items of “${ghost.name}” stand is drawn as ghosts: take them away`"
      @click="ghost.of = ''"
    >
      {{ ghost.name }} <i class="pi pi-times" aria-hidden="true" /><span class="visually-hidden"
        >: take its ghosts away</span
      >
    </button>
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
  <RulesLegend :painted="layout.painted" />
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
  width: 122px;
}

.toolbar :deep(.view) {
  max-width: 150px;
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
