import { onScopeDispose, reactive, readonly } from 'vue'
import { useProgram } from '@/line/program'
import { usePointerDrag } from '@/ui/usePointerDrag'

interface NeedDrag {
  /** The item that is needed; empty while no need is drawn. */
  from: string
  /** Where the drag began and where the pointer is, on the screen. */
  start: { x: number; y: number }
  at: { x: number; y: number }
  /** The item that would need it; empty over nothing that can. */
  to: string
}

const none = (): NeedDrag => ({ from: '', start: { x: 0, y: 0 }, at: { x: 0, y: 0 }, to: '' })
const drag = reactive<NeedDrag>(none())
/** The need that is being drawn, by whoever shows it. */
export const useNeedDragState = () => readonly(drag)

let follow: ((key: string, event: PointerEvent) => void) | undefined

/** Starts drawing a need from a press on a block's grip. */
export const pressGrip = (key: string, event: PointerEvent) => follow?.(key, event)

/** Follows the pointer from a block's grip to the block that is to need it. */
export function useNeedDrag(): void {
  const store = useProgram()
  const { press } = usePointerDrag<string>({
    begin: (key) => {
      Object.assign(drag, none(), { from: key })
      return true
    },
    move: (key, event, from) => {
      drag.start = from
      drag.at = { x: event.clientX, y: event.clientY }
      const over =
        document
          .elementsFromPoint(event.clientX, event.clientY)
          .map((e) => e.closest<HTMLElement>('[data-block]')?.dataset.block)
          .find((k) => k) ?? ''
      const known = store.program.needs?.some((n) => n.item === over && n.needs === key)
      const may = !!over && over !== key && store.may({ op: 'add', kind: 'need', in: over, key })
      drag.to = may && !known ? over : ''
    },
    drop: (key) => {
      if (drag.to) void store.addNeed(drag.to, key)
    },
    end: () => Object.assign(drag, none()),
  })
  follow = press
  onScopeDispose(() => (follow = undefined))
}
