import { ref, watch, type Ref } from 'vue'
import { draftOf, forgetDraft, keepDraft } from './drafts'
import { useProgram } from './program'

interface Form<T> {
  /** Which form it is, among all of the program; undefined while it is closed. */
  name: () => string | undefined
  /** What stands in it. */
  read: () => T
  /** What stands in it where nothing was typed. */
  start: () => T
  write: (typed: T) => void
  /** What stands in it is newer than what was typed before, as what was just pasted. */
  fresh?: () => boolean
}

export interface Draft {
  /** What stands in the form was typed before, and not saved. */
  offered: Ref<boolean>
  /** Throws it away. */
  discard: () => void
  /** It was saved, or is being saved. */
  saved: () => void
}

/** What a form is of a thing that somebody else has changed meanwhile: what was typed stays in it, the rest is as it is now. */
export function stillTyped<T extends object>(was: T, is: T, typed: T): T {
  const form = { ...is }
  for (const field of Object.keys(is) as (keyof T)[])
    if (JSON.stringify(typed[field]) !== JSON.stringify(was[field])) form[field] = typed[field]
  return form
}

/**
 * Keeps what somebody types into a form until it is saved or thrown away, whatever closes the form: Escape, a click outside,
 * another stage, the end of the page. It is there again when the form is. To be called after what fills the form.
 */
export function useDraft<T>({ name, read, start, write, fresh }: Form<T>): Draft {
  const store = useProgram()
  const offered = ref(false)
  const key = (of: string) => `${store.id}/${store.mine.author}/${of}`
  const same = (a: T, b: T) => JSON.stringify(a) === JSON.stringify(b)
  /** The form that is open, once it has been filled, and what was typed before is back in it. */
  let filled: string | undefined
  watch(
    name,
    (now) => {
      offered.value = false
      filled = now
      if (now === undefined) return
      if (fresh?.()) return keepDraft(key(now), read())
      const typed = draftOf(key(now)) as T | undefined
      if (typed === undefined || same(typed, start())) return
      write(typed)
      offered.value = true
    },
    { immediate: true },
  )
  watch(
    () => [name(), JSON.stringify(read())] as const,
    ([now], [before]) => {
      if (now !== before) filled = undefined // it is being opened, or closed
      if (now === undefined || now !== filled) return
      if (same(read(), start())) forgetDraft(key(now))
      else keepDraft(key(now), read())
    },
    { flush: 'sync' },
  )
  function saved(): void {
    offered.value = false
    const now = name()
    if (now !== undefined) forgetDraft(key(now))
  }
  return {
    offered,
    saved,
    discard: () => {
      write(start())
      saved()
    },
  }
}
