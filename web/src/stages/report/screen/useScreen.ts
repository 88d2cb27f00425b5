import { onScopeDispose, ref, shallowRef } from 'vue'
import { RequestError, answer, client } from '@/api/client'
import type { ScreenShown } from '@/api/types'
import { againAfter } from '@/line/listening'
import { useProgram } from '@/line/program'
import { useReport } from '../report'

/** Milliseconds between two questions whether there is something new, and how long one may take. */
const EVERY = 3000
const LONGEST = 8000
/** The same once the screen was ended: it may be one that a proxy said in the server's place. */
const AFTER_END = 15_000

/**
 * What a screen shows, asked for again and again, for weeks: where the server does not answer, what was there stays, and
 * since when it is old is known. A page that came with another version of the server loads itself anew.
 */
export function useScreen(secret: string) {
  const store = useProgram()
  const report = useReport()
  const shown = shallowRef<ScreenShown>()
  /** As of when it is: of the last answer. */
  const at = ref('')
  /** Whether the last question was not answered. */
  const lost = ref(false)
  /** Why nothing is shown any more: the server's words. */
  const ended = ref('')
  let stamp = ''
  let timer: ReturnType<typeof setTimeout> | undefined
  let over = false
  let tries = 0

  async function ask(): Promise<void> {
    let next = EVERY
    try {
      const told = await answer(
        client.GET('/api/v1/shared/{secret}/screen', {
          params: { path: { secret }, query: { known: stamp || undefined } },
          signal: AbortSignal.timeout(LONGEST),
        }),
      )
      if (over) return
      if (told.shown && shown.value && told.shown.version !== shown.value.version)
        return window.location.reload()
      if (told.shown) {
        report.vocabulary = { sources: [], cards: told.shown.kinds }
        store.have(told.shown)
        shown.value = told.shown
      }
      stamp = told.stamp
      at.value = told.at
      lost.value = false
      tries = 0
      ended.value = ''
    } catch (error) {
      if (over) return
      const gone = error instanceof RequestError && error.status === 404
      if (gone) {
        ended.value = error.message
        shown.value = undefined
        stamp = ''
        next = AFTER_END
      }
      lost.value = !gone
      if (!gone) next = Math.max(EVERY, againAfter(tries++))
    }
    timer = setTimeout(() => void ask(), next)
  }
  void ask()
  onScopeDispose(() => {
    over = true
    clearTimeout(timer)
  })
  return { shown, at, lost, ended }
}
