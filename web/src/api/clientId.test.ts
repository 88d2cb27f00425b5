// @vitest-environment jsdom
import { beforeEach, describe, expect, it, vi } from 'vitest'

/** The name that a page gets which finds the storage as it is. */
async function named(): Promise<string> {
  vi.resetModules()
  return (await import('./client')).clientId
}

describe('the name of an open page', () => {
  beforeEach(() => sessionStorage.clear())

  it('stays over a reload', async () => {
    const first = await named()
    dispatchEvent(new Event('pagehide'))
    expect(await named()).toBe(first)
  })

  it('is another in a tab that is a copy', async () => {
    const first = await named()
    expect(await named()).not.toBe(first)
  })

  it('is still taken when the page comes back from the history', async () => {
    const first = await named()
    dispatchEvent(new Event('pagehide'))
    dispatchEvent(new Event('pageshow'))
    expect(await named()).not.toBe(first)
  })
})
