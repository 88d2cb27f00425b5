import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client } from '@/api/client'
import type { Proposal, Proposed, SetUp, TeamVelocity } from '@/api/types'
import { useProgram } from './program'

/** What the set-up stage knows beside the program, and the edit it is about to make. */
export const useSetUp = defineStore('setUp', () => {
  const store = useProgram()
  const facts = shallowRef<SetUp>()
  /** The edit that waits for a yes, with what it would do. */
  const proposal = shallowRef<Proposal>()
  const working = ref(false)

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

  /** Asks what an edit would do; undefined if it cannot be done, which is then shown. */
  async function ask(body: Proposed): Promise<Proposal | undefined> {
    working.value = true
    try {
      return await answer(
        client.POST('/api/v1/programs/{id}/proposals', { params: { path: { id: store.id } }, body }),
      )
    } catch (error) {
      store.notice = { text: error instanceof Error ? error.message : String(error), severity: 'error' }
      return undefined
    } finally {
      working.value = false
    }
  }

  /** Asks what an edit would do and shows it; it is made when somebody agrees. */
  async function propose(body: Proposed): Promise<boolean> {
    const found = await ask(body)
    if (found) proposal.value = found
    return !!found
  }

  /** Makes an edit at once. */
  async function make(body: Proposed): Promise<boolean> {
    const found = await ask(body)
    return !!found && store.apply(found.label, found.changes)
  }

  async function agree(): Promise<void> {
    const found = proposal.value
    if (found && (await store.apply(found.label, found.changes))) proposal.value = undefined
  }

  const dismiss = () => (proposal.value = undefined)

  return { facts, proposal, working, committed, velocities, refresh, ask, propose, make, agree, dismiss }
})
