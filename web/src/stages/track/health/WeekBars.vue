<script setup lang="ts">
import { computed } from 'vue'

/** What was finished in each of the last weeks, as small bars, the latest last; less than nothing hangs below. */
const props = defineProps<{ weeks: number[]; words: (n: number) => string }>()
const WIDTH = 12
const HEIGHT = 26
const most = computed(() => Math.max(1, ...props.weeks.map(Math.abs)))
const floor = computed(() => (props.weeks.some((n) => n < 0) ? HEIGHT / 2 : HEIGHT))
const bars = computed(() =>
  props.weeks.map((n, i) => {
    const height = (Math.abs(n) / most.value) * floor.value
    return { x: i * WIDTH, y: n < 0 ? floor.value : floor.value - height, height, below: n < 0 }
  }),
)
const says = computed(() =>
  props.weeks.length
    ? `Finished in the last ${props.weeks.length} weeks, the latest last: ${props.weeks.map(props.words).join(', ')}`
    : 'No whole week is told yet',
)
</script>

<template>
  <svg v-if="weeks.length" role="img" :aria-label="says" :width="weeks.length * WIDTH" :height="HEIGHT + 1">
    <title>{{ says }}</title>
    <rect
      v-for="(b, i) in bars"
      :key="i"
      :class="{ below: b.below }"
      :x="b.x"
      :y="b.y"
      :width="WIDTH - 3"
      :height="b.height"
    />
    <line x1="0" :x2="weeks.length * WIDTH - 3" :y1="floor + 0.5" :y2="floor + 0.5" />
  </svg>
  <span v-else class="quiet small" :title="says">not yet</span>
</template>

<style scoped>
svg {
  display: block;
}

rect {
  fill: var(--water);
}

.below {
  fill: var(--over);
}

line {
  stroke: var(--edge);
}
</style>
