import { useDebounceFn, useEventListener } from '@vueuse/core'

/**
 * Keeps what somebody changes by itself, so many milliseconds after the last change; at once when the page is left. What
 * keeps it says so by done: what is changed while it is being sent is kept after it.
 */
export function useKeptSoon(keep: (leaving: boolean) => Promise<unknown>, wait: number) {
  let pending = false
  const soon = useDebounceFn(() => pending && keep(false), wait)
  useEventListener(window, 'pagehide', () => pending && void keep(true))
  return {
    /** Something was changed. */
    touched(): void {
      pending = true
      void soon()
    },
    /** What was changed is being sent, or is not to be kept any more. */
    done(): void {
      pending = false
    },
    /** Keeps what is still to be kept, now. */
    async now(): Promise<void> {
      if (pending) await keep(false)
    },
  }
}
