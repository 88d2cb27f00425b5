<script setup lang="ts">
import { computed } from 'vue'
import type { NeedsWeek } from '@/api/types'
import { count } from '@/ui/format'
import { shortDate, toDate, toDay } from '@/ui/dates'
import { useProgram } from '@/line/program'

/** What each team gives, and waits for, by the week in which it is wanted: this week first. */
const props = defineProps<{
  weeks: NeedsWeek[]
  name: (key: string) => string
  gives: string
  waits: string
  week: string
}>()
const emit = defineEmits<{ look: [at: { gives?: string; waits?: string; week?: string }] }>()
const store = useProgram()
/** How many weeks are shown at the most. */
const MOST = 26
const monday = computed(() => {
  const weekday = (new Date(store.todayDay * 86_400_000).getUTCDay() + 6) % 7
  return store.todayDay - weekday
})
const columns = computed(() => {
  const last = Math.max(monday.value + 14, ...props.weeks.map((w) => toDay(w.start)))
  const n = Math.min(MOST, (last - monday.value) / 7 + 1)
  return Array.from({ length: n }, (_, i) => toDate(monday.value + 7 * i))
})
const later = computed(() => props.weeks.filter((w) => !columns.value.includes(w.start)).length)
const rows = computed(() => {
  const at = new Map(props.weeks.map((w) => [`${w.team} ${w.start}`, w]))
  return [...new Set(props.weeks.map((w) => w.team))].map((team) => ({
    team,
    cells: columns.value.map((start, i) => ({ start, soon: i < 3, w: at.get(`${team} ${start}`) })),
  }))
})
const day = (date: string) => shortDate(date, store.todayDay)
type Wanted = NeedsWeek['gives']
const status = (w: Wanted) => (w.broken ? 'broken' : w.tight ? 'tight' : 'holds')
const says = (team: string, start: string, verb: string, w: Wanted, behind = 0) =>
  [
    `${props.name(team)} ${verb} ${w.needs} in the week of ${day(start)}`,
    behind && `${count(behind, 'need')} overdue`,
    w.broken && `${w.broken} broken`,
    w.tight && `${w.tight} with no day to spare`,
    w.open && `${w.open} not agreed`,
  ]
    .filter(Boolean)
    .join(', ')
const chosen = (team: string, start: string, side: 'gives' | 'waits') =>
  props.week === start && props[side] === team
</script>

<template>
  <div class="scroll">
    <table>
      <thead>
        <tr>
          <td />
          <th v-for="(start, i) in columns" :key="start" scope="col" :class="{ soon: i < 3 }">
            {{ i ? day(start) : 'This week' }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="{ team, cells } in rows" :key="team">
          <th scope="row">{{ name(team) }}</th>
          <td v-for="{ start, soon, w } in cells" :key="start" :class="{ soon }">
            <button
              v-if="w?.gives.needs"
              :class="['side', status(w.gives)]"
              :aria-pressed="chosen(team, start, 'gives')"
              :aria-label="says(team, start, 'gives', w.gives, w.behind)"
              :title="says(team, start, 'gives', w.gives, w.behind)"
              @click="emit('look', { gives: team, week: start })"
            >
              gives <b>{{ w.gives.needs }}</b>
            </button>
            <button
              v-if="w?.waits.needs"
              :class="['side waits', status(w.waits)]"
              :aria-pressed="chosen(team, start, 'waits')"
              :aria-label="says(team, start, 'waits for', w.waits)"
              :title="says(team, start, 'waits for', w.waits)"
              @click="emit('look', { waits: team, week: start })"
            >
              waits for <b>{{ w.waits.needs }}</b>
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <p class="legend quiet small">
    <span><i class="swatch holds" /> holds</span>
    <span><i class="swatch tight" /> some with no day to spare</span>
    <span><i class="swatch broken" /> some broken</span>
    <span v-if="later">What is wanted later is not shown.</span>
  </p>
</template>

<style scoped src="./table.css"></style>
<style scoped>
.scroll {
  max-height: 46vh;
}

thead th,
thead td {
  padding: 4px 6px;
  font-size: 12px;
  text-align: left;
  white-space: nowrap;
}

tbody th {
  padding: 4px 8px 4px 0;
  font-size: 13px;
  white-space: nowrap;
}

td {
  min-width: 92px;
  height: 30px;
  padding: 2px 3px;
  border: 1px solid var(--rule);
  background: var(--panel);
  vertical-align: top;
}

thead td {
  border: 0;
}

.soon {
  font-weight: 700;
}

tbody td.soon {
  background: var(--tint);
}

.side {
  display: block;
  width: 100%;
  margin: 1px 0;
  padding: 1px 6px;
  border: 0;
  border-left: 5px solid;
  border-radius: 4px;
  background: var(--panel);
  color: inherit;
  font-size: 12px;
  text-align: left;
  white-space: nowrap;
  cursor: pointer;
}

.side[aria-pressed='true'] {
  outline: 2px solid var(--focus);
}

.side.waits {
  border-left-style: double;
}

.side.holds {
  border-color: color-mix(in srgb, var(--water) 55%, var(--panel));
}

.side.tight {
  border-color: var(--caution);
}

.side.broken {
  border-color: var(--needs);
}

.swatch {
  width: 5px;
  height: 12px;
}

.swatch.holds {
  background: color-mix(in srgb, var(--water) 55%, var(--panel));
}

.swatch.tight {
  background: var(--caution);
}

.swatch.broken {
  background: var(--needs);
}
</style>
