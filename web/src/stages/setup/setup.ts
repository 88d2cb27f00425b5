import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client } from '@/api/client'
import type { SetUp, TeamVelocity } from '@/api/types'
import { useProgram } from '@/line/program'

/** What the set-up stage knows beside the program. */
export const useSetUp = defineStore('setUp', () => {
  const store = useProgram()
  const facts = shallowRef<SetUp>()
  /** What was asked for from elsewhere, to be done by the part of the set-up that it is in. */
  const wanted = ref<{ what: string; key?: string }>()

  const committed = computed(() => new Map((facts.value?.people ?? []).map((x) => [x.person, x])))
  const velocities = computed(
    () => new Map((facts.value?.teams ?? []).map((x): [string, TeamVelocity] => [x.team, x])),
  )

  async function refresh(): Promise<void> {
    const id = store.id
    try {
      const found = await answer(client.GET('/api/v1/programs/{id}/set-up', { params: { path: { id } } }))
      if (id === store.id) facts.value = found
    } catch {
      // The line is down or the program gone: both are shown already.
    }
  }

  return { facts, wanted, committed, velocities, refresh }
})
