import { expect, test } from './server'

test('recovery options get a late release on time, and the strip reads what each promised', async ({
  plan,
}) => {
  test.setTimeout(120_000)
  const card = plan.locator('.release').filter({ hasText: 'First Light' })
  const chance = card.locator('.chance')
  const before = parseInt(await chance.innerText())
  await plan.keyboard.press('Control+k')
  await plan.keyboard.type('fix first light')
  await plan.keyboard.press('Enter')
  const panel = plan.getByRole('region', { name: 'Recovery options: First Light' })
  const rows = panel.getByRole('listitem')

  // The best comes first, once all were tried; no kind fills the list.
  await expect(panel.getByRole('list')).toHaveAttribute('aria-busy', 'false', { timeout: 60_000 })
  const gains = (await rows.locator('.chance').allInnerTexts()).map((t) => parseInt(t.split(' → ')[1]!))
  expect(gains).toEqual(gains.toSorted((a, b) => b - a))
  expect(gains[0]).toBeGreaterThan(before)
  await expect(rows.filter({ hasText: /^Exclude / })).toHaveCount(3)
  const titles: string[] = []
  for (let applied = 0; applied < 4; applied++) {
    await expect(panel.getByRole('list')).toHaveAttribute('aria-busy', 'false', { timeout: 60_000 })
    const first = rows.first()
    const text = await first.locator('.text').innerText()
    const promised = (await first.locator('.chance').innerText()).split(' → ')[1]!
    await first.getByRole('button', { name: `Apply: ${text}` }).focus()
    await plan.keyboard.press('Enter')
    await expect(rows.filter({ hasText: text })).toHaveCount(0, { timeout: 20_000 })
    await expect(chance).toHaveText(promised)
    await expect(panel.locator('.stand .chance')).toHaveText(promised)
    titles.push((await plan.getByRole('button', { name: /^Undo/ }).getAttribute('title'))!)
  }
  expect(parseInt(await chance.innerText())).toBeGreaterThan(before + 10)

  // Each was one step.
  for (const title of titles.reverse()) {
    const undo = plan.getByTitle(title, { exact: true })
    await undo.press('Enter')
    await expect(undo).toHaveCount(0)
  }
  await expect(chance).toHaveText(`${before} %`)
})

test('an option is shown on the plan before it is applied', async ({ plan }) => {
  await plan.getByRole('button', { name: 'Fix First Light: recovery options' }).press('Enter')
  const panel = plan.getByRole('region', { name: 'Recovery options: First Light' })
  const show = panel.getByRole('button', { name: /^Show on the plan: Accept a new draft of First Light/ })
  await show.press('Enter')
  await expect(show).toHaveAttribute('aria-pressed', 'true')
  await expect(plan.locator('.ghost').first()).toBeVisible()
  await expect(plan.getByRole('button', { name: /^Undo/ })).toBeDisabled()
  await show.press('Enter')
  await expect(plan.locator('.ghost')).toHaveCount(0)
  await panel.getByRole('button', { name: 'Close' }).press('Enter')
  await expect(panel).toBeHidden()

  // A broken dependency has options of its own.
  await plan.getByRole('button', { name: /broken needs$/ }).press('Enter')
  await plan.getByRole('region', { name: 'In a broken need' }).locator('.row').first().press('Enter')
  const item = plan.getByRole('region', { name: 'Selected item' })
  await item
    .getByRole('button', { name: /^Fix the dependency of/ })
    .first()
    .press('Enter')
  const own = plan.getByRole('region', { name: /^Recovery options: .* needs / })
  await expect(own.getByRole('listitem').first()).toContainText('broken dependencies 2 → 1')
})
