<script setup lang="ts">
import Button from 'primevue/button'
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { View } from '@/api/types'
import { count } from '@/ui/format'
import KeysDialog from '@/ui/KeysDialog.vue'
import { keysRest } from '@/ui/keysRest'
import { useBacklog, type Panel } from './backlog'
import { useViews } from '@/views/views'
import { useProgram } from '@/line/program'
import BacklogGrid from './BacklogGrid.vue'
import BulkBar from './BulkBar.vue'
import DeleteDialog from './DeleteDialog.vue'
import FitPanel from './FitPanel.vue'
import ItemDetail from './ItemDetail.vue'
import MixPanel from './MixPanel.vue'
import WordsDialog from '@/line/WordsDialog.vue'
import PatternDialog from './PatternDialog.vue'
import ReadyPanel from './ReadyPanel.vue'
import RepeatDialog from './RepeatDialog.vue'
import ScopePanel from './ScopePanel.vue'
import SplitDialog from './SplitDialog.vue'
import { gridKeys } from './useGridKeys'
import ViewBar from './ViewBar.vue'

const store = useProgram()
const backlog = useBacklog()
const views = useViews()
const route = useRoute()
const router = useRouter()
const grid = ref<InstanceType<typeof BacklogGrid>>()
const help = ref(false)
const splitting = ref(false)
const deleting = ref(false)
const breaking = ref(false)
const patterns = ref(false)
const repeating = ref(false)
const naming = ref(false)
const side = useLocalStorage('jantrel-backlog-side', true)

const panels: [Panel, string][] = [
  ['item', 'Item'],
  ['fit', 'What fits'],
  ['ready', 'Ready'],
  ['mix', 'Mix'],
  ['scope', 'Scope'],
]

/** What of a view decides its rows; columns do not. */
const asksFor = ({ filter, group, sort, descending }: View) =>
  JSON.stringify([filter, group, sort, descending])
// A list of the program as it was would show what is gone: it is asked for after every edit.
watch(
  () => [asksFor(backlog.view), backlog.words, store.revision, store.today],
  () => void backlog.refresh(),
)
watch(
  () => store.id,
  () => void backlog.open(),
)
onMounted(async () => {
  await backlog.open()
  await nextTick()
  await arrive()
})
/** Somebody was led here to see one item, or the work of a team or release. */
async function arrive(): Promise<void> {
  const conditions = (['release', 'team'] as const).flatMap((field) => {
    const value = route.query[field]
    return typeof value === 'string' ? [{ field, is: 'is' as const, values: [value] }] : []
  })
  const view = views.vocabulary?.readyMade.find((v) => v.key === route.query.view)
  if (view) {
    backlog.show(view)
    await router.replace({ query: {} })
    return
  }
  const all = views.vocabulary?.readyMade[0]
  if (conditions.length && all) {
    backlog.show({ ...all, group: '', filter: { conditions } })
    await router.replace({ query: {} })
    return
  }
  const key = String(route.query.item ?? '')
  if (!key || !store.items.has(key)) return
  if (!backlog.places.has(key)) {
    const everything = views.vocabulary?.readyMade[0]
    if (everything) backlog.show({ ...everything, group: store.itemFacts.get(key)?.leaf ? '' : 'tree' })
    await backlog.refresh()
  }
  backlog.panel = 'item'
  backlog.go(key)
  await nextTick()
  grid.value?.reveal(key)
  await router.replace({ query: {} })
}
watch(
  () => route.query.item ?? route.query.view,
  (led) => led && void arrive(),
)

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (keysRest(event) || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === '?') help.value = true
  else if (event.key === '/') {
    event.preventDefault()
    document.querySelector<HTMLInputElement>('[data-find]')?.focus()
  }
})

function add(): void {
  backlog.adding = backlog.places.has(backlog.cursor.key) ? backlog.cursor.key : ''
}
function act(what: 'split' | 'break-down' | 'delete'): void {
  if (what === 'delete') deleting.value = backlog.selection.length > 0
  else if (what === 'break-down') breaking.value = true
  else if (backlog.chosen && store.itemFacts.get(backlog.chosen.key)?.leaf) splitting.value = true
}
function open(panel: Panel): void {
  side.value = !(side.value && backlog.panel === panel)
  backlog.panel = panel
}
const empty = computed(() => !store.program.items?.length && backlog.adding === undefined)
</script>

<template>
  <main class="backlog">
    <h1 class="visually-hidden">Backlog of {{ store.program.name }}</h1>
    <ViewBar
      @add="add"
      @help="help = true"
      @pattern="patterns = true"
      @repeat="repeating = true"
      @priorities="naming = true"
    />
    <p v-if="backlog.failure" class="failure" role="alert">{{ backlog.failure }}</p>
    <div class="split">
      <div class="left" data-region="[role=grid]">
        <div v-if="empty" class="empty">
          <h2>There is no work yet</h2>
          <p>Write or paste items, a line each, or bring them in from a spreadsheet.</p>
          <div class="row">
            <Button
              label="Write the first item"
              :disabled="!store.may({ op: 'add', kind: 'item' })"
              @click="add"
            />
            <Button
              outlined
              label="Import CSV or XLSX"
              @click="router.push({ name: 'backlog-import', params: { id: store.id } })"
            />
          </div>
        </div>
        <template v-else>
          <BacklogGrid ref="grid" @act="act">
            <template #cut="{ line }">
              <b>{{ count(line.items, 'item') }}</b> above this line
              {{ line.items === 1 ? 'is' : 'are' }} done in time with {{ line.odds }} % odds<template
                v-if="line.waits"
                >; {{ line.next }} needs {{ line.waits }}, which is ranked below it</template
              >
            </template>
          </BacklogGrid>
          <p v-if="backlog.list && !backlog.lines.length" class="none quiet">
            Nothing here matches.
            <button
              class="link"
              @click="((backlog.words = ''), (backlog.view = { ...backlog.view, filter: {} }))"
            >
              Show everything
            </button>
          </p>
        </template>
        <BulkBar v-if="backlog.selection.length > 1" @act="act" />
      </div>
      <aside
        v-if="side"
        class="side"
        data-region
        :aria-label="panels.find(([p]) => p === backlog.panel)?.[1]"
      >
        <ItemDetail v-if="backlog.panel === 'item'" @act="act" />
        <FitPanel v-else-if="backlog.panel === 'fit'" />
        <ReadyPanel v-else-if="backlog.panel === 'ready'" />
        <MixPanel v-else-if="backlog.panel === 'mix'" />
        <ScopePanel v-else />
      </aside>
      <nav class="rail" aria-label="Beside the list">
        <button
          v-for="[name, label] in panels"
          :key="name"
          :aria-pressed="side && backlog.panel === name"
          @click="open(name)"
        >
          {{ label }}
        </button>
      </nav>
    </div>
    <KeysDialog v-model:visible="help" :keys="gridKeys" />
    <SplitDialog v-model:visible="splitting" />
    <DeleteDialog v-model:visible="deleting" />
    <PatternDialog v-model:visible="breaking" apply />
    <PatternDialog v-model:visible="patterns" :apply="false" />
    <RepeatDialog v-model:visible="repeating" />
    <WordsDialog
      v-if="naming"
      field="priorities"
      title="Priorities"
      asks="Beside the rank, the most pressing first"
      :example="'now\nsoon\nlater'"
      kept="Items keep what they were given when a line goes. A draft goes by rank alone."
      @close="naming = false"
    />
  </main>
</template>

<style scoped>
.backlog {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
}

.split {
  flex: 1;
  min-height: 0;
  display: flex;
}

.left {
  position: relative;
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}

.side {
  flex: none;
  width: 372px;
  overflow: auto;
  padding: 10px 14px;
  border-left: 1px solid var(--rule);
  background: var(--panel);
}

.rail {
  display: flex;
  flex: none;
  flex-direction: column;
  gap: 4px;
  padding: 8px 3px;
  border-left: 1px solid var(--rule);
}

.rail button {
  padding: 10px 4px;
  border: 1px solid transparent;
  border-radius: 6px;
  background: none;
  writing-mode: vertical-rl;
  font: 600 13px var(--heading);
  cursor: pointer;
}

.rail button:hover {
  border-color: var(--edge);
}

.rail button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--panel);
}

.empty {
  margin: auto;
  text-align: center;
}

.empty .row {
  justify-content: center;
}

.none {
  position: absolute;
  top: 60px;
  left: 0;
  right: 0;
  text-align: center;
}
</style>
