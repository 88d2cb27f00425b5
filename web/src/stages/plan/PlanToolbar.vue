<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import type { View } from '@/api/types'
import type { ColourBy } from '@/ui/colours'
import { count } from '@/ui/format'
import ColourRules from '@/views/ColourRules.vue'
import FilterBuilder from '@/views/FilterBuilder.vue'
import Swatch from '@/views/Swatch.vue'
import ViewPick from '@/views/ViewPick.vue'
import { plainFilter, plainRules, useViews } from '@/views/views'
import TimeTools from '@/time/TimeTools.vue'
import type { ShowNeeds } from './needsShown'
import { usePlan } from './plan'
import type { Density } from './layout'
import { barNames, partNames } from './usePlanView'
import { usePlanLayout } from './usePlanLayout'

defineEmits<{ help: []; today: [] }>()
const plan = usePlan()
const views = useViews()
const layout = usePlanLayout()

const colourings: [ColourBy, string][] = [
  ['release', 'Release'],
  ['kind', 'Kind'],
  ['readiness', 'Readiness'],
  ['rules', 'Own rules'],
]
const colourBy = computed({
  get: () => plan.colourBy,
  set: (by) => {
    plan.colourBy = by
    if (by === 'rules' && !rules.value.length) painting.value = true
  },
})
const rules = computed({
  get: () => plan.view.colours ?? [],
  set: (colours) => (plan.view = { ...plan.view, colours }),
})
const painting = ref(false)
/** Rules that colour something, as the server answered for them. */
const painted = computed(() =>
  plan.colourBy !== 'rules'
    ? []
    : rules.value.map((rule, i) => ({
        ...rule,
        label: rule.name || layout.paint.value?.names[i] || 'everything',
      })),
)
const filter = ref<InstanceType<typeof Popover>>()
const conditions = computed(() => plan.view.filter?.conditions?.length ?? 0)
const plain = (v: View) => [
  plainFilter(v.filter),
  plainRules(v.colours),
  v.plan && [v.plan.colourBy, v.plan.needs, v.plan.density, v.plan.blocks, v.plan.onlyNeeds, v.plan.bars],
]
/** A view that says nothing of the look is not changed by it. */
const compared = (v: View) => plain({ ...v, plan: saved.value?.plan && v.plan })
const saved = computed(() => views.all.find((v) => v.key === plan.view.key && v.name === plan.view.name))
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
    <ViewPick
      :view="plan.view"
      :plain="compared"
      keeps="Its conditions, colour rules and the look of the plan are kept."
      @show="plan.showView($event)"
      @saved="plan.view = $event"
    />
    <button
      class="chip"
      aria-haspopup="dialog"
      :aria-pressed="conditions > 0"
      :title="layout.paint.value?.sentence"
      @click="filter?.toggle($event)"
    >
      Filter{{ conditions ? `: ${count(conditions, 'condition')}` : '' }}
    </button>
    <label class="quiet" for="colour-by">Colour</label>
    <select id="colour-by" v-model="colourBy" class="in by">
      <option v-for="[value, label] in colourings" :key="value" :value="value">{{ label }}</option>
    </select>
    <button v-if="plan.colourBy === 'rules'" class="chip" aria-haspopup="dialog" @click="painting = true">
      Rules…
    </button>
    <ul v-if="plan.colourBy !== 'rules'" class="legend" aria-label="Legend">
      <li v-for="s in layout.swatches.value" :key="s.key" :title="s.label">
        <span class="dot" :style="{ background: s.colour }" />{{ s.label }}
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
    <Popover ref="filter" aria-label="What the plan shows">
      <FilterBuilder
        :model-value="plan.view.filter"
        :sentence="layout.paint.value?.sentence"
        :failure="layout.paintFailure.value"
        @update:model-value="plan.view = { ...plan.view, filter: $event }"
      />
    </Popover>
    <ColourRules
      v-model:visible="painting"
      v-model:rules="rules"
      :counts="layout.paint.value?.colours.map((keys) => keys.length)"
      :names="layout.paint.value?.names"
      :failure="layout.paintFailure.value"
    />
    <span class="gap" />
    <TimeTools @today="$emit('today')" />
    <button class="round" aria-label="Keys" title="Keys (?)" @click="$emit('help')"><b>?</b></button>
  </div>
  <ul v-if="painted.length" class="legend rules" aria-label="Legend">
    <li v-for="(r, i) in painted" :key="i" :title="r.label">
      <Swatch :colour="r.colour" :mark="r.mark" /> {{ r.label }}
      <span class="quiet">{{ layout.paint.value?.colours[i]?.length ?? '' }}</span>
    </li>
  </ul>
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

.legend {
  display: flex;
  gap: 10px;
  list-style: none;
  min-width: 0;
  margin: 0 10px 0 4px;
  padding: 0;
  font-size: 11px;
  overflow: hidden;
}

.legend.rules {
  flex: none;
  flex-wrap: wrap;
  gap: 0 14px;
  margin: 0;
  padding: 0 16px 4px;
}

.by {
  height: 26px;
  width: 98px;
}

.toolbar :deep(.view) {
  max-width: 150px;
}

.legend li {
  display: flex;
  gap: 4px;
  align-items: center;
}

.legend .dot {
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
