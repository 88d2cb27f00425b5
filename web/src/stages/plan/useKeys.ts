import { useEventListener } from '@vueuse/core'
import { useDraft } from './draft'
import { usePlan } from './plan'
import { useAxis } from '@/time/axis'
import { keysRest } from '@/ui/keysRest'

/** What each key does, for the page that lists them. */
export const keyList: [keys: string[], text: string][] = [
  [['←', '→', '↑', '↓'], 'Go from block to block'],
  [['Enter'], 'Select the block; with Shift, add it to the selection'],
  [['['], 'Move the selection one iteration earlier'],
  [[']'], 'Move it one iteration later'],
  [['1', '…', '9'], 'Place it in the first, … ninth coming iteration'],
  [['[', ']'], 'On the bar of a feature: move it and its items, with what that does shown first'],
  [['U'], 'Unplace it'],
  [['N'], 'Add a need to the selected item'],
  [['S'], 'Draft a schedule'],
  [['Ctrl', 'Enter'], 'Accept the ticked moves of the draft'],
  [['Esc'], 'Cancel a drag; or select nothing'],
  [['Ctrl', 'Z'], 'Undo; with Shift, redo'],
  [['Shift', '←', '→'], 'Scroll in time'],
  [['+', '−'], 'Zoom in and out'],
  [['T'], 'Go to today'],
  [['F6'], 'Go to the next region of the page; with Shift, back'],
  [['?'], 'Show these keys'],
]

/** The keys of the plan stage. They rest while somebody types or a dialog is open. */
export function useKeys(actions: { help: () => void; addNeed: () => void; goToday: () => void }): void {
  const plan = usePlan()
  const axis = useAxis()
  const draft = useDraft()

  const plain: Record<string, () => unknown> = {
    '[': () => plan.shift(-1),
    ']': () => plan.shift(1),
    u: () => plan.unplace(),
    n: actions.addNeed,
    s: () => draft.start(),
    t: actions.goToday,
    '+': () => axis.zoomBy(1.25),
    '=': () => axis.zoomBy(1.25),
    '-': () => axis.zoomBy(0.8),
    '?': actions.help,
    Escape: () => plan.clear(),
  }

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (keysRest(event)) return
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
    if (event.ctrlKey || event.metaKey) return
    if (event.shiftKey && (key === 'ArrowLeft' || key === 'ArrowRight')) {
      event.preventDefault()
      axis.scrollDays(key === 'ArrowLeft' ? -7 : 7)
      return
    }
    if (/^[1-9]$/.test(key)) {
      if (plan.selection.length) void plan.placeNth(Number(key))
      return
    }
    const action = plain[key]
    if (!action || event.altKey) return
    event.preventDefault()
    void action()
  })
}
