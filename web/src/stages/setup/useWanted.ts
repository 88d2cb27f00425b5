import { onMounted, watch } from 'vue'
import { useSetUp } from './setup'

/**
 * Does what was asked for from elsewhere, as from the find box, once this part of the set-up
 * is there: by the name of what is wanted, with the key of the thing it is about.
 */
export function useWanted(acts: Record<string, (key: string) => void>): void {
  const setUp = useSetUp()
  function run(): void {
    const { wanted } = setUp
    const act = wanted && acts[wanted.what]
    if (!act) return
    setUp.wanted = undefined
    act(wanted.key ?? '')
  }
  // Not before the dialogs of this part are there: they get ready as they open.
  onMounted(run)
  watch(() => setUp.wanted, run, { flush: 'post' })
}
