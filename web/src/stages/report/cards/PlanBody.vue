<script setup lang="ts">
import { computed } from 'vue'
import { dateAt, landingRange } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import { releaseColour } from '@/ui/colours'
import { shortDate } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'
import type { Body } from './body'

/** What the plan itself says: when releases land, as the strip has it; or how full the iterations to come are. */
const props = defineProps<Body>()
const store = useProgram()
const near = (day?: string) => shortDate(day, store.todayDay)

const releases = computed(() =>
  (store.program.releases ?? []).map((r, i) => {
    const landing = store.landings?.releases.find((l) => l.key === r.key)
    return {
      ...r,
      colour: releaseColour(i),
      landing,
      lands: landing && (!landing.left && !landing.rough ? 'done' : landingRange(landing, store.todayDay)),
    }
  }),
)
const milestones = computed(() => (store.program.milestones ?? []).filter((m) => m.date >= store.today))
const teams = computed(() =>
  (store.program.teams ?? [])
    .filter((t) => !props.card.about?.team || t.key === props.card.about.team)
    .map((team) => ({
      team,
      slots: (team.iterations ?? [])
        .flatMap((it) => {
          const facts = store.iterationFacts.get(team.key, it.key)
          return facts && it.end >= store.today && it.state !== 'closed' ? [{ it, facts }] : []
        })
        .slice(0, 8)
        .map(({ it, facts }) => ({
          key: it.key,
          name: it.name ?? it.key,
          start: it.start,
          load: facts.load,
          capacity: facts.capacity,
          over: !!facts.over,
          share: facts.capacity > 0 ? facts.load / facts.capacity : facts.load > 0 ? 1.5 : 0,
        })),
    }))
    .filter((t) => t.slots.length),
)
const sentence = computed(() => {
  if (props.card.kind === 'dates') {
    const known = releases.value.filter((r) => r.landing?.chance !== undefined && r.lands !== 'done')
    if (!known.length) return `${count(releases.value.length, 'release')}, none with a due date to come.`
    const least = known.reduce((a, b) => ((a.landing?.chance ?? 1) <= (b.landing?.chance ?? 1) ? a : b))
    return known.length === 1
      ? `${least.name} is on time with ${percent(least.landing?.chance ?? 0)}.`
      : `${least.name} is the least safe: on time with ${percent(least.landing?.chance ?? 0)}.`
  }
  const all = teams.value.flatMap((t) => t.slots)
  const over = all.filter((s) => s.over).length
  return `${count(all.length, 'iteration')} to come, ${over ? `${over} over capacity` : 'none over capacity'}.`
})
const table = computed(() =>
  props.card.kind === 'dates'
    ? {
        columns: ['What', 'Due', 'Even odds', '85 %', 'On time'],
        rows: [
          ...releases.value.map((r) => [
            r.name,
            r.due ?? '',
            dateAt(r.landing, 50) ?? '',
            dateAt(r.landing, 85) ?? '',
            r.landing?.chance ?? '',
          ]),
          ...milestones.value.map((m) => [m.name, m.date, '', '', '']),
        ],
      }
    : {
        columns: ['Team', 'Iteration', 'Starts', 'Load', 'Capacity'],
        rows: teams.value.flatMap((t) =>
          t.slots.map((s) => [t.team.name, s.name, s.start, s.load, s.capacity]),
        ),
      },
)
defineExpose({ sentence, table })
</script>

<template>
  <div
    v-if="card.kind === 'dates'"
    class="scroll"
    tabindex="0"
    role="region"
    :aria-label="`${title}, in full`"
    :style="{ maxHeight: `${height}px` }"
  >
    <table v-if="releases.length || milestones.length" class="table">
      <thead>
        <tr>
          <th scope="col">Release or milestone</th>
          <th scope="col">Due</th>
          <th scope="col">Lands, 50 to 85 %</th>
          <th scope="col" class="n">On time</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in releases" :key="r.key">
          <th scope="row">
            <span class="dot" :style="{ background: r.colour }" />
            <RouterLink
              :to="{ name: 'forecast', params: { id: store.id }, query: { of: `release:${r.key}` } }"
              >{{ r.name }}</RouterLink
            >
          </th>
          <td>{{ r.due ? near(r.due) : 'no date' }}</td>
          <td>{{ r.lands ?? '…' }}</td>
          <td class="n">{{ r.landing?.chance === undefined ? '' : percent(r.landing.chance) }}</td>
        </tr>
        <tr v-for="m in milestones" :key="m.key">
          <th scope="row">
            <RouterLink
              :to="{ name: 'forecast', params: { id: store.id }, query: { of: `milestone:${m.key}` } }"
              >{{ m.name }}</RouterLink
            >
          </th>
          <td>{{ near(m.date) }}</td>
          <td class="quiet">milestone</td>
          <td />
        </tr>
      </tbody>
    </table>
    <p v-else class="quiet">The program has no releases yet.</p>
  </div>
  <div
    v-else
    class="scroll"
    tabindex="0"
    role="region"
    :aria-label="`${title}, in full`"
    :style="{ maxHeight: `${height}px` }"
  >
    <div v-for="t in teams" :key="t.team.key" class="team">
      <RouterLink class="name" :to="{ name: 'plan', params: { id: store.id } }">{{ t.team.name }}</RouterLink>
      <span
        v-for="s in t.slots"
        :key="s.key"
        class="slot"
        :title="`${s.name}, from ${near(s.start)}: ${sized(s.load, t.team)} of ${sized(s.capacity, t.team)}`"
      >
        <span class="basin"
          ><span
            class="load"
            :class="{ over: s.over }"
            :style="{ width: `${Math.min(100, s.share * 80)}%` }" /><span class="brim"
        /></span>
        <span class="small" :class="{ much: s.over }">{{ amount(s.load) }} of {{ amount(s.capacity) }}</span>
      </span>
    </div>
    <p v-if="!teams.length" class="quiet">No iteration is to come.</p>
  </div>
</template>

<style scoped>
.scroll {
  overflow: auto;
}

.table th[scope='row'] {
  border-bottom: 1px solid var(--rule);
  color: var(--ink);
}

.dot {
  display: inline-block;
  width: 10px;
  height: 10px;
  margin-right: 6px;
  border-radius: 2px;
}

a {
  color: inherit;
  text-underline-offset: 2px;
}

.team {
  display: grid;
  grid-template-columns: 112px repeat(8, minmax(44px, 1fr));
  gap: 6px;
  align-items: start;
  padding: 3px 0;
}

.name {
  overflow: hidden;
  font-size: 13px;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.slot {
  min-width: 0;
}

.basin {
  position: relative;
  display: block;
  height: 10px;
  border-radius: 3px;
  background: var(--basin);
  overflow: hidden;
}

.load {
  display: block;
  height: 100%;
  background: var(--water);
}

.load.over {
  background: repeating-linear-gradient(135deg, var(--over) 0 4px, var(--water) 4px 7px);
}

.brim {
  position: absolute;
  top: 0;
  bottom: 0;
  left: 80%;
  width: 2px;
  background: var(--ink);
}

.slot .small {
  display: block;
  overflow: hidden;
  font-size: 11px;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}

.much {
  color: var(--over);
  font-weight: 600;
}
</style>
