import { type Page } from '@playwright/test'
import { enter, expect, test } from './server'

const at = (url: string, rest = '') => `${url}/programs/1/track?as=risks${rest}`
const risk = (page: Page, key: string) => page.locator(`[data-risk="${key}"]`)
const panel = (page: Page, key: string) => page.getByRole('complementary', { name: `Risk ${key}` })
/** Types over what a field holds. */
async function over(page: Page, field: string, text: string): Promise<void> {
  await page.getByRole('textbox', { name: field, exact: true }).click()
  await page.keyboard.press('Control+a')
  await page.keyboard.type(text)
  await page.keyboard.press('Tab')
}

test('a risk is noted, rated and played, and the strip reads what it costs', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(at(server.url))
  await expect(risk(page, 'RK-2')).toContainText('to be looked at again')
  await expect(risk(page, 'RK-3')).toContainText(/Full Chain [\d.]+ points/)

  // By key: a new one, what may happen in a line; then beside it.
  await risk(page, 'RK-1').focus()
  await page.keyboard.press('n')
  await page.keyboard.type('Ice on the masts')
  await page.keyboard.press('Enter')
  const beside = panel(page, 'RK-6')
  await expect(beside.getByRole('textbox', { name: 'What may happen' })).toBeFocused()
  await expect(risk(page, 'RK-6')).toContainText('nobody watches it, not rated')
  await expect(risk(page, 'RK-6')).toContainText('not played')
  await beside.getByRole('combobox', { name: 'Watched by' }).selectOption('p17')
  await beside.getByRole('combobox', { name: 'Chance' }).selectOption('high')
  await beside.getByRole('combobox', { name: 'Impact' }).selectOption('high')
  await expect(risk(page, 'RK-6')).toContainText('high × high')
  await beside.getByRole('textbox', { name: 'New action' }).click()
  await page.keyboard.type('Heat the upper stays')
  await page.keyboard.press('Enter')
  await expect(beside.getByRole('checkbox', { name: 'Heat the upper stays' })).toBeVisible()

  // Odds and work: every forecast plays it, and it costs what the strip loses.
  const strip = page.getByRole('region', { name: 'Where the plan stands' })
  const chance = async () => Number.parseFloat((await strip.locator('.chance').first().textContent()) ?? '')
  const before = await chance()
  await over(page, 'Odds in percent', '60')
  await beside.getByRole('combobox', { name: 'More work for a team' }).selectOption('LC')
  // Both ends are typed before the server has said anything of the first: none undoes the other.
  let goOn = () => {}
  const typed = new Promise<void>((resolve) => (goOn = resolve))
  await page.route('**/changes', (route) => typed.then(() => route.continue()), { times: 1 })
  await over(page, 'Work for Lamp Control, at least', '10')
  await over(page, 'Work for Lamp Control, at most', '20')
  goOn()
  await expect(page.getByRole('textbox', { name: 'Work for Lamp Control, at most' })).toHaveValue('20')
  await expect(page.getByRole('textbox', { name: 'Work for Lamp Control, at least' })).toHaveValue('10')
  await beside.getByRole('checkbox', { name: 'First Light' }).check()
  await expect(beside).toContainText(/It costs First Light [\d.]+ points, [\d.]+ days/)
  const agrees = async () => {
    const costs = /It costs First Light ([\d.]+) points/.exec((await beside.textContent()) ?? '')
    const now = await chance() // in whole percent, before what the last edit costs is known
    return now < before && Math.abs(before - now - Number(costs?.[1])) <= 1.1
  }
  await expect.poll(agrees).toBe(true)
  await over(page, 'Odds with the response, in percent', '5')
  await expect(beside).toContainText(/The response is worth First Light [\d.]+ points/)
  await beside.getByRole('checkbox', { name: 'the response is in place' }).check()
  await expect(beside).not.toContainText('The response is worth')

  // What is no odds comes back.
  await over(page, 'Odds in percent', '400')
  await expect(page.getByRole('textbox', { name: 'Odds in percent' })).toHaveValue('60')

  // Its history, and gone again.
  await beside.getByText('What changed').click()
  await expect(beside.getByRole('listitem').filter({ hasText: 'Risk: Ice on the masts' })).toBeVisible()
  await beside.getByRole('button', { name: 'Remove this risk' }).click()
  await expect(risk(page, 'RK-6')).toHaveCount(0)
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(risk(page, 'RK-6')).toBeVisible()
})

test('risks are rated in the matrix and answered on the board by keys', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(at(server.url, '&risks=matrix'))
  await risk(page, 'RK-4').focus()
  const beside = panel(page, 'RK-4')
  await page.keyboard.press('ArrowUp')
  await expect(beside.getByRole('combobox', { name: 'Impact' })).toHaveValue('3')
  await expect(risk(page, 'RK-4')).toBeFocused()
  await page.keyboard.press('ArrowRight')
  await expect(beside.getByRole('combobox', { name: 'Chance' })).toHaveValue('3')
  await expect(risk(page, 'RK-4')).toBeFocused()
  await page.getByRole('button', { name: 'Responses' }).click()
  await risk(page, 'RK-4').focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('region', { name: 'Avoid' }).locator('[data-risk="RK-4"]')).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await expect(risk(page, 'RK-4')).not.toBeFocused()
  await risk(page, 'RK-4').dragTo(page.getByRole('region', { name: 'Accept' }))
  await expect(page.getByRole('region', { name: 'Accept' }).locator('[data-risk="RK-4"]')).toBeVisible()

  await page.getByRole('button', { name: 'Scales…' }).click()
  await page.getByRole('textbox', { name: 'Chance' }).fill('')
  await page.keyboard.type('seldom\noften')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(beside.getByRole('combobox', { name: 'Chance' })).toContainText('seldom')
})

test('a member watches their own risk, and may look at the others', async ({ page, server }) => {
  await enter(page, server, 'thandi')
  await page.goto(at(server.url, '&risk=RK-1'))
  await expect(panel(page, 'RK-1').getByRole('combobox', { name: 'Chance' })).toBeDisabled()
  await page.getByRole('button', { name: /^New risk/ }).click()
  await page.keyboard.type('The phones are old')
  await page.keyboard.press('Enter')
  const own = panel(page, 'RK-6')
  await expect(own.getByRole('combobox', { name: 'Watched by' })).toHaveValue('p13')
  await own.getByRole('combobox', { name: 'Chance' }).selectOption('low')
  await expect(risk(page, 'RK-6')).toContainText('low ×')
  await expect(own.getByRole('textbox', { name: 'Odds in percent' })).toBeDisabled()
})
