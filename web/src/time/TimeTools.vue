<script setup lang="ts">
import { computed } from 'vue'
import { useAxis } from './axis'
import { shortDay } from '@/ui/dates'

/** Buttons that move through time and zoom. */
defineEmits<{ today: [] }>()
const axis = useAxis()
const weeks = computed(() => Math.round((axis.to - axis.from) / 7))
const range = computed(
  () => `${shortDay(Math.ceil(axis.from))} – ${shortDay(Math.floor(axis.to), Math.ceil(axis.from))}`,
)
</script>

<template>
  <button class="round" aria-label="Earlier" title="Earlier (Shift+←)" @click="axis.scrollDays(-14)">
    <i class="pi pi-chevron-left" aria-hidden="true" />
  </button>
  <button class="chip" title="Go to today (T)" @click="$emit('today')">Today</button>
  <button class="round" aria-label="Later" title="Later (Shift+→)" @click="axis.scrollDays(14)">
    <i class="pi pi-chevron-right" aria-hidden="true" />
  </button>
  <span class="range quiet">{{ range }}</span>
  <button class="round" aria-label="Zoom out" title="Zoom out (−)" @click="axis.zoomBy(0.8)">
    <i class="pi pi-minus" aria-hidden="true" />
  </button>
  <span class="quiet">{{ weeks }} weeks</span>
  <button class="round" aria-label="Zoom in" title="Zoom in (+)" @click="axis.zoomBy(1.25)">
    <i class="pi pi-plus" aria-hidden="true" />
  </button>
</template>
