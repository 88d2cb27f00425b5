<script setup lang="ts">
import { ref, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { Item, JournalEntry } from '@/api/types'
import { describeChange } from '@/frame/describeChange'
import { timeText } from '@/shared/dates'
import { usePlan } from '@/stores/plan'
import { useProgram } from '@/stores/program'

/** What was changed of an item, newest first, as the journal has it. */
const props = defineProps<{ item: Item }>()
const store = useProgram()
const plan = usePlan()
const entries = ref<JournalEntry[]>([])
const failure = ref('')
watch(
  () => [props.item.key, store.revision] as const,
  async ([key]) => {
    try {
      const params = { path: { id: store.id }, query: { item: key } }
      const found = await answer(client.GET('/api/v1/programs/{id}/history', { params }))
      if (key === props.item.key) entries.value = found
      failure.value = ''
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error)
    }
  },
  { immediate: true },
)
const sorts = { edit: '', undo: 'Undone: ', redo: 'Redone: ' } as const
</script>

<template>
  <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
  <p v-else-if="!entries.length" class="quiet">Nothing was changed since it came with the program.</p>
  <ol v-else>
    <li v-for="entry in entries" :key="entry.revision">
      <b>{{ sorts[entry.sort] }}{{ entry.label }}</b>
      <span class="quiet small">{{ entry.actor }} · {{ timeText(entry.at) }}</span>
      <span v-for="(change, i) in entry.changes" :key="i">{{
        describeChange(change, store.items, plan.iterationName)
      }}</span>
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
