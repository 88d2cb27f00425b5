import { ref } from 'vue'
import { wordsOf } from '@/api/client'
import { fieldInHand, markRefused } from './refused'

/** Does things that may fail, one at a time, and holds what went wrong with the last. */
export function useAttempt() {
  const failure = ref('')
  const busy = ref(false)

  async function attempt(what: () => Promise<unknown>): Promise<boolean> {
    const field = fieldInHand()
    if (busy.value) return false
    busy.value = true
    failure.value = ''
    try {
      await what()
      return true
    } catch (error) {
      failure.value = wordsOf(error)
      markRefused(field, failure.value)
      return false
    } finally {
      busy.value = false
    }
  }

  return { failure, busy, attempt }
}
