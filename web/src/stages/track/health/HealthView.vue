<script setup lang="ts">
import { computed } from 'vue'
import { answer, client } from '@/api/client'
import type { AttentionEntry, Health, Weekly } from '@/api/types'
import { landingRange } from '@/line/landingRange'
import { useProgram } from '@/line/program'
import { useAnswer } from '@/line/useAnswer'
import { releaseColour } from '@/ui/colours'
import { shortDate } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'
import { callTitles } from '@/line/calls'
import { useTrack } from '../track'
import WeekBars from './WeekBars.vue'

/** How teams and releases stand: what needs somebody, counted, and the last weeks; each count leads to what it counts. */
const store = useProgram()
const track = useTrack()
const found = useAnswer<Health>(
  () =>
    store.id
      ? answer(client.GET('/api/v1/programs/{id}/health', { params: { path: { id: store.id } } }))
      : undefined,
  [() => store.id, () => store.revision, () => store.today],
  { wait: 60, forget: ([now], [before]) => now !== before },
)
type Call = AttentionEntry['kind']

/** The kinds that any team has, in the order of the list that they lead to. */
const kinds = computed(() =>
  (Object.keys(callTitles) as Call[]).filter((kind) =>
    found.answer.value?.teams.some((t) => t.calls.some((c) => c.kind === kind)),
  ),
)
const teams = computed(() =>
  (found.answer.value?.teams ?? []).flatMap((t) => {
    const team = store.teams.get(t.team)
    if (!team) return [] // it has gone meanwhile
    const under = track.all.find((u) => u.team === t.team)
    return [
      {
        team,
        under,
        label: under && store.iterationName(t.team, under.iteration),
        calls: new Map(t.calls.map((c) => [c.kind, c.count])),
        weeks: t.weeks.map((w) => w.finished.size),
      },
    ]
  }),
)
const releases = computed(() =>
  (found.answer.value?.releases ?? []).flatMap((r) => {
    const at = store.program.releases?.findIndex((x) => x.key === r.release) ?? -1
    if (at < 0) return []
    return [
      {
        ...r,
        of: store.program.releases![at],
        colour: releaseColour(at),
        landing: store.landings?.releases.find((x) => x.key === r.release),
        bars: r.weeks.map((w) => w.finished.items),
        scope: scopeOf(r.weeks),
      },
    ]
  }),
)
/** What the work of a release grew or shrank by in the last week. */
function scopeOf(weeks: Weekly[]): string {
  const [before, now] = weeks.slice(-2)
  if (!before || !now) return ''
  const more = now.total.items - before.total.items
  return more ? `${more > 0 ? '+' : '−'}${count(Math.abs(more), 'item')}` : 'unchanged'
}
const attention = (query: Record<string, string>) => ({
  name: 'track',
  params: { id: store.id },
  query: { as: 'attention', ...query },
})
</script>

<template>
  <div class="view">
    <p v-if="found.failure.value" role="alert" class="failure">{{ found.failure.value }}</p>
    <p v-else-if="!found.answer.value" role="status" class="quiet">Looking…</p>
    <template v-else>
      <h2 id="health-releases">Releases</h2>
      <table v-if="releases.length" class="table" aria-labelledby="health-releases">
        <thead>
          <tr>
            <th scope="col">Release</th>
            <th scope="col">Lands, 50 to 85 %</th>
            <th scope="col">On time</th>
            <th scope="col">Done</th>
            <th scope="col">Scope, last week</th>
            <th scope="col">Finished, by week</th>
            <th scope="col">Needs somebody</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in releases" :key="r.release">
            <th scope="row">
              <span class="dot" :style="{ background: r.colour }" />
              <RouterLink
                :to="{
                  name: 'track',
                  params: { id: store.id },
                  query: { as: 'scope', of: `release:${r.release}` },
                }"
                >{{ r.of.name }}</RouterLink
              >
              <span class="quiet small">{{
                r.of.due ? ` due ${shortDate(r.of.due, store.todayDay)}` : ''
              }}</span>
            </th>
            <td>{{ r.landing ? landingRange(r.landing, store.todayDay) : '…' }}</td>
            <td>{{ r.landing?.chance === undefined ? '' : percent(r.landing.chance) }}</td>
            <td>{{ r.done }} of {{ count(r.items, 'item') }}</td>
            <td>{{ r.scope }}</td>
            <td><WeekBars :weeks="r.bars" :words="(n) => amount(n)" /></td>
            <td>
              <RouterLink v-if="r.calls" :to="attention({ release: r.release })"
                >{{ r.calls
                }}<template v-if="r.days >= 0.5"
                  >, costing {{ count(Math.round(r.days), 'day') }}</template
                ></RouterLink
              >
              <span v-else class="quiet">nothing</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="quiet">No release has work to do or a date to come.</p>
      <p v-if="found.answer.value.leftOut" class="quiet small">
        {{ count(found.answer.value.leftOut, 'more', 'more') }} are not told of.
      </p>
      <h2 id="health-teams">Teams</h2>
      <table v-if="teams.length" class="table" aria-labelledby="health-teams">
        <thead>
          <tr>
            <th scope="col">Team</th>
            <th scope="col">In its iteration</th>
            <th scope="col">Finished, by week</th>
            <th v-for="kind in kinds" :key="kind" scope="col" class="n call">{{ callTitles[kind] }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in teams" :key="t.team.key">
            <th scope="row">
              <RouterLink :to="{ name: 'track', params: { id: store.id }, query: { teams: t.team.key } }">{{
                t.team.name
              }}</RouterLink>
            </th>
            <td>
              <template v-if="t.under"
                >{{ t.label }}: {{ amount(t.under.done.size) }} of
                {{ sized(t.under.total.size, t.team) }} done, day {{ t.under.gone }} of
                {{ t.under.days.length }}</template
              >
              <span v-else class="quiet">none</span>
            </td>
            <td><WeekBars :weeks="t.weeks" :words="(n) => sized(n, t.team)" /></td>
            <td v-for="kind in kinds" :key="kind" class="n">
              <RouterLink
                v-if="t.calls.get(kind)"
                :to="attention({ team: t.team.key, call: kind })"
                :aria-label="`${t.calls.get(kind)} ${callTitles[kind]}, ${t.team.name}`"
                >{{ t.calls.get(kind) }}</RouterLink
              >
              <span v-else class="quiet" aria-label="none">–</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else class="quiet">The program has no teams yet.</p>
    </template>
  </div>
</template>

<style scoped>
.view {
  padding: 4px 16px 24px;
}

h2 {
  margin: 12px 0 4px;
  font-size: 17px;
}

.table th[scope='row'] {
  border-bottom: 1px solid var(--rule);
  color: var(--ink);
}

.table .call {
  max-width: 84px;
  white-space: normal;
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
</style>
