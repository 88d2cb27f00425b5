import type { Landing } from '@/api/types'
import { shortDate, type Day } from '@/ui/dates'

/** The date at given odds; undefined where it lies beyond what was played. */
export const dateAt = (landing: Pick<Landing, 'dates'> | undefined, odds: number): string | undefined =>
  landing?.dates.find((d) => d.odds === odds)?.date

/** "30 May – 13 Jun": from even odds to 85 %. */
export function landingRange(landing: Landing | undefined, near: Day): string {
  const even = dateAt(landing, 50)
  const safe = dateAt(landing, 85)
  if (!even) return 'beyond the plan'
  if (!safe) return `${shortDate(even, near)} or much later`
  return even === safe ? shortDate(even, near) : `${shortDate(even, near)} – ${shortDate(safe, near)}`
}
