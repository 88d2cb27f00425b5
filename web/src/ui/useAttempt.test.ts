// @vitest-environment jsdom
import { expect, it } from 'vitest'
import { useAttempt } from './useAttempt'

it('does one thing at a time, and holds what went wrong with the last', async () => {
  const { failure, busy, attempt } = useAttempt()
  let finish = () => {}
  const first = attempt(() => new Promise<void>((resolve) => (finish = resolve)))
  expect(busy.value).toBe(true)
  expect(await attempt(() => Promise.resolve())).toBe(false)
  finish()
  expect(await first).toBe(true)
  expect(await attempt(() => Promise.reject(new Error('The line is down.')))).toBe(false)
  expect([failure.value, busy.value]).toEqual(['The line is down.', false])
  expect(await attempt(() => Promise.resolve())).toBe(true)
  expect(failure.value).toBe('')
})
