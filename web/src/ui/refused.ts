import { useEventListener } from '@vueuse/core'
import { nextTick, watch, type WatchSource } from 'vue'

type Field = HTMLInputElement | HTMLSelectElement | HTMLTextAreaElement
/** What Vue keeps with a field: the value that it was last drawn with. */
type Drawn = Field & { _value?: unknown }

let changing: Field | undefined

/** The field that somebody is changing right now: asked at once, before anything is waited for. */
export const fieldInHand = (): Field | undefined => changing

const drawn = (field: Field): string => String((field as Drawn)._value ?? '')
/** A field that is bound both ways holds what was typed in the page's own state: that is not what is refused. */
const isModel = (field: Field): boolean =>
  Object.getOwnPropertySymbols(field).some((s) => s.description === '_assign')

/**
 * Shows in a field that what was said in it was not taken: a choice and a tick go back; what was
 * typed stays, marked with the reason, until it is changed, or taken back with Escape. A
 * component that has the field may show it itself: it takes the event `refused`.
 */
export function markRefused(field: Field | undefined, why: string): void {
  if (!field?.dispatchEvent(new CustomEvent('refused', { detail: why, cancelable: true }))) return
  if (isModel(field)) return
  if (field instanceof HTMLInputElement && (field.type === 'checkbox' || field.type === 'radio'))
    field.checked = !field.checked
  else if (field instanceof HTMLSelectElement) field.value = drawn(field)
  else {
    field.dataset.refused = field.title
    field.setAttribute('aria-invalid', 'true')
    field.title = why
    // Who left it with Enter goes on there; who is elsewhere by now stays there.
    if (document.activeElement === document.body) field.focus()
  }
}

function unmark(field: Field): void {
  if (field.dataset.refused === undefined) return
  field.title = field.dataset.refused
  delete field.dataset.refused
  field.removeAttribute('aria-invalid')
}

const isField = (x: EventTarget | null): x is Field =>
  x instanceof HTMLInputElement || x instanceof HTMLSelectElement || x instanceof HTMLTextAreaElement

/** Follows the fields of the whole page; a mark goes too where the plan comes to say what the field does. */
export function useRefusedFields(plan: WatchSource): void {
  useEventListener(
    window,
    'change',
    (event) => {
      if (!isField(event.target)) return
      const field = (changing = event.target)
      // Listeners of the same event have been called by then.
      setTimeout(() => changing === field && (changing = undefined))
    },
    { capture: true },
  )
  useEventListener(window, 'input', (event) => isField(event.target) && unmark(event.target))
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      const field = event.target
      if (event.key !== 'Escape' || !isField(field) || field.dataset.refused === undefined) return
      field.value = drawn(field)
      unmark(field)
    },
    { capture: true },
  )
  watch(plan, () =>
    nextTick(() => {
      for (const field of document.querySelectorAll<Field>('[data-refused]'))
        if (field.value === drawn(field)) unmark(field)
    }),
  )
}
