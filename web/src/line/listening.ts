/** How long until a lost line is tried again, in ms: longer each time, up to half a minute. */
export const againAfter = (tries: number): number => Math.min(30_000, 1500 * 2 ** tries)

/** What somebody does who looks at a page. */
const looks = ['focus', 'pointerdown', 'keydown'] as const

/**
 * Hears events from an address until the function that is returned is called. A line that is lost is tried again, less and
 * less often, and at once when the network is back; one that the server asks to rest is opened again when somebody looks
 * at the page.
 */
export function listenTo(
  url: string,
  heard: Record<string, (data: string) => void>,
  lost: () => void = () => undefined,
): () => void {
  let line: EventSource | undefined
  let timer: ReturnType<typeof setTimeout> | undefined
  let tries = 0
  let resting = false

  function begin(): void {
    clearTimeout(timer)
    line?.close()
    resting = false
    line = new EventSource(url)
    for (const [event, hear] of Object.entries(heard))
      line.addEventListener(event, (message) => {
        tries = 0
        hear((message as MessageEvent<string>).data)
      })
    line.addEventListener('rest', () => {
      line?.close()
      resting = true
    })
    line.onerror = () => {
      // A browser would try again by itself, however long the server is down, as often as ever.
      line?.close()
      lost()
      clearTimeout(timer)
      timer = setTimeout(begin, againAfter(tries++))
    }
  }
  const look = () => {
    if (resting && document.visibilityState === 'visible') begin()
  }
  begin()
  window.addEventListener('online', begin)
  for (const event of looks) window.addEventListener(event, look)
  return () => {
    clearTimeout(timer)
    line?.close()
    window.removeEventListener('online', begin)
    for (const event of looks) window.removeEventListener(event, look)
  }
}
