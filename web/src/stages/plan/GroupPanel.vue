<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Item } from '@/api/types'
import ItemPicker from '@/line/ItemPicker.vue'
import { rollupText } from '@/line/rollup'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import DateField from '@/ui/DateField.vue'
import { shortDate } from '@/ui/dates'
import type { Bar } from './useBars'

/** The feature or initiative that is selected: what is below it, and moving it by dates. */
const props = defineProps<{ bar: Bar; mayMove: boolean; items: string[] }>()
const store = useProgram()
const proposals = useProposals()
const way = ref<'start' | 'days' | 'after'>('start')
const start = ref('')
const days = ref<number | ''>('')
const after = ref<Item>()
const said = computed(() => ({ start: start.value, days: days.value, after: after.value?.key })[way.value])

async function show(): Promise<void> {
  if (said.value) await proposals.propose({ do: 'shift', item: props.bar.item.key, [way.value]: said.value })
}
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
    <form v-if="mayMove" @submit.prevent="show">
      <label class="check"><input v-model="way" type="radio" value="start" /> Start on</label>
      <DateField v-model="start" aria-label="Start" @focusin="way = 'start'" />
      <label class="check"><input v-model="way" type="radio" value="days" /> Move by</label>
      <span
        ><input
          v-model.number="days"
          class="in days"
          type="number"
          min="-3660"
          max="3660"
          aria-label="Days later; below 0: earlier"
          @focus="way = 'days'"
        />
        days <span class="quiet">(below 0: earlier)</span></span
      >
      <label class="check"><input v-model="way" type="radio" value="after" /> Right after</label>
      <span class="after" @focusin="way = 'after'">
        <ItemPicker
          :label="after ? `${after.key} ${after.title}` : 'an item or feature'"
          :except="[bar.item.key, ...items]"
          @pick="after = $event"
        />
      </span>
      <Button
        type="submit"
        size="small"
        label="Show what that does"
        :disabled="!said || proposals.working || !store.connected"
      />
      <span class="quiet small">Its items go along, each to where its team has room and its needs hold.</span>
    </form>
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

form {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 6px 12px;
  align-items: center;
}

.days {
  width: 74px;
}

.after {
  max-width: 330px;
}
</style>
