<script setup lang="ts">
import { computed } from 'vue'
import type { ImportResult } from '@/api/types'
import { count } from '@/ui/format'

/** What is wrong with a table that is to be taken in, and the rows that are left out for it. */
const props = defineProps<{ result?: ImportResult; headings: string[] }>()
const emit = defineEmits<{ go: [row: number, column: number] }>()
const makeParents = defineModel<boolean>('makeParents', { required: true })
/** The rows that are left out, by their place in the file. */
const out = defineModel<Set<number>>('out', { required: true })

const counts = computed(() => props.result?.counts ?? {})
const problems = computed(() => props.result?.problems ?? [])
const general = computed(() => problems.value.filter((p) => p.row < 0))
const unknownParents = computed(() => problems.value.some((p) => p.text.startsWith('there is no feature')))
const faulty = computed(() => [...new Set(problems.value.map((p) => p.row).filter((row) => row >= 0))])
/** Leaves rows out, as they are: what they hold stays to be seen. */
const leaveOut = (which: number[]) => (out.value = new Set([...out.value, ...which]))
</script>

<template>
  <aside aria-label="Problems">
    <label v-if="unknownParents || makeParents" class="check"
      ><input v-model="makeParents" type="checkbox" /><span
        >Make features for parents that are missing</span
      ></label
    >
    <template v-if="problems.length">
      <h2>{{ count(problems.length, 'problem') }}</h2>
      <p class="quiet">
        Mend the cells here, or leave a column or rows out. Nothing is imported while there are any.
      </p>
      <p v-if="faulty.length">
        <button class="chip" @click="leaveOut(faulty)">
          Leave out {{ faulty.length === 1 ? 'this row' : `these ${count(faulty.length, 'row')}` }}
        </button>
      </p>
      <p v-for="p in general" :key="p.text" class="flag">{{ p.text }}</p>
      <ol>
        <li
          v-for="p in problems.filter((x) => x.row >= 0).slice(0, 200)"
          :key="`${p.row} ${p.column} ${p.text}`"
        >
          <button class="link" @click="emit('go', p.row, p.column)">
            Row {{ p.row + 1
            }}{{ p.column >= 0 ? `, ${headings[p.column] || `column ${p.column + 1}`}` : '' }}
          </button>
          {{ p.text }}
          <button
            class="round"
            :title="`Leave out row ${p.row + 1}`"
            :aria-label="`Leave out row ${p.row + 1}`"
            @click="leaveOut([p.row])"
          >
            <i class="pi pi-times" aria-hidden="true" />
          </button>
        </li>
      </ol>
      <p v-if="problems.length > 200" class="quiet">and {{ problems.length - 200 }} more</p>
    </template>
    <template v-else-if="result">
      <h2>Ready to import</h2>
      <p>
        {{ counts.new ?? 0 }} new, {{ counts.changed ?? 0 }} changed, {{ counts.unchanged ?? 0 }} unchanged.
        It is one step to undo.
      </p>
    </template>
    <p v-if="out.size">
      {{ count(out.size, 'row') }} left out.
      <button class="chip" @click="out = new Set()">Take {{ out.size === 1 ? 'it' : 'them' }} back in</button>
    </p>
    <ul v-if="result?.notes.length" class="notes">
      <li v-for="note in result.notes" :key="note">{{ note }}.</li>
    </ul>
  </aside>
</template>

<style scoped>
aside {
  flex: none;
  width: 330px;
  overflow: auto;
  padding: 10px 14px;
  border-left: 1px solid var(--rule);
}

h2 {
  font-size: 17px;
}

ol {
  display: grid;
  gap: 8px;
  margin: 0;
  padding-left: 22px;
}

.notes {
  padding-left: 18px;
  color: var(--caution);
}
</style>
