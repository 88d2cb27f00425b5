import { nextTick } from 'vue'
import { useRouter } from 'vue-router'
import { useProgram } from '@/line/program'
import { usePlan } from '../plan'

/** Leads from the map of needs to an item on the lanes. */
export function useShow(): (key: string) => Promise<void> {
  const store = useProgram()
  const plan = usePlan()
  const router = useRouter()
  return async (key) => {
    await router.push({ name: 'plan', params: { id: store.id } })
    await nextTick()
    plan.select(key)
    plan.reveal(key)
  }
}
