<script setup lang="ts">
import Button from 'primevue/button'
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import { carry } from '@/api/client'
import type { ChartAsked, View } from '@/api/types'
import { count } from '@/ui/format'
import { useBacklog } from './backlog'
import { useChartThis } from '@/line/chartThis'
import { useProgram } from '@/line/program'
import ColumnList from './ColumnList.vue'
import FilterBuilder from '@/views/FilterBuilder.vue'
import ViewPick from '@/views/ViewPick.vue'
import { plainFilter } from '@/views/views'

/** Which view is shown, what it keeps, and under which heads. */
defineEmits<{ add: []; help: []; pattern: []; repeat: []; priorities: [] }>()
const store = useProgram()
const backlog = useBacklog()
const chartThis = useChartThis()
/** What is listed, by its heads where it has any that stand for a field. */
const chart = computed<ChartAsked>(() => ({
  of: 'items',
  filter: backlog.view.filter,
  split:
    backlog.view.group && backlog.view.group !== 'tree'
      ? [backlog.view.group, backlog.view.group === 'state' ? 'team' : 'state']
      : ['state'],
  measure: 'number',
  form: 'stacked',
}))
const filter = ref<InstanceType<typeof Popover>>()
const columns = ref<InstanceType<typeof Popover>>()
/** The columns of the view that there is no room for. */
const hidden = computed(() =>
  backlog.chosenColumns
    .filter((c) => !backlog.columns.some((x) => x.field === c.field))
    .map((c) => backlog.fields.get(c.field)?.title ?? c.field)
    .join(', '),
)
const more = ref<InstanceType<typeof Popover>>()

const groups: [string, string][] = [
  ['', 'a flat list'],
  ['tree', 'as a tree'],
  ['feature', 'by feature'],
  ['initiative', 'by initiative'],
  ['release', 'by release'],
  ['team', 'by team'],
  ['iteration', 'by iteration'],
  ['state', 'by state'],
  ['kind', 'by kind'],
  ['assignee', 'by person'],
  ['priority', 'by priority'],
]
const group = computed({
  get: () => backlog.view.group ?? '',
  set: (value) => (backlog.view = { ...backlog.view, group: value }),
})
const plain = (v: View) => [
  v.columns ?? [],
  v.group ?? '',
  v.sort ?? '',
  v.descending ?? false,
  plainFilter(v.filter),
]
const conditions = computed(() => backlog.view.filter?.conditions?.length ?? 0)

async function save(format: 'csv' | 'xlsx', all: boolean): Promise<void> {
  more.value?.hide()
  const asked = { view: backlog.view, words: backlog.words, format, all }
  const response = await carry(`/api/v1/programs/${store.id}/backlog/file`, JSON.stringify(asked)).catch(
    (error: Error) => void (store.notice = { text: error.message, severity: 'error' }),
  )
  if (!response) return
  const link = document.createElement('a')
  link.href = URL.createObjectURL(await response.blob())
  link.download = `${backlog.view.name.replace(/[^\p{L}\p{N} -]/gu, '')}.${format}`
  link.click()
  URL.revokeObjectURL(link.href)
}
const exports: [string, 'csv' | 'xlsx', boolean][] = [
  ['Export this view as CSV', 'csv', false],
  ['Export this view as XLSX', 'xlsx', false],
  ['Export it with all fields as CSV', 'csv', true],
  ['Export it with all fields as XLSX', 'xlsx', true],
]
</script>

<template>
  <div class="bar" data-region>
    <ViewPick
      :view="backlog.view"
      :plain="plain"
      keeps="Its columns, heads, order and conditions are kept."
      @show="backlog.show($event)"
      @saved="backlog.view = $event"
    />
    <label class="find">
      <i class="pi pi-search" aria-hidden="true" />
      <input
        v-model="backlog.words"
        type="search"
        aria-label="Find: words or keys"
        placeholder="Find: words or keys ( / )"
        data-find
        @keydown.escape.stop="backlog.words = ''"
      />
    </label>
    <button
      class="chip"
      aria-haspopup="true"
      :aria-pressed="conditions > 0"
      :title="backlog.list?.sentence"
      @click="filter?.toggle($event)"
    >
      Filter{{ conditions ? `: ${count(conditions, 'condition')}` : '' }}
    </button>
    <select v-model="group" aria-label="Heads">
      <option v-for="[value, label] in groups" :key="value" :value="value">{{ label }}</option>
    </select>
    <button
      class="chip"
      aria-haspopup="true"
      :title="hidden ? `There is no room for: ${hidden}` : undefined"
      @click="columns?.toggle($event)"
    >
      Columns{{ hidden ? ' …' : '' }}
    </button>
    <span class="quiet total" role="status">{{
      backlog.list ? count(backlog.list.total.items, 'item') : ''
    }}</span>
    <span class="gap" />
    <Button
      size="small"
      outlined
      icon="pi pi-plus"
      label="New"
      title="New item below the cursor (Ins, or Ctrl + Enter)"
      :disabled="!store.may({ op: 'add', kind: 'item' })"
      @click="$emit('add')"
    />
    <RouterLink class="chip link-chip" :to="{ name: 'backlog-import', params: { id: store.id } }"
      >Import</RouterLink
    >
    <button class="chip" aria-haspopup="true" @click="more?.toggle($event)">More</button>
    <button class="round" aria-label="Keys" title="Keys (?)" @click="$emit('help')">?</button>
    <Popover ref="filter"
      ><FilterBuilder
        :model-value="backlog.view.filter"
        :sentence="backlog.list?.sentence"
        :failure="backlog.failure"
        @update:model-value="backlog.view = { ...backlog.view, filter: $event }"
    /></Popover>
    <Popover ref="columns"><ColumnList /></Popover>
    <Popover ref="more">
      <div class="menu">
        <button v-for="[label, format, all] in exports" :key="label" class="link" @click="save(format, all)">
          {{ label }}
        </button>
        <RouterLink class="link" :to="chartThis(chart)">Chart this</RouterLink>
        <button class="link" @click="(more?.hide(), $emit('pattern'))">Patterns…</button>
        <button class="link" @click="(more?.hide(), $emit('repeat'))">Repeated items…</button>
        <button
          class="link"
          :disabled="!store.may({ op: 'set', kind: 'program', field: 'priorities' })"
          @click="(more?.hide(), $emit('priorities'))"
        >
          Priorities…
        </button>
      </div>
    </Popover>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex: none;
  gap: 7px;
  align-items: center;
  padding: 5px 16px;
  border-bottom: 1px solid var(--rule);
}

select {
  height: 26px;
  max-width: 190px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: inherit;
  font: inherit;
}

.find {
  display: flex;
  gap: 5px;
  align-items: center;
  height: 26px;
  padding: 0 8px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
}

.find:focus-within {
  outline: 2px solid var(--focus);
}

.find input {
  width: 168px;
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  outline: none;
}

.find .pi {
  font-size: 11px;
  color: var(--quiet);
}

.gap {
  flex: 1;
}

.total {
  white-space: nowrap;
}

.bar :deep(.p-button) {
  height: 26px;
  white-space: nowrap;
}

.menu {
  display: grid;
  gap: 8px;
}
</style>
