import { onScopeDispose, reactive, readonly } from 'vue'
import type { Fit } from '@/api/types'
import { usePlan } from './plan'
import { isRough, type RoughBlock } from './rough'
import { useProgram } from '@/line/program'
import { usePointerDrag } from '@/ui/usePointerDrag'

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
/** What is being dragged, by whoever draws it. */
export const useDragState = () => readonly(drag)

let follow: ((key: string, event: PointerEvent) => void) | undefined

/** Starts following the pointer from a press on an item. */
export const press = (key: string, event: PointerEvent) => follow?.(key, event)

/** Follows the pointer for the whole stage; drops through the plan. */
export function useDrag(): void {
  const store = useProgram()
  const plan = usePlan()

  const mayPlace = (key: string) => store.may({ op: 'set', kind: 'item', key, field: 'iteration' })
  const mayRough = (x: RoughBlock) => store.may({ op: 'set', kind: 'item', key: x.of, field: 'roughPlaces' })

  function begin(key: string): boolean {
    const item = plan.thing(key)
    if (!item?.team) return false
    if (!plan.selected.has(key) || isRough(item)) plan.select(key)
    const keys = plan.selection.filter(
      (k) => plan.thing(k)?.team === item.team && (isRough(item) ? mayRough(item) : mayPlace(k)),
    )
    if (!keys.length) return false
    Object.assign(drag, none, { keys, team: item.team, fits: {} })
    const asked = isRough(item)
      ? store.fits(item.team, [], { item: item.of, from: item.iteration ?? '' })
      : store.fits(item.team, keys)
    void asked
      .then((fits) => (drag.fits = Object.fromEntries(fits.map((f) => [f.iteration, f]))))
      .catch(() => {}) // the drop itself will say what is wrong
    return true
  }

  const { press } = usePointerDrag<string>({
    begin,
    move: (_, event) => {
      drag.x = event.clientX
      drag.y = event.clientY
      const target = document
        .elementsFromPoint(event.clientX, event.clientY)
        .map((e) => (e as HTMLElement).closest<HTMLElement>('[data-drop]'))
        .find((e) => e)
      const [team, iteration] = [target?.dataset.team, target?.dataset.drop]
      drag.over = iteration === 'unplaced' || team === drag.team ? (iteration ?? '') : ''
    },
    drop: () => {
      const { keys, team, over } = { ...drag, keys: [...drag.keys] }
      if (over === 'unplaced') void plan.unplace(keys)
      else if (over) void plan.placeIn(keys, team, over)
    },
    end: () => Object.assign(drag, none, { keys: [], fits: {} }),
  })
  follow = press
  onScopeDispose(() => (follow = undefined))
}
