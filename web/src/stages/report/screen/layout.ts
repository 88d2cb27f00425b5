import type { PageCard } from '@/api/types'

/** Columns of a page's grid. */
const COLUMNS = 12

/** How many rows of a page a screen shows at once: as many as are still read from some way off. */
export const ROWS = 4

type Sized = Pick<PageCard, 'wide' | 'high'>

/** How many rows some cards fill, laid out as a browser does: from left to right, then down, never back up. */
export function rowsOf(cards: readonly Sized[]): number {
  const taken: boolean[][] = []
  const free = (row: number, column: number, card: Sized) => {
    for (let r = row; r < row + card.high; r++)
      for (let c = column; c < column + card.wide; c++) if (taken[r]?.[c]) return false
    return true
  }
  let [row, column, rows] = [0, 0, 0]
  for (const card of cards) {
    while (column + card.wide > COLUMNS || !free(row, column, card)) {
      column++
      if (column + card.wide > COLUMNS) [row, column] = [row + 1, 0]
    }
    for (let r = row; r < row + card.high; r++) {
      taken[r] ??= []
      for (let c = column; c < column + card.wide; c++) taken[r][c] = true
    }
    rows = Math.max(rows, row + card.high)
    column += card.wide
  }
  return rows
}

/** The cards of a page as a screen shows them one after the other: each alone, or as many as fit. */
export function screenfuls<T extends Sized>(cards: readonly T[], single: boolean): T[][] {
  const full: T[][] = []
  for (const card of cards) {
    const last = full.at(-1)
    if (last && !single && rowsOf([...last, card]) <= ROWS) last.push(card)
    else full.push([card])
  }
  return full
}

/** Whether a screen is dim at an hour of the day: from an hour up to another, over midnight too; never where both are the same. */
export function isDim(hour: number, from: number, to: number): boolean {
  return from <= to ? hour >= from && hour < to : hour >= from || hour < to
}

/** How high the line is that says how many rows there are besides, in pixels. */
const MORE = 22

/**
 * What does not fit of rows that end at some places: of those that end above where the list does, and of some more that are
 * not there. It is where the last row ends that is seen whole above a line that says how many there are besides, in a card
 * of a height; nothing, where all fit.
 */
export function cutAfter(
  ends: readonly number[],
  { list, card }: { list: number; card: number },
  more: number,
): { top: number; more: number } | undefined {
  if (!more && ends.every((end) => end <= list)) return undefined
  const room = Math.min(list, card - MORE)
  const whole = ends.filter((end) => end <= room)
  return { top: Math.max(0, ...whole) || room, more: more + ends.length - whole.length }
}
