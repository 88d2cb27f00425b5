<script setup lang="ts">
import { computed } from 'vue'
import { usePlan } from '@/stores/plan'
import { shortDay } from './dates'

/** Buttons that move through time and zoom. */
defineEmits<{ today: [] }>()
const plan = usePlan()
const weeks = computed(() => Math.round((plan.to - plan.from) / 7))
const range = computed(
  () => `${shortDay(Math.ceil(plan.from))} – ${shortDay(Math.floor(plan.to), Math.ceil(plan.from))}`,
)
</script>

<template>
  <button class="round" aria-label="Earlier" title="Earlier (Shift+←)" @click="plan.scrollDays(-14)">
    <i class="pi pi-chevron-left" aria-hidden="true" />
  </button>
  <button class="chip" title="Go to today (T)" @click="$emit('today')">Today</button>
  <button class="round" aria-label="Later" title="Later (Shift+→)" @click="plan.scrollDays(14)">
    <i class="pi pi-chevron-right" aria-hidden="true" />
  </button>
  <span class="range quiet">{{ range }}</span>
  <button class="round" aria-label="Zoom out" title="Zoom out (−)" @click="plan.zoomBy(0.8)">
    <i class="pi pi-minus" aria-hidden="true" />
  </button>
  <span class="quiet">{{ weeks }} weeks</span>
  <button class="round" aria-label="Zoom in" title="Zoom in (+)" @click="plan.zoomBy(1.25)">
    <i class="pi pi-plus" aria-hidden="true" />
  </button>
</template>
