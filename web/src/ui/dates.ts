/** A civil date, as whole days since 1 January 1970: what time is drawn with. */
export type Day = number

const MS = 86_400_000

export const toDay = (date: string): Day => Date.parse(date + 'T00:00:00Z') / MS

/** A day as the interface writes it: 2027-06-25. */
export const toDate = (day: Day): string => asDate(day).toISOString().slice(0, 10)

/** Midnight of a day, in UTC. */
export const asDate = (day: Day): Date => new Date(day * MS)

/** The days of a week, Monday first. */
export const dayNames = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

export const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const longMonths = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]

/** "25 Jun", with the year where it is not the year of `near`. */
export function shortDay(day: Day, near?: Day): string {
  const d = asDate(day)
  const text = `${d.getUTCDate()} ${months[d.getUTCMonth()]}`
  const same = near === undefined || asDate(near).getUTCFullYear() === d.getUTCFullYear()
  return same ? text : `${text} ${d.getUTCFullYear()}`
}

export function shortDate(date: string | undefined, near?: Day): string {
  return date ? shortDay(toDay(date), near) : 'no date'
}

export interface Tick {
  day: Day
  label: string
}

/** The first days of the months that touch a stretch of days. */
export function monthTicks(from: Day, to: Day): Tick[] {
  const first = asDate(from)
  const ticks: Tick[] = []
  for (let m = 0; ; m++) {
    const start = new Date(Date.UTC(first.getUTCFullYear(), first.getUTCMonth() + m, 1))
    const day = start.getTime() / MS
    if (day > to) return ticks
    const month = start.getUTCMonth()
    ticks.push({
      day,
      label: longMonths[month] + (month === 0 || m === 0 ? ` ${start.getUTCFullYear()}` : ''),
    })
  }
}

/** The Mondays in a stretch of days, every `weeks` of them. */
export function weekTicks(from: Day, to: Day, weeks: number): Tick[] {
  const ticks: Tick[] = []
  const monday = 4 // 5 January 1970
  const step = 7 * weeks
  for (let day = Math.ceil((from - monday) / step) * step + monday; day <= to; day += step) {
    ticks.push({ day, label: String(asDate(day).getUTCDate()) })
  }
  return ticks
}

const parts = { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' } as const
const clock = new Intl.DateTimeFormat('en-GB', parts)
const clockOfYears = new Intl.DateTimeFormat('en-GB', { ...parts, year: 'numeric' })

/** When something was done, by the clock of who looks: "25 Jun, 14:05", with the year where it is another. */
export function timeText(at: string, now = new Date()): string {
  const when = new Date(at)
  return (when.getFullYear() === now.getFullYear() ? clock : clockOfYears).format(when)
}
