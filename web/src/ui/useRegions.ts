import { useEventListener } from '@vueuse/core'

/** Where the focus was last in each region, to come back to. */
const last = new WeakMap<Element, HTMLElement>()

const focusable =
  'a[href], button:not(:disabled), input:not(:disabled), select:not(:disabled), textarea:not(:disabled), [tabindex]'

const shown = (e: HTMLElement): boolean => e.getClientRects().length > 0

/** What takes the focus first: what the region itself names, or else what Tab comes to. */
const first = (region: HTMLElement): HTMLElement | undefined =>
  (region.dataset.region && region.querySelector<HTMLElement>(region.dataset.region)) ||
  [...region.querySelectorAll<HTMLElement>(focusable)].find((e) => e.tabIndex >= 0 && shown(e))

/**
 * F6 goes from region to region of the page, Shift + F6 back: to where the focus was there last,
 * or to the first that takes it. Regions are marked with `data-region`, in the order of the page;
 * its value, if any, is a selector of what takes the focus first.
 */
export function useRegions(): void {
  useEventListener(document, 'focusin', (event: FocusEvent) => {
    const target = event.target as HTMLElement
    const region = target.closest('[data-region]')
    if (region) last.set(region, target)
  })
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.key !== 'F6' || document.querySelector('[aria-modal="true"]')) return
    event.preventDefault()
    const regions = [...document.querySelectorAll<HTMLElement>('[data-region]')]
    const here = document.activeElement?.closest('[data-region]')
    const at = regions.findIndex((r) => r === here)
    const step = event.shiftKey ? -1 : 1
    const n = regions.length
    for (let i = 1; i <= n; i++) {
      const region = regions[(at < 0 && step < 0 ? n - i : at + step * i + n * i) % n]
      const before = last.get(region)
      const to = before?.isConnected && shown(before) ? before : first(region)
      if (to) {
        to.focus()
        return
      }
    }
  })
}
