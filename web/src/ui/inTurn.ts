/**
 * Does one thing after the other: what is asked meanwhile begins once all before it has ended, well or not. Whoever changes
 * part of a list does so in turn, and reads the list then, so that two quick edits do not undo one another.
 */
export function inTurn() {
  let last: Promise<unknown> = Promise.resolve()
  return <T>(what: () => Promise<T>): Promise<T> => {
    const done = last.then(what, what)
    last = done
    return done
  }
}

/**
 * A list with another part in place of one that was seen at a place, or without it. The list may have changed meanwhile:
 * where nothing is as it was seen, that part itself has changed, and is still at its place.
 */
export function changed<T>(now: T[], seen: T, at: number, to?: (x: T) => T): T[] {
  const text = JSON.stringify(seen)
  const same = (x: T) => JSON.stringify(x) === text
  const found = now[at] !== undefined && same(now[at]) ? at : now.findIndex(same)
  const place = found < 0 ? at : found
  return now.flatMap((x, i) => (i !== place ? [x] : to ? [to(x)] : []))
}
