import { expect, test } from './server'

test('a rough size is typed, placed by key, and gives way to the items that come', async ({
  demo: page,
  server,
}) => {
  const backlog = `${server.url}/programs/1/backlog`
  await page.goto(`${backlog}?item=FE-22`)
  const item = page.getByLabel('Item FE-22')
  await item.getByLabel('Rough sizes').first().focus()
  // What makes no sense is refused, with what would.
  await page.keyboard.type('about ten')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert').first()).toContainText('there is no team "about"')
  await page.keyboard.press('Control+a')
  await page.keyboard.type('MA 20-30')
  await page.keyboard.press('Enter')
  const stands = item.getByRole('list', { name: 'Rough sizes' })
  await expect(stands).toHaveText('Mariner App 20–30 pt: 8 pt in items, 17 pt to be expected beyond.')

  // It stands nowhere yet, and says so.
  await page.getByRole('link', { name: 'Plan', exact: true }).press('Enter')
  const row = page.getByRole('option', { name: /FE-22 rough/ })
  await expect(row).toContainText('17 pt')
  await row.press('Enter')
  await page.keyboard.press('5')
  const panel = page.getByRole('region', { name: 'Selected rough size' })
  await expect(panel).toContainText('MA·14')
  await expect(row).toHaveCount(0)
  const lane = page.getByRole('region', { name: 'Mariner App' })
  const load = async () =>
    /MA·15: ([\d.]+) of/.exec((await lane.getByRole('group').first().getAttribute('aria-label')) ?? '')?.[1]
  const before = Number(await load())
  await page.keyboard.press(']')
  await expect(panel).toContainText('MA·15')
  await expect.poll(async () => Number(await load())).toBe(before + 17)
  await page.keyboard.press('Control+z')
  await expect.poll(async () => Number(await load())).toBe(before)

  // What an item grows by, what is rough shrinks by.
  await page.goto(`${backlog}?item=MA-17`)
  const size = page.getByLabel('Item MA-17').getByLabel('Size', { exact: true })
  await size.press('Control+a')
  await page.keyboard.type('13')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^Undo: .*MA-17/ })).toBeEnabled()
  await page.goto(`${backlog}?item=FE-22`)
  await expect(stands).toHaveText('Mariner App 20–30 pt: 16 pt in items, 9 pt to be expected beyond.')
})

test('a draft places what is rough along with the items', async ({ demo: page, server }) => {
  await page.goto(`${server.url}/programs/1/backlog?item=FE-22`)
  await page.getByLabel('Item FE-22').getByLabel('Rough sizes').first().focus()
  await page.keyboard.type('MA 20')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^Undo: .*FE-22/ })).toBeEnabled()
  await page.getByRole('link', { name: 'Plan', exact: true }).press('Enter')
  await page.getByRole('option', { name: /FE-22 rough/ }).press('Enter')
  await page.keyboard.press('s')
  const draft = page.getByRole('region', { name: 'Draft of a schedule' })
  await expect(draft.getByRole('heading', { name: /^[1-9]\d* moves$/ })).toBeVisible()
  await expect(draft.getByRole('button', { name: 'Draft again' })).toBeVisible()
  await draft.getByRole('button', { name: 'Untick all' }).press('Enter')
  const rows = draft.locator('.moves .rows')
  await rows.evaluate((list) => list.scrollTo(0, list.scrollHeight))
  const row = rows.locator('.row', { hasText: 'FE-22' })
  await expect(row).toContainText(/rough .* in MA·/)
  await row.getByRole('checkbox').press('Space')
  await draft.getByRole('button', { name: 'Accept 1' }).press('Enter')
  await expect(row).toHaveCount(0)
  await draft.getByRole('button', { name: 'Discard' }).press('Enter')
  await expect(page.getByRole('option', { name: /FE-22 rough/ })).toHaveCount(0)
})
