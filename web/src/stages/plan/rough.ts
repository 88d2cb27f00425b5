import type { Item, ItemFacts } from '@/api/types'

/** What of a rough size stands in one iteration, or nowhere: drawn and moved like an item, and none. */
export interface RoughBlock extends Item {
  /** The item that has the rough size. */
  of: string
}

/** No key of an item can have such a sign in it. */
const SIGN = '\u001f'
export const roughKey = (item: string, team: string, iteration = ''): string =>
  [item, team, iteration].join(SIGN)

export const isRough = (item: Item): item is RoughBlock => 'of' in item

/** The key that says of whom a block is: an item's own, or that of the item that is rough. */
export const ownerOf = (item: Item): string => (isRough(item) ? item.of : item.key)

/** The blocks of an item's rough sizes, in their order and by time; what stands nowhere comes last. */
export function roughBlocks(item: Item, facts: ItemFacts | undefined): RoughBlock[] {
  return (facts?.rough ?? []).flatMap((r) =>
    [...(r.places ?? []), ...(r.loose ? [{ iteration: '', size: r.loose }] : [])].map(
      ({ iteration, size }) => ({
        key: roughKey(item.key, r.team, iteration),
        of: item.key,
        title: item.title,
        kind: item.kind,
        team: r.team,
        release: facts?.release,
        iteration: iteration || undefined,
        size,
        state: 'todo' as const,
      }),
    ),
  )
}
