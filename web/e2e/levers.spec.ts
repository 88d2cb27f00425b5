import { expect, test } from './server'

test('a late release is mended with levers alone, and the strip reads what each promised', async ({
  plan,
}) => {
  test.setTimeout(120_000)
  const card = plan.locator('.release').filter({ hasText: 'First Light' })
  const chance = card.locator('.chance')
  const before = parseInt(await chance.innerText())
  await plan.keyboard.press('Control+k')
  await plan.keyboard.type('mend first light')
  await plan.keyboard.press('Enter')
  const panel = plan.getByRole('region', { name: 'Levers: what would mend First Light' })
  const rows = panel.getByRole('listitem')

  // What lacks a size comes first.
  await expect(rows.first()).toContainText(/Size (LC-16|KC-14)/)
  await expect(rows.nth(1)).toContainText(/Size (LC-16|KC-14)/)
  const titles: string[] = []
  for (let applied = 0; applied < 4; applied++) {
    await expect(panel.getByRole('list')).toHaveAttribute('aria-busy', 'false')
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

test('a lever is shown on the plan before it is applied', async ({ plan }) => {
  await plan.getByRole('button', { name: 'Levers: what would mend First Light' }).press('Enter')
  const panel = plan.getByRole('region', { name: 'Levers: what would mend First Light' })
  const show = panel.getByRole('button', { name: /^Show on the plan: Draft First Light anew/ })
  await show.press('Enter')
  await expect(show).toHaveAttribute('aria-pressed', 'true')
  await expect(plan.locator('.ghost').first()).toBeVisible()
  await expect(plan.getByRole('button', { name: /^Undo/ })).toBeDisabled()
  await show.press('Enter')
  await expect(plan.locator('.ghost')).toHaveCount(0)
  await panel.getByRole('button', { name: 'Close' }).press('Enter')
  await expect(panel).toBeHidden()

  // A broken need has levers of its own.
  await plan.getByRole('button', { name: /broken needs$/ }).press('Enter')
  await plan.getByRole('region', { name: 'In a broken need' }).locator('.row').first().press('Enter')
  const item = plan.getByRole('region', { name: 'Selected item' })
  await item
    .getByRole('button', { name: /Levers: what would mend the need/ })
    .first()
    .press('Enter')
  const own = plan.getByRole('region', { name: /^Levers: what would mend .* needs / })
  await expect(own.getByRole('listitem').first()).toContainText('broken needs 2 → 1')
})
