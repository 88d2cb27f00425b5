import userEvent from '@testing-library/user-event'
import type { Pinia } from 'pinia'
import PrimeVue from 'primevue/config'
import { onTestFinished, vi } from 'vitest'
import { createApp, h, type Component } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { focus } from './focus'
import { typing } from './typing'

/** What tests of the page have in common. */

/** Waits until what is expected holds, however slow the machine. */
export const eventually = <T>(holds: () => T) => vi.waitFor(holds, { timeout: 25_000 })

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
  vi.stubGlobal('CSS', { escape: (text: string) => text.replace(/["\\]/g, '\\$&') })
  Element.prototype.scrollIntoView ??= () => undefined
}

/** Pages that links lead to. */
const names = [
  'plan',
  'backlog',
  'backlog-import',
  'forecast',
  'track',
  'report',
  'set-up-calendar',
  'set-up-people',
]

/** Draws a component in the document, with what the page gives all of them, until the test ends. */
export function drawn(component: Component, props: Record<string, unknown> = {}, pinia?: Pinia): HTMLElement {
  withScreen()
  const host = document.body.appendChild(document.createElement('div'))
  const app = createApp({ render: () => h(component, props) })
  if (pinia) app.use(pinia)
  // What links lead to is not there.
  const nothing = { render: () => null }
  const routes = names.map((name) => ({ path: `/${name}/:id`, name, component: nothing }))
  app
    .use(PrimeVue)
    .use(
      createRouter({
        history: createMemoryHistory(),
        routes: [{ path: '/', component: nothing }, ...routes],
      }),
    )
    .directive('focus', focus)
    .directive('typing', typing)
    .mount(host)
  onTestFinished(() => {
    app.unmount()
    host.remove()
  })
  return host
}

/** Somebody at the keyboard, who strikes keys as fast as they are taken. */
export const typist = () => userEvent.setup({ delay: null })
