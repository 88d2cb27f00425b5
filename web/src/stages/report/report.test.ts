// @vitest-environment jsdom
import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { useProgram } from '@/line/program'
import { eventually, withScreen } from '@/ui/testing'
import { useReport } from './report'

/** Lists of pages that have been asked for; each is answered when the test says so. */
let asked: ((found: Response) => void)[] = []
const ready = (key: string) => ({ key, name: key, cards: [{ key: '1', kind: 'text', wide: 6, high: 1 }] })
const shelf = () => Response.json({ pages: [], ready: [ready('first'), ready('second')] })

beforeEach(() => {
  setActivePinia(createPinia())
  withScreen()
  asked = []
  vi.stubGlobal('fetch', (request: Request) =>
    request.url.endsWith('/chart-vocabulary')
      ? Promise.resolve(Response.json({ cards: [] }))
      : new Promise<Response>((found) => asked.push(found)),
  )
  useProgram().id = 1
})

it('takes no card while a page is on its way, which would be lost with it', async () => {
  const report = useReport()
  const opened = report.open('new')
  expect(report.mayEdit).toBe(false)
  await eventually(() => expect(asked).toHaveLength(1))
  expect(report.mayEdit).toBe(false)
  asked[0](shelf())
  await opened
  expect(report.mayEdit).toBe(true)
  expect(report.arranging).toBe(true)
})

it('shows the page that was asked for last, whichever comes first', async () => {
  const report = useReport()
  const opened = [report.open('ready:first'), report.open('ready:second')]
  await eventually(() => expect(asked).toHaveLength(2))
  asked[1](shelf())
  await opened[1]
  asked[0](shelf())
  await opened[0]
  expect(report.page.name).toBe('second')
})
