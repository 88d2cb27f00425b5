import { computed } from 'vue'
import type { PageCard } from '@/api/types'
import { useProgram } from '@/line/program'
import { useReport } from '../report'
import PlanBody from './PlanBody.vue'
import HistoryBody from './HistoryBody.vue'
import ListBody from './ListBody.vue'
import OutlookBody from './OutlookBody.vue'

/** What draws each kind of card, but for charts and texts. */
export const bodies = {
  dates: PlanBody,
  capacity: PlanBody,
  odds: OutlookBody,
  'burn-up': OutlookBody,
  'burn-down': OutlookBody,
  flow: HistoryBody,
  ledger: HistoryBody,
  mix: ListBody,
  attention: ListBody,
  needs: ListBody,
}

/** What cards are called: as somebody named them, or what they are about. */
export function useCardTitles(): (card: PageCard) => string {
  const store = useProgram()
  const report = useReport()
  return (card) => {
    const kind = report.vocabulary?.cards.find((c) => c.kind === card.kind)?.title ?? ''
    const { release, team, item } = card.about ?? {}
    const about =
      store.releases.get(release ?? '')?.name ??
      store.teams.get(team ?? '')?.name ??
      store.items.get(item ?? '')?.title
    return card.title || (about ? `${kind}: ${about}` : kind)
  }
}

/** What a card is called, and whether what it is about is gone by now. */
export function useCard(card: () => PageCard) {
  const store = useProgram()
  const titleOf = useCardTitles()
  const lost = computed(() => {
    const { release, team, item } = card().about ?? {}
    return (
      (!!release && !store.releases.has(release)) ||
      (!!team && !store.teams.has(team)) ||
      (!!item && !store.items.has(item))
    )
  })
  const title = computed(() => titleOf(card()))
  return { title, lost }
}
