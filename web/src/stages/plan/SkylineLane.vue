<script setup lang="ts">
import { computed } from 'vue'
import type { IterationFacts } from '@/api/types'
import { percent } from '@/ui/format'
import { usePlan } from './plan'
import { markOf } from '@/views/paints'
import DropHint from './DropHint.vue'
import LaneHead from './LaneHead.vue'
import type { Lane } from './layout'
import { useBasins } from './useBasins'
import { isRough, ownerOf } from './rough'
import { press, useDragState } from './useDrag'
import { moveCursor } from './moveCursor'
import { usePlanLayout } from './usePlanLayout'

const props = defineProps<{ lane: Lane }>()
const plan = usePlan()
const layout = usePlanLayout()
const drag = useDragState()
const basins = useBasins(() => props.lane)
const summary = computed(() => basins.value.map((entry) => entry.summary).join('; '))

/** How full an overloaded iteration is. */
function share(facts: IterationFacts | undefined): string {
  if (!facts?.over) return ''
  return facts.capacity > 0 ? percent(facts.load / facts.capacity) : 'over'
}

function click(event: MouseEvent): void {
  const key = (event.target as Element).getAttribute('data-key')
  if (key) plan.select(key, event.ctrlKey || event.metaKey || event.shiftKey)
  else plan.toggleLane(props.lane.team.key)
}

function down(event: PointerEvent): void {
  const key = (event.target as Element).getAttribute('data-key')
  if (key) press(key, event)
}
</script>

<template>
  <section
    class="lane"
    :style="{ top: lane.top + 'px', height: lane.height + 'px' }"
    :aria-label="lane.team.name"
  >
    <LaneHead :team="lane.team" :open="false" />
    <div class="time">
      <svg
        class="sky"
        width="100%"
        :height="lane.height"
        role="group"
        :aria-label="summary"
        @click="click"
        @pointerdown="down"
      >
        <g v-for="{ iteration, basin, facts, blocks, past, unseen } in basins" :key="iteration.key">
          <rect
            :x="basin.left"
            :y="basin.floor - basin.line"
            :width="basin.width"
            :height="basin.line"
            class="basin"
          />
          <rect
            v-if="past"
            :x="basin.left + 2"
            :y="basin.floor - past"
            :width="Math.max(1, basin.width - 4)"
            :height="past"
            class="past"
          />
          <rect
            v-if="unseen.height"
            :x="basin.left + 2"
            :y="(blocks.length ? blocks[blocks.length - 1].top : basin.floor) - unseen.height"
            :width="Math.max(1, basin.width - 4)"
            :height="unseen.height"
            class="unseen"
          />
          <rect
            v-for="block in blocks"
            :key="block.item.key"
            :x="block.left"
            :y="block.top"
            :width="block.width"
            :height="block.height"
            :class="[
              'block',
              {
                over: block.over,
                selected: plan.selected.has(block.item.key),
                hushed: layout.hushed(block.item),
                rough: isRough(block.item),
              },
            ]"
            :style="{ fill: block.over ? undefined : layout.colour(block.item) }"
            :data-key="block.item.key"
            :data-block="block.item.key"
            role="button"
            tabindex="-1"
            :aria-pressed="plan.selected.has(block.item.key)"
            @keydown="moveCursor(block.item.key, $event)"
          >
            <title>
              {{ ownerOf(block.item) }} {{ block.item.title }}{{ isRough(block.item) ? ', rough' : '' }}
            </title>
          </rect>
          <template v-for="block in blocks" :key="block.item.key">
            <rect
              v-if="!block.over && layout.rule(block.item)?.mark"
              :x="block.left"
              :y="block.top"
              :width="block.width"
              :height="block.height"
              class="mark"
              :style="{ fill: markOf(layout.rule(block.item)) }"
            />
          </template>
          <line
            v-if="basin.full > basin.line"
            :x1="basin.left"
            :x2="basin.left + basin.width"
            :y1="basin.floor - basin.full"
            :y2="basin.floor - basin.full"
            class="full"
          />
          <line
            :x1="basin.left"
            :x2="basin.left + basin.width"
            :y1="basin.floor - basin.line"
            :y2="basin.floor - basin.line"
            :class="['line', { over: facts?.over }]"
          />
        </g>
      </svg>
      <div
        v-for="{ iteration, basin, facts, incoming } in basins"
        :key="iteration.key"
        :class="['slot', { droppable: drag.keys.length }]"
        :data-team="lane.team.key"
        :data-drop="facts?.usable ? iteration.key : undefined"
        :style="{ left: basin.left + 'px', width: basin.width + 'px' }"
      >
        <b v-if="facts?.over" class="share">{{ share(facts) }}</b>
        <span v-if="incoming.length" class="incoming">+{{ incoming.length }}</span>
        <DropHint :team="lane.team" :iteration="iteration.key" tight />
      </div>
    </div>
  </section>
</template>

<style scoped>
.lane {
  position: absolute;
  left: 0;
  right: 0;
  border-bottom: 1px solid var(--rule);
}

.time {
  position: absolute;
  inset: 0 0 0 158px;
  overflow: hidden;
}

.sky {
  display: block;
  cursor: pointer;
  touch-action: none;
}

.basin {
  fill: var(--basin);
}

.past {
  fill: var(--done);
  opacity: 0.55;
}

.unseen {
  fill: none;
  stroke: var(--quiet);
  stroke-dasharray: 2 2;
}

.mark {
  pointer-events: none;
}

.line {
  stroke: var(--water);
  stroke-width: 1.5;
}

.line.over {
  stroke: var(--over);
  stroke-width: 2.5;
}

.full {
  stroke: var(--water);
  stroke-dasharray: 4 3;
}

.block.hushed {
  opacity: 0.18;
}

.block.over {
  fill: var(--over);
}

.block.rough {
  fill-opacity: 0.35;
  stroke: var(--quiet);
  stroke-dasharray: 3 2;
}

.block:focus-visible {
  outline: 3px solid var(--ink);
}

.block.selected {
  stroke: var(--focus);
  stroke-width: 2.5;
}

.slot {
  position: absolute;
  top: 0;
  bottom: 0;
  pointer-events: none;
}

.slot.droppable {
  pointer-events: auto;
}

.share {
  position: absolute;
  top: 0;
  right: 2px;
  padding: 0 3px;
  background: var(--paper);
  color: var(--over);
  font-size: 11px;
  line-height: 13px;
}

.incoming {
  position: absolute;
  top: 0;
  left: 2px;
  padding: 0 4px;
  border: 1px dashed var(--focus);
  border-radius: 3px;
  background: var(--panel);
  font-size: 10px;
  line-height: 12px;
}
</style>
