/** What is typed into a cell of hours: how many, and a note after them. */
export interface Typed {
  hours: number
  note?: string
}

/**
 * Reads hours as people write them: 2, 2.5, 2,5, 1:30, 1h30, 45m, and what was done after
 * them ("2.5 found the leak"). Nothing is none. Undefined where it means no hours.
 */
export function readHours(text: string): Typed | undefined {
  const typed = text.trim()
  if (!typed) return { hours: 0 }
  const clock = /^(\d{1,2})\s*(?::|h)\s*(\d{1,2})(?!\d)\s*m?(?:\s+(.*))?$/.exec(typed)
  if (clock && Number(clock[2]) < 60) return made(Number(clock[1]) + Number(clock[2]) / 60, clock[3])
  const minutes = /^(\d{1,4})\s*m(?:in)?(?:\s+(.*))?$/.exec(typed)
  if (minutes) return made(Number(minutes[1]) / 60, minutes[2])
  const plain = /^(\d{1,2}(?:[.,]\d{1,2})?|[.,]\d{1,2})\s*h?(?:\s+(.*))?$/.exec(typed)
  if (plain) return made(Number(plain[1].replace(',', '.')), plain[2])
  return undefined
}

function made(hours: number, note?: string): Typed | undefined {
  if (hours > 24) return undefined
  const said = note?.trim()
  return { hours: Math.round(hours * 100) / 100, ...(said && { note: said }) }
}

/** Hours as a cell shows them: to the hundredth, nothing for none. */
export const hoursCell = (hours: number): string => (hours ? String(Math.round(hours * 100) / 100) : '')
