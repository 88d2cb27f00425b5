import { computed, type ComputedRef } from 'vue'
import { useDraft } from './draft'
import { useLevers } from './levers'

/** An item that something proposed would put into an iteration; no `to` unplaces it. */
export interface Ghost {
  item: string
  team: string
  to?: string
}

/** What is drawn on the plan before it is: the ticked moves of a draft, else those of a lever. */
export function useGhosts(): ComputedRef<Ghost[]> {
  const draft = useDraft()
  const levers = useLevers()
  return computed(() =>
    draft.visible
      ? draft.proposals
          .filter((p) => draft.accepted.has(p.key))
          .flatMap(({ places, item, team, to }) =>
            places
              ? places.filter((x) => x.size > x.was).map((x) => ({ item, team, to: x.iteration }))
              : [{ item, team, to }],
          )
      : levers.moves,
  )
}
