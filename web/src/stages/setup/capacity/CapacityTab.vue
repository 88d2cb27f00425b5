<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { answer, client } from '@/api/client'
import { pair } from '@/line/pair'
import { useAnswer } from '@/line/useAnswer'
import { amount } from '@/ui/format'
import TimeGrid, { type GridRow } from '@/time/TimeGrid.vue'
import TimeTools from '@/time/TimeTools.vue'
import { useAxis } from '@/time/axis'
import { useProgram } from '@/line/program'
import { useWanted } from '@/stages/setup/useWanted'
import FigurePanel from './FigurePanel.vue'
import ReportDialog from './ReportDialog.vue'
import { partRows, teamRows, type CapacityCell } from './rows'

type By = 'team' | 'role' | 'person'
const store = useProgram()
const axis = useAxis()
const by = ref<By>('team')
const views: [By, string][] = [
  ['team', 'Team'],
  ['role', 'Role'],
  ['person', 'Person'],
]
const chosen = ref('')
const reporting = ref(false)
useWanted({ report: () => (reporting.value = true) })

const { answer: parts, failure } = useAnswer(
  () => {
    if (by.value === 'team') return undefined
    const query = { by: by.value }
    return answer(
      client.GET('/api/v1/programs/{id}/capacity/rows', { params: { path: { id: store.id }, query } }),
    )
  },
  [by, () => store.revision, () => store.today],
  { forget: ([view], [before]) => view !== before },
)

const rows = computed(() =>
  by.value === 'team'
    ? teamRows(store.program, store.iterationFacts, store.todayDay)
    : partRows(parts.value ?? [], store.program, by.value, store.todayDay),
)
/** The cell that is open, as it is now. */
const target = computed(() => {
  for (const row of rows.value)
    for (const cell of row.cells) if (pair(row.key, cell.key) === chosen.value) return cell
  return undefined
})
const crowded = computed(() =>
  by.value === 'person'
    ? rows.value.flatMap((r) => r.cells.filter((c) => c.over || c.large).map((c) => ({ row: r, cell: c })))
    : [],
)

function pick(row: GridRow<CapacityCell>, cell: CapacityCell): void {
  chosen.value = pair(row.key, cell.key)
}
const show = (view: By) => {
  by.value = view
  chosen.value = ''
}
const goToday = () => (axis.from = store.todayDay - axis.width / axis.zoom / 6)
/** The water line and the load, in percent of the cell's height. */
const height = (cell: CapacityCell, n: number) => `${Math.min(100, (n / (cell.top || 1)) * 100)}%`
</script>

<template>
  <div class="tools">
    <span class="quiet">Capacity by</span>
    <button
      v-for="[value, label] in views"
      :key="value"
      class="chip"
      :aria-pressed="by === value"
      @click="show(value)"
    >
      {{ label }}
    </button>
    <span v-if="by === 'role'" class="quiet">
      what those with the role can carry at most, against what is sized for it
    </span>
    <span v-if="by === 'person'" class="quiet">
      the person’s part of each iteration, against the sizes assigned to them
      <b v-if="crowded.length" class="flag">· {{ crowded.length }} with too much</b>
    </span>
    <span class="gap" />
    <Button size="small" outlined icon="pi pi-download" label="Report" @click="reporting = true" />
    <TimeTools @today="goToday" />
  </div>
  <p v-if="failure" class="failure" role="alert">{{ failure }}</p>
  <div class="split">
    <TimeGrid :rows="rows" :chosen="chosen" :name="`Capacity by ${by}`" @pick="pick">
      <template #cell="{ cell, width }">
        <span :class="['basin', { over: cell.over, closed: cell.closed }]">
          <span class="line" :style="{ height: height(cell, cell.capacity) }" />
          <span class="load" :style="{ height: height(cell, cell.load) }" />
          <span v-if="width > 44" class="figures">
            <b>{{ amount(cell.load) }}</b> {{ cell.closed ? 'of' : '/' }} {{ amount(cell.capacity) }}
            <i v-if="cell.hand" class="pi pi-pencil" title="set by hand" />
            <i v-if="cell.over || cell.large" class="pi pi-exclamation-triangle" />
          </span>
          <span v-if="width > 60" class="headroom small">{{ cell.note }}</span>
        </span>
      </template>
    </TimeGrid>
    <FigurePanel v-if="target" :team="target.team" :iteration="target.iteration" :cell="target" />
  </div>
  <p v-if="!rows.length && !failure" class="none quiet">
    {{
      by === 'role'
        ? 'Nobody has a role yet, and no item asks for one.'
        : 'There are no iterations yet; a cadence makes them.'
    }}
  </p>
  <ReportDialog v-model:visible="reporting" />
</template>

<style scoped>
.tools {
  display: flex;
  flex: none;
  gap: 6px;
  align-items: center;
  padding: 5px 16px;
}

.gap {
  flex: 1;
}

.split {
  flex: 1;
  min-height: 0;
  display: flex;
}

.basin {
  position: absolute;
  inset: 0;
  overflow: hidden;
  text-align: left;
  background: var(--panel);
}

.line,
.load {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 0;
}

.line {
  background: var(--basin);
  border-top: 1px solid color-mix(in srgb, var(--water) 55%, transparent);
}

.load {
  right: auto;
  width: 7px;
  background: var(--water);
}

.basin.over .load {
  background: repeating-linear-gradient(45deg, var(--over) 0 4px, var(--over-soft) 4px 7px);
}

.basin.over {
  box-shadow: inset 0 0 0 2px var(--over);
}

.basin.closed .line {
  background: var(--rule);
  border-color: var(--edge);
}

.basin.closed .load {
  background: var(--done);
}

.figures {
  position: absolute;
  top: 3px;
  left: 12px;
  white-space: nowrap;
}

.figures .pi {
  margin-left: 3px;
  font-size: 10px;
}

.figures .pi-exclamation-triangle {
  color: var(--over);
}

.headroom {
  position: absolute;
  bottom: 2px;
  left: 12px;
  white-space: nowrap;
}

.none {
  padding: 20px;
}
</style>
