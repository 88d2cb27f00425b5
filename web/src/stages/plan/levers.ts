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
  const ask = (signal: AbortSignal, quick?: boolean) =>
    question.value &&
    answer(
      client.POST('/api/v1/programs/{id}/levers', {
        params: { path: { id: program.id } },
        body: { ...question.value, quick },
        signal,
      }),
    )
  const asked = { wait: 100, forget: ([now]: unknown[], [before]: unknown[]) => now !== before }
  /** The first that come to mind, to be read while all are tried: asked for where none are in view. */
  const first = useAnswer((signal) => ask(signal, true), [question], asked)
  const all = useAnswer((signal) => ask(signal), [question, () => program.revision], asked)
  const found = computed(() => all.answer.value ?? first.answer.value)

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
