<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { Item } from '@/api/types'
import DateField from '@/ui/DateField.vue'
import ItemPicker from './ItemPicker.vue'
import { useProgram } from './program'
import { useProposals } from './proposals'

/** How far something is moved: one of these. */
export type Moved = { start: string } | { days: number } | { after: string }

/** Where something is to go by dates; what that does is shown before it is done. */
defineProps<{ except?: string[] }>()
const emit = defineEmits<{ show: [by: Moved] }>()
const store = useProgram()
const proposals = useProposals()
const way = ref<'start' | 'days' | 'after'>('start')
const start = ref('')
const days = ref<number | ''>('')
const after = ref<Item>()
const said = computed(() => ({ start: start.value, days: days.value, after: after.value?.key })[way.value])

function show(): void {
  if (said.value) emit('show', { [way.value]: said.value } as Moved)
}
</script>

<template>
  <form class="move" @submit.prevent="show">
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
        :except="except"
        @pick="after = $event"
      />
    </span>
    <Button
      type="submit"
      size="small"
      label="Show what that does"
      :disabled="!said || proposals.working || !store.connected"
    />
    <span class="quiet small"><slot /></span>
  </form>
</template>

<style scoped>
.move {
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
