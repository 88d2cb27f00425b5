// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { found, item } from './testing'
import { useWatch } from './watch'
import WatchPage from './WatchPage.vue'
import { drawn, eventually, typist } from '@/ui/testing'

/** The page, on a server that answers when it is told to. */
async function page() {
  vi.stubGlobal(
    'EventSource',
    class extends EventTarget {
      close() {}
    },
  )
  const waiting: ((answer: Response) => void)[] = []
  vi.stubGlobal('fetch', async (request: Request) => {
    const { pathname } = new URL(request.url)
    if (pathname === '/api/v1/watch') return new Promise<Response>((resolve) => waiting.push(resolve))
    return Response.json(pathname === '/api/v1/news' ? { programs: [] } : {})
  })
  const pinia = createPinia()
  setActivePinia(pinia)
  const host = drawn(WatchPage, {}, pinia)
  /** Answers the oldest question with what is under way and what is next. */
  const answer = async (going: string[], next: string[]) => {
    await eventually(() => expect(waiting).not.toHaveLength(0))
    const [program] = found.programs
    const mine = {
      ...program.mine,
      going: going.map((k) => item(k, 1)),
      next: next.map((k) => item(k, 0)),
      review: [],
    }
    waiting.shift()!(Response.json({ ...found, programs: [{ ...program, moves: ['A', 'B'], mine }] }))
    await new Promise((resolve) => setTimeout(resolve))
    await nextTick()
  }
  const row = (key: string) => host.querySelector<HTMLElement>(`li[data-row="7/${key}"]`)!
  await answer(['A'], ['B'])
  return {
    answer,
    row,
    list: (key: string) => row(key).closest('section')!.getAttribute('aria-label'),
    waiting,
  }
}

it('keeps the keyboard on a row that goes to another list, however late that is told', async () => {
  const { answer, row, list, waiting } = await page()
  row('B').focus()
  await typist().keyboard('{ArrowRight}')
  await eventually(() => expect(waiting).toHaveLength(1))
  // Somebody else's edit is heard of before the answer: it is asked once more, and the first answer is of before.
  void useWatch().load()
  await answer(['A'], ['B'])
  expect(list('B')).toBe('Next')
  await answer(['A', 'B'], [])
  await eventually(() => expect(list('B')).toBe('Under way'))
  await eventually(() => expect(document.activeElement).toBe(row('B')))
})

it('leaves somebody who has gone on where they are', async () => {
  const { answer, row } = await page()
  row('B').focus()
  await typist().keyboard('{ArrowRight}')
  row('A').focus()
  await answer(['A', 'B'], [])
  await eventually(() => expect(row('B').closest('section')!.getAttribute('aria-label')).toBe('Under way'))
  expect(document.activeElement).toBe(row('A'))
})
