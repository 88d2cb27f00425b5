<script setup lang="ts">
import Button from 'primevue/button'
import Drawer from 'primevue/drawer'
import { computed, ref, shallowRef, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { JournalEntry } from '@/api/types'
import { asDate, timeText } from '@/ui/dates'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { Names, describeChange } from '@/line/describeChange'
import { storeToRefs } from 'pinia'
import { useJournal } from './journal'

const store = useProgram()
const journal = useJournal()
const { visible, from } = storeToRefs(journal)
const page = 50
/** Before which revision older entries are asked for; 0: the newest are. */
const before = ref(0)
const entries = shallowRef<JournalEntry[]>([])
const more = ref(false)

watch([visible, from, () => store.revision], () => (before.value = from.value ? from.value + 1 : 0))
const { failure } = useAnswer(
  () =>
    visible.value
      ? answer(
          client.GET('/api/v1/programs/{id}/journal', {
            params: { path: { id: store.id }, query: { before: before.value, limit: page } },
          }),
        )
      : undefined,
  [visible, () => store.revision, () => store.explained, before],
  {
    then: (list) => {
      const goesOn = before.value && before.value === entries.value.at(-1)?.revision
      entries.value = goesOn ? [...entries.value, ...list] : list
      more.value = list.length === page
    },
  },
)

/** What people call things, as the program is now. */
const names = computed(() => new Names(store.program))
const sorts = { edit: '', undo: 'Undone: ', redo: 'Redone: ' } as const
</script>

<template>
  <Drawer
    v-model:visible="visible"
    header="What changed"
    position="right"
    class="journal"
    :pt="{ content: { tabindex: 0 } }"
    :style="{ width: '430px' }"
  >
    <p v-if="failure" role="alert">{{ failure }}</p>
    <p v-else-if="!entries.length" class="quiet">
      Nothing has been changed yet. Every edit will stand here, newest first.
    </p>
    <button v-if="from" class="link small" @click="journal.show()">From the newest</button>
    <ol class="entries">
      <li v-for="entry in entries" :key="entry.revision">
        <h3>{{ sorts[entry.sort] }}{{ entry.label }}</h3>
        <p v-if="entry.why">Why: {{ entry.why }}</p>
        <p class="quiet small">{{ entry.actor }} · {{ timeText(entry.at, asDate(store.todayDay)) }}</p>
        <ul>
          <li v-for="(change, i) in entry.changes.slice(0, 8)" :key="i">
            {{ describeChange(change, names) }}
          </li>
          <li v-if="entry.changes.length > 8" class="quiet">
            and {{ count(entry.changes.length - 8 + (entry.more ?? 0), 'more change') }}
          </li>
        </ul>
      </li>
    </ol>
    <Button v-if="more" label="Older" text @click="before = entries[entries.length - 1].revision" />
  </Drawer>
</template>

<style scoped>
.entries,
.entries ul {
  list-style: none;
  margin: 0;
  padding: 0;
}

.entries > li {
  padding: 10px 0;
  border-top: 1px solid var(--rule);
}

.entries > li:first-child {
  border-top: 0;
}

.entries h3 {
  font-size: 14px;
}

.entries p {
  margin: 2px 0 4px;
}

.entries ul li {
  padding: 1px 0;
  overflow-wrap: anywhere;
}
</style>
