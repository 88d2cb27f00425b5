import { vi } from 'vitest'

/** What tests of the page have in common. */

/** Waits until what is expected holds, however slow the machine. */
export const eventually = (holds: () => unknown) => vi.waitFor(holds, { timeout: 25_000 })

/** Gives a document that has no screen what parts of one ask it for: it has no sizes. */
export function withScreen(): void {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      observe() {}
      unobserve() {}
      disconnect() {}
    },
  )
  vi.stubGlobal('matchMedia', () => Object.assign(new EventTarget(), { matches: false }))
}
