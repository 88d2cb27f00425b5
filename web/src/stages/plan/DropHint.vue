<script setup lang="ts">
import { computed } from 'vue'
import type { Team } from '@/api/types'
import { amount, count, sized } from '@/ui/format'
import { useDragState } from './useDrag'

const props = defineProps<{ team: Team; iteration: string; tight?: boolean }>()
const drag = useDragState()
const fit = computed(() => (drag.team === props.team.key ? drag.fits[props.iteration] : undefined))
const over = computed(() => drag.team === props.team.key && drag.over === props.iteration)
const bad = computed(() => !!fit.value && (!fit.value.fits || !!fit.value.breaks?.length))
const text = computed(() => {
  const f = fit.value
  if (!f) return ''
  const room = f.fits
    ? `fits: ${amount(f.load)} of ${sized(f.capacity, props.team)}`
    : `over by ${sized(f.load - f.capacity, props.team)}`
  return f.breaks?.length ? `${room}, breaks ${count(f.breaks.length, 'need')}` : room
})
</script>

<template>
  <div v-if="fit" :class="['hint', { over, bad, tight }]">
    <span v-if="over || !tight"
      ><i :class="['pi', bad ? 'pi-exclamation-triangle' : 'pi-check']" aria-hidden="true" /> {{ text }}</span
    >
  </div>
</template>

<style scoped>
.hint {
  position: absolute;
  inset: 20px 0 4px;
  z-index: 8;
  display: flex;
  align-items: flex-start;
  justify-content: center;
  border: 2px dashed var(--good);
  border-radius: 5px;
  background: color-mix(in srgb, var(--panel) 35%, transparent);
  pointer-events: none;
}

.hint.tight {
  inset: 2px 0;
}

.hint.bad {
  border-color: var(--over);
}

.hint.over {
  border-style: solid;
  background: color-mix(in srgb, var(--panel) 65%, transparent);
}

.hint span {
  margin: 3px;
  padding: 1px 5px;
  border-radius: 4px;
  background: var(--panel);
  color: var(--good);
  font-size: 11px;
  font-weight: 650;
  text-align: center;
}

.hint.bad span {
  color: var(--over);
}
</style>
