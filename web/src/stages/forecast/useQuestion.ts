import { useAnswer, type Answer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'

export interface Questioning<T> {
  /** What else it depends on, by which the answer of before does not go away meanwhile. */
  also?: () => unknown
  /** Whether the answer of before always goes away: where it must not be taken for that of now. */
  fresh?: boolean
  /** Milliseconds to wait for more to change before asking. */
  wait?: number
  then?: (found: T) => void
}

/**
 * Asks a question of the forecast at once, and again whenever the program, the day or what is asked changes. An
 * answer about something else goes away at once.
 */
export function useQuestion<T>(
  put: (signal: AbortSignal) => Promise<T> | undefined,
  about: () => unknown,
  { also, fresh = false, wait = 20, then }: Questioning<T> = {},
): Answer<T> {
  const store = useProgram()
  return useAnswer(
    (signal) => (store.id ? put(signal) : undefined),
    [
      () => store.id,
      () => JSON.stringify(about()),
      () => store.revision,
      () => store.today,
      () => JSON.stringify(also?.()),
    ],
    { wait, then, forget: ([id, now], [before, was]) => fresh || id !== before || now !== was },
  )
}
