import { expect, it, test } from 'vitest'
import { changed, inTurn } from './inTurn'

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

test('a part of a list that has changed meanwhile is the one that was seen', () => {
  const bigger = (n: { size: number }) => ({ size: n.size + 10 })
  const [one, two] = [{ size: 1 }, { size: 2 }]
  expect(changed([one, two], two, 1)).toEqual([one])
  expect(changed([one, two], two, 1, bigger)).toEqual([one, { size: 12 }])
  expect(changed([two], two, 1), 'one before it is gone').toEqual([])
  expect(changed([one, { size: 5 }], two, 1, bigger), 'it was changed itself').toEqual([one, { size: 15 }])
  expect(changed([one], two, 1), 'it is gone').toEqual([one])
})
