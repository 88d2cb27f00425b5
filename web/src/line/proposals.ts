import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { Intent } from '@/api/intents'
import type { Outcome, Problem } from '@/api/types'
import { effectGroups } from './effects'
import { useProgram } from './program'

/** An edit that was not made: what was meant, and what that would do. */
export interface Proposal extends Outcome {
  intent: Intent
  /** It comes out differently from what was agreed to: the plan has changed meanwhile. */
  anew: boolean
  /** Called when it was made. */
  agreed?: () => void
}

export interface Proposing {
  /** Called when the edit was made: the place to clear what was typed for it. */
  agreed?: () => void
  /** Called where it cannot be made; true where it says so itself. */
  failed?: (problem?: Problem) => boolean
  /** Whether it is made at once where it changes nothing that is planned and asks nothing. */
  atOnce?: boolean
}

/** The edit that waits for a yes, with what it would do: on every stage there is one at a time. */
export const useProposals = defineStore('proposals', () => {
  const store = useProgram()
  const proposal = shallowRef<Proposal>()
  const working = ref(false)

  /** Asks what an edit would do and shows it; it is made when somebody agrees. */
  async function propose(intent: Intent, { agreed, failed, atOnce }: Proposing = {}): Promise<boolean> {
    working.value = true
    const found = await store.mean(intent, { dry: true, landings: true }, { handled: failed })
    working.value = false
    if (!found) return false
    const shown = { ...found, intent, anew: false, agreed }
    const plain = !found.ask && !found.notes.length && found.changes > 0
    if (
      atOnce &&
      plain &&
      found.effects &&
      !effectGroups(found.effects, store.program, store.todayDay).length
    )
      await settle(shown)
    else proposal.value = shown
    return true
  }

  /** Asks again, with another answer to what the plan could not know. */
  async function reply(value: string): Promise<void> {
    const asked = proposal.value
    if (!asked?.ask) return
    await propose({ ...asked.intent, [asked.ask.field]: value } as Intent, { agreed: asked.agreed })
  }

  /** Makes an edit at once. */
  const make = async (intent: Intent): Promise<boolean> => !!(await store.mean(intent))

  /** Makes a proposed edit, if it still comes out as it did; else it is shown as it comes out now. */
  async function settle({ intent, revision, digest, agreed }: Proposal): Promise<void> {
    const handled = (problem?: Problem): boolean => {
      const now = problem?.errors?.find((e) => e.location === 'proposal')?.value as Outcome | undefined
      if (now) proposal.value = { ...now, intent, anew: true, agreed }
      return !!now
    }
    const done = await store.mean(intent, { revision, digest }, { handled })
    if (!done) return
    proposal.value = undefined
    agreed?.()
  }

  /** Makes the edit that is in view. */
  const agree = async (): Promise<void> => {
    if (proposal.value) await settle(proposal.value)
  }

  const dismiss = () => (proposal.value = undefined)

  return { proposal, working, propose, reply, make, agree, dismiss }
})
