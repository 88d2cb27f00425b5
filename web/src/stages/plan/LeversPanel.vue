<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import type { Lever } from '@/api/types'
import { shortDate, toDay } from '@/ui/dates'
import { count, days, percent } from '@/ui/format'
import { useLevers } from './levers'
import { usePlan } from './plan'
import { useProgram } from '@/line/program'
import { useScenarios } from '@/line/scenarios'

const store = useProgram()
const scenarios = useScenarios()
const plan = usePlan()
const levers = useLevers()

const now = computed(() => levers.found?.now)

/** How a lever would have it stand, each figure with what it was. */
function effects({ then, others }: Lever): string[] {
  const was = now.value
  if (!was) return []
  const list: string[] = []
  if (then.lands) {
    const moved = was.lands ? toDay(then.lands) - toDay(was.lands) : 0
    list.push(`50% likely by ${shortDate(then.lands, store.todayDay)}${moved ? ` (${days(moved)})` : ''}`)
  }
  const differ = (a: number, b: number) => a.toFixed(1) !== b.toFixed(1)
  if (differ(was.expectedLateDays, then.expectedLateDays))
    list.push(`late days overall ${was.expectedLateDays.toFixed(1)} → ${then.expectedLateDays.toFixed(1)}`)
  if (was.over !== then.over) list.push(`over capacity ${was.over} → ${then.over}`)
  if (was.broken !== then.broken) list.push(`broken dependencies ${was.broken} → ${then.broken}`)
  if (was.missed !== then.missed) list.push(`agreed days missed ${was.missed} → ${then.missed}`)
  for (const o of others ?? []) list.push(`${o.name} ${percent(o.was)} → ${percent(o.chance)}`)
  return list
}

const chance = (lever: Lever) =>
  now.value?.chance !== undefined && lever.then.chance !== undefined
    ? `${percent(now.value.chance)} → ${percent(lever.then.chance)}`
    : ''

function show(lever: Lever): void {
  levers.toggle(lever)
  const key = levers.tried ? (lever.item ?? lever.moves?.[0]?.item) : undefined
  if (key) {
    plan.select(key)
    plan.reveal(key)
  }
}
</script>

<template>
  <section
    class="levers"
    data-region
    :aria-label="`Recovery options: ${levers.found?.name ?? ''}`"
    @keydown.esc.stop="levers.close()"
  >
    <div class="side">
      <div class="head">
        <h2>Recovery options: {{ levers.found?.name }}</h2>
        <Button
          size="small"
          text
          icon="pi pi-times"
          aria-label="Close"
          title="Close (Esc)"
          @click="levers.close()"
        />
      </div>
      <p v-if="now" class="stand">
        <template v-if="now.chance !== undefined && levers.found?.due">
          <b class="chance">{{ percent(now.chance) }}</b>
          <span class="quiet"> chance of finishing by {{ shortDate(levers.found.due, store.todayDay) }}</span>
        </template>
      </p>
      <p v-if="now?.lands" class="quiet small">50% likely by {{ shortDate(now.lands, store.todayDay) }}</p>
      <p v-if="now?.sampled" class="quiet small">
        {{ count(now.sampled, 'item') }} without an estimate: the simulations draw past sizes.
      </p>
      <p class="quiet small">
        Each option was simulated on a copy of the plan. Nothing changes until you apply one.
      </p>
      <span class="gap" />
      <p v-if="levers.found && levers.asking && !levers.failure" class="small" role="status">
        Looking for more: {{ levers.found.tried }} of {{ levers.found.of }} changes tried…
      </p>
    </div>
    <div class="list">
      <p v-if="levers.failure" role="alert" class="failure">{{ levers.failure }}</p>
      <p v-else-if="!levers.found" role="status">Looking for changes that help…</p>
      <p v-else-if="!levers.found.levers.length && !levers.asking" role="status">
        {{
          levers.found.of
            ? `None of the ${levers.found.tried} changes tried would help.`
            : 'No work is left to change.'
        }}
      </p>
      <ul v-else :aria-busy="levers.asking" aria-label="Options, best first">
        <li v-for="l in levers.found.levers" :key="l.text" :class="{ tried: levers.tried === l.text }">
          <span class="what" :title="l.text"
            ><span class="text">{{ l.text }}</span>
            <span v-if="l.item" class="quiet small">{{ store.items.get(l.item)?.title }}</span></span
          >
          <b class="chance">{{ chance(l) }}</b>
          <span class="quiet small effect" :title="effects(l).join(' · ')">{{ effects(l).join(' · ') }}</span>
          <span class="do">
            <Button
              size="small"
              text
              :label="levers.tried === l.text ? 'Shown' : 'Show'"
              :aria-pressed="levers.tried === l.text"
              :aria-label="`Show on the plan: ${l.text}`"
              @click="show(l)"
            />
            <Button
              size="small"
              text
              label="Try it"
              :aria-label="`Try it in a scenario: ${l.text}`"
              title="A new scenario that begins with it"
              :disabled="!scenarios.mayMake"
              @click="
                scenarios.asked = { begin: { do: 'make', label: l.label, changes: l.changes }, name: l.text }
              "
            />
            <Button
              size="small"
              outlined
              label="Apply"
              :aria-label="`Apply: ${l.text}`"
              :disabled="levers.found.revision !== store.revision || !store.connected || !levers.may(l)"
              @click="levers.apply(l)"
            />
          </span>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.levers {
  display: flex;
  flex: 1;
  min-width: 0;
  box-shadow: inset 0 3px 0 var(--needs);
}

.side {
  display: flex;
  flex: none;
  flex-direction: column;
  gap: 4px;
  width: 250px;
  padding: 8px 14px;
  overflow-y: auto;
  border-right: 1px solid var(--rule);
}

.side p {
  margin: 0;
}

.side .chance {
  font-size: 20px;
}

.head {
  display: flex;
  gap: 6px;
  align-items: flex-start;
  justify-content: space-between;
}

.gap {
  flex: 1;
}

.do {
  display: flex;
}

.list {
  flex: 1;
  min-width: 0;
  padding: 8px 14px;
  overflow-y: auto;
}

ul {
  margin: 0;
  padding: 0;
  list-style: none;
}

li {
  display: grid;
  grid-template-columns: minmax(0, 1.3fr) 104px minmax(0, 1fr) auto;
  gap: 10px;
  align-items: center;
  padding: 2px 0;
  border-bottom: 1px solid var(--rule);
}

.tried {
  background: var(--basin);
}

.what .small {
  margin-left: 8px;
}

.what {
  line-height: 1.25;
  overflow-wrap: anywhere;
}

.effect {
  line-height: 1.25;
}

.failure {
  color: var(--over);
}

h2 {
  font-size: 15px;
}
</style>
