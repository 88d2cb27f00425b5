import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client } from '@/api/client'
import type { Lever, LeverQuestion, LeversFound } from '@/api/types'
import { useAnswer, type Answer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { useDraft } from './draft'

/** What is being mended, and the options that the server found for that. */
export const useLevers = defineStore('levers', () => {
  const program = useProgram()
  const draft = useDraft()
  /** What is to be mended; undefined: nothing, and no panel. */
  const question = shallowRef<LeverQuestion>()
  /** The lever that is shown on the plan, by its words; nothing has changed. */
  const tried = ref('')
  /**
   * What was found up to now. The server looks for so long and tells what it found; asked again, it goes on. The first
   * answer, where none is in view, is the first that come to mind.
   */
  const all: Answer<LeversFound> = useAnswer(
    (signal) =>
      question.value &&
      answer(
        client.POST('/api/v1/programs/{id}/levers', {
          params: { path: { id: program.id } },
          body: { ...question.value, quick: !found.value || undefined },
          signal,
        }),
      ),
    [question, () => program.revision],
    { wait: 100, forget: ([now], [before]) => now !== before, more: (found) => !!found.more },
  )
  const found = computed(() => all.answer.value)

  const trying = computed(() => found.value?.levers.find((l) => l.text === tried.value))
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
    found,
    failure: all.failure,
    asking: all.asking,
    open,
    close,
    toggle,
    may,
    apply,
  }
})
