import type { CardAbout } from '@/api/types'
import { useViews } from '@/views/views'

/** A view as charts and cards name it; whose it is may be oneself alone. */
export type ViewNamed = Pick<CardAbout, 'view' | 'mine'>

/** A view that is named, as one choice: "view:ready", or of one's own "mine:ready". */
export const choiceOf = ({ view, mine }: ViewNamed): string =>
  view ? `${mine ? 'mine' : 'view'}:${view}` : ''

/** The view of a choice; none for the empty one. */
export function viewOf(choice: string): ViewNamed {
  const [kind, ...key] = choice.split(':')
  return choice ? { view: key.join(':'), mine: kind === 'mine' || undefined } : {}
}

/** The views that a card may be of, as choices with their names; one's own only where it is for oneself. */
export function viewChoices(own: boolean): { title: string; of: [string, string][] }[] {
  const views = useViews()
  return [
    { title: 'Views', of: [...(views.vocabulary?.readyMade ?? []), ...views.shared], mine: false },
    { title: 'Views of my own', of: own ? views.mine : [], mine: true },
  ].flatMap(({ title, of, mine }) =>
    of.length
      ? [{ title, of: of.map((v): [string, string] => [choiceOf({ view: v.key, mine }), v.name]) }]
      : [],
  )
}
