// @vitest-environment jsdom
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { againAfter, listenTo } from './listening'

/** Lines to a server that were opened, the newest last. */
let lines: Line[] = []
class Line extends EventTarget {
  closed = false
  onerror?: () => void
  constructor(readonly url: string) {
    super()
    if (url === '/events') lines.push(this) // others may listen in the same document
  }
  close() {
    this.closed = true
  }
  says(event: string, data = '') {
    this.dispatchEvent(new MessageEvent(event, { data }))
  }
}

beforeEach(() => {
  lines = []
  vi.useFakeTimers()
  vi.stubGlobal('EventSource', Line)
})
afterEach(() => vi.useRealTimers())

it('tries a lost line again, less and less often, until it hears something', () => {
  const lost = vi.fn()
  const heard = vi.fn()
  const end = listenTo('/events', { beat: heard }, lost)
  for (let hour = 0; hour < 3600_000; hour += 1000) {
    if (!lines.at(-1)!.closed) lines.at(-1)!.onerror!()
    vi.advanceTimersByTime(1000)
  }
  expect(lines.length).toBeGreaterThan(100)
  expect(lines.length).toBeLessThan(130)
  expect(lost).toHaveBeenCalledTimes(lines.filter((l) => l.closed).length)
  vi.advanceTimersByTime(30_000)
  lines.at(-1)!.says('beat', 'x')
  expect(heard).toHaveBeenCalledWith('x')
  const before = lines.length
  lines.at(-1)!.onerror!()
  vi.advanceTimersByTime(againAfter(0))
  expect(lines).toHaveLength(before + 1)
  lines.at(-1)!.onerror!()
  window.dispatchEvent(new Event('online'))
  expect(lines, 'at once').toHaveLength(before + 2)
  end()
  expect(lines.every((l) => l.closed)).toBe(true)
  window.dispatchEvent(new Event('online'))
  vi.advanceTimersByTime(3600_000)
  expect(lines).toHaveLength(before + 2)
})

it('rests when it is asked to, until somebody looks at the page', () => {
  const end = listenTo('/events', {})
  lines[0].says('rest')
  expect(lines[0].closed).toBe(true)
  vi.advanceTimersByTime(3600_000)
  expect(lines).toHaveLength(1)
  window.dispatchEvent(new KeyboardEvent('keydown', { key: 'a' }))
  expect(lines).toHaveLength(2)
  window.dispatchEvent(new KeyboardEvent('keydown', { key: 'a' }))
  expect(lines).toHaveLength(2)
  end()
})
