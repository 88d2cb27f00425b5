<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { titleOf } from '@/line/course'
import { count } from '@/ui/format'
import StackCard from './StackCard.vue'
import { stepAt, useTrack, type Row } from './track'

/** Items stacked by step, the most important on top; where rows are put together, each has its stacks. */
defineProps<{ held: string }>()
const emit = defineEmits<{ key: [row: Row, event: KeyboardEvent] }>()
const track = useTrack()

const bands = computed(() =>
  track.groups.map((g) => ({ ...g, stacks: track.course.map((_, at) => g.rows.filter((r) => r.at === at)) })),
)
/** The stack that a card would be put on. */
const over = ref<number>()
const board = useTemplateRef<HTMLElement>('board')
const heads = computed(() =>
  track.course.map((step, at) => ({
    title: titleOf(step),
    most: step.most,
    passed: track.passed[at].join(', '),
    items: bands.value.reduce((n, b) => n + b.stacks[at].length, 0),
  })),
)
</script>

<template>
  <div
    ref="board"
    class="board"
    :style="{ '--steps': track.course.length, minWidth: `${track.course.length * 150}px` }"
  >
    <div class="heads">
      <h2 v-for="(h, i) in heads" :key="i">
        {{ h.title }} <span class="quiet small">{{ count(h.items, 'item') }}</span>
        <span v-if="h.most" class="small most" :class="{ passed: h.passed }">{{
          h.passed || `${h.most} a team at most`
        }}</span>
      </h2>
    </div>
    <section v-for="b in bands" :key="b.key" :aria-label="b.title || 'All items'">
      <h3 v-if="b.title">
        {{ b.title }} <span class="quiet small">{{ count(b.rows.length, 'item') }}</span>
      </h3>
      <div class="stacks">
        <div v-for="(rows, i) in b.stacks" :key="i" class="stack" :class="{ over: over === i }">
          <ul v-if="rows.length" :aria-label="`Items ${heads[i].title}`">
            <StackCard
              v-for="row in rows"
              :key="row.item.key"
              :row="row"
              :held="row.item.key === held"
              :step-at="(x) => stepAt(board!, x, track.course.length)"
              @key="emit('key', row, $event)"
              @over="over = $event"
            />
          </ul>
          <p v-else-if="!b.title" class="quiet small">None.</p>
        </div>
      </div>
    </section>
  </div>
</template>

<style scoped>
.heads,
.stacks {
  display: grid;
  grid-template-columns: repeat(var(--steps), minmax(0, 1fr));
}

.board {
  display: flex;
  flex-direction: column;
  min-height: 100%;
}

section:last-child,
section:last-child .stacks {
  flex: 1;
}

.heads {
  position: sticky;
  z-index: 2;
  top: 0;
  background: var(--paper);
}

.stack {
  min-height: 20px;
  padding: 0 10px 12px;
  border-left: 1px solid var(--rule);
}

.stack.over {
  background: var(--basin);
}

h2 {
  margin: 0;
  padding: 6px 10px;
  border-left: 1px solid var(--rule);
  font-size: 15px;
}

.most {
  display: block;
  font-weight: 400;
}

.passed {
  color: var(--over);
}

h3 {
  margin: 0 0 8px;
  padding: 5px 10px;
  background: var(--tint);
  font-size: 14px;
}

ul {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
