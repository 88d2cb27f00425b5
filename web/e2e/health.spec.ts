import { expect, goTo, test } from './server'

test('each count of the health of teams and releases leads to what it counts', async ({
  demo: page,
  server,
}) => {
  await page.goto(`${server.url}/programs/1/track`)
  await page.getByRole('main', { name: 'Track' }).getByRole('button', { name: 'Health' }).press('Enter')
  await expect(page).toHaveURL(/as=health/)
  const releases = page.getByRole('table', { name: 'Releases' })
  const first = releases.getByRole('row', { name: /^First Light/ })
  await expect(first).toContainText(/\d+ of \d+ items/)

  await expect(page.getByRole('table', { name: 'Teams' }).getByRole('row')).toHaveCount(7)

  // It reads the same as the standing strip, and as the iteration under way.
  const card = page
    .getByRole('region', { name: 'Where the plan stands' })
    .getByRole('article')
    .filter({ hasText: 'First Light' })
  const lands = await card.locator('div:has-text("lands, ") > b').textContent()
  await expect(first).toContainText(lands!)
  await expect(first).toContainText((await card.locator('.chance').textContent())!)

  // What costs a release leads to exactly that.
  const costing = first.getByRole('link', { name: /^\d+/ })
  const [many] = /\d+/.exec((await costing.textContent())!)!
  await costing.press('Enter')
  await expect(page).toHaveURL(/as=attention&release=R1/)
  await expect(page.getByLabel('What costs which release')).toHaveValue('R1')
  await expect(page.getByText(new RegExp(`^${many} things need somebody`))).toBeVisible()

  await goTo(page, '/programs/1/track?as=health')
  const lamp = page.getByRole('table', { name: 'Teams' }).getByRole('row', { name: /^Lamp Control/ })
  await expect(lamp).toContainText(/LC·10: \d+ of \d+ pt done, day \d+ of 10/)
  const link = lamp.getByRole('link', { name: /nobody’s, Lamp Control/ })
  const open = Number(await link.textContent())
  await link.press('Enter')
  const list = page.getByRole('list', { name: 'What needs somebody' }).getByRole('listitem')
  await expect(list).toHaveCount(open)
})
