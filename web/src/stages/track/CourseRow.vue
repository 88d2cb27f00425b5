<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { usePointerDrag } from '@/ui/usePointerDrag'
import { useProgram } from '@/line/program'
import TaskList from '@/line/TaskList.vue'
import Swatch from '@/views/Swatch.vue'
import AskLine from './AskLine.vue'
import { titleOf } from '@/line/course'
import { stepAt, useTrack, type Row } from './track'
import { useCourse } from './useCourse'

/** An item on its course through the steps: taken along it by drag or by the arrow keys. */
const props = defineProps<{ row: Row; held: boolean }>()
const emit = defineEmits<{ key: [event: KeyboardEvent] }>()
const store = useProgram()
const track = useTrack()

const lane = useTemplateRef<HTMLElement>('lane')
const { item, size, may, who, blocked, notes, says, label, asked } = useCourse(() => props.row)

const rule = computed(() => track.painted.rule(item.value.key))

/** Where it would go while it is dragged. */
const over = ref<number>()
const at = computed(() => over.value ?? props.row.at)
const under = (event: PointerEvent) => stepAt(lane.value!, event.clientX, track.course.length)
/** How wide a step is, in percent. */
const wide = computed(() => 100 / track.course.length)
const { press } = usePointerDrag<true>({
  begin: () => may.value,
  move: (_, event) => (over.value = under(event)),
  drop: (_, event) => void track.move(props.row, under(event)),
  end: () => (over.value = undefined),
})
</script>

<template>
  <li
    class="row"
    :style="{ '--edge-colour': track.painted.colour(item) }"
    :data-item="item.key"
    :tabindex="held ? 0 : -1"
    :aria-label="label"
    @keydown="emit('key', $event)"
    @focus="track.cursor = item.key"
  >
    <span class="what" :title="item.title">
      <RouterLink
        class="key"
        tabindex="-1"
        :to="{ name: 'backlog', params: { id: store.id }, query: { item: item.key } }"
        >{{ item.key }}</RouterLink
      >
      <span class="title">{{ item.title }}</span>
      <span class="quiet small">{{ size }}</span>
      <Swatch v-if="rule?.mark" :colour="rule.colour" :mark="rule.mark" />
    </span>
    <span ref="lane" class="lane" aria-hidden="true">
      <span v-for="(_, i) in track.course" :key="i" class="step" :style="{ left: `${i * wide}%` }" />
      <span class="wake" :class="{ blocked }" :style="{ width: `calc(${at * wide}% + 6px)` }" />
      <span
        class="pebble"
        :class="[
          track.course[at].state,
          { may, moving: over !== undefined, blocked: blocked && over === undefined },
        ]"
        :style="{ left: `calc(${at * wide}% + 8px)`, maxWidth: `calc(${100 - at * wide}% - 12px)` }"
        @pointerdown="press(true, $event)"
        >{{ over === undefined ? says : titleOf(track.course[over]) }}</span
      >
    </span>
    <TaskList
      v-if="track.isUnfolded(item.key)"
      class="tasks"
      :item="item.key"
      :tasks="item.tasks ?? []"
      :owner="(t) => track.names.get(t.owner ?? '') ?? ''"
      :may="(t) => track.mayWork(item, t)"
      @work="(n, how) => track.work(row, n, how)"
    />
    <AskLine v-if="asked" class="ask" :asked="asked" />
    <span v-else class="who small" :title="notes.join(' · ')"
      ><b>{{ who }}</b> <span class="quiet">{{ notes.join(' · ') }}</span></span
    >
    <button
      v-if="!asked && item.state !== 'done' && track.mayBlock(item)"
      class="block small"
      tabindex="-1"
      :aria-label="blocked ? `What blocks ${item.key}` : `${item.key} is blocked…`"
      @click="track.askBlocked(row)"
    >
      {{ blocked ? 'Blocked by…' : 'Blocked…' }}
    </button>
  </li>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: var(--courses);
  grid-template-rows: 33px auto;
  gap: 0 20px;
  align-items: center;
  padding: 0 16px;
  border-bottom: 1px solid var(--rule);
  background: var(--panel);
  box-shadow: inset 6px 0 var(--edge-colour);
}

.row:focus-visible {
  outline: 2px solid var(--focus);
  outline-offset: -2px;
}

.row > * {
  grid-row: 1;
}

.lane {
  grid-column: 2;
}

.row > .tasks {
  grid-row: 2;
  grid-column: 1 / 3;
  padding: 0 0 6px 60px;
}

.who,
.block {
  grid-column: 3;
}

.block {
  justify-self: end;
  height: 26px;
  padding: 0 10px;
  border: 1px solid var(--edge);
  border-radius: 6px;
  background: var(--panel);
  color: var(--ink);
  font: inherit;
  font-size: 12px;
  opacity: 0;
  cursor: pointer;
}

.row:hover .block,
.block:focus-visible {
  opacity: 1;
}

.what {
  display: flex;
  gap: 8px;
  align-items: baseline;
  min-width: 0;
}

.key {
  flex: none;
  min-width: 52px;
  color: inherit;
  font-weight: 600;
  text-decoration: none;
}

.key:hover {
  text-decoration: underline;
}

.title,
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.lane {
  position: relative;
  align-self: stretch;
}

.step {
  position: absolute;
  top: 0;
  bottom: 0;
  border-left: 1px solid var(--rule);
}

.wake {
  position: absolute;
  top: 14px;
  left: 6px;
  height: 6px;
  border-radius: 3px;
  background: var(--water);
  opacity: 0.35;
}

.pebble {
  position: absolute;
  top: 5px;
  padding: 2px 12px 2px 10px;
  border-radius: 12px 4px 4px 12px;
  background: var(--c0);
  color: var(--on-block);
  font-size: 12px;
  line-height: 20px;
  white-space: nowrap;
  user-select: none;
  touch-action: none;
}

.pebble.may {
  cursor: grab;
}

.pebble.todo {
  background: var(--c5);
}

.pebble.review {
  background: var(--c1);
}

.pebble.done {
  border: 1px solid var(--edge);
  background: var(--tint);
  color: var(--ink);
  line-height: 18px;
}

.wake.blocked {
  background: repeating-linear-gradient(-45deg, var(--focus) 0 6px, transparent 6px 10px);
  opacity: 1;
}

.pebble.blocked {
  border: 1px dashed var(--over);
  background: var(--panel);
  color: var(--over);
  line-height: 18px;
  overflow: hidden;
  text-overflow: ellipsis;
}

.ask {
  grid-column: 2 / -1;
}

.pebble.moving {
  outline: 2px solid var(--focus);
  cursor: grabbing;
}
</style>
