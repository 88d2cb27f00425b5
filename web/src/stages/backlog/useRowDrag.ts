import { reactive, readonly } from 'vue'
import { useBacklog } from './backlog'
import { useProgram } from '@/line/program'
import { usePointerDrag } from '@/ui/usePointerDrag'

const state = reactive({ keys: [] as string[], x: 0, y: 0, over: '' })

/** What is being dragged, by whoever draws it. */
export const rowDrag = readonly(state)

/** Drags the selection to another rank, into a group, or onto a release. */
export function useRowDrag() {
  const store = useProgram()
  const backlog = useBacklog()
  /** What the pointer is over: above, below or into a row, a group's head, or a release. */
  function target(event: PointerEvent): string {
    for (const element of document.elementsFromPoint(event.clientX, event.clientY)) {
      const release = element.closest<HTMLElement>('[data-release]')
      if (release) return 'release:' + release.dataset.release
      const group = element.closest<HTMLElement>('[data-group]')
      if (group) return 'group:' + group.dataset.group
      const row = element.closest<HTMLElement>('[data-item]')
      if (!row) continue
      const key = row.dataset.item!
      if (state.keys.includes(key)) return ''
      const box = row.getBoundingClientRect()
      const part = (event.clientY - box.top) / box.height
      const kind = store.items.get(key)?.kind
      if ((kind === 'feature' || kind === 'initiative') && part > 0.25 && part < 0.75) return 'into:' + key
      return (part < 0.5 ? 'above:' : 'below:') + key
    }
    return ''
  }

  async function drop(keys: string[], over: string): Promise<void> {
    const [what, key] = [over.slice(0, over.indexOf(':')), over.slice(over.indexOf(':') + 1)]
    if (what === 'above' || what === 'below') await backlog.rank({ to: what, key }, keys)
    else if (what === 'into') await backlog.enter(keys, 'parent', key)
    else if (what === 'release') await backlog.enter(keys, 'release', key)
    else if (what === 'group') {
      const by = backlog.view.group ?? ''
      const field = by === 'feature' || by === 'initiative' ? 'parent' : by
      const value = by === 'iteration' ? key.slice(key.indexOf('\n') + 1) : key
      if (backlog.fields.get(field)?.enter) await backlog.enter(keys, field, value)
    }
  }

  const { press, wasDrag } = usePointerDrag<string>({
    begin: (key) => {
      state.keys = backlog.selected.has(key) ? [...backlog.selection] : [key]
      return true
    },
    move: (_, event) => Object.assign(state, { x: event.clientX, y: event.clientY, over: target(event) }),
    drop: () => {
      if (state.over) void drop([...state.keys], state.over)
    },
    end: () => Object.assign(state, { keys: [], over: '' }),
  })

  return { state: rowDrag, press, moved: wasDrag }
}
