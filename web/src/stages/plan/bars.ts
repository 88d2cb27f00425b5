import type { Day } from '@/ui/dates'

/** A stretch of days that stands in a row. */
export interface Stretch {
  start: Day
  end: Day // included
}

/**
 * Gives each stretch the first row in which it touches no other, in the order given; `apart` is
 * how many days lie between two of a row. Returns the rows, from 0.
 */
export function rowsOf(stretches: Stretch[], apart: number): number[] {
  const rows: Stretch[][] = []
  return stretches.map((s) => {
    const free = rows.findIndex((row) =>
      row.every((other) => other.end + apart < s.start || s.end + apart < other.start),
    )
    const row = free < 0 ? rows.push([]) - 1 : free
    rows[row].push(s)
    return row
  })
}
