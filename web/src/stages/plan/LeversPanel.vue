<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import type { Lever } from '@/api/types'
import { shortDate, toDay } from '@/ui/dates'
import { days, percent } from '@/ui/format'
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
function effects({ then }: Lever): string[] {
  const was = now.value
  if (!was) return []
  const list: string[] = []
  if (then.lands) {
    const moved = was.lands ? toDay(then.lands) - toDay(was.lands) : 0
    list.push(`even odds by ${shortDate(then.lands, store.todayDay)}${moved ? ` (${days(moved)})` : ''}`)
  }
  const differ = (a: number, b: number) => a.toFixed(1) !== b.toFixed(1)
  if (differ(was.expectedLateDays, then.expectedLateDays))
    list.push(`late days in all ${was.expectedLateDays.toFixed(1)} → ${then.expectedLateDays.toFixed(1)}`)
  if (was.over !== then.over) list.push(`over capacity ${was.over} → ${then.over}`)
  if (was.broken !== then.broken) list.push(`broken needs ${was.broken} → ${then.broken}`)
  if (was.missed !== then.missed) list.push(`agreed days missed ${was.missed} → ${then.missed}`)
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
    :aria-label="`Levers: what would mend ${levers.found?.name ?? 'it'}`"
    @keydown.esc.stop="levers.close()"
  >
    <div class="side">
      <h2>Mend {{ levers.found?.name }}</h2>
      <p v-if="now" class="stand">
        <template v-if="now.chance !== undefined">
          <b class="chance">{{ percent(now.chance) }}</b>
          <span class="quiet">
            on time{{ levers.found?.due ? `, by ${shortDate(levers.found.due, store.todayDay)}` : '' }}</span
          >
        </template>
      </p>
      <p v-if="now?.lands" class="quiet small">Even odds by {{ shortDate(now.lands, store.todayDay) }}</p>
      <p class="quiet small">
        Each is a small change, tried on the plan and played. Nothing changes before you apply one.
      </p>
      <span class="gap" />
      <template v-if="levers.found && !levers.failure">
        <p v-if="levers.asking" class="small" role="status">Trying what else would mend it…</p>
        <p v-else-if="levers.found.ended" class="small">The time for trying was up: there may be others.</p>
      </template>
      <div><Button size="small" outlined label="Close" title="Esc" @click="levers.close()" /></div>
    </div>
    <div class="list">
      <p v-if="levers.failure" role="alert" class="failure">{{ levers.failure }}</p>
      <p v-else-if="!levers.found" role="status">Trying what would mend it…</p>
      <p v-else-if="!levers.found.levers.length && !levers.asking" role="status">
        No small change was found that would mend it further.
      </p>
      <ul v-else :aria-busy="levers.asking" aria-label="Levers, the best first">
        <li v-for="l in levers.found.levers" :key="l.text" :class="{ tried: levers.tried === l.text }">
          <span class="what" :title="l.text"
            ><span class="text">{{ l.text }}</span>
            <span v-if="l.item" class="quiet small">{{ store.items.get(l.item)?.title }}</span></span
          >
          <b class="chance">{{ chance(l) }}</b>
          <span class="quiet small effect" :title="effects(l).join(' · ')">{{ effects(l).join(' · ') }}</span>
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
  border-right: 1px solid var(--rule);
}

.side p {
  margin: 0;
}

.side .chance {
  font-size: 20px;
}

.gap {
  flex: 1;
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
  grid-template-columns: minmax(0, 1.3fr) 104px minmax(0, 1fr) 72px 72px;
  gap: 10px;
  align-items: center;
  min-height: 34px;
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
