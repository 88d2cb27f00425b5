<script setup lang="ts">
import MoveByDates, { type Moved } from '@/line/MoveByDates.vue'
import { rollupText } from '@/line/rollup'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import { shortDate } from '@/ui/dates'
import type { Bar } from './useBars'

/** The feature or initiative that is selected: what is below it, and moving it by dates. */
const props = defineProps<{ bar: Bar; mayMove: boolean; items: string[] }>()
const store = useProgram()
const proposals = useProposals()
const show = (by: Moved) => proposals.propose({ do: 'shift', item: props.bar.item.key, ...by })
</script>

<template>
  <section class="panel" data-region aria-label="Selected feature">
    <h2>
      <span class="quiet">{{ bar.item.key }}</span> {{ bar.item.title }}
    </h2>
    <p class="quiet">
      {{ rollupText(bar.rollup, store)
      }}<template v-if="bar.item.due"> · due {{ shortDate(bar.item.due, store.todayDay) }}</template>
    </p>
    <MoveByDates v-if="mayMove" :except="[bar.item.key, ...items]" @show="show"
      >Its items go along, each to where its team has room and its needs hold.</MoveByDates
    >
  </section>
</template>

<style scoped>
.panel {
  flex: 1;
  min-width: 0;
  padding: 8px 16px 4px 14px;
  overflow-y: auto;
  background: var(--paper);
}

h2 {
  margin: 0;
  font-size: 15px;
}

p {
  margin: 2px 0 8px;
}
</style>
