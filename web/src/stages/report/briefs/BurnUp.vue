<script setup lang="ts">
import { computed } from 'vue'
import type { BurnUp as Told } from '@/api/types'
import { fanChart, type Mark } from '@/pictures/fan'
import TimePicture from '@/ui/TimePicture.vue'
import { useChartLook } from '@/ui/chartLook'
import { shortDate, toDay } from '@/ui/dates'

/** How some work came about and goes on, as a brief has it: of the day on which it was written. */
const props = defineProps<{ burnUp: Told; title: string }>()
const look = useChartLook()
const chart = computed(() => {
  const { past, fan, landing } = props.burnUp
  const written = past.at(-1)?.day ?? fan.days[0]?.day
  if (!written) return undefined
  const near = toDay(written)
  const marks: Mark[] = [{ day: near, name: 'today', kind: 'today' }]
  if (landing.due)
    marks.push({ day: toDay(landing.due), name: `due ${shortDate(landing.due, near)}`, kind: 'due' })
  const unit = props.burnUp.unit
  const drawn = { ...props.burnUp, fan: { ...fan, unsized: undefined } } // the section says so itself
  return fanChart(drawn, false, marks, unit && { unit }, near, look())
})
</script>

<template>
  <TimePicture
    v-if="chart"
    :says="`${title}. What was done of what there is, and how the plays go on.`"
    :chart="chart"
    :height="230"
  />
</template>
