/**
 * A question that is asked again and again, as what it is about changes: whoever waits has the newest answer, and one
 * that a later question overtook is dropped.
 */
export function newest<T>(
  ask: () => Promise<T>,
  take: (found: T) => void,
  fail: (error: unknown) => void,
): () => Promise<void> {
  let latest: Promise<void> = Promise.resolve()
  return () => {
    const mine: Promise<void> = ask().then(
      (found) => (mine === latest ? take(found) : latest),
      (error: unknown) => (mine === latest ? fail(error) : latest),
    )
    latest = mine
    return mine
  }
}
