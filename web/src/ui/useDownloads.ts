import { createGlobalState, useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { fetched, wordsOf } from '@/api/client'
import { saveFile } from './saveFile'

/** A file that is being made and fetched. */
export interface Download {
  id: number
  name: string
  /** How much of it is here. */
  bytes: number
  /** It takes long enough to be told of. */
  slow: boolean
  failure: string
}

/** After how long a file that is not here yet is told of, in milliseconds. */
const SLOW = 400

/** Files that are fetched in the page, so that one sees how far they are and can stop them; also while one is elsewhere. */
export const useDownloads = createGlobalState(() => {
  const list = ref<Download[]>([])
  const stops = new Map<number, AbortController>()
  let last = 0

  /** Puts a download away; one that goes on is stopped, and the server stops making it. */
  function stop(id: number): void {
    stops.get(id)?.abort()
    stops.delete(id)
    list.value = list.value.filter((d) => d.id !== id)
  }

  async function fetchAll(href: string, one: Download, signal: AbortSignal): Promise<void> {
    const response = await fetched(href, { signal })
    const parts: Uint8Array<ArrayBuffer>[] = []
    const reader = response.body?.getReader()
    for (let next = await reader?.read(); next && !next.done; next = await reader?.read()) {
      parts.push(next.value)
      one.bytes += next.value.length
    }
    const named = /filename="?([^";]+)"?/.exec(response.headers.get('Content-Disposition') ?? '')?.[1]
    saveFile(named ?? 'file', new Blob(parts, { type: response.headers.get('Content-Type') ?? '' }))
  }

  /** Fetches a file and has the browser keep it. */
  async function get(href: string, name: string): Promise<void> {
    list.value.push({ id: ++last, name, bytes: 0, slow: false, failure: '' })
    const one = list.value.at(-1)!
    const { id } = one
    const stopping = new AbortController()
    stops.set(id, stopping)
    const slow = setTimeout(() => (one.slow = true), SLOW)
    try {
      await fetchAll(href, one, stopping.signal)
      stop(id)
    } catch (error) {
      if (!stopping.signal.aborted) one.failure = wordsOf(error)
    } finally {
      clearTimeout(slow)
    }
  }

  // A plain click on a link to a file of the server, wherever it is; others are the browser's.
  useEventListener(document, 'click', (event) => {
    const link = (event.target as Element).closest<HTMLAnchorElement>('a[download]')
    if (!link?.href.startsWith(`${location.origin}/`)) return
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.shiftKey || event.altKey) return
    event.preventDefault()
    void get(link.href, link.ariaLabel ?? link.textContent.trim())
  })

  return { list, get, stop }
})
