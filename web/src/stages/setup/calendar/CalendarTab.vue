<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { pair } from '@/line/pair'
import { shortDay, toDate, toDay } from '@/ui/dates'
import TimeGrid, { type GridRow } from '@/time/TimeGrid.vue'
import TimeTools from '@/time/TimeTools.vue'
import { useAxis } from '@/time/axis'
import { useProgram } from '@/line/program'
import { useSetUp } from '@/stages/setup/setup'
import { useProposals } from '@/line/proposals'
import { useWanted } from '@/stages/setup/useWanted'
import CadenceList from './CadenceList.vue'
import HolidayList from './HolidayList.vue'
import IterationPanel from './IterationPanel.vue'
import { awayIn, calendarRows, type CalendarCell } from './rows'
import { useBarDrag, type BarDrag, type Grip } from './useBarDrag'

const router = useRouter()
const store = useProgram()
const axis = useAxis()
const setUp = useSetUp()
const proposals = useProposals()
const rows = computed(() => calendarRows(store.program, store.iterationFacts, store.todayDay))
/** When members are away, by row. */
const away = computed(
  () => new Map((store.program.teams ?? []).map((t) => [`team/${t.key}`, awayIn(store.program, t.key)])),
)
const chosen = ref('')
useWanted({
  iteration: (key) => {
    chosen.value = key
    const { team, key: its } = iteration.value ?? {}
    const found = store.teams.get(team ?? '')?.iterations?.find((it) => it.key === its)
    if (found) axis.from = toDay(found.start) - 14
  },
})
const iteration = computed(() => {
  const [row, key] = chosen.value.split('\n')
  return row?.startsWith('team/') ? { team: row.slice(5), key } : undefined
})

/** What a drop would do is shown first. */
const { drag, begin, wasDrag } = useBarDrag((bar, days, alt) => void propose(bar, days, alt))

async function propose(bar: BarDrag, days: number, alt: boolean): Promise<void> {
  const [row, key] = bar.id.split('\n')
  const set = (kind: 'release' | 'milestone', field: string, value: string) =>
    proposals.propose({ do: 'make', changes: [{ op: 'set', kind, key, field, value }] })
  if (row.startsWith('team/')) {
    const team = row.slice(5)
    if (bar.grip === 'whole') await proposals.propose({ do: 'move-iteration', team, key, days })
    else
      await proposals.propose({ do: 'resize-iteration', team, key, end: toDate(bar.end + days), along: !alt })
  } else if (row === 'milestones') await set('milestone', 'date', toDate(bar.start + days))
  else if (bar.grip === 'whole') await proposals.propose({ do: 'move-release', key, days })
  else if (bar.grip === 'start') await set('release', 'start', toDate(bar.start + days))
  else await set('release', 'due', toDate(bar.end + days))
}

function mayDrag(row: GridRow<CalendarCell>, cell: CalendarCell): boolean {
  if (cell.kind === 'iteration')
    return store.may({ op: 'set', kind: 'iteration', in: row.key.slice(5), key: cell.key, field: 'end' })
  return store.may({ op: 'set', kind: cell.kind, key: cell.key, field: 'due' })
}

function grip(event: PointerEvent, row: GridRow<CalendarCell>, cell: CalendarCell, by: Grip): void {
  if (!cell.grips.includes(by) || !mayDrag(row, cell)) return
  event.stopPropagation()
  begin(event, { id: pair(row.key, cell.key), grip: by, start: cell.start, end: cell.end })
}

function pick(row: GridRow<CalendarCell>, cell: CalendarCell): void {
  if (wasDrag()) return
  chosen.value = pair(row.key, cell.key)
  if (cell.kind !== 'iteration')
    void router.push({ name: 'set-up-releases', params: { id: store.id }, query: { [cell.kind]: cell.key } })
}

const goToday = () => (axis.from = store.todayDay - axis.width / axis.zoom / 6)
/** Teams that have had no iterations for so long that none are made by themselves. */
const stalled = computed(() => setUp.facts?.stalled ?? [])
const resumable = computed(() =>
  stalled.value.filter((team) => store.may({ op: 'add', kind: 'iteration', in: team, key: '' })),
)
const teamNames = (keys: string[]) => keys.map((key) => store.teams.get(key)?.name ?? key).join(', ')
const breaks = computed(() => setUp.facts?.breaks ?? [])
</script>

<template>
  <div class="tools">
    <span
      class="quiet"
      title="With Alt the next iteration gives or takes the days; else later ones move along"
    >
      Drag edges and bars to change dates. What that does is shown before it is done.
    </span>
    <span class="gap" />
    <TimeTools @today="goToday" />
  </div>
  <ul v-if="breaks.length" class="breaks" role="alert">
    <li v-for="b in breaks.slice(0, 3)" :key="b.team + b.before + b.after">{{ b.text }}.</li>
    <li v-if="breaks.length > 3">and {{ breaks.length - 3 }} more</li>
  </ul>
  <div v-if="stalled.length" class="breaks stalled" role="status">
    <span>
      <b>{{ teamNames(stalled) }}: no iterations for over a year.</b> None are made by themselves after such a
      time.
    </span>
    <Button
      v-if="resumable.length"
      size="small"
      outlined
      label="Make them until today"
      :disabled="proposals.working"
      @click="proposals.propose({ do: 'resume-iterations', teams: resumable })"
    />
  </div>
  <TimeGrid :rows="rows" :chosen="chosen" name="Calendar" @pick="pick">
    <template #cell="{ row, cell, width }">
      <span
        :class="['bar', cell.kind, cell.state]"
        :style="{ background: cell.colour }"
        @pointerdown="grip($event, row, cell, 'whole')"
      >
        <template v-for="p in cell.parts" :key="p.name">
          <span
            class="part"
            :style="{
              left: (p.start - cell.start) * axis.zoom + 'px',
              width: (p.end + 1 - p.start) * axis.zoom + 'px',
            }"
            ><span :style="{ marginLeft: Math.max(0, axis.from - p.start) * axis.zoom + 'px' }">{{
              p.name
            }}</span></span
          >
        </template>
        <span v-if="cell.kind === 'iteration' && width > 26" class="name">{{ cell.name }}</span>
        <span
          v-if="cell.grips.includes('start')"
          class="grip left"
          @pointerdown="grip($event, row, cell, 'start')"
        />
        <span
          v-if="cell.grips.includes('end')"
          class="grip right"
          @pointerdown="grip($event, row, cell, 'end')"
        />
      </span>
    </template>
    <template #over="{ row, x }">
      <template v-if="row.key === 'milestones'">
        <span v-for="m in row.cells" :key="m.key" class="beside" :style="{ left: x(m.end + 1) + 4 + 'px' }">{{
          m.name
        }}</span>
      </template>
      <span
        v-for="(off, i) in away.get(row.key) ?? []"
        :key="i"
        class="away"
        :style="{ left: x(off.start) + 'px', width: (off.end + 1 - off.start) * axis.zoom + 'px' }"
      />
    </template>
  </TimeGrid>
  <div v-if="drag.bar" class="dragging" role="status">
    {{ shortDay(drag.bar.start, store.todayDay) }} – {{ shortDay(drag.bar.end, store.todayDay) }}
    <span class="quiet">({{ drag.days > 0 ? '+' : '−' }}{{ Math.abs(drag.days) }} days)</span>
  </div>
  <div class="below">
    <CadenceList />
    <IterationPanel :team="iteration?.team" :iteration="iteration?.key" />
    <HolidayList />
  </div>
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

.stalled {
  display: flex;
  gap: 12px;
  align-items: center;
}

.breaks {
  flex: none;
  margin: 0;
  padding: 6px 16px 6px 32px;
  background: var(--over-soft);
  border-left: 4px solid var(--over);
}

.bar {
  position: absolute;
  inset: 0;
  display: block;
  text-align: left;
}

.bar.iteration.closed {
  background: var(--rule);
}

.bar.iteration.open {
  background: color-mix(in srgb, var(--water) 35%, var(--basin));
}

.bar.milestone {
  background: var(--milestone);
}

.name {
  position: absolute;
  inset: 8px 10px auto 6px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}

.part {
  position: absolute;
  top: 0;
  bottom: 0;
  overflow: hidden;
  padding: 7px 6px;
  border-right: 2px solid var(--panel);
  color: #fff;
  font-size: 12px;
  white-space: nowrap;
  text-overflow: ellipsis;
}

.beside {
  position: absolute;
  top: 6px;
  white-space: nowrap;
  pointer-events: none;
}

.away {
  position: absolute;
  bottom: 4px;
  height: 5px;
  background: var(--caution);
  opacity: 0.75;
  pointer-events: none;
}

.grip {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 8px;
  cursor: ew-resize;
}

.grip.left {
  left: 0;
}

.grip.right {
  right: 0;
}

.grip.right::after {
  content: '';
  position: absolute;
  inset: 8px 3px;
  border-left: 1px solid var(--edge);
}

.dragging {
  position: fixed;
  bottom: 248px;
  left: 50%;
  z-index: 40;
  padding: 6px 14px;
  border-radius: 6px;
  background: var(--panel);
  box-shadow: var(--shadow);
}

.below {
  display: grid;
  grid-template-columns: minmax(280px, 1fr) minmax(360px, 1.3fr) minmax(240px, 0.8fr);
  flex: none;
  height: 238px;
  border-top: 1px solid var(--rule);
  background: var(--panel);
}

.below > :deep(*) {
  overflow: auto;
  padding: 8px 16px;
  border-right: 1px solid var(--rule);
}
</style>
