<script setup lang="ts">
import { computed } from 'vue'
import type { IterationFacts } from '@/api/types'
import { amount, count, sized } from '@/ui/format'
import { usePlan } from './plan'
import { useProgram } from '@/line/program'
import BlockButton from './BlockButton.vue'
import DropHint from './DropHint.vue'
import LaneHead from './LaneHead.vue'
import type { Lane } from './layout'
import { useBasins } from './useBasins'

const props = defineProps<{ lane: Lane }>()
const store = useProgram()
const plan = usePlan()
const basins = useBasins(() => props.lane)

/** The one block of the lane that Tab stops at; arrows go on from there. */
const tabStop = computed(() => {
  const keys = basins.value.flatMap((entry) => entry.blocks.map((b) => b.item.key))
  return keys.includes(plan.cursor) ? plan.cursor : keys[0]
})

type Entry = (typeof basins.value)[number]
const topOf = (entry: Entry) => Math.min(...entry.blocks.map((b) => b.top))
const unseenWords = (x: Entry['unseen']) =>
  `${count(x.items, 'item')} not in this view, ${sized(x.size, props.lane.team)}`

function away(facts: IterationFacts | undefined): string {
  const lost = (facts?.full ?? 0) - (facts?.capacity ?? 0)
  if (!facts?.away?.length || lost < 0.05) return ''
  return `−${sized(lost, props.lane.team)} away`
}

function whoIsAway(facts: IterationFacts | undefined): string {
  return (facts?.away ?? []).map((a) => `${a.who}: ${count(Math.round(a.days * 10) / 10, 'day')}`).join('\n')
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
        :aria-label="entry.summary"
        :data-team="lane.team.key"
        :data-drop="entry.facts?.usable ? entry.iteration.key : undefined"
        :style="{ left: entry.basin.left + 'px', width: entry.basin.width + 'px' }"
      >
        <div class="label" aria-hidden="true">
          <b>{{ entry.name }}</b>
          <span :class="{ bad: entry.facts?.over }">
            <i v-if="entry.facts?.over" class="pi pi-exclamation-triangle" />
            {{ amount(entry.carried) }}/{{ amount(entry.facts?.capacity ?? 0) }}
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
        <div
          v-if="entry.unseen.items"
          class="unseen small"
          :style="{
            bottom: entry.blocks.length ? entry.basin.floor - topOf(entry) + 5 + 'px' : '5px',
            height: entry.unseen.height + 'px',
          }"
          :title="unseenWords(entry.unseen)"
        >
          <span v-if="entry.unseen.height >= 12">{{ entry.unseen.items }} not shown</span>
        </div>
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
        <div
          v-for="(g, i) in entry.incoming"
          :key="g.item"
          class="ghost"
          :style="{ top: 24 + i * 15 + 'px' }"
        >
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

/* Above the lines of today, due dates and milestones, which would run through the words. */
.label {
  position: relative;
  z-index: 3;
}

.label b,
.label span {
  padding-inline: 2px;
  background: var(--panel);
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

.unseen {
  position: absolute;
  left: 2px;
  right: 2px;
  overflow: hidden;
  padding: 0 4px;
  border: 1.5px dotted var(--quiet);
  border-radius: 3px;
  color: var(--quiet);
  white-space: nowrap;
  text-overflow: ellipsis;
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
