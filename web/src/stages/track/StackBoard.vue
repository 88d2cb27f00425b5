<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import { count } from '@/ui/format'
import StackCard from './StackCard.vue'
import { stepAt, steps, useTrack, type Row } from './track'

/** The items of all teams in view, stacked by step, the most important on top. */
defineProps<{ held: string }>()
const emit = defineEmits<{ key: [row: Row, event: KeyboardEvent] }>()
const track = useTrack()

const stacks = computed(() =>
  steps.map((step, at) => ({ ...step, rows: track.ordered.filter((r) => r.at === at) })),
)
/** The stack that a card would be put on. */
const over = ref<number>()
const board = useTemplateRef<HTMLElement>('board')
</script>

<template>
  <div ref="board" class="board">
    <section
      v-for="(s, i) in stacks"
      :key="s.state"
      class="stack"
      :class="{ over: over === i }"
      :aria-label="s.title"
    >
      <h2>
        {{ s.title }} <span class="quiet small">{{ count(s.rows.length, 'item') }}</span>
      </h2>
      <ul v-if="s.rows.length" :aria-label="`Items ${s.title}`">
        <StackCard
          v-for="row in s.rows"
          :key="row.item.key"
          :row="row"
          :held="row.item.key === held"
          :step-at="(x) => stepAt(board!, x)"
          @key="emit('key', row, $event)"
          @over="over = $event"
        />
      </ul>
      <p v-else class="quiet small">None.</p>
    </section>
  </div>
</template>

<style scoped>
.board {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  min-height: 100%;
}

.stack {
  padding: 8px 10px 16px;
  border-left: 1px solid var(--rule);
}

.stack.over {
  background: var(--basin);
}

h2 {
  margin: 0 0 8px;
  font-size: 15px;
}

ul {
  display: grid;
  gap: 8px;
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
