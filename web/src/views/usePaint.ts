import { computed, reactive } from 'vue'
import { answer, client } from '@/api/client'
import type { ColourRule, Item, View } from '@/api/types'
import { useAnswer } from '@/line/useAnswer'
import { useProgram } from '@/line/program'
import { colourOf, legend, type ColourBy } from '@/ui/colours'
import { paints } from './paints'

export type Painted = ReturnType<typeof usePaint>

/** What a view leaves out and colours, as the server said last, and what its colours stand for. */
export function usePaint(view: () => View, colourBy: () => ColourBy) {
  const store = useProgram()
  const { answer: paint, failure } = useAnswer(
    () =>
      store.status !== 'ready' || !(view().filter?.conditions?.length || view().colours?.length)
        ? undefined
        : answer(
            client.POST('/api/v1/programs/{id}/paint', {
              params: { path: { id: store.id } },
              body: { view: view() },
            }),
          ),
    [
      () => JSON.stringify([view().filter, view().colours]),
      () => store.status,
      () => store.revision,
      () => store.id,
    ],
    { forget: ([, , , id], [, , , was]) => id !== was },
  )
  const leftOut = computed(() => new Set(paint.value?.leftOut))
  const ruleOf = computed(() => {
    const of = new Map<string, ColourRule>()
    paint.value?.colours.forEach((keys, r) => {
      const rule = view().colours?.[r]
      if (rule) for (const key of keys) of.set(key, rule)
    })
    return of
  })
  const swatches = computed(() => legend(colourBy(), store.program))
  const colours = computed(() => new Map(swatches.value.map((s) => [s.key, s.colour])))
  /** The rules with what the legend calls them, and how many items each colours; none where colours mean something else. */
  const rules = computed(() =>
    colourBy() !== 'rules'
      ? []
      : (view().colours ?? []).map((rule, i) => ({
          ...rule,
          label: rule.name || paint.value?.names[i] || 'everything',
          items: paint.value?.colours[i]?.length,
        })),
  )
  /** The rule that colours an item; undefined where none holds, or where colours mean something else. */
  const rule = (key: string) => (colourBy() === 'rules' ? ruleOf.value.get(key) : undefined)
  /** The colour of an item, or of a part of the one of a key. */
  function colour(item: Item, key = item.key): string {
    const painted = rule(key)
    if (painted) return paints[painted.colour].fill
    return colourOf(colourBy(), colours.value, item, store.itemFacts.get(key))
  }

  return reactive({ paint, failure, leftOut, swatches, rules, rule, colour })
}
