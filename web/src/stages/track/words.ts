import type { Team, TrackStep } from '@/api/types'
import type { Day } from '@/ui/dates'
import { sized } from '@/ui/format'
import { stateTitles } from '@/line/course'

/** What happened to an item, in a few words: "LC-61 added, 5 pt". */
export function stepText(step: TrackStep, team: Team | undefined): string {
  const size = sized(step.size, team)
  const of = team ? `, ${size}` : '' // without a team nothing is said of sizes
  switch (step.what) {
    case 'added':
      return `${step.item} added${of}`
    case 'removed':
      return `${step.item} taken out${of}`
    case 'grown':
      return `${step.item} has grown by ${size}`
    case 'shrunk':
      return `${step.item} is smaller by ${size}`
    case 'finished':
      return `${step.item} done${of}`
    case 'reopened':
      return `${step.item} is no longer done${of}`
    case 'blocked':
      return `${step.item} blocked`
    case 'freed':
      return `${step.item} no longer blocked`
    default:
      return step.from === 'review' && step.to === 'doing'
        ? `${step.item} sent back`
        : `${step.item} ${step.toStep || stateTitles.get(step.to || 'todo')}`
  }
}

/** Whether a step changes how much there is to do, rather than how much of it is done. */
export const isScope = (step: TrackStep): boolean =>
  step.what === 'added' || step.what === 'removed' || step.what === 'grown' || step.what === 'shrunk'

const weekday = new Intl.DateTimeFormat('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' })

/** "Tue 14:20". */
export const whenText = (at: string): string => weekday.format(new Date(at)).replace(',', '')

/** A moment in days, with the share of the day that had gone by, by the clock of who looks. */
export function momentOf(at: string): number {
  const when = new Date(at)
  return (when.getTime() - when.getTimezoneOffset() * 60_000) / 86_400_000
}

const full = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})

/** "Tue 2 Mar 14:20". */
export const fullText = (at: string): string => full.format(new Date(at)).replaceAll(',', '')

/** How long ago something was, in whole days of the calendar. */
export const daysSince = (at: string, today: Day): number => Math.max(0, today - Math.floor(momentOf(at)))
