import { type Page } from '@playwright/test'
import { enter, expect, test } from './server'

const cell = (page: Page, what: string, day: string) =>
  page.getByRole('textbox', { name: new RegExp(`^${what}, ${day} `) })

test('a member enters the hours of a week by keyboard', async ({ page, server }) => {
  await enter(page, server, 'thandi')
  await page.goto(`${server.url}/programs/1/track?as=hours`)
  const draw = 'MA-5 Push a notice within a minute, Draw the notice card'
  await expect(page.getByRole('table', { name: 'Hours of Thandi Mokwena' })).toBeVisible()

  // Typed over a cell, with a note; what is left of her task gets less by it.
  const row = page.getByRole('row').filter({ has: cell(page, draw, 'Mon') })
  await expect(row.getByRole('cell').last()).toHaveText('2')
  await cell(page, draw, 'Mon').focus()
  await page.keyboard.type('1:30 in ink')
  await page.keyboard.press('Tab')
  await expect(row.getByRole('cell').last()).toHaveText('0.5')
  await expect(cell(page, draw, 'Mon')).toHaveValue('1.5')
  await expect(cell(page, draw, 'Mon')).toHaveAttribute('title', 'in ink')
  await expect(cell(page, draw, 'Tue')).toBeFocused()

  // What is no number of hours stays, marked, until it is mended or taken back.
  await page.keyboard.type('much')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('main').getByRole('alert')).toContainText('much is no number of hours up to 24')
  await cell(page, draw, 'Tue').focus()
  await page.keyboard.press('Escape')
  await expect(cell(page, draw, 'Tue')).toHaveValue('')
  await page.keyboard.type('1')
  await page.keyboard.press('ArrowDown')

  // Another row: an item of another team, on no task, with an activity.
  await page.getByRole('combobox', { name: /^Another item/ }).click()
  await page.keyboard.type('KC-4')
  await page.getByRole('option', { name: /^KC-4 / }).click()
  await page.getByRole('combobox', { name: 'Which activity' }).selectOption('design')
  await page.getByRole('button', { name: 'Add a row' }).click()
  const other = page.getByRole('row', { name: /KC-4/ })
  await expect(other.getByRole('textbox').and(page.locator(':focus'))).toBeVisible()
  await page.keyboard.type('2,5')
  await page.keyboard.press('Enter')
  await expect(other.getByRole('cell').nth(7)).toHaveText('2.5')

  // It is undone like everything, and weeks are turned by keys.
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(other.getByRole('cell').nth(7)).toHaveText('')
  await cell(page, draw, 'Mon').focus()
  await page.keyboard.press('PageUp')
  await expect(page.getByText('15 Mar – 21 Mar')).toBeVisible()

  // Others' hours are there to be seen.
  await page.getByRole('combobox', { name: 'Whose hours' }).selectOption('p11')
  await expect(page.getByText('You may look at these hours.')).toBeVisible()
  await expect(page.getByRole('table').getByRole('textbox').first()).toBeDisabled()
})

test('hours of today on one’s own page stand in the week and in the report', async ({ page, server }) => {
  await enter(page, server, 'thandi')
  await page.goto(`${server.url}/watch`)
  const row = page.locator('li[data-row="1/MA-5"]')
  await row.focus()
  await page.keyboard.press('h')
  await page.keyboard.type('2.25 lettering')
  await page.keyboard.press('Enter')
  await expect(row).toContainText('2.3 h spent')
  await expect(row).toBeFocused()
  const field = row.getByRole('textbox', { name: 'Hours spent today on Draw the notice card' })
  await field.click()
  await page.keyboard.type('0.75')
  await page.keyboard.press('Enter')
  await expect(row).toContainText('3 h spent')
  await page.getByRole('link', { name: 'Your week as a grid' }).click()
  await expect(cell(page, '.*Draw the notice card', 'Tue')).toHaveValue('3')
  const spent = await page.getByText(/^[\d.]+ h of [\d.]+ h$/).textContent()
  await page.getByRole('button', { name: 'Planned and spent' }).click()
  const line = page.getByRole('row', { name: /^Thandi Mokwena/ })
  await expect(line.getByRole('cell').last()).toHaveText(new RegExp(`^${spent?.split(' ')[0]} ?of`))
  await page.getByRole('combobox', { name: 'by' }).selectOption('item')
  await expect(page.getByRole('row', { name: /^MA-5 Push a notice/ })).toBeVisible()
  const file = page.waitForEvent('download')
  await page.getByRole('link', { name: 'CSV' }).click()
  expect((await file).suggestedFilename()).toMatch(/^hours-.*\.csv$/)
})
