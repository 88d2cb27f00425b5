import { reactive } from 'vue'
import { useAxis } from '@/time/axis'
import type { Day } from '@/ui/dates'
import { usePointerDrag } from '@/ui/usePointerDrag'

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
  const axis = useAxis()
  const drag = reactive<{ bar?: BarDrag; days: number }>({ days: 0 })

  const { press, wasDrag } = usePointerDrag<BarDrag>({
    begin: () => true,
    move: (was, event, from) => {
      drag.days = Math.round((event.clientX - from.x) / axis.zoom)
      const start = was.grip === 'end' ? was.start : was.start + drag.days
      const end = was.grip === 'start' ? was.end : was.end + drag.days
      drag.bar = { ...was, start: Math.min(start, end), end: Math.max(start, end) }
    },
    drop: (was, event) => {
      if (drag.days) dropped(was, drag.days, event.altKey)
    },
    end: () => Object.assign(drag, { bar: undefined, days: 0 }),
  })

  function begin(event: PointerEvent, bar: BarDrag): void {
    event.preventDefault()
    press(bar, event)
  }
  return { drag, begin, wasDrag }
}
