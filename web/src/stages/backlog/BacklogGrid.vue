<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Item, Rollup } from '@/api/types'
import { shortDate } from '@/shared/dates'
import { amount, count, percent, sized } from '@/shared/format'
import { useBacklog, type Line } from '@/stores/backlog'
import { useRows } from '@/shared/useRows'
import { useProgram } from '@/stores/program'
import CellEditor from './CellEditor.vue'
import { enteredAs, textOf } from './cells'
import ColumnHeads from './ColumnHeads.vue'
import NewLine from './NewLine.vue'
import { useRowDrag } from './useRowDrag'
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
const template = computed(
  () =>
    '30px ' +
    (showsOdds.value ? '54px ' : '') +
    backlog.columns.map((c) => `${backlog.widthOf(c)}px`).join(' '),
)
const width = computed(
  () => 30 + (showsOdds.value ? 54 : 0) + backlog.columns.reduce((sum, c) => sum + backlog.widthOf(c), 0),
)
const ranks = computed(() => {
  const of = new Map<string, number>()
  for (const item of store.program.items ?? [])
    if (store.itemFacts.get(item.key)?.leaf) of.set(item.key, of.size + 1)
  return of
})

/** The cell that is being edited, and what was typed to begin. */
const editing = ref<{ key: string; column: number; typed?: string }>()

const mayEnter = (item: Item, column: number): boolean => {
  const field = enteredAs(backlog.columns[column]?.field ?? '')
  if (field === 'key' || !backlog.fields.get(field)?.enter) return false
  return field === 'needs'
    ? store.may({ op: 'add', kind: 'need', in: item.key, key: '' })
    : store.may({ op: 'set', kind: 'item', key: item.key, field })
}

function edit(typed?: string): void {
  const { key, column } = backlog.cursor
  const item = store.items.get(key)
  if (item && mayEnter(item, column)) editing.value = { key, column, typed }
}

/** Takes what was entered and goes on: down a row, or to a field beside. */
async function commit(text: string | undefined, then: 'stay' | 'down' | 'right' | 'left'): Promise<void> {
  const cell = editing.value
  editing.value = undefined
  if (cell && text !== undefined)
    void backlog.enter([cell.key], enteredAs(backlog.columns[cell.column].field), text)
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
  mayEnter,
})

function reveal(key: string): void {
  revealRow(
    backlog.lines.findIndex((l) => l.type === 'item' && l.item.key === key),
    ROW,
  )
  void nextTick(() =>
    document
      .getElementById(`cell-${key}-${backlog.cursor.column}`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' }),
  )
}
watch(
  () => backlog.adding,
  (key) => {
    if (key) reveal(key)
    else if (key === undefined) void nextTick(() => box.value?.focus({ preventScroll: true }))
  },
)

function press(item: Item, column: number, event: PointerEvent): void {
  if (event.button !== 0 || editing.value) return
  if (event.ctrlKey || event.metaKey) backlog.pick(item.key)
  else if (!backlog.selected.has(item.key) || !event.shiftKey) {
    const keep = backlog.selected.has(item.key) && backlog.selection.length > 1 && !event.shiftKey
    if (!keep) backlog.go(item.key, column, event.shiftKey)
    drag.press(item.key, event)
  }
  if (event.shiftKey) backlog.go(item.key, column, true)
}

function release(item: Item, column: number, event: MouseEvent): void {
  // A press on one of several keeps them, so that they can be dragged; a click does not.
  if (!event.ctrlKey && !event.metaKey && !event.shiftKey && !drag.moved()) backlog.go(item.key, column)
}

const drag = useRowDrag()

const inRange = (item: Item, column: number): boolean => {
  if (backlog.picked.size) return false
  const { top, bottom, left, right } = backlog.range
  const at = backlog.places.get(item.key) ?? -1
  return at >= top && at <= bottom && column >= left && column <= right
}

const sums = (r: Rollup): string =>
  r.sizes.map((s) => `${s.team} ${sized(s.size, store.teams.get(s.team))}`).join(' · ')
const progress = (r: Rollup): number => (r.items ? r.done / r.items : 0)
const dates = (r: Rollup): string =>
  r.end ? `${shortDate(r.start, store.todayDay)} – ${shortDate(r.end, store.todayDay)}` : ''
const rollupText = (r: Rollup): string =>
  [
    count(r.items, 'item'),
    `${percent(progress(r))} done`,
    sums(r),
    r.unsized ? `${r.unsized} without size` : '',
    dates(r),
    r.unplaced ? `${r.unplaced} unplaced` : '',
  ]
    .filter(Boolean)
    .join(' · ')

/** What the items of a group add up to, in the columns that say the same of one item. */
function rolled(field: string, r: Rollup): string | undefined {
  switch (field) {
    case 'team':
      return sums(r)
    case 'size':
      return r.sizes.length === 1 ? amount(r.sizes[0].size) : ''
    case 'iteration':
      return dates(r)
    case 'state':
      return `${percent(progress(r))} done`
    case 'readiness':
      return r.unsized ? `${r.unsized} without size` : ''
    default:
      return undefined
  }
}
const cellText = (field: string, item: Item): string => {
  if (field === 'rank') return String(ranks.value.get(item.key) ?? '')
  const roll = backlog.list?.rollups?.[item.key]
  return (roll && rolled(field, roll)) ?? textOf(field, item, store)
}
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
      @scroll.passive="scroll"
      role="grid"
      tabindex="0"
      aria-label="Backlog"
      aria-multiselectable="true"
      :aria-rowcount="backlog.lines.length + 1"
      :aria-colcount="backlog.columns.length + 1"
      :aria-activedescendant="active"
      @focus="focus"
      @keydown="keys.down"
      @copy="keys.copy"
      @paste="keys.paste"
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
              <span class="quiet">{{ rollupText(line.group) }}</span>
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
          <div
            v-else
            role="row"
            :aria-rowindex="at + 2"
            :aria-selected="backlog.selected.has(line.item.key)"
            :data-item="line.item.key"
            :class="[
              'row',
              {
                chosen: backlog.selected.has(line.item.key),
                out: line.item.keptOut,
                done: line.item.state === 'done',
                above: drag.state.over === 'above:' + line.item.key,
                below: drag.state.over === 'below:' + line.item.key,
                drop: drag.state.over === 'into:' + line.item.key,
              },
            ]"
            :style="{ gridTemplateColumns: template }"
          >
            <div role="gridcell" class="pick" @click="backlog.pick(line.item.key)">
              <input
                type="checkbox"
                tabindex="-1"
                :checked="backlog.picked.has(line.item.key)"
                :aria-label="`Pick ${line.item.key}`"
                @click.stop="backlog.pick(line.item.key)"
              />
            </div>
            <div
              v-if="showsOdds"
              role="gridcell"
              class="n odds"
              :class="{ late: (backlog.chances.get(line.item.key) ?? 1) < 0.5 }"
            >
              {{ backlog.chances.has(line.item.key) ? percent(backlog.chances.get(line.item.key)!) : '' }}
            </div>
            <div
              v-for="(c, i) in backlog.columns"
              :id="`cell-${line.item.key}-${i}`"
              :key="c.field"
              role="gridcell"
              :class="[
                'cell',
                c.field,
                {
                  n: c.field === 'size' || c.field === 'rank',
                  on: backlog.cursor.key === line.item.key && backlog.cursor.column === i,
                  marked: inRange(line.item, i),
                },
              ]"
              :aria-selected="inRange(line.item, i)"
              :aria-readonly="!mayEnter(line.item, i)"
              :title="
                c.field === 'title' && backlog.list?.rollups?.[line.item.key]
                  ? `${line.item.title}: ${rollupText(backlog.list.rollups[line.item.key])}`
                  : cellText(c.field, line.item)
              "
              @pointerdown="press(line.item, i, $event)"
              @click="release(line.item, i, $event)"
              @dblclick="edit()"
            >
              <CellEditor
                v-if="editing && editing.key === line.item.key && editing.column === i"
                :item="line.item"
                :field="c.field"
                :typed="editing.typed"
                @done="commit"
              />
              <template v-else>
                <span
                  v-if="c.field === 'title'"
                  class="indent"
                  :style="{ paddingLeft: line.depth * 16 + 'px' }"
                >
                  <button
                    v-if="backlog.list?.rollups?.[line.item.key]"
                    class="toggle"
                    tabindex="-1"
                    :aria-label="backlog.closed.has(line.item.key) ? 'Open' : 'Close'"
                    :aria-expanded="!backlog.closed.has(line.item.key)"
                    @click.stop="backlog.toggle(line.item.key)"
                  >
                    <i
                      :class="[
                        'pi',
                        backlog.closed.has(line.item.key) ? 'pi-chevron-right' : 'pi-chevron-down',
                      ]"
                      aria-hidden="true"
                    />
                  </button>
                  <b v-if="backlog.list?.rollups?.[line.item.key]">{{ line.item.title }}</b>
                  <template v-else>{{ line.item.title }}</template>
                </span>
                <template v-else-if="c.field === 'readiness'"
                  ><span v-if="cellText(c.field, line.item)" class="lacks">{{
                    cellText(c.field, line.item)
                  }}</span
                  ><span
                    v-else-if="
                      store.itemFacts.get(line.item.key)?.leaf &&
                      line.item.state !== 'done' &&
                      !line.item.keptOut
                    "
                    class="quiet"
                    >ready</span
                  ></template
                >
                <template v-else>{{ cellText(c.field, line.item) }}</template>
              </template>
            </div>
          </div>
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
