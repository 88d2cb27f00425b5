<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Item } from '@/api/types'
import DateField from '@/ui/DateField.vue'
import { count } from '@/ui/format'
import { roughText } from '@/line/rollup'
import ItemNeeds from '@/line/ItemNeeds.vue'
import ItemTests from '@/line/ItemTests.vue'
import { markdown } from '@/ui/markdown'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { choicesOf } from '@/views/choices'
import { entryOf } from './cells'
import FileList from './FileList.vue'
import ThingHistory from '@/line/ThingHistory.vue'
import ItemLists from './ItemLists.vue'
import ItemTalk from './ItemTalk.vue'

/** All that an item says of itself, beside the list. */
const emit = defineEmits<{ act: [what: 'split' | 'break-down' | 'delete'] }>()
const store = useProgram()
const backlog = useBacklog()
const item = computed(() => backlog.chosen)
const facts = computed(() => store.itemFacts.get(item.value?.key ?? ''))
const may = (field: string) => store.may({ op: 'set', kind: 'item', key: item.value?.key, field })
const part = ref<'details' | 'talk' | 'history'>('details')
const known = computed(() => !!item.value && store.hasDetails(item.value.key))
watch(
  () => [item.value?.key, known.value],
  ([key]) => {
    if (typeof key === 'string' && !known.value) void store.bringDetails(key)
  },
  { immediate: true },
)
const said = computed(() => (store.program.comments ?? []).filter((c) => c.item === item.value?.key).length)

const group = computed(() => item.value && !facts.value?.leaf)
/** Groups may say roughly how much they are, and what no iteration of its team has room for. */
const mayBeRough = computed(() => {
  const { kind, team, size = 0 } = item.value ?? {}
  const largest = (store.facts.iterations ?? [])
    .filter((f) => f.team === team && f.usable)
    .reduce((most, f) => Math.max(most, f.capacity), 0)
  return group.value || kind === 'feature' || kind === 'initiative' || (largest > 0 && size > largest)
})
const fields = computed<[string, string][]>(() => [
  ['kind', 'Kind'],
  ['team', 'Team'],
  ...(group.value ? [] : ([['size', 'Size']] as [string, string][])),
  ...(item.value?.state === 'doing' || item.value?.state === 'review'
    ? ([['left', 'Left of it']] as [string, string][])
    : []),
  ['release', 'Release'],
  ['iteration', 'Iteration'],
  ['state', 'State'],
  ...(group.value ? [] : ([['blocked', 'Blocked, why']] as [string, string][])),
  ['parent', 'Part of'],
  ...(mayBeRough.value ? ([['rough', 'Rough sizes']] as [string, string][]) : []),
  ...(store.program.settings.priorities?.length || item.value?.priority
    ? ([['priority', 'Priority']] as [string, string][])
    : []),
  ['role', 'Role'],
  ['assignee', 'Assigned to'],
  ['tags', 'Tags'],
  ['notBefore', 'Not before'],
  ['due', 'Due'],
  ...(item.value?.kind === 'defect'
    ? ([
        ['foundIn', 'Found in'],
        ['fixedIn', 'Fixed in'],
      ] as [string, string][])
    : []),
])
const isDay = (field: string) => backlog.fields.get(field)?.sort === 'day'
/** The revision in view when something here was begun: what others change later is not overwritten unseen. */
const seen = ref(0)
const enter = (field: string, event: Event) => keep(field, (event.target as HTMLInputElement).value)
const keep = (field: string, text: string) => {
  const now = item.value
  if (now && text !== entryOf(field, now, store)) void backlog.enter([now.key], field, text, seen.value)
}
const set = (field: keyof Item, value: unknown, label: string) => {
  if (item.value) void store.setItem(item.value, field, value, label)
}

const title = ref('')
const writing = ref(false)
const text = ref('')
// What is typed stays, whatever others do meanwhile; another item brings its own.
watch(
  () => [item.value?.key, item.value?.title, item.value?.description],
  ([key], old) => {
    if (key !== old?.[0]) writing.value = false
    if (key !== old?.[0] || title.value === (old?.[1] ?? '')) title.value = item.value?.title ?? ''
    if (!writing.value) text.value = item.value?.description ?? ''
  },
  { immediate: true },
)

const area = ref<HTMLTextAreaElement>()
const opener = ref<HTMLButtonElement>()
/** Begins to write, or ends it; the focus goes along. */
async function write(now: boolean): Promise<void> {
  writing.value = now
  await nextTick()
  ;(now ? area : opener).value?.focus()
}

function keepText(): void {
  void write(false)
  const now = item.value
  if (now && text.value !== (now.description ?? ''))
    void store.apply(
      `Describe ${now.key}`,
      [{ op: 'set', kind: 'item', key: now.key, field: 'description', value: text.value }],
      seen.value,
    )
}
const html = computed(() => markdown(item.value?.description ?? ''))
</script>

<template>
  <p v-if="!item" class="quiet">Go to an item in the list to see all of it here.</p>
  <section v-else class="item" :aria-label="`Item ${item.key}`" @focusin="seen = store.revision">
    <header>
      <b class="key">{{ item.key }}</b>
      <input
        v-model="title"
        class="in title"
        aria-label="Title"
        maxlength="500"
        :disabled="!may('title')"
        @keydown.enter="($event.target as HTMLElement).blur()"
        @change="enter('title', $event)"
      />
    </header>
    <p v-if="backlog.selection.length > 1" class="quiet small">
      {{ count(backlog.selection.length, 'item') }} selected; this is the one that the cursor is on.
    </p>
    <p v-if="facts?.lacks?.length" class="lacks">
      Not ready: {{ facts.lacks.map((l) => l.text).join(', ') }}.
    </p>
    <div class="fields">
      <label v-for="[name, label] in fields" :key="name" :class="['field', { wide: name === 'rough' }]">
        <span class="label">{{ label }}</span>
        <select
          v-if="choicesOf(name, store.program, item)"
          class="in"
          :aria-label="label"
          :value="entryOf(name, item, store)"
          :disabled="!may(name)"
          @change="enter(name, $event)"
        >
          <option v-for="c in choicesOf(name, store.program, item)" :key="c.value" :value="c.value">
            {{ c.label }}
          </option>
        </select>
        <DateField
          v-else-if="isDay(name)"
          :model-value="entryOf(name, item, store)"
          :disabled="!may(name)"
          @update:model-value="(date) => keep(name, date)"
        />
        <input
          v-else
          v-typing
          class="in"
          :value="entryOf(name, item, store)"
          :disabled="!may(name)"
          :placeholder="name === 'rough' ? 'LC 20–40, TW 15' : undefined"
          :title="
            name === 'rough'
              ? 'A team and about how much, a figure or a range; several set off by commas'
              : undefined
          "
          :list="name === 'fixedIn' || name === 'foundIn' ? 'release-names' : undefined"
          @keydown.enter="($event.target as HTMLElement).blur()"
          @change="enter(name, $event)"
        />
      </label>
      <datalist id="release-names">
        <option v-for="r in store.program.releases" :key="r.key" :value="r.name" />
      </datalist>
    </div>
    <ul v-if="facts?.rough" class="rough small" aria-label="Rough sizes">
      <li v-for="r in facts.rough" :key="r.team" :class="{ lacks: r.over }">{{ roughText(r, store) }}.</li>
    </ul>
    <div class="flags">
      <label class="check"
        ><input
          type="checkbox"
          :checked="!!item.keptOut"
          :disabled="!may('keptOut')"
          @change="
            set('keptOut', !item.keptOut, item.keptOut ? `Take ${item.key} in` : `Keep ${item.key} out`)
          "
        /><span>Kept out</span></label
      >
      <label class="check"
        ><input
          type="checkbox"
          :checked="!!item.pinned"
          :disabled="!may('pinned')"
          @change="set('pinned', !item.pinned, item.pinned ? `Unpin ${item.key}` : `Pin ${item.key}`)"
        /><span>Pinned</span></label
      >
    </div>
    <div class="flags">
      <button
        v-if="!group"
        class="chip"
        title="Alt + S"
        :disabled="!may('size') || item.state === 'done'"
        @click="emit('act', 'split')"
      >
        Split…
      </button>
      <button
        class="chip"
        :disabled="!may('kind') || item.state === 'done'"
        @click="emit('act', 'break-down')"
      >
        Break down…
      </button>
      <button class="chip" @click="emit('act', 'delete')">Delete…</button>
    </div>
    <div class="tabs" role="tablist">
      <button
        v-for="[name, label] in [
          ['details', 'Details'],
          ['talk', said ? `Comments (${said})` : 'Comments'],
          ['history', 'History'],
        ] as const"
        :key="name"
        role="tab"
        :aria-selected="part === name"
        @click="part = name"
      >
        {{ label }}
      </button>
    </div>
    <template v-if="part === 'details'">
      <h3>
        Description
        <button v-if="known && !writing && may('description')" ref="opener" class="link" @click="write(true)">
          {{ item.description ? 'Edit' : 'Write one' }}
        </button>
      </h3>
      <template v-if="writing">
        <textarea
          ref="area"
          v-model="text"
          class="in"
          rows="8"
          aria-label="Description in Markdown"
          maxlength="100000"
        />
        <div class="flags">
          <span class="quiet small">Markdown</span><span class="gap" />
          <button class="chip" @click="((text = item.description ?? ''), write(false))">Cancel</button>
          <button class="chip" @click="keepText">Keep</button>
        </div>
      </template>
      <!-- eslint-disable-next-line vue/no-v-html -- cleaned by markdown() -->
      <div v-else-if="item.description" class="prose" v-html="html" />
      <p v-if="!known" class="quiet small">Loading…</p>
      <ItemLists v-else :item="item" />
      <ItemTests :item="item" @jump="(key) => backlog.go(key)" />
      <ItemNeeds :item="item" @jump="(key) => backlog.go(key)" />
      <FileList :item="item" />
    </template>
    <ItemTalk v-else-if="part === 'talk' && known" :item="item" />
    <ThingHistory v-else-if="part === 'history'" :item="item.key" />
  </section>
</template>

<style scoped>
.item {
  display: grid;
  gap: 8px;
  align-content: start;
}

p,
.rough {
  margin: 0;
}

.rough {
  padding: 0;
  list-style: none;
}

header {
  display: flex;
  gap: 8px;
  align-items: center;
}

.key {
  font: 650 14px var(--heading);
  white-space: nowrap;
}

.title {
  font: 650 15px var(--heading);
  border-color: transparent;
  background: transparent;
  text-overflow: ellipsis;
}

.title:hover,
.title:focus {
  border-color: var(--edge);
  background: var(--panel);
}

.lacks {
  color: var(--caution);
}

.fields {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px 8px;
}

.fields .field {
  min-width: 0;
}

.fields .wide {
  grid-column: span 2;
}

.fields :deep(.date-field) {
  width: 100%;
}

.fields .in,
.fields :deep(.in) {
  height: 26px;
  padding: 0 5px;
  min-width: 0;
}

.flags {
  display: flex;
  gap: 8px;
  align-items: center;
}

.gap {
  flex: 1;
}

.chip:disabled {
  opacity: 0.5;
}

.tabs {
  display: flex;
  gap: 2px;
  border-bottom: 1px solid var(--rule);
}

.tabs button {
  padding: 3px 10px 5px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  color: var(--quiet);
  font: 600 13px var(--heading);
  cursor: pointer;
}

.tabs button[aria-selected='true'] {
  border-color: var(--water);
  color: var(--ink);
}

h3 {
  display: flex;
  gap: 8px;
  font-size: 13px;
}

h3 .link {
  font: 12px var(--text);
}

.prose {
  padding: 6px 10px;
  border-radius: 6px;
  background: var(--paper);
  overflow-wrap: anywhere;
}

.prose :deep(p) {
  margin: 4px 0;
}
</style>
