import { useEventListener } from '@vueuse/core'

export interface Dragging<T> {
  /** How far the pointer goes, in pixels, before a press becomes a drag. */
  threshold?: number
  /** The drag begins; false: this cannot be dragged. */
  begin: (pressed: T) => boolean
  move: (pressed: T, event: PointerEvent, from: { x: number; y: number }) => void
  drop: (pressed: T, event: PointerEvent) => void
  /** After a drop and after giving up: whatever was drawn goes away. */
  end: () => void
}

/**
 * Follows the pointer from a press to a drop. Escape and a lost pointer give up, and
 * Escape then means nothing else; a click that is only the end of a drag can be told.
 */
export function usePointerDrag<T>({ threshold = 4, begin, move, drop, end }: Dragging<T>) {
  let pressed: { what: T; x: number; y: number } | undefined
  let dragging = false
  let justDragged = false

  function press(what: T, event: PointerEvent): void {
    justDragged = false
    if (event.button === 0) pressed = { what, x: event.clientX, y: event.clientY }
  }

  function stop(): void {
    pressed = undefined
    if (!dragging) return
    dragging = false
    end()
  }

  useEventListener(window, 'pointermove', (event: PointerEvent) => {
    if (!pressed) return
    const { what, x, y } = pressed
    if (!dragging) {
      if (Math.hypot(event.clientX - x, event.clientY - y) <= threshold) return
      if (!begin(what)) return void (pressed = undefined)
      dragging = justDragged = true
    }
    event.preventDefault()
    move(what, event, { x, y })
  })
  useEventListener(window, 'pointerup', (event: PointerEvent) => {
    const what = pressed?.what
    const dropped = dragging
    // What is dropped is told before what was drawn goes away.
    if (dropped && what !== undefined) drop(what, event)
    stop()
  })
  useEventListener(window, 'pointercancel', stop)
  // Before anybody else's Escape, which would clear a selection or close a panel.
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (!dragging) justDragged = false // the click that comes now is a key's
      if (event.key !== 'Escape' || !dragging) return
      event.stopImmediatePropagation()
      stop()
    },
    { capture: true },
  )

  /** Whether the click that comes now is only the end of a drag. */
  const wasDrag = () => justDragged
  return { press, wasDrag }
}
