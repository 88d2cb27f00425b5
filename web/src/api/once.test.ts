// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { RequestError } from './client'
import { once } from './once'

describe('an edit that is sent once', () => {
  beforeEach(() => vi.useFakeTimers())
  afterEach(() => vi.useRealTimers())

  it('goes again under the same name where the answer got lost', async () => {
    const names: string[] = []
    const failures = [0, 502, 504]
    const sent = once((header) => {
      names.push(header['Idempotency-Key'])
      const status = failures.shift()
      return status === undefined ? Promise.resolve('made') : Promise.reject(new RequestError('lost', status))
    })
    await vi.runAllTimersAsync()
    expect(await sent).toBe('made')
    expect(names).toHaveLength(4)
    expect(new Set(names).size).toBe(1)
  })

  it('is not sent again where it was refused', async () => {
    const send = vi.fn(() => Promise.reject(new RequestError('no', 409)))
    await expect(once(send)).rejects.toThrow('no')
    expect(send).toHaveBeenCalledTimes(1)
  })

  it('gives up in the end, and names the next otherwise', async () => {
    const names: string[] = []
    const send = (header: { 'Idempotency-Key': string }) => {
      names.push(header['Idempotency-Key'])
      return Promise.reject(new RequestError('The server cannot be reached.', 0))
    }
    for (let i = 0; i < 2; i++) {
      const sent = expect(once(send)).rejects.toThrow('cannot be reached')
      await vi.runAllTimersAsync()
      await sent
    }
    expect(names).toHaveLength(10)
    expect(new Set(names).size).toBe(2)
  })
})
