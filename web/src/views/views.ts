import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { answer, client, wordsOf } from '@/api/client'
import type { ColourRule, Field, Filter, View, Vocabulary } from '@/api/types'
import { useProgram } from '@/line/program'

/** What views are made of, and those that are kept: ready-made, shared and one's own. */
export const useViews = defineStore('views', () => {
  const program = useProgram()
  const vocabulary = shallowRef<Vocabulary>()
  const mine = ref<View[]>([])
  const shared = computed(() => program.program.views ?? [])
  /** Ready-made ones first; one's own last, as keys of different owners may be equal. */
  const all = computed(() => [...(vocabulary.value?.readyMade ?? []), ...shared.value, ...mine.value])
  const fields = computed(
    () => new Map((vocabulary.value?.fields ?? []).map((f): [string, Field] => [f.name, f])),
  )

  /** The program that is begun with, and when it has been: whoever opens it waits for the same. */
  let begun: { id: number; done: Promise<Vocabulary> } | undefined

  /** Brings all that is known of views. A failure is tried again the next time. */
  function open(): Promise<Vocabulary> {
    const id = program.id
    if (begun?.id !== id) {
      const done = begin(id)
      begun = { id, done }
      done.catch(() => (begun = undefined))
    }
    return begun.done
  }

  /** The same, for a stage that shows what it has meanwhile: a failure is told. */
  async function bring(): Promise<void> {
    await open().catch((error: unknown) => (program.notice = { text: wordsOf(error), severity: 'error' }))
  }

  async function begin(id: number): Promise<Vocabulary> {
    const known = (vocabulary.value ??= await answer(client.GET('/api/v1/backlog-vocabulary')))
    mine.value = await answer(client.GET('/api/v1/programs/{id}/private-views', { params: { path: { id } } }))
    return known
  }

  /** Replaces one's own views. */
  async function keep(next: View[]): Promise<void> {
    await answer(
      client.PUT('/api/v1/programs/{id}/private-views', {
        params: { path: { id: program.id } },
        body: next,
      }),
    )
    mine.value = next
  }

  return { vocabulary, mine, shared, all, fields, open, bring, keep }
})

/** A copy that shares nothing: views are plain data, and reactive ones cannot be cloned. */
export const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** A filter and colour rules as what they say: two that say the same are equal, however they are written. */
export const plainFilter = (f: Filter | undefined): unknown => [
  f?.any ?? false,
  (f?.conditions ?? []).map((c) => [c.field, c.is, c.values ?? []]),
]
export const plainRules = (rules: ColourRule[] | undefined): unknown =>
  (rules ?? []).map((r) => [r.name ?? '', r.colour, r.mark ?? 'plain', plainFilter(r.filter)])
