<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Team, TrackStep } from '@/api/types'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'
import { useJournal } from '@/frame/journal'
import { fullText, isScope, stepText } from './words'

/** What happened in a scope, the newest first; each event leads to its item and to its edit. */
const props = defineProps<{ steps: TrackStep[]; team?: Team; from: string; leftOut: number }>()
const what = defineModel<string>('what', { required: true })
const store = useProgram()
const journal = useJournal()

const sorts: [string, string][] = [
  ['', 'everything'],
  ['scope', 'changes of scope'],
  ['added', 'added'],
  ['removed', 'taken out'],
  ['grown', 'grown'],
  ['shrunk', 'smaller'],
  ['finished', 'done'],
  ['reopened', 'no longer done'],
  ['moved', 'on their way'],
  ['blocked', 'blocked'],
]
const found = computed(() => {
  const from = new Date(props.from)
  return props.steps
    .filter(
      (s) =>
        new Date(s.at) >= from &&
        (!what.value || s.what === what.value || (what.value === 'scope' && isScope(s))),
    )
    .reverse()
})
const page = 100
const shown = ref(page)
watch([() => props.from, what], () => (shown.value = page))
</script>

<template>
  <section class="events" aria-label="Events">
    <label class="check"
      ><b>Events</b>
      <select v-model="what" class="in" aria-label="Which events">
        <option v-for="[value, title] in sorts" :key="value" :value="value">{{ title }}</option>
      </select>
      <span class="quiet small">{{ found.length }}</span>
    </label>
    <ol v-if="found.length" tabindex="0" aria-label="Events, the newest first">
      <li v-for="(s, i) in found.slice(0, shown)" :key="i">
        <RouterLink
          :to="{ name: 'backlog', params: { id: store.id }, query: { item: s.item } }"
          :title="store.items.get(s.item)?.title"
          >{{ stepText(s, team) }}</RouterLink
        >
        <span v-if="s.why" class="small">{{ s.why }}</span>
        <button
          class="link small"
          :aria-label="`${fullText(s.at)}, ${s.by}: its edit`"
          @click="journal.show(s.revision)"
        >
          {{ fullText(s.at) }} · {{ s.by }}
        </button>
      </li>
      <li v-if="found.length > shown">
        <button class="link" @click="shown += page">{{ count(found.length - shown, 'more event') }}</button>
      </li>
    </ol>
    <p v-else class="quiet small">Nothing of that kind since then.</p>
    <p v-if="leftOut" class="quiet small">
      {{ count(leftOut, 'earlier event') }} stand in the journal and in the sums, not here.
    </p>
  </section>
</template>

<style scoped>
.events {
  display: flex;
  flex-direction: column;
  gap: 4px;
  min-width: 0;
}

ol {
  max-height: 210px;
  margin: 0;
  padding: 0;
  overflow-y: auto;
  list-style: none;
}

ol:focus-visible {
  outline: 2px solid var(--focus);
}

li {
  padding: 3px 0;
  border-top: 1px solid var(--rule);
}

a {
  display: block;
  color: inherit;
  text-decoration: none;
}

a:hover {
  text-decoration: underline;
}

p {
  margin: 0;
}
</style>
