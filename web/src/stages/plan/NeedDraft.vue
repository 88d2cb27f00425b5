<script setup lang="ts">
import { useNeedDragState } from './useNeedDrag'

/** The need that is being drawn, from the block that is needed to the pointer. */
const drag = useNeedDragState()
</script>

<template>
  <div v-if="drag.from" class="draft" aria-hidden="true">
    <svg width="100%" height="100%">
      <line :x1="drag.start.x" :y1="drag.start.y" :x2="drag.at.x" :y2="drag.at.y" />
    </svg>
    <span
      :class="['words', { to: drag.to }]"
      :style="{ left: drag.at.x + 12 + 'px', top: drag.at.y + 10 + 'px' }"
    >
      {{ drag.to ? `${drag.to} needs ${drag.from}` : `What needs ${drag.from}?` }}
    </span>
  </div>
</template>

<style scoped>
.draft {
  position: fixed;
  inset: 0;
  z-index: 60;
  pointer-events: none;
}

line {
  stroke: var(--needs);
  stroke-width: 2.5;
}

.words {
  position: absolute;
  padding: 3px 9px;
  border-radius: 5px;
  background: var(--panel);
  border: 1px solid var(--needs);
  font-weight: 600;
}

.words.to {
  background: var(--needs);
  color: var(--panel);
}
</style>
