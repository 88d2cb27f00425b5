import { until, useDebounceFn } from '@vueuse/core'
import { onScopeDispose, ref, shallowRef, watch, type ShallowRef, type Ref, type WatchSource } from 'vue'
import { wordsOf } from '@/api/client'

export interface Answer<T> {
  /** The newest answer; undefined before the first, and where nothing is asked. */
  answer: ShallowRef<T | undefined>
  /** What went wrong with the last question, in words; empty for nothing. */
  failure: Ref<string>
  /** Whether an answer is on its way. */
  asking: Ref<boolean>
  /** Asks again. */
  refresh: () => void
}

export interface Asking<T> {
  /** Milliseconds to wait for more to change before asking. */
  wait?: number
  /** Whether the answer of before goes away at once: where it is about something else. */
  forget?: (now: unknown[], before: unknown[]) => boolean
  /** Called with each answer that counts. */
  then?: (found: T) => void
  /** Whether there is more to an answer: the same is asked again at once, until there is not. */
  more?: (found: T) => boolean
}

/** Waits until an answer is that of the revision in view, or a newer one: what an edit has made of it. */
export async function caughtUp(
  answer: Ref<{ revision: number } | undefined>,
  revision: () => number,
): Promise<void> {
  await until(() => (answer.value?.revision ?? -1) >= revision()).toBe(true, { timeout: 5000 })
}

/**
 * Asks the server a question at once and again whenever something that it depends on
 * changes (among which should be the revision). An answer that a later question overtook
 * is dropped, and the question it belongs to withdrawn by the signal that it was asked with; a
 * question of undefined is none, and clears the answer.
 */
export function useAnswer<T>(
  ask: (overtaken: AbortSignal) => Promise<T> | undefined,
  deps: WatchSource[],
  { wait, forget, then, more }: Asking<T> = {},
): Answer<T> {
  const answer = shallowRef<T>()
  const failure = ref('')
  const asking = ref(false)
  let latest = 0
  let open = new AbortController()

  function put(): void {
    const mine = ++latest
    open.abort()
    open = new AbortController()
    const asked = ask(open.signal)
    failure.value = ''
    asking.value = !!asked
    if (!asked) answer.value = undefined
    asked?.then(
      (found) => {
        if (mine !== latest) return
        asking.value = false
        answer.value = found
        then?.(found)
        if (more?.(found)) put()
      },
      (error: unknown) => {
        if (mine !== latest) return
        asking.value = false
        failure.value = wordsOf(error)
      },
    )
  }
  const refresh = wait === undefined ? put : useDebounceFn(put, wait)
  watch(
    deps,
    (now, before) => {
      if (forget?.(now, before)) answer.value = undefined
      void refresh()
    },
    { immediate: true },
  )
  onScopeDispose(() => {
    latest++
    open.abort()
  })
  return { answer, failure, asking, refresh: () => void refresh() }
}
