<script setup lang="ts">
import { marks, textColours } from './paints'

/** The patterns of the marks, once a page, for whatever is filled with them. */
</script>

<template>
  <svg class="defs" aria-hidden="true">
    <defs>
      <template v-for="({ path }, mark) in marks" :key="mark">
        <pattern
          v-for="(colour, text) in textColours"
          :id="`mark-${mark}-${text}`"
          :key="text"
          width="8"
          height="8"
          patternUnits="userSpaceOnUse"
        >
          <path :d="path" :fill="colour" fill-opacity="0.75" />
        </pattern>
      </template>
    </defs>
  </svg>
</template>

<style scoped>
.defs {
  position: absolute;
  width: 0;
  height: 0;
}
</style>
