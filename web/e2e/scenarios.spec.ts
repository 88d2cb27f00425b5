import { readFileSync } from 'node:fs'
import { type Page } from '@playwright/test'
import { enter, expect, goTo, test } from './server'

const menu = (page: Page) => page.getByRole('button', { name: /^In view: / })
const band = (page: Page) => page.getByRole('region', { name: 'The line in view' })

const sizeOf = (page: Page, item: string) => page.locator(`[data-item="${item}"]`).locator('.cell.size')

/** Makes a scenario by the menu, typing what is asked for. */
async function make(page: Page, name: string): Promise<void> {
  await menu(page).click()
  await page.getByRole('button', { name: 'New scenario…' }).press('Enter')
  await expect(page.getByLabel('Name', { exact: true })).toBeFocused()
  await page.keyboard.type(name)
  await page.keyboard.press('Enter')
  await expect(band(page)).toContainText(name)
  await expect(page.getByRole('region', { name: 'Lanes' })).toBeVisible()
}

/** Types another size into the backlog, in the line in view. */
async function size(page: Page, item: string, to: string): Promise<void> {
  await page.getByRole('link', { name: 'Backlog' }).click()
  const cell = sizeOf(page, item)
  await cell.click()
  const kept = page.waitForResponse(
    (r) => r.request().method() === 'POST' && /\/(changes|do\/)/.test(r.url()),
  )
  await page.keyboard.type(to)
  await page.keyboard.press('Enter')
  await kept
  await expect(cell).toContainText(to)
}

test('three scenarios are tried and compared; one is published with a conflict settled, and undone', async ({
  page,
  server,
}) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/plan`)
  await make(page, 'One more pair')
  await size(page, 'LC-8', '13')
  await expect(band(page)).toContainText('1 change')
  const address = new URL(page.url())
  expect(address.pathname).toMatch(/^\/programs\/1\/scenario-\d+\/backlog$/)

  await page.getByRole('button', { name: 'Back to the live plan' }).press('Enter')
  await expect(band(page)).toHaveCount(0)
  await expect(sizeOf(page, 'LC-8'), 'the live plan is as it was').not.toContainText('13')
  await page.getByRole('link', { name: 'Plan', exact: true }).click()
  await make(page, 'Without the fog horn')
  await page.getByRole('button', { name: 'Back to the live plan' }).press('Enter')
  await expect(band(page)).toHaveCount(0)
  await make(page, 'All of it')

  // Meanwhile the live plan goes on: what both changed is to be settled.
  await page.getByRole('button', { name: 'Back to the live plan' }).press('Enter')
  await expect(band(page)).toHaveCount(0)
  await size(page, 'LC-8', '8')

  // The link opens the scenario; beside the live plan it stands elsewhere in figures.
  await goTo(page, `${address.pathname.replace('backlog', 'plan')}?as=compare`)
  const compare = page.getByRole('main', { name: 'Compare' })
  await expect(compare.getByRole('row', { name: /^LC-8 size 8 13/ })).toBeVisible()
  await page.getByLabel('Compare with').selectOption({ label: 'All of it' })
  await expect(compare.getByRole('columnheader', { name: /All of it/ }).first()).toBeVisible()
  const strip = await page
    .getByRole('region', { name: 'Where the plan stands' })
    .locator('b.chance')
    .first()
    .textContent()
  await expect(
    compare
      .getByRole('row', { name: /^First Light on time/ })
      .getByRole('cell')
      .nth(1),
    'the chance is the one of its strip',
  ).toContainText(strip ?? '')
  await compare.getByRole('button', { name: 'Export…' }).click()
  const saved = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Markdown' }).click()
  expect(readFileSync(await (await saved).path(), 'utf8')).toContain('One more pair')
  await page.keyboard.press('Escape')

  // Published: the conflict is settled by key, and it is one step of the live plan.
  await page.getByRole('button', { name: 'Publish…' }).press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Publish “One more pair”' })
  await expect(dialog.getByText('1 to settle')).toBeVisible()
  await expect(dialog.getByRole('button', { name: 'Publish', exact: true })).toBeDisabled()
  await dialog.getByRole('radio', { name: /LC-8.*as in the scenario, 13/ }).press('Space')
  await expect(dialog.getByText('all settled')).toBeVisible()
  const publish = dialog.getByRole('button', { name: 'Publish', exact: true })
  await expect(publish).toBeEnabled()
  await expect(dialog.getByLabel(/Freeze the live plan of before/)).toBeChecked()
  await publish.press('Enter')
  await expect(band(page)).toHaveCount(0)
  await expect(page).toHaveURL(/\/programs\/1\/plan/)
  await page.getByRole('link', { name: 'Backlog' }).click()
  const cell = sizeOf(page, 'LC-8')
  await expect(cell).toContainText('13')
  await page.getByRole('button', { name: /^Undo: Publish “One more pair”/ }).press('Enter')
  await expect(cell).toContainText('8')

  // Brought up to date, it has what the live plan has.
  await goTo(page, address.pathname)
  await page.getByRole('button', { name: 'Bring up to date…' }).press('Enter')
  const bring = page.getByRole('dialog', { name: 'Bring “One more pair” up to date' })
  await bring.getByRole('radio', { name: /LC-8.*as in the live plan, 8/ }).press('Space')
  const go = bring.getByRole('button', { name: 'Bring up to date', exact: true })
  await expect(go).toBeEnabled()
  await go.press('Enter')
  await expect(bring).toHaveCount(0)
  await expect(band(page)).toContainText('· up to date')
  await expect(cell).toContainText('8')
  await page.keyboard.press('Control+z')
  await expect(cell).toContainText('13')
})

test('two browsers work in one shared scenario; a private one is nobody else’s', async ({
  page,
  server,
  as,
}) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/plan`)
  await make(page, 'Ours')
  const path = new URL(page.url()).pathname
  const ingrid = await as('ingrid')
  await ingrid.goto(server.url + path)
  await expect(ingrid.getByRole('heading', { name: 'There is no such scenario' })).toBeVisible()

  await menu(page).click()
  await page.getByRole('button', { name: 'Name and note of Ours' }).press('Enter')
  await page.getByLabel('All who belong to the program see it').press('Space')
  await page.getByRole('button', { name: 'Keep', exact: true }).press('Enter')
  await expect(band(page)).toContainText('a shared scenario of yours')
  await ingrid.reload()
  await expect(band(ingrid)).toContainText('a shared scenario of Matthias')
  await size(ingrid, 'LC-8', '3')
  await page.getByRole('link', { name: 'Backlog' }).click()
  await expect(sizeOf(page, 'LC-8')).toContainText('3')
})

test('a baseline is frozen, and the plan looked at as it was', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/backlog`)
  await expect(sizeOf(page, 'LC-8')).toBeVisible()
  await menu(page).click()
  await page.getByLabel('Freeze as').click()
  await page.keyboard.type('As agreed')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^As agreed/ })).toBeVisible()
  await page.keyboard.press('Escape')
  const before = await sizeOf(page, 'LC-8').textContent()
  await size(page, 'LC-8', '8')
  await menu(page).click()
  await page.getByRole('button', { name: /^As agreed/ }).press('Enter')
  await expect(band(page)).toContainText('nothing can be changed')
  await expect(sizeOf(page, 'LC-8')).toHaveText(before ?? '')

  // Last Monday: that day's today, on every stage, and no hand is laid on it.
  await menu(page).click()
  await page.getByLabel('Look at the end of').click()
  await page.keyboard.type('15 Mar 2027')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/past-2027-03-15/)
  await expect(band(page)).toContainText('15 Mar')
  for (const stage of ['Plan', 'Forecast', 'Track', 'Set up']) {
    await page.getByRole('link', { name: stage, exact: true }).click()
    await expect(page).toHaveURL(/past-2027-03-15/)
    await expect(band(page)).toBeVisible()
  }
  await page.getByRole('button', { name: 'Back to the live plan' }).press('Enter')
  await expect(band(page)).toHaveCount(0)
})

test('a draft and a lever begin scenarios, and the plan stays as it is', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/plan`)
  await page.getByRole('button', { name: 'Draft a schedule' }).click()
  await page.getByRole('button', { name: /^Accept/ }).waitFor()
  const keep = page.getByRole('button', { name: 'Keep as scenario…' })
  await expect(keep).toBeEnabled()
  await keep.press('Enter')
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('As drafted')
  await page.getByRole('button', { name: 'Make it' }).press('Enter')
  await expect(band(page)).toContainText('As drafted')
  await expect(band(page)).toContainText(/\d+ changes?/)
  await expect(page.getByRole('button', { name: /^Undo: A draft/ })).toBeVisible()
  await page.getByRole('button', { name: 'Back to the live plan' }).press('Enter')
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled()

  // So does what a forecast supposes, as far as a plan can say it.
  await goTo(page, '/programs/1/forecast')
  await page.getByLabel('No risk strikes').press('Space')
  await page.getByRole('button', { name: 'Keep as scenario…' }).press('Enter')
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('What if')
  await page.getByRole('button', { name: 'Make it' }).press('Enter')
  await expect(page.getByRole('button', { name: /^Undo: What if: / })).toBeVisible()
  await expect(band(page)).toContainText('1 change')
})

test('since a baseline, ten edits of two people are told; one is taken back from the journal', async ({
  page,
  server,
  as,
}) => {
  await enter(page, server)
  const ingrid = await as('ingrid')
  const frozen = await page.request.post(`${server.url}/api/v1/programs/1/baselines`, {
    data: { name: 'As agreed' },
  })
  expect(frozen.ok()).toBe(true)
  const edits: [Page, string, string, unknown][] = [
    [page, 'LC-8', 'size', 13],
    [page, 'LC-9', 'iteration', ''],
    [page, 'LC-10', 'keptOut', true],
    [page, 'TW-12', 'size', 1],
    [page, 'MA-9', 'size', 8],
    [ingrid, 'LC-11', 'size', 8],
    [ingrid, 'LC-12', 'iteration', ''],
    [ingrid, 'LC-13', 'size', 1],
    [ingrid, 'LC-14', 'keptOut', true],
    [ingrid, 'LC-15', 'size', 13],
  ]
  for (const [who, key, field, value] of edits) {
    const { revision } = (await (
      await who.request.get(`${server.url}/api/v1/programs/1/outline`)
    ).json()) as { revision: number }
    const made = await who.request.post(`${server.url}/api/v1/programs/1/changes`, {
      data: {
        client: 'e2e',
        revision,
        label: `Change ${key}`,
        changes: [{ op: 'set', kind: 'item', key, field, value }],
      },
    })
    expect(made.ok(), `${key} ${field}`).toBe(true)
  }
  await page.goto(`${server.url}/programs/1/track`)
  await menu(page).click()
  await page.getByRole('button', { name: 'Since As agreed' }).press('Enter')
  const since = page.getByRole('main', { name: 'Since then' })
  await expect(since.getByRole('heading', { name: /^Since As agreed/ })).toBeVisible()
  for (const [who, key] of edits)
    await expect(since.getByRole('row', { name: new RegExp(`^${key} `) })).toContainText(
      who === page ? 'Matthias' : 'Ingrid',
    )
  const grew = since.getByRole('button', { name: /^Grew: \d+, list these/ })
  const many = Number(await grew.textContent())
  await grew.press('Enter')
  await expect(since.getByRole('row').filter({ hasText: /Grew/ })).toHaveCount(many + 1)

  // The journal finds one of them, and takes it back.
  await page.getByRole('button', { name: 'What changed' }).press('Enter')
  await page.getByLabel('By whom').click()
  await page.keyboard.type('ingrid')
  await page.getByLabel('Words or a key').click()
  await page.keyboard.type('LC-15')
  await expect(page.getByRole('button', { name: /^Take back: Change LC-14/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Take back: Change LC-15' }).press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Take back “Change LC-15”' })
  const go = dialog.getByRole('button', { name: 'Take it back' })
  await expect(go).toBeEnabled()
  await go.press('Enter')
  await expect(dialog).toHaveCount(0)
  await expect(grew).toHaveText(String(many - 1))
})
