<script setup lang="ts">
import Button from 'primevue/button'
import { computed, nextTick, onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { answer, carry, client } from '@/api/client'
import type { ReadSheet } from '@/api/types'
import { count } from '@/ui/format'
import { useRows } from '@/ui/useRows'
import { useBacklog } from './backlog'
import { useViews } from '@/views/views'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import ImportProblems from './ImportProblems.vue'
import OutlineForm from './OutlineForm.vue'

const router = useRouter()
/** Takes a spreadsheet or an outline in: what each column is, what would change, what is wrong. */
const store = useProgram()
const backlog = useBacklog()
const views = useViews()
const name = ref('')
const headings = ref<string[]>([])
const columns = ref<string[]>([])
const rows = shallowRef<string[][]>([])
/** The rows that are left out, by their place in the file. */
const out = ref(new Set<number>())
/** What is sent: a row that is left out is empty, so that the others keep their numbers. */
const taken = computed(() => rows.value.map((cells, i) => (out.value.has(i) ? [] : cells)))
const makeParents = ref(false)
const failure = ref('')
const busy = ref(false)
const only = ref<'all' | 'wrong' | 'new' | 'changed' | 'unchanged'>('all')
const input = ref<HTMLInputElement>()

onMounted(async () => {
  await backlog.open()
})
const fields = computed(() => (views.vocabulary?.fields ?? []).filter((f) => f.enter))
const loaded = computed(() => headings.value.length > 0)

async function read(file: File | undefined): Promise<void> {
  if (!file) return
  failure.value = ''
  busy.value = true
  const response = await carry(`/api/v1/programs/${store.id}/tables`, file).catch(
    (error: Error) => void (failure.value = `${file.name} cannot be read: ${error.message}`),
  )
  busy.value = false
  if (!response) return
  const sheet = (await response.json()) as ReadSheet
  name.value = file.name
  headings.value = sheet.headings
  columns.value = sheet.columns
  rows.value = sheet.rows
  out.value = new Set()
  only.value = 'all'
}

/** What taking the table in would do; asked again whenever a cell or a column is mended. */
const {
  answer: result,
  failure: unchecked,
  asking,
} = useAnswer(
  () =>
    loaded.value
      ? answer(
          client.POST('/api/v1/programs/{id}/imports/check', {
            params: { path: { id: store.id } },
            body: { columns: columns.value, rows: taken.value, makeParents: makeParents.value },
          }),
        )
      : undefined,
  [headings, () => [...columns.value], taken, makeParents, () => store.revision],
  { wait: 150, forget: ([now], [before]) => now !== before },
)

const problems = computed(() => result.value?.problems ?? [])
const wrong = computed(() => {
  const cells = new Map<string, string>()
  for (const p of problems.value) {
    const at = `${p.row} ${p.column}`
    cells.set(at, [cells.get(at), p.text].filter(Boolean).join('; '))
  }
  return cells
})
const lines = computed(() =>
  rows.value
    .map((cells, row) => ({
      row,
      cells,
      state: result.value?.rows[row] ?? '',
      key: result.value?.keys[row] ?? '',
    }))
    .filter((l) => only.value === 'all' || l.state === only.value),
)
const { setBox, visible, sheet, scroll, reveal } = useRows(lines, 30)
const template = computed(() => `52px 96px ${headings.value.map(() => '150px').join(' ')}`)
const width = computed(() => 148 + 150 * headings.value.length)

function mend(row: number, column: number, event: Event): void {
  const text = (event.target as HTMLInputElement).value
  const cells = [...rows.value[row]]
  while (cells.length <= column) cells.push('')
  if (cells[column] === text) return
  cells[column] = text
  rows.value = rows.value.map((r, i) => (i === row ? cells : r))
}
/** Goes to the cell of a problem. */
async function go(row: number, column: number): Promise<void> {
  if (row < 0) return
  only.value = 'all'
  await nextTick()
  reveal(row, 54)
  await nextTick()
  requestAnimationFrame(() =>
    document.querySelector<HTMLInputElement>(`[data-cell="${row} ${Math.max(0, column)}"]`)?.focus(),
  )
}

async function apply(): Promise<void> {
  busy.value = true
  const done = await store.mean({
    do: 'take-in',
    name: name.value.slice(0, 150),
    columns: columns.value,
    rows: taken.value,
    makeParents: makeParents.value,
  })
  busy.value = false
  if (!done) return
  store.notice = {
    text: `${count(counts.value.new ?? 0, 'item')} added, ${counts.value.changed ?? 0} changed. One step of undo takes all of it back.`,
    severity: 'info',
  }
  await router.push({ name: 'backlog', params: { id: store.id } })
}

const goTo = (keys: string[]) =>
  router.push({ name: 'backlog', params: { id: store.id }, query: { item: keys[0] } })
const counts = computed(() => result.value?.counts ?? {})
const states: [typeof only.value, string][] = [
  ['wrong', 'with a problem'],
  ['new', 'new'],
  ['changed', 'changed'],
  ['unchanged', 'unchanged'],
]
const changes = computed(() => (counts.value.new ?? 0) + (counts.value.changed ?? 0))
</script>

<template>
  <main class="import">
    <header>
      <RouterLink :to="{ name: 'backlog', params: { id: store.id } }">← Backlog</RouterLink>
      <h1>{{ loaded ? name : 'Import' }}</h1>
      <template v-if="loaded">
        <div class="states" role="group" aria-label="Show rows">
          <button class="chip" :aria-pressed="only === 'all'" @click="only = 'all'">
            {{ count(rows.length, 'row') }}
          </button>
          <button
            v-for="[state, label] in states"
            :key="state"
            :class="['chip', state]"
            :aria-pressed="only === state"
            :disabled="!counts[state]"
            @click="only = state"
          >
            {{ counts[state] ?? 0 }} {{ label }}
          </button>
        </div>
        <span class="gap" />
        <Button text size="small" label="Another file" @click="headings = []" />
        <Button
          size="small"
          :label="
            problems.length
              ? `Mend ${count(problems.length, 'problem')} first`
              : changes
                ? `Import ${count(changes, 'item')}`
                : 'Nothing to change'
          "
          :disabled="busy || asking || !result || problems.length > 0 || !changes"
          @click="apply"
        />
      </template>
    </header>
    <p v-if="failure || unchecked" class="failure" role="alert">{{ failure || unchecked }}</p>
    <div v-if="!loaded" class="begin">
      <section>
        <h2>From a spreadsheet</h2>
        <p>
          A CSV or XLSX file whose first row are headings. You see what would change before anything does.
          Rows with a key that is known change that item; the others become new items.
        </p>
        <input
          ref="input"
          type="file"
          accept=".csv,.xlsx,.txt,.tsv"
          aria-label="CSV or XLSX file"
          :disabled="busy"
          @change="read(input?.files?.[0])"
        />
      </section>
      <section>
        <h2>From an outline</h2>
        <OutlineForm @added="goTo" />
      </section>
    </div>
    <div v-else class="split">
      <div class="sheet">
        <div
          :ref="setBox"
          class="scroller"
          role="table"
          aria-label="Rows of the file"
          :aria-rowcount="rows.length + 1"
          @scroll.passive="scroll"
        >
          <div
            role="row"
            class="row heads"
            :style="{ gridTemplateColumns: template, minWidth: width + 'px' }"
          >
            <span role="columnheader">Row</span>
            <span role="columnheader">Becomes</span>
            <span v-for="(h, c) in headings" :key="c" role="columnheader" class="head">
              <b :title="h">{{ h || `column ${c + 1}` }}</b>
              <select
                v-model="columns[c]"
                :aria-label="`What ${h || `column ${c + 1}`} holds`"
                :class="{ out: !columns[c] }"
              >
                <option value="">left out</option>
                <option v-for="f in fields" :key="f.name" :value="f.name">{{ f.title }}</option>
              </select>
            </span>
          </div>
          <div role="rowgroup" :style="[sheet, { minWidth: width + 'px' }]">
            <div
              v-for="{ data: l } in visible"
              :key="l.row"
              role="row"
              :class="['row', l.state, { leftOut: out.has(l.row) }]"
              :style="{ gridTemplateColumns: template }"
            >
              <span role="cell" class="n quiet">{{ l.row + 1 }}</span>
              <span role="cell" :title="l.key" class="state"
                >{{ l.state === 'wrong' ? 'a problem' : out.has(l.row) ? 'left out' : l.state }}
              </span>
              <span
                v-for="(_, c) in headings"
                :key="c"
                role="cell"
                :class="{ bad: wrong.has(`${l.row} ${c}`), out: !columns[c] }"
              >
                <input
                  v-typing
                  :value="l.cells[c] ?? ''"
                  :data-cell="`${l.row} ${c}`"
                  :aria-label="`${headings[c] || `column ${c + 1}`}, row ${l.row + 1}`"
                  :aria-invalid="wrong.has(`${l.row} ${c}`)"
                  :title="wrong.get(`${l.row} ${c}`) ?? l.cells[c]"
                  @change="mend(l.row, c, $event)"
                  @keydown.enter="($event.target as HTMLElement).blur()"
                />
              </span>
            </div>
          </div>
        </div>
        <p v-if="!lines.length" class="none quiet">
          No row is {{ states.find(([s]) => s === only)?.[1] ?? 'left' }}.
        </p>
      </div>
      <ImportProblems
        v-model:make-parents="makeParents"
        v-model:out="out"
        :result="result"
        :headings="headings"
        @go="go"
      />
    </div>
  </main>
</template>

<style scoped>
.leftOut {
  opacity: 0.6;
}

.import {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}

header {
  display: flex;
  flex: none;
  gap: 14px;
  align-items: center;
  padding: 7px 16px;
  border-bottom: 1px solid var(--rule);
}

header a {
  color: inherit;
}

h1 {
  font-size: 18px;
}

.gap {
  flex: 1;
}

.states {
  display: flex;
  gap: 4px;
}

.chip:disabled {
  opacity: 0.55;
  cursor: default;
}

.begin {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 40px;
  width: min(1000px, 100%);
  margin: 30px auto;
  padding: 0 20px;
}

h2 {
  font-size: 17px;
}

.split {
  flex: 1;
  min-height: 0;
  display: flex;
}

.sheet {
  position: relative;
  flex: 1;
  min-width: 0;
  display: flex;
}

.scroller {
  flex: 1;
  min-width: 0;
  overflow: auto;
  background: var(--panel);
}

.row {
  display: grid;
  height: 30px;
  gap: 0;
  align-items: stretch;
  flex-wrap: nowrap;
  border-bottom: 1px solid var(--rule);
}

.row > span {
  padding: 5px 6px;
  overflow: hidden;
  white-space: nowrap;
}

.row > span:has(input) {
  padding: 0;
  border-right: 1px solid var(--rule);
}

.row input {
  width: 100%;
  height: 100%;
  padding: 0 6px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  text-overflow: ellipsis;
}

.heads {
  position: sticky;
  top: 0;
  z-index: 2;
  height: 54px;
  background: var(--paper);
  border-color: var(--edge);
}

.head {
  display: grid;
  gap: 3px;
}

.head b {
  overflow: hidden;
  text-overflow: ellipsis;
}

.head select {
  width: 100%;
  height: 22px;
  border: 1px solid var(--edge);
  border-radius: 5px;
  background: var(--panel);
  color: inherit;
  font: inherit;
  font-size: 12px;
}

.n {
  text-align: right;
}

.out {
  color: var(--quiet);
}

.bad {
  background: var(--over-soft);
  box-shadow: inset 0 0 0 1.5px var(--over);
}

.row.wrong .state {
  color: var(--over);
  font-weight: 600;
}

.row.new .state {
  color: var(--good);
  font-weight: 600;
}

.row.changed .state {
  color: var(--caution);
  font-weight: 600;
}

.row.unchanged .state {
  color: var(--quiet);
}

.none {
  position: absolute;
  top: 80px;
  left: 0;
  right: 0;
  text-align: center;
}
</style>
