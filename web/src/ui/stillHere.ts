/**
 * Asks, some time after this is called, whether somebody is still where they were then, or nowhere, because what they were
 * at has gone. Only then may an answer that comes late put the focus somewhere.
 */
export function stillHere(): () => boolean {
  const at = document.activeElement
  return () => [at, document.body].includes(document.activeElement)
}
