<script setup lang="ts">
import { computed } from 'vue'
import { releaseColour } from '@/ui/colours'
import { monthTicks, shortDate, toDay, weekTicks } from '@/ui/dates'
import { useAxis } from './axis'
import { useProgram } from '@/line/program'

const store = useProgram()
const axis = useAxis()
/** The longest that a pennant gets, in pixels. */
const PENNANT = 130
const x = (day: number) => (day - axis.from) * axis.zoom
/** A month's name stays in view as long as some of the month is. */
const months = computed(() => {
  const ticks = monthTicks(Math.floor(axis.from), axis.to)
  return ticks.map((tick, i) => ({
    ...tick,
    at: Math.max(0, x(tick.day)),
    end: i + 1 < ticks.length ? x(ticks[i + 1].day) : axis.width,
  }))
})
const weeks = computed(() => weekTicks(axis.from, axis.to, axis.zoom >= 4 ? 1 : axis.zoom >= 2 ? 2 : 4))
const pennants = computed(() => {
  const all = [
    ...(store.program.releases ?? []).map((r, i) => ({
      key: r.key,
      name: r.name,
      date: r.due,
      colour: releaseColour(i),
      what: 'due',
    })),
    ...(store.program.milestones ?? []).map((m) => ({
      key: m.key,
      name: m.name,
      date: m.date,
      colour: 'var(--milestone)',
      what: 'on',
    })),
  ].filter((p): p is typeof p & { date: string } => !!p.date)
  const flown = all
    .map((p) => ({
      ...p,
      at: x(toDay(p.date) + 1),
      text: `${p.name}, ${p.what} ${shortDate(p.date, store.todayDay)}`,
    }))
    .filter((p) => p.at > 0 && p.at < axis.width)
    .sort((a, b) => a.at - b.at)
  // One that would run into the next flies back from its date, as one does at the edge.
  return flown.map((p, i) => {
    const long = Math.min(PENNANT, 24 + 6.5 * p.name.length)
    const next = flown[i + 1]?.at ?? axis.width
    return { ...p, back: p.at + long > next && p.at - long > 0 }
  })
})
</script>

<template>
  <div class="time">
    <div class="days">
      <div
        v-for="m in months"
        :key="m.day"
        class="month"
        :style="{ left: m.at + 'px', width: Math.max(0, m.end - m.at) + 'px' }"
      >
        {{ m.label }}
      </div>
      <div v-for="w in weeks" :key="w.day" class="week" :style="{ left: x(w.day) + 'px' }">{{ w.label }}</div>
      <div class="now" :style="{ left: x(store.todayDay + 0.5) + 'px' }">today</div>
      <div
        v-for="p in pennants"
        :key="p.key"
        :class="['pennant', { back: p.back }]"
        :style="{ left: p.at + 'px', background: p.colour }"
        :title="p.text"
      >
        {{ p.name }}
      </div>
    </div>
  </div>
</template>

<style scoped>
.time {
  position: sticky;
  top: 0;
  z-index: 12;
  height: 42px;
  padding-left: 158px;
  background: var(--panel);
  border-block: 1px solid var(--rule);
}

.days {
  position: relative;
  height: 100%;
  overflow: hidden;
  border-left: 1px solid var(--rule);
}

.month {
  position: absolute;
  top: 2px;
  padding-left: 6px;
  overflow: hidden;
  white-space: nowrap;
  border-left: 1px solid var(--rule);
  height: 100%;
  font: 650 13px var(--heading);
}

.week {
  position: absolute;
  bottom: 0;
  height: 18px;
  padding-left: 4px;
  border-left: 1px solid var(--rule);
  color: var(--quiet);
  font-size: 11px;
}

.now {
  position: absolute;
  bottom: 2px;
  transform: translateX(-50%);
  padding: 0 7px 1px;
  border-radius: 8px;
  background: var(--ink);
  color: var(--panel);
  font-size: 11px;
}

.pennant {
  position: absolute;
  top: 2px;
  max-width: 130px;
  padding: 1px 16px 1px 7px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  color: #fff;
  font: 650 11px/15px var(--heading);
  clip-path: polygon(0 0, 100% 0, calc(100% - 8px) 50%, 100% 100%, 0 100%);
}

.pennant.back {
  transform: translateX(-100%);
  padding: 1px 7px 1px 16px;
  clip-path: polygon(0 0, 100% 0, 100% 100%, 0 100%, 8px 50%);
}
</style>
