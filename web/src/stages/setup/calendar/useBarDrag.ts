import { useEventListener } from '@vueuse/core'
import { reactive } from 'vue'
import { usePlan } from '@/stores/plan'
import type { Day } from '@/shared/dates'

export type Grip = 'start' | 'end' | 'whole'

/** A bar that is being dragged, with the days it would have. */
export interface BarDrag {
  id: string
  grip: Grip
  start: Day
  end: Day
}

/**
 * Drags bars of the calendar by an edge or whole, in whole days. Escape puts the
 * bar back; a drop tells how far it went and whether Alt was held.
 */
export function useBarDrag(dropped: (bar: BarDrag, days: number, alt: boolean) => void) {
  const plan = usePlan()
  const drag = reactive<{ bar?: BarDrag; days: number }>({ days: 0 })
  let from = 0
  let was: BarDrag | undefined
  let justDropped = false

  function begin(event: PointerEvent, bar: BarDrag): void {
    if (event.button !== 0) return
    event.preventDefault()
    from = event.clientX
    was = bar
    drag.days = 0
  }

  useEventListener(window, 'pointermove', (event: PointerEvent) => {
    if (!was) return
    drag.days = Math.round((event.clientX - from) / plan.zoom)
    if (!drag.days && !drag.bar) return
    const start = was.grip === 'end' ? was.start : was.start + drag.days
    const end = was.grip === 'start' ? was.end : was.end + drag.days
    drag.bar = { ...was, start: Math.min(start, end), end: Math.max(start, end) }
  })
  useEventListener(window, 'pointerup', (event: PointerEvent) => {
    const [bar, days] = [was, drag.days]
    justDropped = !!drag.bar
    end()
    if (bar && days) dropped(bar, days, event.altKey)
    setTimeout(() => (justDropped = false))
  })
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.key === 'Escape' && was) end()
  })

  function end(): void {
    was = undefined
    drag.bar = undefined
    drag.days = 0
  }

  /** Whether a click is only the end of a drag. */
  const wasDrag = () => justDropped
  return { drag, begin, wasDrag }
}
