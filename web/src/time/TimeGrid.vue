<script setup lang="ts" generic="C extends GridCell">
import { useElementSize, useScroll } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { pair } from '@/line/pair'
import { useAxis } from './axis'
import { useProgram } from '@/line/program'
import { toDay, type Day } from '@/ui/dates'
import TimeHeader from './TimeHeader.vue'
import { HEAD_WIDTH, useTimeWheel } from './useTimeWheel'

/** A stretch of days in a row of the grid. */
export interface GridCell {
  key: string
  start: Day
  end: Day // included
  /** What a screen reader says of it. */
  label: string
}

export interface GridRow<T extends GridCell> {
  key: string
  title: string
  sub?: string
  cells: T[]
  height: number
}

/**
 * Rows of stretches of days, in true dates. Only what is in view is drawn, so that
 * hundreds of rows scroll fluidly. One cell can be reached by Tab; arrow keys go to
 * the others.
 */
const props = defineProps<{ rows: GridRow<C>[]; name: string; chosen?: string }>()
const emit = defineEmits<{ pick: [row: GridRow<C>, cell: C] }>()

const store = useProgram()
const axis = useAxis()
const scroller = ref<HTMLElement>()
const { width, height } = useElementSize(scroller)
const { y } = useScroll(scroller)
const wheel = useTimeWheel(scroller)
axis.reset()
watch(width, (w) => (axis.width = Math.max(200, w - HEAD_WIDTH)), { immediate: true })

const x = (day: Day) => (day - axis.from) * axis.zoom
const laid = computed(() => {
  let top = 0
  return props.rows.map((row) => {
    const at = { row, top }
    top += row.height
    return at
  })
})
const total = computed(() => laid.value.reduce((sum, at) => sum + at.row.height, 0))
const inView = (cell: GridCell) => cell.end + 1 > axis.from && cell.start < axis.to
const visible = computed(() =>
  laid.value
    .filter((at) => at.top + at.row.height > y.value - 80 && at.top < y.value + height.value + 80)
    .map((at) => ({ ...at, cells: at.row.cells.filter(inView) })),
)
const holidays = computed(() =>
  (store.program.holidays ?? []).filter(
    (h) => !h.teams?.length && inView({ start: toDay(h.date), end: toDay(h.date) } as C),
  ),
)

/** The cell that Tab leads to: the last that had the focus, or else the first in view. */
const cursor = ref('')
const id = (row: GridRow<C>, cell: C) => pair(row.key, cell.key)
const tabbable = computed(() => {
  const all = visible.value.flatMap((at) => at.cells.map((cell) => id(at.row, cell)))
  return all.includes(cursor.value) ? cursor.value : (all[0] ?? '')
})

function step(event: KeyboardEvent, row: GridRow<C>, cell: C): void {
  const r = props.rows.indexOf(row)
  let to: [GridRow<C>, C] | undefined
  if (event.key === 'ArrowLeft' || event.key === 'ArrowRight') {
    const next = row.cells[row.cells.indexOf(cell) + (event.key === 'ArrowLeft' ? -1 : 1)]
    if (next) to = [row, next]
  } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
    const by = event.key === 'ArrowUp' ? -1 : 1
    const middle = (cell.start + cell.end) / 2
    for (let i = r + by; props.rows[i] && !to; i += by) {
      const next = props.rows[i].cells.find((c) => c.start <= middle && c.end + 1 > middle)
      if (next) to = [props.rows[i], next]
    }
  }
  if (!to) return
  event.preventDefault()
  void focus(...to)
}

async function focus(row: GridRow<C>, cell: C): Promise<void> {
  cursor.value = id(row, cell)
  if (cell.start < axis.from || cell.end + 1 > axis.to) axis.from = cell.start - (axis.to - axis.from) / 3
  const at = laid.value.find((l) => l.row === row)
  if (at && scroller.value) {
    if (at.top < scroller.value.scrollTop) scroller.value.scrollTop = at.top
    const below = at.top + row.height + 42 - scroller.value.clientHeight
    if (below > scroller.value.scrollTop) scroller.value.scrollTop = below
  }
  await nextTick()
  await nextTick()
  scroller.value?.querySelector<HTMLElement>(`[data-cell="${CSS.escape(cursor.value)}"]`)?.focus()
}

defineExpose({ scroller })
</script>

<template>
  <div ref="scroller" class="grid-scroller" @wheel="wheel">
    <TimeHeader />
    <div class="rows" role="group" :aria-label="name" :style="{ height: total + 'px' }">
      <div class="bands" aria-hidden="true">
        <div
          v-for="h in holidays"
          :key="h.date + h.name"
          class="holiday"
          :title="h.name"
          :style="{ left: x(toDay(h.date)) + 'px', width: Math.max(2, axis.zoom) + 'px' }"
        />
        <div class="today" :style="{ left: x(store.todayDay + 0.5) + 'px' }" />
      </div>
      <div
        v-for="at in visible"
        :key="at.row.key"
        class="grid-row"
        :style="{ top: at.top + 'px', height: at.row.height + 'px' }"
      >
        <div class="head">
          <slot name="head" :row="at.row">
            <b :title="at.row.title">{{ at.row.title }}</b>
            <span v-if="at.row.sub" class="quiet small">{{ at.row.sub }}</span>
          </slot>
        </div>
        <div class="cells" :data-row="at.row.key">
          <button
            v-for="cell in at.cells"
            :key="cell.key"
            class="cell"
            :data-cell="id(at.row, cell)"
            :tabindex="tabbable === id(at.row, cell) ? 0 : -1"
            :aria-label="cell.label"
            :aria-pressed="chosen === id(at.row, cell)"
            :title="cell.label"
            :style="{ left: x(cell.start) + 'px', width: (cell.end + 1 - cell.start) * axis.zoom - 2 + 'px' }"
            @focus="cursor = id(at.row, cell)"
            @click="emit('pick', at.row, cell)"
            @keydown="step($event, at.row, cell)"
          >
            <slot
              name="cell"
              :row="at.row"
              :cell="cell"
              :width="(cell.end + 1 - cell.start) * axis.zoom - 2"
            />
          </button>
          <slot name="over" :row="at.row" :x="x" />
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.grid-scroller {
  flex: 1;
  min-height: 120px;
  overflow: hidden auto;
  position: relative;
}

.rows {
  position: relative;
}

.bands {
  position: absolute;
  inset: 0 0 0 158px;
  overflow: hidden;
  pointer-events: none;
}

.holiday {
  position: absolute;
  top: 0;
  bottom: 0;
  background: var(--rule);
  opacity: 0.6;
}

.today {
  position: absolute;
  top: 0;
  bottom: 0;
  z-index: 3;
  border-left: 2px dotted var(--ink);
}

.grid-row {
  position: absolute;
  left: 0;
  right: 0;
  display: flex;
  border-bottom: 1px solid var(--rule);
}

.head {
  display: flex;
  flex: none;
  flex-direction: column;
  justify-content: center;
  width: 158px;
  padding: 0 8px 0 16px;
  border-right: 1px solid var(--rule);
  background: var(--panel);
  line-height: 1.2;
  z-index: 4;
}

.head b {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.cells {
  position: relative;
  flex: 1;
  overflow: hidden;
}

.cell {
  position: absolute;
  top: 3px;
  bottom: 3px;
  padding: 0;
  overflow: hidden;
  border: 1px solid var(--water);
  border-radius: 3px;
  background: var(--basin);
  cursor: pointer;
}

.cell:focus-visible {
  outline-offset: -2px;
}

.cell[aria-pressed='true'] {
  border: 2px solid var(--ink);
}
</style>
