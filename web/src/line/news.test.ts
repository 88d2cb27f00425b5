// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { client } from '@/api/client'
import type { ProgramNews } from '@/api/types'
import { useNews } from './news'

const piece = {
  revision: 7,
  at: '2027-03-02T10:00:00Z',
  by: 'Bo',
  about: 'said',
  item: 'A-1',
  title: 'A',
  text: '',
}
const found = (...pieces: unknown[]): ProgramNews[] => [
  { id: 1, name: 'Small', revision: 9, news: pieces, more: false } as ProgramNews,
]
const answered = (data: unknown) => ({ data, response: new Response() }) as never

beforeEach(() => setActivePinia(createPinia()))

it('says up to which revision they were seen, and looks again', async () => {
  const news = useNews()
  const get = vi.spyOn(client, 'GET').mockResolvedValueOnce(answered({ programs: found(piece, piece) }))
  const put = vi.spyOn(client, 'PUT').mockResolvedValue(answered(undefined))
  await news.load()
  expect(news.title).toBe('2 news')
  get.mockResolvedValueOnce(answered({ programs: found() }))
  await news.see()
  expect(put.mock.calls[0][1]).toEqual({ params: { path: { id: 1 } }, body: { revision: 9 } })
  expect(news.title).toBe('')
})

it('keeps what it knows where it cannot look, and nothing of who was signed in before', async () => {
  const news = useNews()
  const get = vi.spyOn(client, 'GET').mockResolvedValueOnce(answered({ programs: found(piece) }))
  await news.load()
  get.mockRejectedValueOnce(new Error('no line'))
  await news.load()
  expect(news.count).toBe(1)
  let late: (answer: never) => void = () => undefined
  get.mockReturnValueOnce(new Promise((resolve) => (late = resolve)) as never)
  const looking = news.load()
  news.forget()
  late(answered({ programs: found(piece) }))
  await looking
  expect(news.count).toBe(0)
})
