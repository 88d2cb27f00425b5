<script setup lang="ts">
import type { Task } from '@/api/types'
import { readHours, type Typed } from './hoursText'
import { amount } from '@/ui/format'

/** The tasks of an item, to be ticked, with the hours that are left of each. */
defineProps<{
  item: string
  tasks: Task[]
  /** Who owns one, where that is to be said; empty: nobody. */
  owner?: (task: Task) => string
  may: (task: Task) => boolean
  mine?: (task: Task) => boolean
  /** Whether keys from 1 on tick them. */
  keys?: boolean
  /** Hours that were spent on one, where that is to be said. */
  spent?: (task: Task) => number
  /** Whether hours of today may be entered. */
  spends?: boolean
}>()
const emit = defineEmits<{
  work: [at: number, how: { done?: boolean; hoursLeft?: number }]
  spend: [at: number, typed: Typed]
}>()

function left(at: number, event: Event): void {
  const hoursLeft = (event.target as HTMLInputElement).valueAsNumber
  if (Number.isFinite(hoursLeft) && hoursLeft >= 0) emit('work', at, { hoursLeft })
}
function spend(at: number, event: Event): void {
  const field = event.target as HTMLInputElement
  const typed = readHours(field.value)
  field.setCustomValidity(typed ? '' : 'No number of hours up to 24: type 2, 2.5 or 1:30')
  if (!typed) return void field.reportValidity()
  field.value = ''
  if (typed.hours) emit('spend', at, typed)
}
</script>

<template>
  <ul class="tasks" :aria-label="`Tasks of ${item}`">
    <li v-for="(t, n) in tasks" :key="n" :class="{ others: mine && !mine(t), done: t.done }">
      <label class="check">
        <input
          type="checkbox"
          :checked="!!t.done"
          :disabled="!may(t)"
          @change="emit('work', n, { done: !t.done })"
        />
        <kbd v-if="keys && n < 9 && may(t)" aria-hidden="true">{{ n + 1 }}</kbd>
        <span>{{ t.title }}</span>
      </label>
      <span v-if="owner" class="quiet small">{{ owner(t) }}</span>
      <span v-if="spent?.(t)" class="quiet small">{{ amount(spent(t)) }} h spent</span>
      <label v-if="spends && !t.done" class="left small"
        >+
        <input
          class="in number"
          maxlength="200"
          placeholder="h today"
          inputmode="decimal"
          autocomplete="off"
          :aria-label="`Hours spent today on ${t.title}`"
          @change="spend(n, $event)"
          @keydown.enter.stop.prevent="spend(n, $event)"
        />
      </label>
      <label v-if="!t.done" class="left small"
        ><input
          v-typing
          class="in number"
          type="number"
          min="0"
          step="0.5"
          :value="t.hoursLeft ?? t.hours ?? ''"
          :disabled="!may(t)"
          :aria-label="`Hours left of ${t.title}`"
          @change="left(n, $event)"
        />
        h left</label
      >
    </li>
  </ul>
</template>

<style scoped>
.tasks {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: flex;
  gap: 10px;
  align-items: center;
  min-height: 28px;
}

.check {
  flex: 1;
}

.others .check {
  color: var(--quiet);
}

.done span {
  color: var(--quiet);
  text-decoration: line-through;
}

.left {
  display: flex;
  gap: 4px;
  align-items: center;
  color: var(--quiet);
  white-space: nowrap;
}

.left .in {
  width: 60px;
  height: 24px;
}
</style>
