import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client } from '@/api/client'
import type { Lever, LeverQuestion } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { useDraft } from './draft'

/** What is being mended, and the levers that the server found for it. */
export const useLevers = defineStore('levers', () => {
  const program = useProgram()
  const draft = useDraft()
  /** What is to be mended; undefined: nothing, and no panel. */
  const question = shallowRef<LeverQuestion>()
  /** The lever that is shown on the plan, by its words; nothing has changed. */
  const tried = ref('')
  const found = useAnswer(
    () =>
      question.value &&
      answer(
        client.POST('/api/v1/programs/{id}/levers', {
          params: { path: { id: program.id } },
          body: question.value,
        }),
      ),
    [question, () => program.revision],
    { wait: 100, forget: ([now], [before]) => now !== before },
  )

  const trying = computed(() => found.answer.value?.levers.find((l) => l.text === tried.value))
  /** Where the lever that is tried would put items. */
  const moves = computed(() => trying.value?.moves ?? [])
  const moving = computed(() => new Set(moves.value.map((m) => m.item)))

  /** Shows what would mend something, in place of a draft. */
  function open(what: LeverQuestion): void {
    draft.discard()
    tried.value = ''
    question.value = what
  }

  function close(): void {
    tried.value = ''
    question.value = undefined
  }

  function toggle(lever: Lever): void {
    tried.value = tried.value === lever.text ? '' : lever.text
  }

  const may = (lever: Lever) => lever.changes.every((change) => program.may(change))

  /** Makes a lever's changes, as one edit; what it does to the rest is then asked for again. */
  async function apply(lever: Lever): Promise<void> {
    if (await program.apply(lever.label, lever.changes)) tried.value = ''
  }

  return {
    question,
    tried,
    moves,
    moving,
    found: found.answer,
    failure: found.failure,
    asking: found.asking,
    open,
    close,
    toggle,
    may,
    apply,
  }
})
