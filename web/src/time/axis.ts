import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useProgram } from '@/line/program'
import type { Day } from '@/ui/dates'

export const MIN_ZOOM = 1.5
export const MAX_ZOOM = 24

/** The days in view, the same for all that draws days from left to right. */
export const useAxis = defineStore('axis', () => {
  const program = useProgram()
  /** The day at the left edge of the lanes, and how wide a day is in pixels. */
  const from = ref(0)
  const zoom = ref(8)
  /** Width of the lanes in pixels, without what stands left of them. */
  const width = ref(1000)
  const to = computed(() => from.value + width.value / zoom.value)

  let placedFor = 0
  /** Puts today into the left third, once a program. */
  function reset(): void {
    if (placedFor === program.id) return
    placedFor = program.id
    from.value = program.todayDay - 22
    zoom.value = 8
  }

  /** Zooms about a day that stays where it is. */
  function zoomBy(factor: number, about = (from.value + to.value) / 2): void {
    const next = Math.min(MAX_ZOOM, Math.max(MIN_ZOOM, zoom.value * factor))
    from.value = about - ((about - from.value) * zoom.value) / next
    zoom.value = next
  }

  function scrollDays(days: number): void {
    from.value += days
  }

  /** Brings a stretch of days to the middle, unless all of it is in view. */
  function reveal(start: Day, end: Day): void {
    if (start < from.value || end > to.value) from.value = (start + end) / 2 - (to.value - from.value) / 2
  }

  return { from, to, zoom, width, reset, zoomBy, scrollDays, reveal }
})
