import { noViolations } from './axe'
import { expect, test } from './server'

test('each count of the health of teams and releases leads to what it counts', async ({ plan, server }) => {
  await plan.getByRole('link', { name: 'Track', exact: true }).click()
  await plan.getByRole('main', { name: 'Track' }).getByRole('button', { name: 'Health' }).press('Enter')
  await expect(plan).toHaveURL(/as=health/)
  const releases = plan.getByRole('table', { name: 'Releases' })
  const first = releases.getByRole('row', { name: /^First Light/ })
  await expect(first).toContainText(/\d+ of \d+ items/)

  // It reads the same as the standing strip, and as the iteration under way.
  const card = plan
    .getByRole('region', { name: 'Where the plan stands' })
    .getByRole('article')
    .filter({ hasText: 'First Light' })
  const lands = await card.locator('div:has-text("lands, ") > b').textContent()
  await expect(first).toContainText(lands!)
  await expect(first).toContainText((await card.locator('.chance').textContent())!)
  await noViolations(plan)

  // What costs a release leads to exactly that.
  const costing = first.getByRole('link', { name: /^\d+/ })
  const [many] = /\d+/.exec((await costing.textContent())!)!
  await costing.press('Enter')
  await expect(plan).toHaveURL(/as=attention&release=R1/)
  await expect(plan.getByLabel('What costs which release')).toHaveValue('R1')
  await expect(plan.getByText(new RegExp(`^${many} things need somebody`))).toBeVisible()

  await plan.goto(`${server.url}/programs/1/track?as=health`)
  const lamp = plan.getByRole('table', { name: 'Teams' }).getByRole('row', { name: /^Lamp Control/ })
  await expect(lamp).toContainText(/LC·10: \d+ of \d+ pt done, day \d+ of 10/)
  const link = lamp.getByRole('link', { name: /nobody’s, Lamp Control/ })
  const open = Number(await link.textContent())
  await link.press('Enter')
  const list = plan.getByRole('list', { name: 'What needs somebody' }).getByRole('listitem')
  await expect(list).toHaveCount(open)
})

test.describe('in the dark', () => {
  test.use({ colorScheme: 'dark' })
  test('nobody is kept out of the health of a program', async ({ plan, server }) => {
    await plan.goto(`${server.url}/programs/1/track?as=health`)
    await expect(plan.getByRole('table', { name: 'Teams' }).getByRole('row')).toHaveCount(7)
    await noViolations(plan)
  })
})
