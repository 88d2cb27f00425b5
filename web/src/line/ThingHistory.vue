<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import { Names, describeChange } from './describeChange'
import { useAnswer } from './useAnswer'
import { asDate, timeText } from '@/ui/dates'
import { useProgram } from './program'

/** What was changed of an item or a risk, newest first, as the journal has it. */
const props = defineProps<{ item?: string; risk?: string }>()
const store = useProgram()
const { answer: entries, failure } = useAnswer(
  () =>
    answer(
      client.GET('/api/v1/programs/{id}/history', {
        params: { path: { id: store.id }, query: { item: props.item, risk: props.risk } },
      }),
    ),
  [() => props.item, () => props.risk, () => store.revision, () => store.explained],
)
/** What people call things, as the program is now. */
const names = computed(() => new Names(store.program))
const sorts = { edit: '', undo: 'Undone: ', redo: 'Redone: ' } as const
</script>

<template>
  <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
  <p v-else-if="entries && !entries.length" class="quiet">
    Nothing was changed since it came with the program.
  </p>
  <ol v-else>
    <li v-for="entry in entries" :key="entry.revision">
      <b>{{ sorts[entry.sort] }}{{ entry.label }}<template v-if="entry.undone">, undone</template></b>
      <span v-if="entry.why">Why: {{ entry.why }}</span>
      <span class="quiet small">{{ entry.actor }} · {{ timeText(entry.at, asDate(store.todayDay)) }}</span>
      <span v-for="(change, i) in entry.changes" :key="i">{{ describeChange(change, names) }}</span>
    </li>
  </ol>
</template>

<style scoped>
ol {
  display: grid;
  gap: 10px;
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: grid;
  overflow-wrap: anywhere;
}
</style>
