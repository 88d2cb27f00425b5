<script setup lang="ts">
import { nextTick, ref } from 'vue'
import { usePointerDrag } from '@/ui/usePointerDrag'
import ReportCard from './ReportCard.vue'
import { GAP, ROW, useReport } from './report'

/** The cards of a page on their grid; while it is arranged each has a handle: dragged, or by the arrow keys. */
const report = useReport()
const grid = ref<HTMLElement>()
const dragged = ref('')
const over = ref(-1)

const cells = () => [...(grid.value?.querySelectorAll<HTMLElement>('[data-card]') ?? [])]
/** Before which card something that is dropped at a point goes: the nearest one, by its middle. */
function placeAt(x: number, y: number): number {
  let best = -1
  let least = Infinity
  cells().forEach((cell, i) => {
    const box = cell.getBoundingClientRect()
    const far = Math.hypot(x - (box.left + box.width / 2), y - (box.top + box.height / 2))
    if (far < least) [best, least] = [i, far]
  })
  return best
}
const { press } = usePointerDrag<string>({
  begin: (key) => {
    dragged.value = key
    return report.arranging
  },
  move: (_, event) => (over.value = placeAt(event.clientX, event.clientY)),
  drop: (key) => over.value >= 0 && report.move(key, over.value),
  end: () => {
    dragged.value = ''
    over.value = -1
  },
})
/** The lower right corner is pulled: so many columns and rows more. */
let pulled = { wide: 0, high: 0 }
const { press: pull } = usePointerDrag<string>({
  threshold: 2,
  begin: () => {
    pulled = { wide: 0, high: 0 }
    return report.arranging
  },
  move: (key, event, from) => {
    const column = (grid.value?.clientWidth ?? 1200) / 12
    const wide = Math.round((event.clientX - from.x) / column)
    const high = Math.round((event.clientY - from.y) / (ROW + GAP))
    report.size(key, wide - pulled.wide, high - pulled.high)
    pulled = { wide, high }
  },
  drop: () => undefined,
  end: () => undefined,
})

async function key(event: KeyboardEvent, card: string, at: number): Promise<void> {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const does: Record<string, () => void> = event.shiftKey
    ? {
        ArrowLeft: () => report.size(card, -1, 0),
        ArrowRight: () => report.size(card, 1, 0),
        ArrowUp: () => report.size(card, 0, -1),
        ArrowDown: () => report.size(card, 0, 1),
      }
    : {
        ArrowLeft: () => report.move(card, at - 1),
        ArrowUp: () => report.move(card, at - 1),
        ArrowRight: () => report.move(card, at + 1),
        ArrowDown: () => report.move(card, at + 1),
        Home: () => report.move(card, 0),
        End: () => report.move(card, report.page.cards.length - 1),
        Delete: () => report.take(card),
        Enter: () => void (report.chosen = card),
      }
  if (!does[event.key]) return
  event.preventDefault()
  does[event.key]()
  await nextTick()
  const held = report.page.cards.some((c) => c.key === card)
    ? card
    : report.page.cards[Math.min(at, report.page.cards.length - 1)]?.key
  grid.value?.querySelector<HTMLElement>(`[data-card="${held}"] .handle`)?.focus()
}
</script>

<template>
  <div
    ref="grid"
    class="grid"
    :style="{ '--row': `${ROW}px`, gap: `${GAP}px` }"
    :class="{ arranging: report.arranging }"
  >
    <div
      v-for="(card, i) in report.page.cards"
      :key="card.key"
      class="cell"
      :data-card="card.key"
      :class="{ over: over === i && dragged && dragged !== card.key, dragged: dragged === card.key }"
      :style="{ gridColumn: `span ${card.wide}`, gridRow: `span ${card.high}` }"
    >
      <ReportCard :card="card">
        <button
          v-if="report.arranging"
          class="round handle"
          :aria-label="`Move card ${i + 1} of ${report.page.cards.length}: arrow keys move it, with Shift they size it, Enter opens its settings`"
          title="Drag, or arrow keys; Shift with them sizes it"
          @pointerdown="press(card.key, $event)"
          @keydown="key($event, card.key, i)"
        >
          <i class="pi pi-arrows-alt" aria-hidden="true" />
        </button>
      </ReportCard>
      <span
        v-if="report.arranging"
        class="corner"
        aria-hidden="true"
        @pointerdown.prevent="pull(card.key, $event)"
      />
    </div>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-auto-rows: var(--row);
  grid-template-columns: repeat(12, minmax(0, 1fr));
}

.cell {
  position: relative;
  min-width: 0;
}

.handle {
  cursor: grab;
  touch-action: none;
}

.dragged {
  opacity: 0.55;
}

.over {
  outline: 2px dashed var(--focus);
  outline-offset: 2px;
}

.corner {
  position: absolute;
  right: 0;
  bottom: 0;
  width: 18px;
  height: 18px;
  border-right: 4px solid var(--edge);
  border-bottom: 4px solid var(--edge);
  border-radius: 0 0 8px;
  cursor: nwse-resize;
  touch-action: none;
}

@media print {
  .grid {
    display: block;
  }

  .cell {
    height: auto;
    margin-bottom: 14px;
    break-inside: avoid;
  }
}
</style>
