import { type Page } from '@playwright/test'
import { enter, expect, test } from './server'

const at = (url: string, rest = '') => `${url}/programs/1/track?as=attention${rest}`
const call = (page: Page, id: string) => page.locator(`[data-call="${id}"]`)
const first = (page: Page) => page.locator('[data-call]').first()

test('what needs somebody is dealt with one after another, by keyboard', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(at(server.url))
  await expect(page.getByText(/^\d+ things need somebody/)).toBeVisible()
  await expect(page.getByRole('button', { name: /^broken need 2/ })).toBeVisible()

  // Assigned, it is gone, and the next has the focus.
  await page.getByRole('button', { name: /^nobody’s/ }).click()
  await expect(page).toHaveURL(/call=unowned/)
  const id = (await first(page).getAttribute('data-call')) ?? ''
  const second = (await page.locator('[data-call]').nth(1).getAttribute('data-call')) ?? ''
  await first(page).focus()
  await page.keyboard.press('a')
  const whom = page.getByRole('combobox', { name: /^Assign / })
  await expect(whom).toBeFocused()
  await whom.selectOption({ index: 1 })
  await expect(call(page, id)).toHaveCount(0)
  await expect(call(page, second)).toBeFocused()

  // Put off with a reason it comes last, and can be taken up again.
  await page.keyboard.press('z')
  await expect(page.getByRole('textbox', { name: 'Why' })).toBeFocused()
  await page.keyboard.type('back from leave on Monday')
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-call]').last()).toHaveAttribute('data-call', second)
  await expect(call(page, second)).toContainText(/Put off until 30 Mar: back from leave on Monday/)
  await call(page, second).focus()
  await page.keyboard.press('z')
  await expect(call(page, second)).not.toContainText('Put off until')
  await page.keyboard.press('Escape')

  // A broken need is mended by a move.
  await page.getByRole('button', { name: /^broken need/ }).click()
  await first(page).focus()
  const broken = (await first(page).getAttribute('data-call')) ?? ''
  await page.keyboard.press('m')
  const where = page.getByRole('combobox', { name: /^Move / })
  await expect(where).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(call(page, broken)).toBeFocused()
  await page.keyboard.press('m')
  await where.selectOption({ index: (await where.getByRole('option').count()) - 2 })
  await expect(call(page, broken)).toHaveCount(0)

  // A risk is looked at again later; Enter opens what it is about.
  await page.getByRole('button', { name: /^risk/ }).click()
  await call(page, 'risk RK-2').focus()
  await page.keyboard.press('l')
  await expect(page.getByRole('textbox', { name: 'Look at RK-2 again on' })).toBeFocused()
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(call(page, 'risk RK-2')).toHaveCount(0)
  await expect(call(page, 'risk RK-3')).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('complementary', { name: 'Risk RK-3' })).toBeVisible()
})

test('the program’s own rules say what counts', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(at(server.url))
  await page.getByRole('button', { name: 'Rules…' }).click()
  await page.getByRole('checkbox', { name: /assigned to nobody/ }).uncheck()
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByRole('button', { name: /^nobody’s/ })).toHaveCount(0)
  await page.getByRole('combobox', { name: 'Of which team' }).selectOption('FW')
  await expect(page).toHaveURL(/team=FW/)
  for (const text of await page.locator('[data-call] .small').allTextContents())
    expect(text).toMatch(/Field Works|over capacity|risk/)

  // A viewer sees it, and is offered nothing.
  await enter(page, server, 'petra')
  await page.goto(at(server.url))
  await expect(first(page)).toBeVisible()
  await expect(first(page).getByRole('button')).toHaveCount(0)
})
