import type { Page } from '@playwright/test'
import { block, enter, expect, goTo, test as base } from './server'

// What is typed with real keys, without looking: nothing of it gets lost or means something else.

const test = base.extend<{ backlog: Page }>({
  backlog: async ({ demo, server }, use) => {
    await demo.goto(`${server.url}/programs/1/backlog`)
    await row(demo, 'LC-1').waitFor()
    await use(demo)
  },
})

const row = (page: Page, key: string) => page.locator(`[data-item="${key}"]`)
const cell = (page: Page, key: string, field: string) => row(page, key).locator(`.cell.${field}`)
const grid = (page: Page) => page.getByRole('grid', { name: 'Backlog' })

test('three titles typed blind make three items', async ({ backlog: page }) => {
  await cell(page, 'LC-6', 'title').click()
  await page.keyboard.press('Insert')
  await expect(page.getByLabel('Title of the new item')).toBeFocused()
  await page.keyboard.type('Fog bell (3 pt)\nFog horn (2 pt, defect)\nFog siren (1 pt)\nFog gong', {
    delay: 5,
  })
  await expect(page.getByLabel('Title of the new item')).toBeFocused()
  await expect(row(page, 'LC-30')).toContainText('Fog siren')
  await expect(page.getByLabel('Title of the new item')).toHaveValue('Fog gong')
  await page.keyboard.press('Enter')
  await expect(row(page, 'LC-31')).toContainText('Fog gong')
  await page.keyboard.press('Escape')
  await expect(grid(page)).toBeFocused()
  const keys = await page
    .locator('[data-item]')
    .evaluateAll((rows) => rows.map((r) => (r as HTMLElement).dataset.item))
  const at = keys.indexOf('LC-6')
  expect(keys.slice(at, at + 5)).toEqual(['LC-6', 'LC-28', 'LC-29', 'LC-30', 'LC-31'])
  await expect(cell(page, 'LC-29', 'kind')).toHaveText('defect')
})

test('the focus stays where one goes on', async ({ backlog: page }) => {
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '')
  await cell(page, 'LC-7', 'title').click()
  const write = page.getByRole('button', { name: 'Write one' })
  await write.focus()
  await page.keyboard.press('Enter')
  await page.keyboard.type('At dusk, earlier each day.')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(page.getByText('At dusk, earlier each day.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Edit', exact: true })).toBeFocused()
  // Moved on the plan, a block keeps the keyboard; so does what was a row of the list.
  await goTo(page, '/programs/1/plan')
  await block(page, 'LC-20').focus()
  await page.keyboard.press('Enter')
  for (const name of [/^LC·15:/, /^LC·16:/]) {
    await page.keyboard.press(']')
    await expect(page.getByRole('group', { name }).locator('[data-block="LC-20"]')).toBeFocused()
  }
  await page.keyboard.press('u')
  await expect(page.locator('[data-row="LC-20"]')).toBeFocused()
  await page.keyboard.press('3')
  await expect(block(page, 'LC-20')).toBeFocused()
  expect(await focused()).toContain('LC-20')
  // Left out of velocity and counted again.
  await goTo(page, '/programs/1/set-up/velocity')
  const out = page.getByRole('button', { name: 'leave out' }).first()
  await out.focus()
  await page.keyboard.press('Enter')
  await page.keyboard.type('storm')
  await page.keyboard.press('Enter')
  await expect(page.getByText('no: storm')).toBeVisible()
  await expect(page.getByRole('button', { name: 'count it again' }).first()).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByText('no: storm')).toBeHidden()
  await expect(page.getByRole('button', { name: 'leave out' }).first()).toBeFocused()
})

test('F6 goes from region to region, and the skylines take the keyboard', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/plan`)
  await block(page, 'LC-8').waitFor()
  const inside = (selector: string) => page.evaluate((s) => !!document.activeElement?.closest(s), selector)
  for (const region of ['.bar', '.strip', '[role=toolbar]']) {
    await page.keyboard.press('F6')
    expect(await inside(region), region).toBe(true)
  }
  await page.keyboard.press('F6')
  expect(await inside('[data-block]')).toBe(true)
  // Down from the open lane, into the skylines below.
  for (let i = 0; i < 30 && !(await inside('.sky')); i++) await page.keyboard.press('ArrowDown')
  expect(await inside('.sky')).toBe(true)
  const key = await page.evaluate(() => document.activeElement!.getAttribute('data-block')!)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Selected item' })).toContainText(key)
  await page.keyboard.press('F6')
  expect(await inside('.unplaced')).toBe(true)
  const before = await page.locator('.row[aria-selected="true"]').count()
  await page.keyboard.press('Enter')
  await expect(page.locator('.row[aria-selected="true"]')).toHaveCount(before + 1)
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.locator('[aria-modal="true"]').waitFor({ state: 'detached' })
  await page.keyboard.press('Shift+F6')
  expect(await inside('.scroller')).toBe(true)
})

test('what is refused goes back, or stays marked with the reason', async ({ backlog: page, server }) => {
  await cell(page, 'LC-7', 'title').click()
  const size = page.getByLabel('Size', { exact: true })
  const before = await size.inputValue()
  await size.focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('99999999999')
  await page.keyboard.press('Enter')
  await expect(size).toHaveAttribute('aria-invalid', 'true')
  await expect(size).toHaveAttribute('title', /99999999999/)
  await expect(size).toHaveValue('99999999999')
  await page.keyboard.press('Escape')
  await expect(size).toHaveValue(before)
  await expect(size).not.toHaveAttribute('aria-invalid')

  // Without a line nothing is taken: a choice and a tick go back, what was typed stays.
  await server.stop('SIGKILL')
  await expect(page.locator('.offline')).toBeVisible()
  const kind = page.getByLabel('Kind', { exact: true })
  const was = await kind.inputValue()
  await kind.selectOption('spike')
  await expect(kind).toHaveValue(was)
  const pinned = page.getByLabel('Pinned', { exact: true })
  const ticked = await pinned.isChecked()
  await pinned.click()
  expect(await pinned.isChecked()).toBe(ticked)
  const due = page.getByLabel(/^Due/)
  await due.focus()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('4 June')
  await page.keyboard.press('Enter')
  await expect(due).toHaveAttribute('aria-invalid', 'true')
  await expect(due).toHaveValue('4 Jun 2027')
  await server.start()
  await expect(page.locator('.offline')).toBeHidden()
  await due.focus()
  await page.keyboard.type(' ')
  await page.keyboard.press('Enter')
  await expect(due).not.toHaveAttribute('aria-invalid')
})

test('who joins a team is shown with what that does to capacity, and asked about where it is unclear', async ({
  backlog: page,
}) => {
  await goTo(page, '/programs/1/set-up/teams')
  await page.getByRole('button', { name: /^Lamp Control/ }).click()
  const kwame = page.locator('#m-person option', { hasText: 'Kwame Adusei' })
  await page.getByLabel('Add a member').selectOption((await kwame.getAttribute('value')) ?? '')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  const shown = page.getByRole('dialog', { name: 'Members of Lamp Control' })
  await expect(shown).toContainText('Lamp Control agreed on 17 points with 17.5 member-days a week')
  await expect(shown).toContainText('LC·14: 17 to 21.9 points')
  await shown.getByLabel('It was agreed with them in mind: capacity stays').check()
  await expect(shown).not.toContainText('LC·14: 17 to 21.9 points')
  await shown.getByRole('button', { name: 'Leave it as it is' }).click()
  await expect(page.getByLabel('Add a member')).not.toHaveValue('')
})
