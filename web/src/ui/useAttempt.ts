import { ref } from 'vue'
import { wordsOf } from '@/api/client'

/** Does things that may fail, one at a time, and holds what went wrong with the last. */
export function useAttempt() {
  const failure = ref('')
  const busy = ref(false)

  async function attempt(what: () => Promise<unknown>): Promise<boolean> {
    if (busy.value) return false
    busy.value = true
    failure.value = ''
    try {
      await what()
      return true
    } catch (error) {
      failure.value = wordsOf(error)
      return false
    } finally {
      busy.value = false
    }
  }

  return { failure, busy, attempt }
}
