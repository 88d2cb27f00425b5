<script setup lang="ts">
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import type { View } from '@/api/types'
import type { ColourBy } from '@/ui/colours'
import { count } from '@/ui/format'
import ColourRules from './ColourRules.vue'
import FilterBuilder from './FilterBuilder.vue'
import type { Look } from './shownView'
import type { Painted } from './usePaint'
import ViewPick from './ViewPick.vue'
import { plainFilter, plainRules, useViews } from './views'

/** What a stage shows: its view, what that keeps, and what colours stand for. */
const props = defineProps<{
  painted: Painted
  /** What of the look counts in this stage, for telling whether it differs from the saved one. */
  looks: (keyof Look)[]
  /** What is kept with a view here, in words. */
  keeps: string
  /** What the filter is about: What the plan shows. */
  about: string
}>()
const emit = defineEmits<{ show: [view: View] }>()
const view = defineModel<View>('view', { required: true })
const colourBy = defineModel<ColourBy>('colourBy', { required: true })
const views = useViews()

const colourings: [ColourBy, string][] = [
  ['release', 'Release'],
  ['kind', 'Kind'],
  ['readiness', 'Readiness'],
  ['rules', 'Own rules'],
]
const by = computed({
  get: () => colourBy.value,
  set: (next) => {
    colourBy.value = next
    if (next === 'rules' && !rules.value.length) painting.value = true
  },
})
const rules = computed({
  get: () => view.value.colours ?? [],
  set: (colours) => (view.value = { ...view.value, colours }),
})
const painting = ref(false)
const filter = ref<InstanceType<typeof Popover>>()
const conditions = computed(() => view.value.filter?.conditions?.length ?? 0)
const plain = (v: View) => [
  plainFilter(v.filter),
  plainRules(v.colours),
  v.plan && props.looks.map((name) => v.plan?.[name]),
]
/** A view that says nothing of the look is not changed by it. */
const compared = (v: View) => plain({ ...v, plan: saved.value?.plan && v.plan })
const saved = computed(() => views.all.find((v) => v.key === view.value.key && v.name === view.value.name))
</script>

<template>
  <ViewPick
    :view="view"
    :plain="compared"
    :keeps="keeps"
    @show="emit('show', $event)"
    @saved="view = $event"
  />
  <button
    class="chip"
    aria-haspopup="dialog"
    :aria-pressed="conditions > 0"
    :title="painted.paint?.sentence"
    @click="filter?.toggle($event)"
  >
    Filter{{ conditions ? `: ${count(conditions, 'condition')}` : '' }}
  </button>
  <label class="quiet" for="colour-by">Colour</label>
  <select id="colour-by" v-model="by" class="in by">
    <option v-for="[value, label] in colourings" :key="value" :value="value">{{ label }}</option>
  </select>
  <button v-if="by === 'rules'" class="chip" aria-haspopup="dialog" @click="painting = true">Rules…</button>
  <ul v-else class="legend" aria-label="Legend">
    <li v-for="s in painted.swatches" :key="s.key" :title="s.label">
      <span class="dot" :style="{ background: s.colour }" />{{ s.label }}
    </li>
  </ul>
  <Popover ref="filter" :aria-label="about">
    <FilterBuilder
      :model-value="view.filter"
      :sentence="painted.paint?.sentence"
      :failure="painted.failure"
      @update:model-value="view = { ...view, filter: $event }"
    />
  </Popover>
  <ColourRules
    v-model:visible="painting"
    v-model:rules="rules"
    :counts="painted.paint?.colours.map((keys) => keys.length)"
    :names="painted.paint?.names"
    :failure="painted.failure"
  />
</template>

<style scoped>
.by {
  width: 98px;
  height: 26px;
}

.legend {
  display: flex;
  gap: 10px;
  min-width: 0;
  margin: 0 10px 0 4px;
  padding: 0;
  overflow: hidden;
  font-size: 11px;
  list-style: none;
}

.legend li {
  display: flex;
  gap: 4px;
  align-items: center;
}

.dot {
  width: 10px;
  height: 10px;
  border-radius: 2px;
}
</style>
