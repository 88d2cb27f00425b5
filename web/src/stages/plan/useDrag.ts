import { useEventListener } from '@vueuse/core'
import { reactive, readonly } from 'vue'
import type { Fit } from '@/api/types'
import { usePlan } from '@/stores/plan'
import { useProgram } from '@/stores/program'

/** How far the pointer goes before a press becomes a drag. */
const THRESHOLD = 4

interface Drag {
  /** What is dragged: items of one team. Empty while nothing is. */
  keys: string[]
  team: string
  x: number
  y: number
  /** What the pointer is over: an iteration's key, 'unplaced', or '' for nowhere. */
  over: string
  /** What dropping on each iteration would do, by its key; empty until it is known. */
  fits: Record<string, Fit>
}

const none: Drag = { keys: [], team: '', x: 0, y: 0, over: '', fits: {} }
const drag = reactive<Drag>({ ...none })
let start: { key: string; x: number; y: number } | undefined

/** What is being dragged, by whoever draws it. */
export const useDragState = () => readonly(drag)

/** Starts following the pointer from a press on an item. */
export function press(key: string, event: PointerEvent): void {
  if (event.button === 0) start = { key, x: event.clientX, y: event.clientY }
}

/** Follows the pointer for the whole stage; drops through the plan. */
export function useDrag(): void {
  const store = useProgram()
  const plan = usePlan()

  function begin(key: string): void {
    const item = store.items.get(key)
    if (!item?.team) return
    if (!plan.selected.has(key)) plan.select(key)
    const keys = plan.selection.filter(
      (k) =>
        store.items.get(k)?.team === item.team &&
        store.may({ op: 'set', kind: 'item', key: k, field: 'iteration' }),
    )
    if (!keys.length) return
    Object.assign(drag, none, { keys, team: item.team, fits: {} })
    void store
      .fits(item.team, keys)
      .then((fits) => (drag.fits = Object.fromEntries(fits.map((f) => [f.iteration, f]))))
      .catch(() => {}) // the drop itself will say what is wrong
  }

  const cancel = () => {
    start = undefined
    Object.assign(drag, none, { keys: [], fits: {} })
  }

  useEventListener(window, 'pointermove', (event: PointerEvent) => {
    if (
      start &&
      !drag.keys.length &&
      Math.hypot(event.clientX - start.x, event.clientY - start.y) > THRESHOLD
    ) {
      begin(start.key)
    }
    if (!drag.keys.length) return
    event.preventDefault()
    drag.x = event.clientX
    drag.y = event.clientY
    const target = document
      .elementsFromPoint(event.clientX, event.clientY)
      .map((e) => (e as HTMLElement).closest<HTMLElement>('[data-drop]'))
      .find((e) => e)
    const [team, iteration] = [target?.dataset.team, target?.dataset.drop]
    drag.over = iteration === 'unplaced' || team === drag.team ? (iteration ?? '') : ''
  })

  useEventListener(window, 'pointerup', () => {
    const { keys, team, over } = { ...drag, keys: [...drag.keys] }
    cancel()
    if (!keys.length || !over) return
    if (over === 'unplaced') void plan.unplace(keys)
    else void plan.placeIn(keys, team, over)
  })

  useEventListener(window, 'pointercancel', cancel)
  // Before the stage's own Escape, which would clear the selection.
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || !drag.keys.length) return
      event.stopImmediatePropagation()
      cancel()
    },
    { capture: true },
  )
}
