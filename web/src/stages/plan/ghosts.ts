import { computed, type ComputedRef } from 'vue'
import { useGhostLine } from './compare/compare'
import { useDraft } from './draft'
import { useLevers } from './levers'

/** An item that something proposed would put into an iteration; no `to` unplaces it. */
export interface Ghost {
  item: string
  team: string
  to?: string
}

/**
 * What is drawn on the plan and is not in it: the ticked moves of a draft, else those of a lever, else where the items
 * of another line stand.
 */
export function useGhosts(): ComputedRef<Ghost[]> {
  const draft = useDraft()
  const levers = useLevers()
  const line = useGhostLine()
  return computed(() =>
    draft.visible
      ? draft.proposals
          .filter((p) => draft.accepted.has(p.key))
          .flatMap(({ places, item, team, to }) =>
            places
              ? places.filter((x) => x.size > x.was).map((x) => ({ item, team, to: x.iteration }))
              : [{ item, team, to }],
          )
      : levers.moves.length
        ? levers.moves
        : line.moves,
  )
}
