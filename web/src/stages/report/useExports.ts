import { ref, shallowRef, watch } from 'vue'
import { answer, client } from '@/api/client'
import type { KeptExport } from '@/api/types'
import { useProgram } from '@/line/program'
import { useAttempt } from '@/ui/useAttempt'

/** The files that somebody makes again and again, with their choices: kept on the server, for them alone. */
export function useExports() {
  const store = useProgram()
  const list = shallowRef<KeptExport[]>([])
  const there = ref(false)
  const { failure, attempt } = useAttempt()
  const params = () => ({ path: { id: store.id } })

  watch(
    () => store.id,
    () =>
      void attempt(async () => {
        list.value = await answer(client.GET('/api/v1/programs/{id}/exports', { params: params() }))
        there.value = true
      }),
    { immediate: true },
  )
  async function keep(next: KeptExport[]): Promise<void> {
    if (!there.value) return // what is kept already is not known: it would be lost
    await attempt(async () => {
      await answer(client.PUT('/api/v1/programs/{id}/exports', { params: params(), body: next }))
      list.value = next
    })
  }
  /** Keeps one more; what is there already is not kept twice. */
  const add = (one: KeptExport) =>
    list.value.some((e) => e.name === one.name) ? Promise.resolve() : keep([...list.value, one])
  const remove = (at: number) => keep(list.value.filter((_, i) => i !== at))
  return { list, failure, add, remove }
}
