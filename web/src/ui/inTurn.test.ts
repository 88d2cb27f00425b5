import { expect, it } from 'vitest'
import { inTurn } from './inTurn'

it('does one thing after the other, also after one that failed', async () => {
  const turn = inTurn()
  const list: string[] = []
  let answer = () => {}
  const slow = turn(async () => {
    const read = [...list]
    await new Promise<void>((resolve) => (answer = resolve))
    list.splice(0, list.length, ...read, 'first')
  })
  const failed = turn(() => Promise.reject(new Error('refused')))
  const quick = turn(() => Promise.resolve(list.push('second')))
  await Promise.resolve()
  expect(list).toEqual([])
  answer()
  await slow
  await expect(failed).rejects.toThrow('refused')
  expect(await quick).toBe(2)
  expect(list).toEqual(['first', 'second'])
})
