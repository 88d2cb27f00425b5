<script setup lang="ts">
import Button from 'primevue/button'
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import { carry } from '@/api/client'
import { count } from '@/ui/format'
import { useBacklog } from './backlog'
import { useViews } from '@/views/views'
import { useProgram } from '@/line/program'
import ColumnList from './ColumnList.vue'
import FilterBuilder from '@/views/FilterBuilder.vue'
import SaveView from '@/views/SaveView.vue'

/** Which view is shown, what it keeps, and under which heads. */
defineEmits<{ add: []; help: []; pattern: []; repeat: [] }>()
const store = useProgram()
const backlog = useBacklog()
const views = useViews()
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
const saving = ref(false)

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
]
const group = computed({
  get: () => backlog.view.group ?? '',
  set: (value) => (backlog.view = { ...backlog.view, group: value }),
})
const kinds = computed(() => [
  { label: 'Ready-made', views: views.vocabulary?.readyMade ?? [] },
  { label: 'Shared', views: views.shared },
  { label: 'Private', views: views.mine },
])

/** A saved view by its key; private ones come last, as keys of different owners may be equal. */
function pick(event: Event): void {
  const index = Number((event.target as HTMLSelectElement).value)
  const next = views.all[index]
  if (next) backlog.show(next)
}
const current = computed(() =>
  views.all.findIndex((v) => v.key === backlog.view.key && v.name === backlog.view.name),
)
const changed = computed(() => {
  const saved = views.all[current.value]
  return !saved || JSON.stringify(plain(saved)) !== JSON.stringify(plain(backlog.view))
})
const plain = (v: typeof backlog.view) => [
  v.columns ?? [],
  v.group ?? '',
  v.sort ?? '',
  v.descending ?? false,
  v.filter?.any ?? false,
  v.filter?.conditions ?? [],
]
const conditions = computed(() => backlog.view.filter?.conditions?.length ?? 0)
const offset = (list: number) => kinds.value.slice(0, list).reduce((n, k) => n + k.views.length, 0)

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
    <select class="view" aria-label="View" :value="current" @change="pick">
      <option v-if="current < 0" :value="-1">{{ backlog.view.name }}</option>
      <template v-for="(kind, k) in kinds" :key="kind.label">
        <optgroup v-if="kind.views.length" :label="kind.label">
          <option v-for="(v, i) in kind.views" :key="v.key" :value="offset(k) + i">{{ v.name }}</option>
        </optgroup>
      </template>
    </select>
    <button
      v-if="changed"
      class="chip"
      title="Keep this view for yourself, or share it"
      @click="saving = true"
    >
      Save view…
    </button>
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
        <button class="link" @click="(more?.hide(), $emit('pattern'))">Patterns…</button>
        <button class="link" @click="(more?.hide(), $emit('repeat'))">Repeated items…</button>
      </div>
    </Popover>
    <SaveView
      v-model:visible="saving"
      :view="backlog.view"
      keeps="Its columns, heads, order and conditions are kept."
      @saved="backlog.view = $event"
      @removed="views.vocabulary && backlog.show(views.vocabulary.readyMade[0])"
    />
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

.view {
  font: 650 14px var(--heading);
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

.link-chip {
  display: flex;
  align-items: center;
  color: inherit;
  text-decoration: none;
}

.menu {
  display: grid;
  gap: 8px;
}
</style>
