import type { Team } from '@/api/types'

const units = { points: 'pt', days: 'd', hours: 'h' } as const

/** A size without needless digits. */
export const amount = (n: number): string => String(Math.round(n * 10) / 10)

/** "5 pt": a size with its team's unit. */
export const sized = (n: number | undefined, team: Pick<Team, 'unit'> | undefined): string =>
  n === undefined ? 'no size' : `${amount(n)} ${team ? units[team.unit] : ''}`.trim()

/** "1 item", "3 items". */
export const count = (n: number, one: string, many = one + 's'): string => `${n} ${n === 1 ? one : many}`

/** The lines of a text that say something. */
export const linesOf = (text: string): string[] =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)

/** "3 KB", "1.2 MB", "4.0 GB". */
export function bytes(n: number): string {
  if (n < 1024 * 1024) return `${n ? Math.max(1, Math.round(n / 1024)) : 0} KB`
  if (n < 1024 ** 3) return `${(n / 1024 ** 2).toFixed(n < 100 * 1024 ** 2 ? 1 : 0)} MB`
  return `${(n / 1024 ** 3).toFixed(1)} GB`
}

/** "35 %", which never breaks over two lines. */
export const percent = (share: number): string => `${Math.round(share * 100)}\u00a0%`

/** A share as a number of percent, to two places. */
export const inPercent = (share: number): number => Math.round(share * 10_000) / 100

/** "+3 days", "−2 days", "no change". */
export function days(n: number): string {
  if (n === 0) return 'no change'
  return `${n > 0 ? '+' : '−'}${count(Math.abs(n), 'day')}`
}

/** "14 days spare", "broken by 3 days". */
export function spareText(spare: number | undefined, status: string): string {
  if (status === 'broken')
    return spare === undefined ? 'broken: unplaced' : `broken by ${count(-spare, 'day')}`
  if (spare === undefined) return 'holds'
  return `${count(spare, 'day')} spare`
}
