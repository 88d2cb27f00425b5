import { asDate, months, shortDay, toDate, toDay, type Day } from './dates'

/** How dates can be written, for whoever wrote something else. */
export const dayHint = 'Write 12 Feb 2027, 12.2., 2027-02-12, or +2w for two weeks from today.'

/** "12 Feb 2027": how a date reads wherever it is entered. */
export const dayText = (date: string | undefined): string => (date ? shortDay(toDay(date), Number.NaN) : '')

/** A day that there is, or undefined: 30 February is none. */
function real(year: number, month: number, day: number): Day | undefined {
  if (year < 1900 || year > 2999) return undefined
  const found = Date.UTC(year, month - 1, day) / 86_400_000
  const date = asDate(found)
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day ? found : undefined
}

const fullYear = (text: string): number => (text.length === 2 ? 2000 + Number(text) : Number(text))

/** Without a year: the next such day, or one of the last half year. */
function nearest(month: number, day: number, today: Day): Day | undefined {
  const year = Number(toDate(today).slice(0, 4))
  for (const y of [year, year + 1]) {
    const found = real(y, month, day)
    if (found !== undefined && found >= today - 182) return found
  }
  return real(year, month, day)
}

/**
 * The day that a text means, seen from today; undefined where it means none. It may be
 * 2027-02-12, 12.2.2027, 12.2., 12 Feb 2027, 12 Feb, Feb 12, today, +3d, +2w or -1m.
 */
export function parseDay(text: string, today: Day): Day | undefined {
  const t = text.trim().toLowerCase().replace(/,/g, ' ').replace(/\s+/g, ' ')
  if (t === 'today') return today
  if (t === 'tomorrow') return today + 1
  let m = /^(\d{4})-(\d{1,2})-(\d{1,2})$/.exec(t)
  if (m) return real(Number(m[1]), Number(m[2]), Number(m[3]))
  m = /^(\d{1,2})\. ?(\d{1,2})\.? ?(\d{4}|\d{2})?$/.exec(t)
  if (m)
    return m[3]
      ? real(fullYear(m[3]), Number(m[2]), Number(m[1]))
      : nearest(Number(m[2]), Number(m[1]), today)
  m = /^([+-])\s?(\d{1,4})\s?([dwmy])[a-z]*$/.exec(t)
  if (m) {
    const n = Number(m[2]) * (m[1] === '-' ? -1 : 1)
    if (m[3] === 'd') return today + n
    if (m[3] === 'w') return today + 7 * n
    const [year, month, day] = toDate(today).split('-').map(Number)
    const all = year * 12 + month - 1 + n * (m[3] === 'y' ? 12 : 1)
    // The same day of that month, or its last.
    for (let d = day; d > 27; d--) {
      const found = real(Math.floor(all / 12), (all % 12) + 1, d)
      if (found !== undefined) return found
    }
    return real(Math.floor(all / 12), (all % 12) + 1, Math.min(day, 27))
  }
  m = /^(\d{1,2})\.? ([a-z]{3,9})\.?(?: (\d{4}|\d{2}))?$/.exec(t)
  const named = m ? [m[1], m[2], m[3]] : undefined
  const turned = named ? undefined : /^([a-z]{3,9})\.? (\d{1,2})(?: (\d{4}))?$/.exec(t)
  const [day, name, year] = named ?? (turned ? [turned[2], turned[1], turned[3]] : [])
  if (!day || !name) return undefined
  const month = months.findIndex((x) => name.startsWith(x.toLowerCase())) + 1
  if (!month) return undefined
  return year ? real(fullYear(year), month, Number(day)) : nearest(month, Number(day), today)
}
