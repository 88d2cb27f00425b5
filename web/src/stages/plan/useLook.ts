import { useStorage } from '@vueuse/core'
import { toRefs } from 'vue'
import type { ColourBy } from '@/ui/colours'
import type { Density } from './layout'
import type { ShowNeeds } from './needsShown'

/** What a block may show, beside its colour. */
export const partNames = {
  key: 'Key',
  title: 'Title',
  size: 'Size',
  assignee: 'Assigned to',
  state: 'State',
  tags: 'Tags',
  checks: 'Checks met',
} as const
export type Part = keyof typeof partNames

/** What stands above the lanes in bars. */
export const barNames = { none: 'Nothing', feature: 'Features', initiative: 'Initiatives' } as const
export type Bars = keyof typeof barNames

/** How the plan is drawn; the browser remembers it. */
export function useLook() {
  const look = useStorage(
    'jantrel-plan-look',
    {
      colourBy: 'release' as ColourBy,
      showNeeds: 'broken' as ShowNeeds,
      density: 'usual' as Density,
      parts: ['title', 'size'] as Part[],
      /** Blocks without a need step back. */
      onlyNeeds: false,
      bars: 'none' as Bars,
    },
    undefined,
    { mergeDefaults: true, listenToStorageChanges: false },
  )
  return toRefs(look.value)
}
