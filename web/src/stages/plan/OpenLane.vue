<script setup lang="ts">
import { computed } from 'vue'
import { amount, count, sized } from '@/shared/format'
import { useDraft } from '@/stores/draft'
import { usePlan } from '@/stores/plan'
import { useProgram } from '@/stores/program'
import BlockButton from './BlockButton.vue'
import DropHint from './DropHint.vue'
import LaneHead from './LaneHead.vue'
import { iterationsIn, type Lane } from './layout'
import { usePlanLayout } from './usePlanLayout'

const props = defineProps<{ lane: Lane }>()
const store = useProgram()
const plan = usePlan()
const draft = useDraft()
const layout = usePlanLayout()

const basins = computed(() =>
  iterationsIn(props.lane.team, plan.from, plan.to).map((iteration) => {
    const basin = layout.basin({ ...props.lane, top: 0 }, iteration)
    const facts = store.iterationFacts.get(`${props.lane.team.key} ${iteration.key}`)
    const blocks = layout.blocks(props.lane, basin, iteration.key)
    const past = iteration.state === 'closed' ? (iteration.completed ?? 0) * basin.scale : 0
    return { iteration, basin, facts, blocks, past, ghosts: ghosts(iteration.key) }
  }),
)

/** The one block of the lane that Tab stops at; arrows go on from there. */
const tabStop = computed(() => {
  const keys = basins.value.flatMap((entry) => entry.blocks.map((b) => b.item.key))
  return keys.includes(plan.cursor) ? plan.cursor : keys[0]
})

/** What a draft would put here. */
const ghosts = (iteration: string) =>
  draft.proposals.filter(
    (p) => p.team === props.lane.team.key && p.to === iteration && draft.accepted.has(p.item),
  )

function away(facts: (typeof basins.value)[number]['facts']): string {
  const lost = (facts?.full ?? 0) - (facts?.capacity ?? 0)
  if (!facts?.away?.length || lost < 0.05) return ''
  return `−${sized(lost, props.lane.team)} away`
}

function whoIsAway(facts: (typeof basins.value)[number]['facts']): string {
  return (facts?.away ?? []).map((a) => `${a.who}: ${count(Math.round(a.days * 10) / 10, 'day')}`).join('\n')
}

/** What a closed iteration completed, or what another one carries. */
const carried = ({ iteration, facts }: (typeof basins.value)[number]): number =>
  iteration.state === 'closed' ? (iteration.completed ?? facts?.load ?? 0) : (facts?.load ?? 0)

function summary(entry: (typeof basins.value)[number]): string {
  const { iteration, facts } = entry
  const state = facts?.over ? ', over capacity' : ''
  return `${iteration.name ?? iteration.key}: ${amount(carried(entry))} of ${sized(facts?.capacity ?? 0, props.lane.team)}${state}`
}
</script>

<template>
  <section
    class="lane"
    :style="{ top: lane.top + 'px', height: lane.height + 'px' }"
    :aria-label="lane.team.name"
  >
    <LaneHead :team="lane.team" open />
    <div class="time">
      <div
        v-for="entry in basins"
        :key="entry.iteration.key"
        class="slot"
        role="group"
        :aria-label="summary(entry)"
        :data-team="lane.team.key"
        :data-drop="entry.facts?.usable ? entry.iteration.key : undefined"
        :style="{ left: entry.basin.left + 'px', width: entry.basin.width + 'px' }"
      >
        <div class="label" aria-hidden="true">
          <b>{{ entry.iteration.name ?? entry.iteration.key }}</b>
          <span :class="{ bad: entry.facts?.over }">
            <i v-if="entry.facts?.over" class="pi pi-exclamation-triangle" />
            {{ amount(carried(entry)) }}/{{ amount(entry.facts?.capacity ?? 0) }}
          </span>
        </div>
        <div
          v-if="entry.basin.full > entry.basin.line"
          class="full"
          :style="{ height: entry.basin.full + 'px' }"
          :title="whoIsAway(entry.facts)"
        />
        <div
          :class="['water', { closed: entry.iteration.state === 'closed' }]"
          :style="{ height: entry.basin.line + 'px' }"
        />
        <div
          v-if="entry.past"
          class="past"
          :style="{ height: entry.past + 'px' }"
          :title="`Completed: ${sized(entry.iteration.completed, lane.team)}`"
        />
        <BlockButton
          v-for="block in entry.blocks"
          :key="block.item.key"
          :block="block"
          :offset="entry.basin.left"
          :team="lane.team"
          :tabbable="block.item.key === tabStop"
        />
        <div
          v-if="away(entry.facts)"
          class="away small"
          :style="{ bottom: entry.basin.full + 6 + 'px' }"
          :title="whoIsAway(entry.facts)"
        >
          {{ away(entry.facts) }}
        </div>
        <div v-for="(g, i) in entry.ghosts" :key="g.item" class="ghost" :style="{ top: 24 + i * 15 + 'px' }">
          {{ store.items.get(g.item)?.title }}
        </div>
        <DropHint :team="lane.team" :iteration="entry.iteration.key" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.lane {
  position: absolute;
  left: 0;
  right: 0;
  background: var(--panel);
  border-bottom: 2px solid var(--rule);
}

.time {
  position: absolute;
  inset: 0 0 0 158px;
  overflow: hidden;
}

.slot {
  position: absolute;
  top: 0;
  bottom: 0;
}

.label {
  display: flex;
  justify-content: space-between;
  gap: 4px;
  height: 20px;
  padding: 2px 3px 0;
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
}

.label span {
  color: var(--quiet);
}

.label .bad {
  color: var(--over);
  font-weight: 700;
}

.label .pi {
  font-size: 10px;
}

.full,
.water,
.past {
  position: absolute;
  left: 0;
  right: 0;
  bottom: 5px;
}

.full {
  border-top: 1.5px dashed var(--water);
}

.water {
  background: var(--basin);
  border-top: 2px solid var(--water);
}

.water.closed {
  opacity: 0.55;
}

.past {
  left: 2px;
  right: 2px;
  background: var(--done);
  opacity: 0.55;
  border-radius: 3px;
}

.away {
  position: absolute;
  left: 2px;
  right: 2px;
  color: var(--caution);
  font-weight: 600;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  pointer-events: none;
}

.ghost {
  position: absolute;
  left: 3px;
  right: 3px;
  height: 14px;
  padding: 0 4px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  border: 1.5px dashed var(--focus);
  border-radius: 3px;
  background: var(--panel);
  font-size: 10px;
  line-height: 11px;
  z-index: 4;
}
</style>
