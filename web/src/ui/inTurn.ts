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
