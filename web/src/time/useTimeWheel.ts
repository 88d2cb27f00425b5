import type { Ref } from 'vue'
import { useAxis } from './axis'

/** Width of what stands left of the days, in pixels. */
export const HEAD_WIDTH = 158

/** Sideways wheels scroll in time; with Ctrl a wheel zooms about the pointer. */
export function useTimeWheel(scroller: Ref<HTMLElement | undefined>): (event: WheelEvent) => void {
  const axis = useAxis()
  return (event) => {
    const left = (scroller.value?.getBoundingClientRect().left ?? 0) + HEAD_WIDTH
    const at = axis.from + (event.clientX - left) / axis.zoom
    if (event.ctrlKey) {
      event.preventDefault()
      axis.zoomBy(Math.exp(-event.deltaY / 300), at)
    } else if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY)) {
      event.preventDefault()
      axis.scrollDays((event.deltaX || event.deltaY) / axis.zoom)
    }
  }
}
