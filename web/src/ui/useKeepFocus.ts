import { nextTick, watch, type WatchSource } from 'vue'

/**
 * Keeps the focus where a person would go on: when what has it is drawn anew elsewhere by what
 * `changes`, as a block that moved or a row that became a block, the new one gets it.
 */
export function useKeepFocus(changes: WatchSource): void {
  watch(
    changes,
    async () => {
      const before = document.activeElement
      const of = before?.closest('[data-block], [data-row]')
      const key = of?.getAttribute('data-block') ?? of?.getAttribute('data-row')
      const id = before?.id
      await nextTick()
      await nextTick() // lists that measure themselves draw once more
      const now = document.activeElement
      if (!before || before.isConnected || (now && now !== document.body)) return
      const wanted = key
        ? ['data-block', 'data-row'].map((mark) => `[${mark}="${CSS.escape(key)}"]`)
        : id
          ? [`#${CSS.escape(id)}`]
          : []
      for (const selector of wanted) {
        const found = document.querySelector<HTMLElement>(selector)
        if (found) return found.focus({ preventScroll: true })
      }
    },
    { flush: 'pre' },
  )
}
