import type { Page } from '@playwright/test'
import { enter, expect, test, type Server } from './server'

const screen = (page: Page) => page.getByRole('main', { name: 'Screen' })
const region = (page: Page, name: string) => page.getByRole('region', { name, exact: true })

/** A browser that nobody has signed in with, as large as on a wall. */
async function wallOf(as: () => Promise<Page>, link: string): Promise<Page> {
  const page = await as()
  await page.setViewportSize({ width: 1920, height: 1080 })
  await page.goto(link)
  return page
}

/** Shows what is not done, in a form, beside a burn-up; gives the link of a screen that shows both. */
async function screenOf(page: Page, server: Server, form = 'figure'): Promise<string> {
  const filter = { conditions: [{ field: 'state', is: 'is-not', values: ['done'] }] }
  const chart = { of: 'items', filter, measure: 'number', form }
  const cards = [
    { key: '1', kind: 'chart', wide: 6, high: 2, title: 'Not done', chart },
    { key: '2', kind: 'burn-up', wide: 6, high: 2, about: { release: 'R1' } },
  ]
  const api = `${server.url}/api/v1/programs/1/pages`
  const made = await (await page.request.post(api, { data: { name: 'On the wall', cards } })).json()
  const link = await (
    await page.request.post(`${api}/${made.id}/screens`, { data: { seconds: 3600, dimFrom: 0, dimTo: 0 } })
  ).json()
  return `${server.url}${link.path}`
}

/** Does an item, or takes that back, as somebody elsewhere does. */
async function put(page: Page, server: Server, state: string): Promise<void> {
  const api = `${server.url}/api/v1/programs/1`
  const { revision } = await (await page.request.get(`${api}/outline`)).json()
  const changes = [{ op: 'set', kind: 'item', key: 'TW-9', field: 'state', value: state }]
  const sent = await page.request.post(`${api}/changes`, {
    data: { client: 'elsewhere', revision, label: 'Do it', changes },
  })
  expect(sent.status(), await sent.text()).toBe(200)
}

test('a page is shown on a wall, live, until it is ended', async ({ page, server, as }) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/report`)
  await page.getByRole('button', { name: 'Make it mine' }).press('Enter')
  await expect(page).toHaveURL(/page=\d+/)
  await page.getByRole('button', { name: 'More', exact: true }).press('Enter')
  await page.getByRole('button', { name: 'Screens for a wall…' }).press('Enter')
  const dialog = page.getByRole('dialog', { name: /^Screens that show/ })
  await expect(dialog.getByRole('radio', { name: /one card at a time/ })).toBeFocused()
  await expect(dialog).toContainText('There is none.')
  await dialog.getByLabel('each for').press('Control+a')
  await page.keyboard.type('3600')
  await dialog.getByRole('checkbox', { name: 'dim at night' }).press('Space')
  await dialog.getByRole('button', { name: 'Make a screen' }).press('Enter')
  const link = await dialog.getByLabel('The new link: it is shown this once').inputValue()
  await expect(dialog.getByRole('list', { name: 'Screens' })).toContainText(
    'All cards, one at a time, 3600 s each. Made',
  )

  // The wall says what the strip says, card after card.
  const wall = await wallOf(as, link)
  const chance = (await page.locator('b.chance').first().textContent())!.trim()
  await expect(region(wall, 'Dates')).toContainText(chance)
  await expect(screen(wall)).toContainText('1 of 8')
  await wall.keyboard.press('ArrowRight')
  await expect(region(wall, 'Not done')).toContainText('items today')
  await wall.keyboard.press('ArrowLeft')
  await wall.keyboard.press('ArrowLeft')
  await expect(region(wall, 'Risks')).toBeVisible()
  // It leads nowhere: nobody has signed in.
  await wall.keyboard.press('ArrowRight')
  await region(wall, 'Dates').getByText('First Light', { exact: true }).click()
  await expect(region(wall, 'Dates')).toBeVisible()
  expect((await wall.request.get(`${server.url}/api/v1/programs/1/outline`)).status()).toBe(401)

  await dialog.getByRole('button', { name: 'End it' }).press('Enter')
  await expect(dialog).toContainText('There is none.')
  await expect(wall.getByRole('alert')).toContainText('This screen was ended')
})

test('a screen hears of edits, and outlives restarts', async ({ page, server, as }) => {
  await enter(page, server)
  const wall = await wallOf(as, await screenOf(page, server))
  const figure = region(wall, 'Not done').getByRole('button')
  await expect(figure).toHaveText(/^\d+$/)
  const open = Number(await figure.textContent())
  const cdp = await wall.context().newCDPSession(wall)
  const held = async () => {
    await cdp.send('HeapProfiler.collectGarbage')
    return (await cdp.send('Runtime.getHeapUsage')).usedSize
  }
  let before = 0
  for (let i = 0; i < 4; i++) {
    await server.stop(i % 2 ? 'SIGKILL' : 'SIGTERM')
    await expect(screen(wall)).toContainText('No connection: this is of')
    await expect(figure).toHaveText(String(open - (i % 2)))
    await server.start()
    await put(page, server, i % 2 ? 'todo' : 'done')
    // The truth again, and said to be of now: without anybody there to help.
    await expect(figure).toHaveText(String(i % 2 ? open : open - 1))
    await expect(screen(wall)).toContainText('As of')
    before ||= await held()
  }
  expect(await held()).toBeLessThan(before * 1.25)
})

test('a list on a screen says how many of it are not seen', async ({ page, server, as }) => {
  await enter(page, server)
  const wall = await wallOf(as, await screenOf(page, server, 'list'))
  const card = wall.getByRole('region', { name: 'Not done', exact: true })
  await expect(card.getByText(/^and \d+ more$/)).toBeVisible()
  const counted = Number.parseInt((await card.locator('.sentence').textContent()) ?? '')
  const [seen, more] = await card.evaluate((element) => {
    const line = element.querySelector('.more')!
    const { top } = line.getBoundingClientRect()
    const rows = [...element.querySelectorAll('li')]
    return [
      rows.filter((row) => row.getBoundingClientRect().bottom <= top + 1).length,
      Number.parseInt(line.textContent.replace(/\D+/, '')),
    ]
  })
  expect(seen).toBeGreaterThan(3)
  expect(seen + more).toBe(counted)
  // What is named on it is not held to be gone because nothing else of it is told.
  await expect(card.getByRole('listitem').first()).toContainText(/to do|doing|in review/)
  await expect(card).not.toContainText('removed')
})
