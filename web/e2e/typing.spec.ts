import type { Page } from '@playwright/test'
import { block, enter, expect, test as base } from './server'

// What is typed with real keys, without looking: nothing of it gets lost or means something else.

const test = base.extend<{ backlog: Page }>({
  backlog: async ({ plan, server }, use) => {
    await plan.goto(`${server.url}/programs/1/backlog`)
    await row(plan, 'LC-1').waitFor()
    await use(plan)
  },
})

const row = (page: Page, key: string) => page.locator(`[data-item="${key}"]`)
const cell = (page: Page, key: string, field: string) => row(page, key).locator(`.cell.${field}`)
const grid = (page: Page) => page.getByRole('grid', { name: 'Backlog' })
const options = (page: Page) => page.locator('.choices').getByRole('option')

test('a choice takes all that was typed, and nothing that is unclear', async ({ backlog: page }) => {
  const go = async (key: string, field: string) => cell(page, key, field).click()
  await go('LC-7', 'kind')
  await page.keyboard.type('spike')
  await expect(options(page)).toHaveText(['spike'])
  await page.keyboard.press('Enter')
  await expect(cell(page, 'LC-7', 'kind')).toHaveText('spike')
  await go('LC-7', 'state')
  await page.keyboard.type('do')
  await expect(options(page)).toHaveText(['doing', 'done'])
  await page.keyboard.press('Enter')
  await expect(page.getByText('may be doing, done. Write more, or choose one.')).toBeVisible()
  await page.keyboard.type('ne')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'LC-7', 'state')).toHaveText('done')
  await go('LC-6', 'release')
  await page.keyboard.type('full')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'LC-6', 'release')).toHaveText('Full Chain')
  // What matches nothing stays in the cell until it does, or Escape leaves it as it was.
  await go('LC-6', 'kind')
  await page.keyboard.type('chore')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'Nothing here is “chore”.' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(cell(page, 'LC-6', 'kind')).toHaveText('story')
  await expect(grid(page)).toBeFocused()
  // Arrows choose; what is closed is not offered; going elsewhere with something unclear says so.
  await go('TW-5', 'iteration')
  await page.keyboard.press('Enter')
  await expect(options(page).filter({ hasText: /^TW·9$/ })).toHaveCount(0)
  await page.keyboard.type('TW·12')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'TW-5', 'iteration')).toHaveText('TW·12')
  await go('TW-5', 'state')
  await page.keyboard.press('Enter')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'TW-5', 'state')).toHaveText('doing')
  await go('TW-6', 'state')
  await page.keyboard.type('do')
  await cell(page, 'TW-5', 'title').click()
  await expect(page.getByText('State of TW-6: “do” may be doing, done.')).toBeVisible()
  await expect(cell(page, 'TW-6', 'state')).toHaveText('todo')
})

test('what the program has is offered where one writes', async ({ backlog: page, server }) => {
  const view = { key: 'v', name: 'Tags', columns: [{ field: 'key' }, { field: 'title' }, { field: 'tags' }] }
  await page.evaluate(
    (view) => localStorage.setItem('jantrel-backlog', JSON.stringify({ 1: { view, words: '' } })),
    view,
  )
  await page.goto(`${server.url}/programs/1/backlog`)
  await cell(page, 'LC-1', 'tags').click()
  await page.keyboard.type('lens')
  await page.keyboard.press('Enter')
  await expect(cell(page, 'LC-1', 'tags')).toHaveText('lens')
  await page.keyboard.type('fog, le')
  await expect(options(page).filter({ hasText: /^lens$/ })).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-item] .cell.tags', { hasText: 'fog, lens' })).toHaveCount(1)
})

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

test('the focus stays where one goes on', async ({ backlog: page, server }) => {
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
  await page.goto(`${server.url}/programs/1/plan`)
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
  await page.goto(`${server.url}/programs/1/set-up/velocity`)
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
  await page.keyboard.press('Shift+F6')
  expect(await inside('.scroller')).toBe(true)
})
