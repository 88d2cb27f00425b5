import { useLocalStorage } from '@vueuse/core'
import { computed, type WritableComputedRef } from 'vue'
import type { PlanLook, View } from '@/api/types'
import { useProgram } from '@/line/program'
import { copyOf } from './views'

/** What a block or a card may show, beside its colour. */
export const partNames = {
  key: 'Key',
  title: 'Title',
  size: 'Size',
  assignee: 'Assigned to',
  state: 'State',
  priority: 'Priority',
  tags: 'Tags',
  checks: 'Checks met',
} as const
export type Part = keyof typeof partNames

/** What stands above the lanes in bars. */
export const barNames = { none: 'Nothing', feature: 'Features', initiative: 'Initiatives' } as const
export type Bars = keyof typeof barNames

export type Look = Required<Omit<PlanLook, 'bars'>> & { bars: Bars }
/** How things look where the view does not say. */
const plan: Look = {
  colourBy: 'release',
  needs: 'broken',
  density: 'usual',
  blocks: ['title', 'size'],
  onlyNeeds: false,
  bars: 'none',
}
const usual = { plan, track: { ...plan, blocks: ['key', 'title', 'size', 'assignee'] } } satisfies Record<
  string,
  Look
>
/** The view that keeps everything. */
export const everything: View = { key: 'all', name: 'Everything' }

/**
 * The view that a stage shows: what is kept, in which colours, and how it is drawn. It may differ
 * from the saved one of its key; the browser remembers it, by stage and program.
 */
export function useShownView(stage: keyof typeof usual) {
  const program = useProgram()
  const kept = useLocalStorage<Record<number, View>>(
    `jantrel-${stage}`,
    {},
    { listenToStorageChanges: false },
  )
  const view = computed<View>({
    get: () => kept.value[program.id] ?? everything,
    set: (next) => (kept.value = { ...kept.value, [program.id]: next }),
  })

  function look<K extends keyof Look>(name: K): WritableComputedRef<Look[K]> {
    return computed({
      get: () => (view.value.plan?.[name] as Look[K] | undefined) ?? usual[stage][name],
      set: (value) => {
        const plan = { ...view.value.plan, [name]: value } as Record<string, unknown>
        if (value === 'none') delete plan[name]
        view.value = { ...view.value, plan: plan as PlanLook }
      },
    })
  }

  /** Shows a saved view. One that does not say how the plan looks leaves that as it is. */
  function show(next: View): void {
    view.value = copyOf({ ...next, plan: next.plan ?? view.value.plan })
  }

  return {
    view,
    show,
    colourBy: look('colourBy'),
    showNeeds: look('needs'),
    density: look('density'),
    parts: look('blocks'),
    onlyNeeds: look('onlyNeeds'),
    bars: look('bars'),
  }
}
