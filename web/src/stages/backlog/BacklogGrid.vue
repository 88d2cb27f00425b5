<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, nextTick, ref, watch, watchEffect } from 'vue'
import type { Item } from '@/api/types'
import { count } from '@/ui/format'
import { useBacklog, type Line } from './backlog'
import { useRows } from '@/ui/useRows'
import { useProgram } from '@/line/program'
import { enteredAs, mayEnter, ranksOf } from './cells'
import ColumnHeads from './ColumnHeads.vue'
import GridRow from './GridRow.vue'
import NewLine from './NewLine.vue'
import { useRowDrag } from './useRowDrag'
import { progress, rollupText } from '@/line/rollup'
import { useGridKeys } from './useGridKeys'

/** The ranked list as a grid of cells: only the rows in sight are drawn. */
const emit = defineEmits<{ act: [what: 'delete' | 'split'] }>()
const store = useProgram()
const backlog = useBacklog()
const ROW = 28
const {
  box,
  visible,
  sheet,
  scroll,
  reveal: revealRow,
  seen,
} = useRows(
  computed(() => backlog.lines),
  ROW,
)
const page = computed(() => Math.max(1, Math.floor(seen.value / ROW) - 3))

const showsOdds = computed(() => backlog.chances.size > 0)
/** What stands before the columns, in pixels. */
const before = computed(() => 30 + (showsOdds.value ? 54 : 0))
const { width: boxWidth } = useElementSize(box)
watchEffect(() => (backlog.room = Math.max(0, boxWidth.value - before.value)))
const template = computed(
  () => '30px ' + (showsOdds.value ? '54px ' : '') + backlog.columns.map((c) => `${c.width}px`).join(' '),
)
const width = computed(() => before.value + backlog.columns.reduce((sum, c) => sum + c.width, 0))
const ranks = computed(() => ranksOf(store))

/** The cell that is being edited, what was typed to begin, and the revision that was seen then. */
const editing = ref<{ key: string; column: number; typed?: string; seen: number }>()

const may = (item: Item, column: number): boolean =>
  mayEnter(backlog.columns[column]?.field ?? '', item, store, backlog.fields)

function edit(typed?: string): void {
  const { key, column } = backlog.cursor
  const item = store.items.get(key)
  if (item && may(item, column)) editing.value = { key, column, typed, seen: store.revision }
}

/** Takes what was entered and goes on: down a row, or to a field beside. */
async function commit(text: string | undefined, then: 'stay' | 'down' | 'right' | 'left'): Promise<void> {
  const cell = editing.value
  editing.value = undefined
  if (cell && text !== undefined)
    void backlog.enter([cell.key], enteredAs(backlog.columns[cell.column].field), text, cell.seen)
  keys.after(then)
  await nextTick()
  if (then === 'right' || then === 'left') edit()
  if (!editing.value) box.value?.focus({ preventScroll: true })
}

const keys = useGridKeys({
  page: () => page.value,
  edit,
  reveal,
  act: (what) => emit('act', what),
  busy: () => !!editing.value || backlog.adding !== undefined,
  mayEnter: may,
})

const rowOf = (key: string) => backlog.lines.findIndex((l) => l.type === 'item' && l.item.key === key)

function reveal(key: string): void {
  revealRow(rowOf(key), ROW)
  void nextTick(() =>
    document
      .getElementById(`cell-${key}-${backlog.cursor.column}`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' }),
  )
}
/** Whether the next list is of something else: it then begins at its top, or where the cursor's item stands in it. */
let other = false
watch([() => backlog.view.key, () => backlog.words], () => (other = true))
watch(
  () => backlog.list,
  async () => {
    if (!other) return
    other = false
    await nextTick()
    revealRow(Math.max(0, rowOf(backlog.cursor.key)), ROW)
  },
)
watch(
  () => backlog.adding,
  (key) => {
    if (key) reveal(key)
    else if (key === undefined) void nextTick(() => box.value?.focus({ preventScroll: true }))
  },
)

const drag = useRowDrag()

/** The row and the column that an event happened in. */
function placeOf(event: Event): { key: string; column?: number } | undefined {
  const target = event.target as HTMLElement
  const key = target.closest<HTMLElement>('[data-item]')?.dataset.item
  const column = target.closest<HTMLElement>('[data-column]')?.dataset.column
  return key === undefined ? undefined : { key, column: column === undefined ? undefined : Number(column) }
}

function press(event: PointerEvent): void {
  const at = placeOf(event)
  if (event.button !== 0 || editing.value || at?.column === undefined) return
  if (event.ctrlKey || event.metaKey) backlog.pick(at.key)
  else if (event.shiftKey) backlog.go(at.key, at.column, true)
  else {
    // A press on one of several keeps them, so that they can be dragged.
    if (!backlog.selected.has(at.key) || backlog.selection.length === 1) backlog.go(at.key, at.column)
    drag.press(at.key, event)
  }
}

function click(event: MouseEvent): void {
  const at = placeOf(event)
  if (!at || editing.value) return
  if (at.column === undefined) backlog.pick(at.key)
  else if (!event.ctrlKey && !event.metaKey && !event.shiftKey && !drag.moved()) backlog.go(at.key, at.column)
}

/** The columns that are selected in a row. */
const marked = (key: string): { left: number; right: number } => {
  const { top, bottom, left, right } = backlog.range
  const at = backlog.places.get(key) ?? -1
  return backlog.picks.length || at < top || at > bottom ? { left: -1, right: -2 } : { left, right }
}
/** How the row is marked while something is dragged over it. */
const overOf = (key: string): string =>
  ({ ['above:' + key]: 'above', ['below:' + key]: 'below', ['into:' + key]: 'drop' })[drag.state.over] ?? ''

const lineKey = (line: Line): string =>
  line.type === 'item'
    ? line.item.key
    : line.type === 'group'
      ? ` group ${line.group.value}`
      : line.type === 'cut'
        ? ` cut ${line.odds}`
        : ' new'
const active = computed(() =>
  backlog.cursor.key ? `cell-${backlog.cursor.key}-${backlog.cursor.column}` : undefined,
)

function focus(): void {
  if (!backlog.cursor.key && backlog.shown.length) backlog.go(backlog.shown[0], 2)
}
defineExpose({ reveal })
</script>

<template>
  <div class="grid-box">
    <div
      ref="box"
      class="grid"
      role="grid"
      tabindex="0"
      aria-label="Backlog"
      aria-multiselectable="true"
      :aria-rowcount="backlog.lines.length + 1"
      :aria-colcount="backlog.columns.length + 1"
      :aria-activedescendant="active"
      @scroll.passive="scroll"
      @focus="focus"
      @keydown="keys.down"
      @copy="keys.copy"
      @paste="keys.paste"
      @pointerdown="press"
      @click="click"
      @dblclick="placeOf($event)?.column !== undefined && edit()"
    >
      <ColumnHeads :template="template" :width="width" :odds="showsOdds" />
      <div role="rowgroup" :style="[sheet, { minWidth: width + 'px' }]">
        <template v-for="{ data: line, index: at } in visible" :key="lineKey(line)">
          <div
            v-if="line.type === 'group'"
            role="row"
            :aria-rowindex="at + 2"
            class="row head"
            :data-group="line.group.value"
            :class="{ drop: drag.state.over === 'group:' + line.group.value }"
          >
            <div role="gridcell" class="head-cell">
              <button
                class="toggle"
                tabindex="-1"
                :aria-expanded="line.open"
                @click="backlog.toggle(line.group.value)"
              >
                <i :class="['pi', line.open ? 'pi-chevron-down' : 'pi-chevron-right']" aria-hidden="true" />
                <b>{{ line.group.title }}</b>
              </button>
              <span class="bar" aria-hidden="true"
                ><span :style="{ width: 100 * progress(line.group) + '%' }"
              /></span>
              <span class="quiet">{{ rollupText(line.group, store) }}</span>
            </div>
          </div>
          <div
            v-else-if="line.type === 'cut'"
            role="row"
            :aria-rowindex="at + 2"
            :class="['row', 'cut', `odds${line.odds}`]"
          >
            <div role="gridcell" class="cut-cell">
              <span class="label">{{ line.odds }} %</span>
              <slot name="cut" :line="line" />
            </div>
          </div>
          <div v-else-if="line.type === 'new'" role="row" :aria-rowindex="at + 2" class="row new">
            <div role="gridcell" class="new-cell"><NewLine /></div>
          </div>
          <GridRow
            v-else
            :item="line.item"
            :depth="line.depth"
            :row="at + 2"
            :columns="backlog.columns"
            :template="template"
            :rank="ranks.get(line.item.key)"
            :odds="showsOdds"
            :chance="backlog.chances.get(line.item.key)"
            :chosen="backlog.selected.has(line.item.key)"
            :picked="backlog.picked.has(line.item.key)"
            :cursor="backlog.cursor.key === line.item.key ? backlog.cursor.column : -1"
            v-bind="marked(line.item.key)"
            :editing="editing?.key === line.item.key ? editing.column : -1"
            :typed="editing?.key === line.item.key ? editing.typed : undefined"
            :over="overOf(line.item.key)"
            :rollup="backlog.list?.rollups?.[line.item.key]"
            :closed="backlog.closed.has(line.item.key)"
            @done="commit"
          />
        </template>
      </div>
    </div>
    <div
      v-if="drag.state.keys.length"
      class="dragged"
      :style="{ left: drag.state.x + 12 + 'px', top: drag.state.y + 12 + 'px' }"
    >
      {{ drag.state.keys.length === 1 ? drag.state.keys[0] : count(drag.state.keys.length, 'item') }}
    </div>
  </div>
</template>

<style scoped src="./grid.css"></style>
