<script setup lang="ts">
import { useVirtualList } from '@vueuse/core'
import { computed, nextTick, ref } from 'vue'
import type { Need } from '@/api/types'
import { count, spareText } from '@/ui/format'
import { pair } from '@/line/pair'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'

/**
 * All needs as a table: found by words, chosen, changed and removed by the row or many at once; more are pasted
 * as two columns of keys. Up and Down lead from row to row, Space chooses, Delete removes, Enter leads to the item.
 */
const emit = defineEmits<{ show: [item: string] }>()
const store = useProgram()
const proposals = useProposals()
const words = ref('')
interface Row {
  key: string
  need: Need
  says: string[]
  status: string
  spare: string
}
const all = computed<Row[]>(() =>
  (store.program.needs ?? []).map((need) => {
    const facts = store.needFacts.get(pair(need.item, need.needs))
    const [item, needed] = [store.items.get(need.item), store.items.get(need.needs)]
    const team = (key?: string) => store.teams.get(key ?? '')?.name ?? ''
    const status = facts?.status ?? 'holds'
    return {
      key: pair(need.item, need.needs),
      need,
      says: [item?.title ?? '', team(item?.team), needed?.title ?? '', team(needed?.team)],
      status,
      spare: needed?.state === 'done' ? 'done' : spareText(facts?.spare, status),
    }
  }),
)
const rows = computed(() => {
  const wanted = words.value.toLowerCase().split(/\s+/).filter(Boolean)
  if (!wanted.length) return all.value
  return all.value.filter((r) => {
    const text = [r.need.item, r.need.needs, ...r.says, r.need.agreement ?? 'asked', r.spare]
      .join(' ')
      .toLowerCase()
    return wanted.every((w) => text.includes(w))
  })
})
const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(rows, {
  itemHeight: 32,
  overscan: 10,
})

const may = (op: 'set' | 'remove', need: Need) =>
  store.may({
    op,
    kind: 'need',
    in: need.item,
    key: need.needs,
    field: op === 'set' ? 'lagDays' : undefined,
  })
const mayAdd = computed(() => store.may({ op: 'add', kind: 'item' }))

/** Chosen rows, of those that are found. */
const chosen = ref(new Set<string>())
const picked = computed(() => rows.value.filter((r) => chosen.value.has(r.key)))
function choose(key: string): void {
  const next = new Set(chosen.value)
  if (!next.delete(key)) next.add(key)
  chosen.value = next
}
const chooseAll = () => (chosen.value = new Set(picked.value.length ? [] : rows.value.map((r) => r.key)))

async function remove(of: Row[]): Promise<void> {
  const going = of.filter((r) => may('remove', r.need))
  if (!going.length) return
  await store.apply(
    going.length === 1
      ? `Remove the need of ${going[0].need.item} on ${going[0].need.needs}`
      : `Remove ${going.length} needs`,
    going.map(({ need }) => ({
      op: 'remove' as const,
      kind: 'need' as const,
      in: need.item,
      key: need.needs,
    })),
  )
  chosen.value = new Set()
}
async function between(of: Row[], text: string): Promise<void> {
  const days = Number(text)
  if (!text.trim() || !Number.isInteger(days) || days < 0) return
  const other = of.filter((r) => (r.need.lagDays ?? 0) !== days && may('set', r.need))
  if (!other.length) return
  await store.apply(
    `${count(days, 'day')} between, for ${count(other.length, 'need')}`,
    other.map(({ need }) => ({
      op: 'set' as const,
      kind: 'need' as const,
      in: need.item,
      key: need.needs,
      field: 'lagDays',
      value: days,
    })),
  )
}

/** The row that the keys are about. */
const at = ref(0)
const body = ref<HTMLElement>()
async function go(to: number): Promise<void> {
  at.value = Math.max(0, Math.min(rows.value.length - 1, to))
  scrollTo(Math.max(0, at.value - 4))
  await nextTick()
  body.value?.querySelector<HTMLElement>(`[data-row="${at.value}"]`)?.focus()
}
function keys(event: KeyboardEvent): void {
  const row = rows.value[at.value]
  if (!row || (event.target as HTMLElement).tagName !== 'TR') return
  const does: Record<string, () => unknown> = {
    ArrowDown: () => go(at.value + 1),
    ArrowUp: () => go(at.value - 1),
    Home: () => go(0),
    End: () => go(rows.value.length - 1),
    ' ': () => choose(row.key),
    Delete: () => remove(picked.value.length ? picked.value : [row]).then(() => go(at.value)),
    Enter: () => emit('show', row.need.item),
  }
  if (!does[event.key] || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  void does[event.key]()
}

/** What is pasted, or typed, as two columns of keys; undefined: nothing is being added. */
const text = ref<string>()
function paste(event: ClipboardEvent): void {
  if (!mayAdd.value || ['INPUT', 'TEXTAREA'].includes((event.target as HTMLElement).tagName)) return
  const pasted = event.clipboardData?.getData('text/plain')
  if (!pasted?.trim()) return
  event.preventDefault()
  text.value = pasted
}
function add(): void {
  if (!text.value?.trim()) return
  void proposals.propose({ do: 'add-needs', text: text.value }, { agreed: () => (text.value = undefined) })
}
</script>

<template>
  <section class="table-of-needs" aria-label="All needs, as a table" @paste="paste">
    <div class="head">
      <h2>All needs</h2>
      <input
        v-model="words"
        v-typing
        class="in find"
        type="search"
        aria-label="Find needs by words"
        placeholder="Find: key, title, team, broken…"
      />
      <span class="quiet" role="status">{{
        words.trim() ? `${rows.length} of ${all.length}` : count(all.length, 'need')
      }}</span>
      <span class="gap" />
      <template v-if="picked.length">
        <label
          >Days between
          <input
            class="in days"
            inputmode="numeric"
            :aria-label="`Days between, for ${count(picked.length, 'chosen need')}`"
            @change="between(picked, ($event.target as HTMLInputElement).value)"
        /></label>
        <button class="plain-button" :disabled="!store.connected" @click="remove(picked)">
          Remove {{ count(picked.length, 'need') }}
        </button>
      </template>
      <button v-if="mayAdd && text === undefined" class="plain-button" @click="text = ''">Add needs…</button>
    </div>
    <form
      v-if="text !== undefined"
      aria-label="Add needs"
      @submit.prevent="add"
      @keydown.esc.stop="text = undefined"
    >
      <label class="wide"
        >Two columns of keys, a line for each need: the item, what it needs, and perhaps the days between
        <textarea
          v-model="text"
          v-focus
          class="in"
          rows="5"
          maxlength="200000"
          placeholder="LC-52  TW-31&#10;LC-53  TW-31  3"
        />
      </label>
      <span class="buttons">
        <button type="button" class="plain-button" @click="text = undefined">Leave it</button>
        <button class="plain-button" :disabled="!text.trim() || proposals.working || !store.connected">
          See what it does…
        </button>
      </span>
    </form>
    <p v-if="!rows.length">{{ all.length ? 'No need says so.' : 'No item needs another.' }}</p>
    <div v-else v-bind="containerProps" class="scroll" @keydown="keys">
      <div v-bind="wrapperProps">
        <table :aria-rowcount="rows.length + 1">
          <thead>
            <tr>
              <th scope="col" class="tick">
                <input
                  type="checkbox"
                  :checked="picked.length > 0"
                  aria-label="Choose all that are found"
                  @change="chooseAll"
                />
              </th>
              <th scope="col">Item</th>
              <th scope="col" class="team">Of team</th>
              <th scope="col">Needs</th>
              <th scope="col" class="team">Of team</th>
              <th scope="col" class="n">Days between</th>
              <th scope="col" class="said">Agreement</th>
              <th scope="col" class="n spare">Spare</th>
            </tr>
          </thead>
          <tbody ref="body">
            <tr
              v-for="{ data: r, index } in list"
              :key="r.key"
              :data-row="index"
              :tabindex="index === at ? 0 : -1"
              :aria-selected="chosen.has(r.key)"
              :aria-label="`${r.need.item} needs ${r.need.needs}`"
              @focus="at = index"
            >
              <td class="tick">
                <input
                  type="checkbox"
                  tabindex="-1"
                  :checked="chosen.has(r.key)"
                  :aria-label="`Choose the need of ${r.need.item} on ${r.need.needs}`"
                  @change="choose(r.key)"
                />
              </td>
              <td :title="r.says[0]">
                <b>{{ r.need.item }}</b> {{ r.says[0] }}
              </td>
              <td class="team quiet">{{ r.says[1] }}</td>
              <td :title="r.says[2]">
                <b>{{ r.need.needs }}</b> {{ r.says[2] }}
              </td>
              <td class="team quiet">{{ r.says[3] }}</td>
              <td class="n">
                <input
                  class="in days"
                  inputmode="numeric"
                  :tabindex="index === at ? 0 : -1"
                  :value="r.need.lagDays ?? 0"
                  :disabled="!may('set', r.need)"
                  :aria-label="`Days between ${r.need.needs} and ${r.need.item}`"
                  @focus="at = index"
                  @change="between([r], ($event.target as HTMLInputElement).value)"
                />
              </td>
              <td class="said">{{ r.says[1] === r.says[3] ? '' : (r.need.agreement ?? 'asked') }}</td>
              <td class="n spare" :class="r.status">{{ r.spare }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </div>
  </section>
</template>

<style scoped>
.table-of-needs {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
  padding: 10px 16px 0;
}

.head {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-bottom: 8px;
}

h2 {
  margin: 0;
  font-size: 16px;
}

.find {
  width: 260px;
}

.gap {
  flex: 1;
}

.head label {
  display: flex;
  gap: 6px;
  align-items: center;
}

.days {
  width: 58px;
  height: 24px;
  padding: 0 6px;
  text-align: right;
}

form {
  display: grid;
  gap: 8px;
  margin-bottom: 10px;
}

.wide {
  display: grid;
  gap: 4px;
  font-size: 13px;
}

textarea {
  font-family: inherit;
}

.buttons {
  display: flex;
  gap: 8px;
}

.scroll {
  flex: 1;
  min-height: 0;
}

table {
  width: 100%;
  border-collapse: collapse;
  table-layout: fixed;
}

th,
td {
  height: 32px;
  padding: 0 8px;
  overflow: hidden;
  border-bottom: 1px solid var(--rule);
  font-weight: 400;
  text-align: left;
  text-overflow: ellipsis;
  white-space: nowrap;
}

th {
  position: sticky;
  top: 0;
  z-index: 1;
  background: var(--paper);
  color: var(--quiet);
  font-size: 12px;
}

tr[aria-selected='true'] {
  background: var(--tint);
}

tr:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: -2px;
}

.tick {
  width: 34px;
}

.team {
  width: 128px;
}

.said {
  width: 88px;
}

.n {
  width: 112px;
  text-align: right;
}

.spare {
  width: 146px;
}

td.spare {
  font-weight: 600;
}

.spare.tight {
  color: var(--caution);
}

.spare.broken {
  color: var(--needs);
}
</style>
