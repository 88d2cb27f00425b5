<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { releaseColour } from '@/ui/colours'
import { shortDate, toDay } from '@/ui/dates'
import { count, percent } from '@/ui/format'
import { progress, rollupText } from '@/line/rollup'
import { useProgram } from '@/line/program'
import { useProposals } from '@/line/proposals'
import { useAxis } from '@/time/axis'
import { usePointerDrag } from '@/ui/usePointerDrag'
import { usePlan } from './plan'
import type { Bar, Bars } from './useBars'

/**
 * Features, or initiatives, in true time: each from the first of its items to the last. Moving
 * one moves its items; what that does is shown before it is done.
 */
const store = useProgram()
const axis = useAxis()
const plan = usePlan()
const proposals = useProposals()
const props = defineProps<{ bars: Bars }>()
const { bars, rows, without, itemsOf, mayMove } = props.bars

const ROW = 21
const x = (day: number) => (day - axis.from) * axis.zoom
const order = computed(() => new Map((store.program.releases ?? []).map((r, i) => [r.key, i])))
const drawn = computed(() =>
  bars.value
    .filter((bar) => bar.end + 1 > axis.from && bar.start < axis.to)
    .map((bar) => {
      const release = order.value.get(store.itemFacts.get(bar.item.key)?.release ?? '')
      const due = bar.item.due ? toDay(bar.item.due) : undefined
      const left = x(bar.start)
      return {
        ...bar,
        left,
        width: Math.max(6, x(bar.end + 1) - left - 2),
        colour: release === undefined ? 'var(--c5)' : releaseColour(release),
        late: due !== undefined && bar.end > due,
        due: due === undefined ? undefined : x(due + 1) - left,
      }
    }),
)
const noun = computed(() => (plan.bars === 'initiative' ? 'initiative' : 'feature'))
const label = (bar: (typeof drawn.value)[number]) =>
  [
    `${bar.item.key} ${bar.item.title}: ${rollupText(bar.rollup, store)}`,
    bar.item.due && `due ${shortDate(bar.item.due, store.todayDay)}${bar.late ? ', ends after that' : ''}`,
  ]
    .filter(Boolean)
    .join(' · ')
const chosen = (bar: Bar) => plan.group === bar.item.key

/** The one bar that Tab stops at; arrows go on from there. */
const cursor = ref('')
const tabStop = computed(() =>
  drawn.value.some((b) => b.item.key === cursor.value) ? cursor.value : drawn.value[0]?.item.key,
)

function choose(bar: Bar): void {
  if (wasDrag()) return
  cursor.value = bar.item.key
  plan.selectGroup(
    bar.item.key,
    itemsOf(bar.item.key).map((item) => item.key),
  )
}

async function shift(bar: Bar, days: number): Promise<void> {
  if (days && mayMove(bar.item.key)) await proposals.propose({ do: 'shift', item: bar.item.key, days })
}

const dragged = ref<{ key: string; days: number }>()
const { press, wasDrag } = usePointerDrag<Bar>({
  begin: (bar) => mayMove(bar.item.key),
  move: (bar, event, from) =>
    (dragged.value = { key: bar.item.key, days: Math.round((event.clientX - from.x) / axis.zoom) }),
  drop: (bar) => void shift(bar, dragged.value?.days ?? 0),
  end: () => (dragged.value = undefined),
})

/** How far a key moves a bar: the shortest of the iterations that its items stand in. */
const stepOf = (bar: Bar) =>
  Math.min(
    ...itemsOf(bar.item.key).flatMap((item) => {
      const it = plan.iterationOf(item)
      return it ? [toDay(it.end) + 1 - toDay(it.start)] : []
    }),
  )

function key(bar: Bar, event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === '[' || event.key === ']') {
    event.stopPropagation()
    void shift(bar, event.key === '[' ? -stepOf(bar) : stepOf(bar))
    return
  }
  const by = { ArrowLeft: -1, ArrowUp: -1, ArrowRight: 1, ArrowDown: 1 }[event.key]
  if (!by || event.shiftKey) return
  event.preventDefault()
  const sorted = [...bars.value].sort((a, b) => a.start - b.start || a.row - b.row)
  const next = sorted[sorted.findIndex((b) => b.item.key === bar.item.key) + by]
  if (!next) return
  cursor.value = next.item.key
  if (next.end + 1 <= axis.from || next.start >= axis.to) axis.reveal(next.start, next.end)
  void nextTick(() =>
    document.querySelector<HTMLElement>(`[data-bar="${CSS.escape(next.item.key)}"]`)?.focus(),
  )
}
</script>

<template>
  <section
    class="bars"
    data-region="[data-bar]"
    :aria-label="noun === 'feature' ? 'Features' : 'Initiatives'"
  >
    <div class="head">
      <b>{{ noun === 'feature' ? 'Features' : 'Initiatives' }}</b>
      <span v-if="without" class="quiet small">{{ count(without, noun) }} without a place</span>
    </div>
    <div class="time">
      <div class="rows" :style="{ height: rows * ROW + 4 + 'px' }">
        <button
          v-for="bar in drawn"
          :key="bar.item.key"
          :class="['bar', { late: bar.late, chosen: chosen(bar) }]"
          :style="{
            left: bar.left + (dragged?.key === bar.item.key ? dragged.days * axis.zoom : 0) + 'px',
            top: bar.row * ROW + 3 + 'px',
            width: bar.width + 'px',
            height: ROW - 3 + 'px',
            '--colour': bar.colour,
          }"
          :data-bar="bar.item.key"
          :tabindex="bar.item.key === tabStop ? 0 : -1"
          :aria-label="label(bar)"
          :aria-pressed="chosen(bar)"
          :title="label(bar)"
          @pointerdown="press(bar, $event)"
          @click="choose(bar)"
          @keydown="key(bar, $event)"
        >
          <span class="done" :style="{ width: percent(progress(bar.rollup)) }" />
          <span
            v-if="bar.due !== undefined"
            :class="['due', { late: bar.late }]"
            :style="{ left: bar.due + 'px' }"
          />
          <span class="name" :style="{ paddingLeft: Math.max(5, 5 - bar.left) + 'px' }">
            <i v-if="bar.late" class="pi pi-exclamation-triangle" aria-hidden="true" />
            {{ bar.item.title }}
            <template v-if="dragged?.key === bar.item.key">
              {{ dragged.days < 0 ? '−' : '+' }}{{ count(Math.abs(dragged.days), 'day') }}
            </template>
          </span>
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.bars {
  display: flex;
  max-height: 134px;
  overflow: hidden auto;
  border-bottom: 2px solid var(--rule);
  background: var(--paper);
}

.head {
  position: sticky;
  top: 0;
  display: flex;
  flex: none;
  flex-direction: column;
  align-self: flex-start;
  width: 158px;
  padding: 4px 8px 4px 16px;
  line-height: 1.25;
}

.time {
  position: relative;
  flex: 1;
  overflow: hidden;
  height: max-content;
  min-height: 27px;
  border-left: 1px solid var(--rule);
}

.rows {
  position: relative;
}

.bar {
  position: absolute;
  padding: 0;
  border: 1.5px solid var(--colour);
  border-radius: 4px;
  background: color-mix(in srgb, var(--colour) 14%, var(--panel));
  color: var(--ink);
  text-align: left;
  cursor: grab;
  touch-action: none;
}

.bar.late {
  border-style: dashed;
  border-color: var(--over);
}

.bar.chosen {
  outline: 2.5px solid var(--focus);
}

.bar:focus-visible {
  outline: 3px solid var(--ink);
  z-index: 3;
}

.done {
  position: absolute;
  inset: 0 auto 0 0;
  background: color-mix(in srgb, var(--colour) 38%, var(--panel));
  border-radius: 2px 0 0 2px;
}

.due {
  position: absolute;
  top: -3px;
  bottom: -3px;
  width: 0;
  border-left: 3px double var(--ink);
  z-index: 2;
}

.due.late {
  border-color: var(--over);
}

.name {
  position: relative;
  display: block;
  padding-right: 4px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  font-size: 11.5px;
  line-height: 15px;
}

.pi {
  font-size: 10px;
  color: var(--over);
}
</style>
