import { computed } from 'vue'
import type { PageCard } from '@/api/types'
import { useProgram } from '@/line/program'
import { useViews } from '@/views/views'
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

/** What something is called that a card is about; nothing where it is gone by now, or not known yet. */
function useAbouts(): (card: PageCard) => { name?: string; lost: boolean } {
  const store = useProgram()
  const views = useViews()
  return (card) => {
    const { release, team, item, view, mine } = card.about ?? {}
    if (release) return { name: store.releases.get(release)?.name, lost: !store.releases.has(release) }
    if (team) return { name: store.teams.get(team)?.name, lost: !store.teams.has(team) }
    if (item) return { name: store.items.get(item)?.title, lost: !store.items.has(item) }
    if (!view) return { lost: false }
    // On a screen its own are among those that it is told of.
    const all = [...(mine ? views.mine : (views.vocabulary?.readyMade ?? [])), ...(store.program.views ?? [])]
    const name = all.find((v) => v.key === view)?.name
    return { name, lost: !name && !!views.vocabulary }
  }
}

/** What cards are called: as somebody named them, or what they are about. */
export function useCardTitles(): (card: PageCard) => string {
  const report = useReport()
  const aboutOf = useAbouts()
  return (card) => {
    const kind = report.vocabulary?.cards.find((c) => c.kind === card.kind)?.title ?? ''
    const { name } = aboutOf(card)
    return card.title || (name ? `${kind}: ${name}` : kind)
  }
}

/** What a card is called, and whether what it is about is gone by now. */
export function useCard(card: () => PageCard) {
  const titleOf = useCardTitles()
  const aboutOf = useAbouts()
  return { title: computed(() => titleOf(card())), lost: computed(() => aboutOf(card()).lost) }
}
