import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { answer, client } from '@/api/client'
import type { LineInView } from '@/api/inView'
import type { Comparison } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'

/** How a line is named among those that are compared: live, scenario-7, baseline-3. */
export type LineName = string

/** The line in view by its name; of the past its revision. */
export const nameOfLine = (line: LineInView, revision: number): LineName => {
  if (line.scenario) return `scenario-${line.scenario}`
  if (!line.at) return 'live'
  return line.at.startsWith('baseline-') ? line.at : String(revision)
}

/** What holds lines against each other: asked for by their names. */
export const compareLines = (id: number, of: LineName[]): Promise<Comparison> =>
  answer(client.GET('/api/v1/programs/{id}/compare', { params: { path: { id }, query: { of } } }))

/** The line whose places are drawn on the plan as ghosts. */
export const useGhostLine = defineStore('ghost-line', () => {
  const store = useProgram()
  /** By its name; empty: none. */
  const of = ref<LineName>('')
  const here = computed(() => nameOfLine(store.line, store.revision))
  const { answer: found } = useAnswer(
    () =>
      of.value && of.value !== here.value && store.status === 'ready'
        ? compareLines(store.id, [here.value, of.value])
        : undefined,
    [of, here, () => store.status, () => store.revision, () => store.live],
  )
  const name = computed(() => (found.value ? found.value.sides[1].name : ''))
  /** Where its items stand, of those that stand elsewhere. */
  const moves = computed(() =>
    (found.value?.items ?? [])
      .filter((x) => x.of[1].stand !== 'absent' && x.of[0].stand !== 'absent')
      .map((x) => ({ item: x.key, team: x.of[1].team ?? x.team, to: x.of[1].iteration })),
  )
  return { of, name, moves }
})
