<script setup lang="ts">
import { computed } from 'vue'
import type { When } from '@/api/types'
import { shortDate, toDay } from '@/ui/dates'
import { percent } from '@/ui/format'
import { cannotLand, dateAt } from '@/line/landingRange'
import { useProgram } from '@/line/program'

/** When each team is done with its part: the one that is the last most often first. */
const props = defineProps<{ teams: When['teams']; by?: string; release?: string }>()
const store = useProgram()

const rows = computed(() => {
  const from = store.todayDay
  const ends = props.teams.flatMap((t) => dateAt(t, 95) ?? dateAt(t, 85) ?? []).map(toDay)
  const to = Math.max(...ends, props.by ? toDay(props.by) : from, from + 7)
  const x = (date: string) => ((toDay(date) - from) / (to - from)) * 100
  return props.teams.map((t) => {
    const [early, even, safe, late] = [10, 50, 85, 95].map((odds) => dateAt(t, odds))
    const end = late ?? safe
    return {
      key: t.key,
      name: store.teams.get(t.key)?.name ?? t.key,
      wide:
        early && end ? { left: `${x(early)}%`, width: `${Math.max(0.6, x(end) - x(early))}%` } : undefined,
      near: even && safe ? { left: `${x(even)}%`, width: `${Math.max(0.6, x(safe) - x(even))}%` } : undefined,
      due: props.by ? { left: `${Math.min(100, Math.max(0, x(props.by)))}%` } : undefined,
      text: t.cannot?.length
        ? cannotLand(t, 1)
        : even
          ? `${shortDate(even, from)}${safe && safe !== even ? ` – ${shortDate(safe, from)}` : ''}`
          : 'beyond what was played',
      decides: t.decides,
      last: t.decides > 0 && t.decides === Math.max(...props.teams.map((o) => o.decides)),
    }
  })
})
const to = (team: string) => ({
  name: 'backlog',
  params: { id: store.id },
  query: { ...(props.release ? { release: props.release } : {}), team },
})
</script>

<template>
  <section class="card" aria-label="When each team is done">
    <h3>When each team is done with its part</h3>
    <p v-if="!rows.length" class="quiet">Nothing of it is left to do.</p>
    <ul v-else>
      <li v-for="r in rows" :key="r.key" :class="{ last: r.last }">
        <RouterLink :to="to(r.key)" :title="`Its work, in the backlog`">{{ r.name }}</RouterLink>
        <span class="time" aria-hidden="true">
          <span v-if="r.wide" class="wide" :style="r.wide" />
          <span v-if="r.near" class="near" :style="r.near" />
          <span v-if="r.due" class="due" :style="r.due" />
        </span>
        <span class="when"
          >{{ r.text }}
          <span class="quiet small">{{
            r.decides ? `last in ${percent(r.decides)}` : 'never the last'
          }}</span></span
        >
      </li>
    </ul>
    <p class="quiet small">
      Strong from even odds to 85 %, pale from 10 to 95 %<template v-if="by"
        >; the line is {{ shortDate(by, store.todayDay) }}</template
      >.
    </p>
  </section>
</template>

<style scoped>
ul {
  display: grid;
  gap: 5px;
  margin: 0 0 6px;
  padding: 0 !important;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: 118px minmax(60px, 1fr) 128px;
  gap: 10px;
  align-items: center;
}

li a {
  overflow: hidden;
  color: inherit;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.last a {
  font-weight: 700;
}

.time {
  position: relative;
  height: 18px;
  background: var(--tint);
  border-radius: 3px;
}

.time > span {
  position: absolute;
  top: 3px;
  height: 12px;
  border-radius: 3px;
}

.wide {
  background: var(--water);
  opacity: 0.3;
}

.near {
  background: var(--water);
}

.time > .due {
  top: 0;
  width: 2px;
  height: 18px;
  background: var(--over);
}

.when {
  display: grid;
  line-height: 1.2;
}
</style>
