<script setup lang="ts">
import Swatch from './Swatch.vue'
import type { Painted } from './usePaint'

/** What the colours of one's own rules stand for, and how many items have each. */
defineProps<{ painted: Painted }>()
</script>

<template>
  <ul v-if="painted.rules.length" aria-label="Legend">
    <li v-for="(r, i) in painted.rules" :key="i" :title="r.label">
      <Swatch :colour="r.colour" :mark="r.mark" /> {{ r.label }}
      <span class="quiet">{{ r.items ?? '' }}</span>
    </li>
  </ul>
</template>

<style scoped>
ul {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  gap: 0 14px;
  margin: 0;
  padding: 0 16px 4px;
  font-size: 11px;
  list-style: none;
}

li {
  display: flex;
  gap: 4px;
  align-items: center;
}
</style>
