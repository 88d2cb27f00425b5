<script setup lang="ts">
import { useVirtualList } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Item } from '@/api/types'
import { count, sized } from '@/ui/format'
import { usePlan } from './plan'
import { useProgram } from '@/line/program'
import { isRough, ownerOf, roughBlocks } from './rough'
import { press, useDragState } from './useDrag'
import { usePlanLayout } from './usePlanLayout'

const store = useProgram()
const plan = usePlan()
const drag = useDragState()
const layout = usePlanLayout()

const readyOnly = ref(false)
const release = ref('')
const team = ref('')

/** With a count of the strip in focus, what it counts; else the unplaced items. */
const titles = {
  over: 'Over capacity',
  broken: 'In a broken need',
  notReady: 'Not ready',
  unplaced: 'Unplaced',
} as const
const title = computed(() => titles[plan.focus ?? 'unplaced'])
const keys = computed(() => plan.behind(plan.focus ?? 'unplaced'))
const rows = computed(() =>
  keys.value
    .flatMap(listed)
    .filter((item) => plan.focus || !layout.leftOut.value.has(ownerOf(item)))
    .filter((item) => !team.value || item.team === team.value)
    .filter((item) => !release.value || store.itemFacts.get(ownerOf(item))?.release === release.value)
    .filter((item) => !readyOnly.value || !store.itemFacts.get(item.key)?.lacks?.length),
)
const counted = computed(() => {
  const rough = rows.value.filter(isRough).length
  return `${count(rows.value.length - rough, 'item')}${rough ? ` and ${rough} rough` : ''}`
})
/** An item; or what of it is rough and stands nowhere, for each team. */
function listed(key: string): Item[] {
  const item = store.items.get(key)
  if (!item) return []
  const loose = roughBlocks(item, store.itemFacts.get(key)).filter((x) => !x.iteration)
  return plan.focus !== 'notReady' && loose.length ? loose : [item]
}

const unseen = computed(() => (plan.focus ? 0 : keys.value.filter((k) => layout.leftOut.value.has(k)).length))

/** Sizes are added up within a team alone: those of different teams mean different things. */
const sizes = computed(() => {
  const of = store.teams.get(team.value)
  return of
    ? sized(
        rows.value.reduce((sum, item) => sum + (item.size ?? 0), 0),
        of,
      )
    : ''
})

const needsOf = computed(() => {
  const byItem = new Map<string, string[]>()
  for (const n of store.program.needs ?? []) byItem.set(n.item, [...(byItem.get(n.item) ?? []), n.needs])
  return byItem
})

const { list, containerProps, wrapperProps, scrollTo } = useVirtualList(rows, { itemHeight: 26, overscan: 8 })

function rowKey(index: number, event: KeyboardEvent): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key]
  if (event.key === 'Enter' || event.key === ' ') {
    event.preventDefault()
    plan.select(rows.value[index].key, event.shiftKey)
  } else if (step && rows.value[index + step]) {
    event.preventDefault()
    scrollTo(Math.max(0, index + step - 2))
    const key = rows.value[index + step].key
    requestAnimationFrame(() =>
      document.querySelector<HTMLElement>(`[data-row="${CSS.escape(key)}"]`)?.focus(),
    )
  }
}

function pick(item: Item, event: MouseEvent): void {
  plan.select(item.key, event.ctrlKey || event.metaKey || event.shiftKey)
  if (item.iteration) plan.reveal(item.key)
}
</script>

<template>
  <section
    :class="['unplaced', { drop: drag.keys.length && drag.over === 'unplaced' }]"
    :aria-label="title"
    data-drop="unplaced"
    data-region="[data-row]"
  >
    <header>
      <h2>{{ title }}</h2>
      <span class="quiet small">
        {{
          [
            counted,
            sizes,
            plan.focus && plan.focus !== 'unplaced' ? '' : 'most important first',
            unseen ? `${unseen} not in this view` : '',
          ]
            .filter(Boolean)
            .join(' · ')
        }}
      </span>
      <span class="gap" />
      <label class="check"><input v-model="readyOnly" type="checkbox" /> Ready only</label>
      <select v-model="release" aria-label="Release">
        <option value="">Any release</option>
        <option v-for="r in store.program.releases" :key="r.key" :value="r.key">{{ r.name }}</option>
      </select>
      <select v-model="team" aria-label="Team">
        <option value="">Any team</option>
        <option v-for="t in store.program.teams" :key="t.key" :value="t.key">{{ t.name }}</option>
      </select>
    </header>
    <p v-if="!rows.length" class="none quiet">
      {{ keys.length ? 'None of these matches the choice above.' : 'Everything is placed.' }}
    </p>
    <div v-else v-bind="containerProps" class="rows" tabindex="-1">
      <div v-bind="wrapperProps" role="listbox" aria-label="Items" aria-multiselectable="true">
        <div
          v-for="{ data: item, index } in list"
          :key="item.key"
          role="option"
          :aria-selected="plan.selected.has(item.key)"
          :tabindex="index === 0 || plan.selected.has(item.key) ? 0 : -1"
          :data-row="item.key"
          class="row"
          @pointerdown="press(item.key, $event)"
          @click="pick(item, $event)"
          @keydown="rowKey(index, $event)"
        >
          <span class="n quiet">{{ index + 1 }}</span>
          <b class="key">{{ ownerOf(item) }}</b>
          <span class="title" :title="item.title"
            ><span v-if="isRough(item)" class="rough-mark">rough</span> {{ item.title }}</span
          >
          <span class="team">{{ store.teams.get(item.team ?? '')?.name ?? 'no team' }}</span>
          <span class="size">{{ sized(item.size, store.teams.get(item.team ?? '')) }}</span>
          <span class="needs" :title="needsOf.get(ownerOf(item))?.join(', ')">{{
            needsOf.get(ownerOf(item))?.length ? `needs ${needsOf.get(ownerOf(item))!.join(', ')}` : '–'
          }}</span>
          <span class="release">{{
            store.releases.get(store.itemFacts.get(ownerOf(item))?.release ?? '')?.name ?? 'no release'
          }}</span>
        </div>
      </div>
    </div>
  </section>
</template>

<style scoped>
.unplaced {
  flex: 1.6;
  min-width: 0;
  display: flex;
  flex-direction: column;
  padding: 6px 8px 0 16px;
  border-right: 1px solid var(--rule);
}

.unplaced.drop {
  background: var(--tint);
  box-shadow: inset 0 0 0 2px var(--focus);
}

header {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
}

h2 {
  font-size: 15px;
}

.gap {
  flex: 1;
}

.check {
  display: flex;
  gap: 4px;
  align-items: center;
  font-size: 12px;
}

select {
  height: 24px;
  max-width: 130px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: inherit;
  font: inherit;
  font-size: 12px;
}

.rows {
  flex: 1;
  min-height: 0;
}

.row {
  display: grid;
  grid-template-columns: 26px 58px minmax(90px, 2.4fr) minmax(70px, 1.1fr) 56px minmax(70px, 1.2fr) minmax(
      60px,
      0.8fr
    );
  gap: 6px;
  align-items: center;
  height: 26px;
  padding: 0 6px;
  border-bottom: 1px solid var(--rule);
  cursor: grab;
  user-select: none;
  touch-action: none;
}

.row > span,
.row > b {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.row:hover {
  background: var(--tint);
}

.row[aria-selected='true'] {
  background: var(--basin);
}

.needs {
  color: var(--needs);
}

.none {
  margin: 10px 6px;
}
</style>
