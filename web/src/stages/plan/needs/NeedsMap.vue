<script setup lang="ts">
import { computed } from 'vue'
import type { NeedsCell } from '@/api/types'
import { count } from '@/ui/format'
import { useProgram } from '@/line/program'

/** Who owes whom: teams that give down, teams that wait across. Arrow keys lead from cell to cell. */
const props = defineProps<{
  teams: string[]
  name: (key: string) => string
  cell: (gives: string, waits: string) => NeedsCell | undefined
  gives: string
  waits: string
}>()
const store = useProgram()
const emit = defineEmits<{ look: [at: { gives?: string; waits?: string }] }>()
/** Many teams go by their keys. */
const small = computed(() => props.teams.length > 9)
const label = (key: string) => (small.value ? key || '–' : props.name(key))

/** The parts of its bar, in percent: what holds, has no day to spare, is broken. */
const parts = (c: NeedsCell) => [
  { kind: 'holds', width: (100 * (c.needs - c.tight - c.broken)) / c.needs },
  { kind: 'tight', width: (100 * c.tight) / c.needs },
  { kind: 'broken', width: (100 * c.broken) / c.needs },
]
const says = (c: NeedsCell) =>
  [
    `${props.name(c.gives)} gives ${props.name(c.waits)}: ${count(c.needs, 'need')}`,
    c.broken && `${c.broken} broken`,
    c.tight && `${c.tight} with no day to spare`,
    c.open && `${c.open} not agreed`,
    c.soon && `${c.soon} within three weeks`,
  ]
    .filter(Boolean)
    .join(', ')
const total = (of: 'gives' | 'waits', key: string) =>
  props.teams.reduce(
    (n, other) => n + ((of === 'gives' ? props.cell(key, other) : props.cell(other, key))?.needs ?? 0),
    0,
  )

function move(event: KeyboardEvent): void {
  const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key]
  const at = (event.target as HTMLElement).closest<HTMLElement>('[data-at]')?.dataset.at
  if (!step || !at) return
  event.preventDefault()
  const table = (event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>('[data-at]')
  let [row, column] = at.split(',').map(Number)
  const n = props.teams.length
  for (;;) {
    row += step[0]
    column += step[1]
    if (row < 0 || column < 0 || row >= n || column >= n) return
    const next = [...table].find((el) => el.dataset.at === `${row},${column}`)
    if (next) {
      next.focus()
      return
    }
  }
}
</script>

<template>
  <div class="scroll" @keydown="move">
    <table :class="{ small }">
      <thead>
        <tr>
          <td />
          <th v-for="to in teams" :key="to" scope="col">
            <button
              class="head"
              :aria-pressed="waits === to && !gives"
              :title="`What ${name(to)} waits for: ${total('waits', to)}`"
              @click="emit('look', { waits: to })"
            >
              {{ label(to) }}
            </button>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(from, row) in teams" :key="from">
          <th scope="row">
            <button
              class="head"
              :aria-pressed="gives === from && !waits"
              :title="`What ${name(from)} gives: ${total('gives', from)}`"
              @click="emit('look', { gives: from })"
            >
              {{ label(from) }}
            </button>
          </th>
          <td v-for="(to, column) in teams" :key="to" :class="{ own: from === to }">
            <button
              v-if="cell(from, to)"
              class="cell"
              :data-at="`${row},${column}`"
              :aria-pressed="gives === from && waits === to"
              :aria-label="says(cell(from, to)!)"
              :title="says(cell(from, to)!)"
              @click="emit('look', { gives: from, waits: to })"
            >
              <span class="n"
                ><b>{{ cell(from, to)!.needs }}</b>
                <span v-if="cell(from, to)!.open" class="quiet"> {{ cell(from, to)!.open }}?</span></span
              >
              <span class="bar" aria-hidden="true">
                <i
                  v-for="p in parts(cell(from, to)!)"
                  :key="p.kind"
                  :class="p.kind"
                  :style="{ width: `${p.width}%` }"
                />
              </span>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <p class="legend quiet small">
    <span><i class="swatch holds" /> holds</span>
    <span><i class="swatch tight" /> no day to spare</span>
    <span><i class="swatch broken" /> broken</span>
    <span v-if="store.agree">? not agreed yet</span>
  </p>
</template>

<style scoped src="./table.css"></style>
<style scoped>
.scroll {
  max-height: calc(100vh - 270px);
}

thead th,
thead td {
  vertical-align: bottom;
}

.head {
  padding: 4px 6px;
  border: 0;
  border-radius: 5px;
  background: none;
  color: inherit;
  font: 650 13px/1.25 var(--text);
  text-align: left;
  cursor: pointer;
}

.head[aria-pressed='true'] {
  background: var(--ink);
  color: var(--panel);
}

tbody td {
  width: 84px;
  height: 50px;
  padding: 0;
  border: 1px solid var(--rule);
  background: var(--panel);
}

.own {
  background: var(--tint);
}

.small tbody td {
  width: 48px;
  height: 36px;
}

.cell {
  display: grid;
  gap: 4px;
  width: 100%;
  height: 100%;
  padding: 5px 6px;
  border: 2px solid transparent;
  background: none;
  color: inherit;
  text-align: left;
  cursor: pointer;
}

.cell[aria-pressed='true'] {
  border-color: var(--focus);
}

.cell b {
  font-size: 15px;
}

.n {
  white-space: nowrap;
}

.n .quiet {
  margin-left: 6px;
  font-size: 12px;
}

.bar {
  display: flex;
  height: 6px;
  border-radius: 3px;
  overflow: hidden;
}

.holds {
  background: color-mix(in srgb, var(--water) 55%, var(--panel));
}

.tight {
  background: repeating-linear-gradient(135deg, var(--caution) 0 3px, transparent 3px 6px);
}

.broken {
  background: var(--needs);
}

.swatch {
  width: 18px;
  height: 8px;
  border-radius: 3px;
}
</style>
