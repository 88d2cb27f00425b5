import type { Landing, Pace, Turned } from '@/api/types'
import { shortDate, type Day } from '@/ui/dates'
import { count, percent } from '@/ui/format'

/** The date at given odds; undefined where it lies beyond what was played. */
export const dateAt = (landing: Pick<Landing, 'dates'> | undefined, odds: number): string | undefined =>
  landing?.dates.find((d) => d.odds === odds)?.date

/** "30 May – 13 Jun": from even odds to 85 %. */
export function landingRange(landing: Landing | undefined, near: Day): string {
  if (landing?.cannot?.length) return 'no date'
  const even = dateAt(landing, 50)
  const safe = dateAt(landing, 85)
  if (!even) return 'beyond the plan'
  if (!safe) return `${shortDate(even, near)} or much later`
  return even === safe ? shortDate(even, near) : `${shortDate(even, near)} – ${shortDate(safe, near)}`
}

/** What keeps a release from landing at all, in words; empty for nothing. */
export function cannotLand(landing: Landing, shown = 3): string {
  const keys = landing.cannot ?? []
  if (!keys.length) return ''
  const more = keys.length - shown
  return `never lands: ${keys.slice(0, shown).join(', ')}${more > 0 ? ` and ${more} more` : ''} cannot be played`
}

/** What a team's sizes have turned out as once work on them began, in words. */
export function turnedText(turned: Turned): string {
  const more = Math.round((turned.mean - 1) * 100)
  const change = more ? `${Math.abs(more)} % ${more > 0 ? 'larger' : 'smaller'}` : 'as large'
  const spread = `± ${Math.round(turned.spread * 100)} %`
  const how = turned.applied ? 'and are played so' : 'which the plays leave out'
  return `Its sizes turned out ${change} (${spread}, ${count(turned.items, 'item')}), ${how}`
}

/** How fast a team is believed to go, and why. */
export const paceText = (pace: Pace): string =>
  [pace.says, pace.turned && turnedText(pace.turned)].filter(Boolean).join('. ')

/** What a landing rests on, line by line: the chance that each date really carries, and what was drawn. */
export function landingBasis(landing: Landing, near: Day): string[] {
  const whole = (share: number) => `${Math.max(0.1, share * 100).toFixed(1)} %`
  return [
    ...new Set(
      landing.dates.map((d) =>
        d.date
          ? `by ${shortDate(d.date, near)}: ${percent(d.chance ?? 0)} (± ${whole(d.error ?? 0)})`
          : `with ${d.odds} %: beyond the time played`,
      ),
    ),
    landing.sampled
      ? `${count(landing.sampled, 'item')} without a size played with past sizes of the kind`
      : '',
    landing.rough ? `what is rough played as ${count(landing.rough, 'piece')}` : '',
    landing.growth
      ? `scope taken to grow by ${Number((landing.growth.share * 100).toFixed(1))} % an iteration, ${
          {
            set: 'set by hand for this release',
            measured: 'as it did so far',
            assumed: 'as the program assumes',
          }[landing.growth.basis]
        }`
      : '',
    landing.risks ? `${count(landing.risks, 'risk')} happening by their odds (Track, Risks)` : '',
    cannotLand(landing, 20),
    landing.expectedLateDays ? `expected to be ${landing.expectedLateDays.toFixed(1)} days late` : '',
  ].filter(Boolean)
}
