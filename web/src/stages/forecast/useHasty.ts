import { computed, shallowRef } from 'vue'
import { useProgram } from '@/line/program'
import type { Answer } from '@/line/useAnswer'
import { useQuestion, type Questioning } from './useQuestion'

/** Of how many items on an answer takes so long that a first one is asked for before. */
export const LARGE = 1500

/**
 * Asks a question that takes long of a large program twice: by few plays, and then by all. Until the second answer is
 * there the first is; first says so.
 */
export function useHasty<T>(
  put: (quick: boolean, signal: AbortSignal) => Promise<T> | undefined,
  about: () => unknown,
  asking: Questioning<T> = {},
): Answer<T> & { first: Readonly<{ value: boolean }> } {
  const store = useProgram()
  const hasty = shallowRef<T>()
  const asked = useQuestion<T>(
    (signal) => {
      hasty.value = undefined
      if (store.items.size <= LARGE) return put(false, signal)
      return put(true, signal)?.then((answer) => {
        if (!signal.aborted) hasty.value = answer
        return put(false, signal)!
      })
    },
    about,
    asking,
  )
  return {
    ...asked,
    answer: computed(() => asked.answer.value ?? hasty.value) as Answer<T>['answer'],
    first: computed(() => !asked.answer.value && hasty.value !== undefined),
  }
}
