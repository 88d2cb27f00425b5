// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import { useKeptSoon } from './useKeptSoon'

describe('what is kept by itself', () => {
  const kept: boolean[] = []
  let scope = effectScope()
  const made = () =>
    scope.run(() => {
      const soon = useKeptSoon((leaving) => {
        kept.push(leaving)
        soon.done()
        return Promise.resolve()
      }, 300)
      return soon
    })!
  beforeEach(() => {
    vi.useFakeTimers()
    kept.splice(0)
    scope = effectScope()
  })
  afterEach(() => {
    scope.stop()
    vi.useRealTimers()
  })

  it('is kept once, a moment after the last change', async () => {
    const soon = made()
    soon.touched()
    await vi.advanceTimersByTimeAsync(200)
    soon.touched()
    await vi.advanceTimersByTimeAsync(200)
    expect(kept).toEqual([])
    await vi.advanceTimersByTimeAsync(200)
    expect(kept).toEqual([false])
    await soon.now()
    expect(kept).toEqual([false])
  })

  it('is kept at once when the page is left, or another one comes', async () => {
    const soon = made()
    soon.touched()
    window.dispatchEvent(new Event('pagehide'))
    expect(kept).toEqual([true])
    window.dispatchEvent(new Event('pagehide'))
    expect(kept).toEqual([true])
    soon.touched()
    await soon.now()
    await vi.advanceTimersByTimeAsync(1000)
    expect(kept).toEqual([true, false])
  })
})
