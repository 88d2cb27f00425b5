// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { useDownloads } from './useDownloads'

const saved: { name: string; text: Promise<string> }[] = []
vi.mock('./saveFile', () => ({
  saveFile: (name: string, content: Blob) => saved.push({ name, text: content.text() }),
}))

/** A body that is sent piece by piece, and ends in an error where it is stopped. */
function slowly(signal?: AbortSignal | null) {
  let send!: (text: string) => void
  let end!: () => void
  const body = new ReadableStream<Uint8Array>({
    start(to) {
      send = (text) => to.enqueue(new TextEncoder().encode(text))
      end = () => to.close()
      signal?.addEventListener('abort', () => to.error(signal.reason))
    },
  })
  return { body, send, end }
}

describe('files that are fetched in the page', () => {
  const { list, get, stop } = useDownloads()
  beforeEach(() => saved.splice(0))
  afterEach(() => {
    for (const d of [...list.value]) stop(d.id)
    vi.useRealTimers()
  })

  it('are told of once they take a while, and kept under the name that the server gives', async () => {
    vi.useFakeTimers()
    const sent = slowly()
    const headers = { 'Content-Disposition': 'attachment; filename="journal.csv"' }
    vi.stubGlobal('fetch', () => Promise.resolve(new Response(sent.body, { headers })))
    const done = get('/x', 'The journal')
    sent.send('day,')
    await vi.advanceTimersByTimeAsync(100)
    expect(list.value).toMatchObject([{ name: 'The journal', bytes: 4, slow: false }])
    await vi.advanceTimersByTimeAsync(400)
    expect(list.value[0].slow).toBe(true)
    sent.send('who')
    sent.end()
    await done
    expect(list.value).toEqual([])
    expect(saved.map((s) => s.name)).toEqual(['journal.csv'])
    expect(await saved[0].text).toBe('day,who')
  })

  it('are not kept when they are stopped', async () => {
    let asked: AbortSignal | null | undefined
    vi.stubGlobal('fetch', (_: string, { signal }: RequestInit) => {
      asked = signal
      return Promise.resolve(new Response(slowly(signal).body))
    })
    const done = get('/x', 'The plan')
    await Promise.resolve()
    stop(list.value[0].id)
    await done
    expect(asked?.aborted).toBe(true)
    expect(list.value).toEqual([])
    expect(saved).toEqual([])
  })

  it('say why they cannot be had', async () => {
    const problem = JSON.stringify({ detail: 'There is no such release.' })
    vi.stubGlobal('fetch', () => Promise.resolve(new Response(problem, { status: 404 })))
    await get('/x', 'The review')
    expect(list.value).toMatchObject([{ name: 'The review', failure: 'There is no such release.' }])
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('offline')))
    await get('/y', 'The plan')
    expect(list.value[1].failure).toBe('The server cannot be reached.')
  })

  it('are taken over from plain clicks on links to files alone', () => {
    vi.stubGlobal('fetch', () => new Promise(() => undefined))
    document.body.innerHTML =
      '<a id="file" href="/f" download><i>XLSX</i></a><a id="page" href="/p">Page</a><a id="made" href="blob:x" download>PNG</a>'
    const click = (id: string, more: MouseEventInit = {}) => {
      const event = new MouseEvent('click', { bubbles: true, cancelable: true, ...more })
      document.querySelector(id)!.dispatchEvent(event)
      return event.defaultPrevented
    }
    for (const left of [click('#page'), click('#made'), click('#file', { ctrlKey: true })])
      expect(left).toBe(false)
    expect(click('#file i')).toBe(true)
    expect(list.value.map((d) => d.name)).toEqual(['XLSX'])
  })
})
