<script setup lang="ts">
import type { Colour, Mark } from './paints'
import { markOf, paints } from './paints'

/** A colour with its mark, as small as in a legend. */
defineProps<{ colour: Colour; mark?: Mark }>()
</script>

<template>
  <svg class="swatch" aria-hidden="true">
    <rect width="100%" height="100%" :fill="paints[colour].fill" />
    <rect width="100%" height="100%" :fill="markOf({ colour, mark })" />
  </svg>
</template>

<style scoped>
.swatch {
  flex: none;
  width: 16px;
  height: 12px;
  border-radius: 2px;
}
</style>
