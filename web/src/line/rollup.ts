import type { ItemFacts, Rollup } from '@/api/types'
import { shortDate } from '@/ui/dates'
import { amount, count, percent, sized } from '@/ui/format'
import type { useProgram } from './program'

type Store = ReturnType<typeof useProgram>

/** Share of the items that are done, 0 to 1. */
export const progress = (r: Rollup): number => (r.items ? r.done / r.items : 0)

const sums = (r: Rollup, store: Store): string =>
  r.sizes
    .map((s) => {
      const team = store.teams.get(s.team)
      const parts = [
        s.size || !s.rough ? sized(s.size, team) : '',
        s.rough ? `${sized(s.rough, team)} rough` : '',
      ]
      return `${s.team} ${parts.filter(Boolean).join(' + ')}`
    })
    .join(' · ')

type RoughFacts = NonNullable<ItemFacts['rough']>[number]
/** "Chart Desk 12–20 pt: 10 pt in items, 6 pt to be expected beyond". */
export function roughText(r: RoughFacts, store: Store): string {
  const team = store.teams.get(r.team)
  const range = r.most > r.least ? `${amount(r.least)}–${sized(r.most, team)}` : sized(r.least, team)
  const rest = r.over
    ? `${sized(r.over, team)} more than that`
    : r.rest
      ? `${sized(r.rest, team)} to be expected beyond`
      : 'none to be expected beyond'
  return `${team?.name ?? r.team} ${range}: ${r.covered ? `${sized(r.covered, team)} in items` : 'no items yet'}, ${rest}`
}

const dates = (r: Rollup, store: Store): string =>
  r.end ? `${shortDate(r.start, store.todayDay)} – ${shortDate(r.end, store.todayDay)}` : ''

/** All that items add up to, in a line. */
export const rollupText = (r: Rollup, store: Store): string =>
  [
    count(r.items, 'item'),
    `${percent(progress(r))} done`,
    sums(r, store),
    r.unsized ? `${r.unsized} without size` : '',
    dates(r, store),
    r.unplaced ? `${r.unplaced} unplaced` : '',
  ]
    .filter(Boolean)
    .join(' · ')

/** What the items of a group add up to, in the columns that say the same of one item. */
export function rolledUp(field: string, r: Rollup, store: Store): string | undefined {
  switch (field) {
    case 'team':
      return sums(r, store)
    case 'size':
      return r.sizes.length === 1 ? amount(r.sizes[0].size) : ''
    case 'iteration':
      return dates(r, store)
    case 'state':
      return `${percent(progress(r))} done`
    case 'readiness':
      return r.unsized ? `${r.unsized} without size` : ''
    default:
      return undefined
  }
}
