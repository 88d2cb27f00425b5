<script setup lang="ts">
import Button from 'primevue/button'
import Drawer from 'primevue/drawer'
import { refDebounced } from '@vueuse/core'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { JournalEntry } from '@/api/types'
import { asDate, timeText } from '@/ui/dates'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { Names, describeChange } from '@/line/describeChange'
import { storeToRefs } from 'pinia'
import { kinds } from '@/line/kinds.gen'
import { useScenarios } from '@/line/scenarios'
import DateField from '@/ui/DateField.vue'
import { stages } from '@/router'
import { useJournal } from './journal'

const store = useProgram()
const journal = useJournal()
const scenarios = useScenarios()
const { visible, from } = storeToRefs(journal)
const page = 50
/** Before which revision older entries are asked for; 0: the newest are. */
const before = ref(0)
const entries = shallowRef<JournalEntry[]>([])
const more = ref(false)

/** What is looked for; empty fields do not matter. */
const words = ref('')
const by = ref('')
const kind = ref('')
const stage = ref('')
const field = ref('')
const since = ref('')
const until = ref('')
const looked = refDebounced(
  computed(() => ({ words: words.value.trim(), by: by.value.trim() })),
  250,
)
const sought = computed(() => {
  const all = {
    ...looked.value,
    stage: stage.value,
    kind: kind.value,
    field: field.value,
    from: since.value,
    to: until.value,
  }
  return Object.fromEntries(Object.entries(all).filter(([, value]) => value))
})
const fields = computed(() =>
  kind.value
    ? Object.entries(kinds[kind.value as keyof typeof kinds].fields as Record<string, { title: string }>)
    : [],
)
const seeks = computed(() => Object.keys(sought.value).length > 0)
watch(kind, () => (field.value = ''))
watch(sought, () => (before.value = 0))
/** The edits that are opened: all that they changed is listed. */
const opened = reactive(new Set<number>())
const few = 8

/** Where the plan stood before an edit, to be looked at. */
function look(revision: number): void {
  visible.value = false
  void scenarios.show({ at: String(revision - 1) })
}
function takeBack(entry: JournalEntry): void {
  visible.value = false
  scenarios.takeBack(entry.revision, entry.label)
}

watch([visible, from, () => store.revision], () => (before.value = from.value ? from.value + 1 : 0))
const { failure } = useAnswer(
  () =>
    visible.value
      ? answer(
          client.GET('/api/v1/programs/{id}/journal', {
            params: { path: { id: store.id }, query: { before: before.value, limit: page, ...sought.value } },
          }),
        )
      : undefined,
  [visible, () => store.revision, () => store.explained, before, sought],
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
    <form class="sought" role="search" aria-label="Look for edits" @submit.prevent>
      <input
        v-model="words"
        class="in"
        placeholder="Words or a key"
        aria-label="Words or a key"
        maxlength="200"
      />
      <input v-model="by" class="in" placeholder="By whom" aria-label="By whom" maxlength="100" />
      <select v-model="stage" class="in" aria-label="Of which stage">
        <option value="">Of any stage</option>
        <option v-for="s in stages" :key="s.name" :value="s.name">{{ s.title }}</option>
      </select>
      <select v-model="kind" class="in" aria-label="Of what">
        <option value="">Of anything</option>
        <option v-for="(info, key) in kinds" :key="key" :value="key">{{ info.title }}</option>
      </select>
      <select v-model="field" class="in wide" aria-label="Which field" :disabled="!kind">
        <option value="">Any field</option>
        <option v-for="[key, info] in fields" :key="key" :value="key">{{ info.title }}</option>
      </select>
      <label class="small quiet" for="journal-from">from</label>
      <DateField id="journal-from" v-model="since" />
      <label class="small quiet" for="journal-to">to</label>
      <DateField id="journal-to" v-model="until" />
    </form>
    <p v-if="failure" role="alert">{{ failure }}</p>
    <p v-else-if="!entries.length" class="quiet">
      {{
        seeks
          ? 'No edit is like that.'
          : 'Nothing has been changed yet. Every edit will stand here, newest first.'
      }}
    </p>
    <button v-if="from" class="link small" @click="journal.show()">From the newest</button>
    <ol class="entries">
      <li v-for="entry in entries" :key="entry.revision" :class="{ undone: entry.undone }">
        <h3>{{ sorts[entry.sort] }}{{ entry.label }}<template v-if="entry.undone">, undone</template></h3>
        <p v-if="entry.why">Why: {{ entry.why }}</p>
        <p class="quiet small">{{ entry.actor }} · {{ timeText(entry.at, asDate(store.todayDay)) }}</p>
        <ul>
          <li
            v-for="(change, i) in entry.changes.slice(0, opened.has(entry.revision) ? undefined : few)"
            :key="i"
          >
            {{ describeChange(change, names) }}
          </li>
          <li v-if="entry.changes.length > few && !opened.has(entry.revision)">
            <button class="link" @click="opened.add(entry.revision)">
              and {{ count(entry.changes.length - few + (entry.more ?? 0), 'more change') }}
            </button>
          </li>
          <li v-else-if="entry.more" class="quiet">and {{ count(entry.more, 'more change') }}</li>
        </ul>
        <p v-if="!store.past" class="acts small">
          <button
            v-if="!store.line.scenario"
            class="link"
            :aria-label="`Look at the plan before: ${entry.label}`"
            @click="look(entry.revision)"
          >
            The plan before this
          </button>
          <button
            v-if="store.mine.role !== 'viewer' && !entry.undone"
            class="link"
            :aria-label="`Take back: ${entry.label}`"
            @click="takeBack(entry)"
          >
            Take back…
          </button>
        </p>
      </li>
    </ol>
    <Button v-if="more" label="Older" text @click="before = entries[entries.length - 1].revision" />
  </Drawer>
</template>

<style scoped>
.undone h3 {
  color: var(--quiet);
  font-weight: 500;
}

.sought {
  display: grid;
  grid-template-columns: auto 1fr auto 1fr;
  gap: 6px;
  align-items: center;
  margin-bottom: 8px;
}

.sought > .in {
  grid-column: span 2;
}

.sought > .wide {
  grid-column: span 4;
}

.acts {
  display: flex;
  gap: 14px;
}

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
