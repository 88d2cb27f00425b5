import { type Page } from '@playwright/test'
import { enter, expect, test } from './server'

const row = (page: Page, key: string) => page.locator(`li[data-row="1/${key}"]`)
const list = (page: Page, name: string) => page.getByRole('region', { name, exact: true })

test('a member begins with what is theirs, and works from there by keyboard', async ({ page, server }) => {
  await enter(page, server, 'thandi')
  await page.goto(server.url)
  await expect(page).toHaveURL(/\/watch$/)
  await expect(list(page, 'Under way').getByRole('listitem', { name: /^MA-5 / })).toBeVisible()
  await expect(page.getByText('Thandi Mokwena · 2 h left of your tasks under way')).toBeVisible()
  await expect(list(page, 'Others wait for')).toContainText('KC-6 Handover note at change of watch')

  // A task of hers in somebody else's item; the others are not for her to tick.
  const draw = row(page, 'MA-5').getByRole('checkbox', { name: 'Draw the notice card' })
  await expect(row(page, 'MA-5').getByRole('checkbox', { name: 'Send it within a minute' })).toBeDisabled()
  const left = row(page, 'MA-5').getByRole('spinbutton', { name: 'Hours left of Draw the notice card' })
  await left.click()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('0.5')
  await page.keyboard.press('Tab')
  await expect(page.getByText('0.5 h left of your tasks under way')).toBeVisible()
  await row(page, 'MA-5').focus()
  await page.keyboard.press('1')
  await expect(draw).toBeChecked()
  await expect(page.getByText('h left of your tasks under way')).toHaveCount(0)
  await expect(row(page, 'MA-5')).toBeFocused()
  await page.keyboard.press('1')
  await expect(draw).not.toBeChecked()

  // Begun, with its last task done it is offered to go on.
  await row(page, 'KC-6').focus()
  await page.keyboard.press('ArrowRight')
  await expect(list(page, 'Under way').locator('li[data-row="1/KC-6"]')).toBeFocused()
  await page.keyboard.press('2')
  await expect(row(page, 'KC-6').getByRole('status')).toHaveText('All its tasks are done.')
  await expect(row(page, 'KC-6').getByRole('button', { name: 'On to sea trial' }).last()).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(row(page, 'KC-6')).toHaveAttribute('aria-label', /, sea trial/)
  await expect(row(page, 'KC-6')).toBeFocused()

  // Blocked, and talked about, in place.
  await page.keyboard.press('b')
  await page.keyboard.type('No keeper on watch')
  await page.keyboard.press('Enter')
  await expect(row(page, 'KC-6')).toContainText('Blocked: No keeper on watch')
  await page.keyboard.press('c')
  await page.keyboard.type('Back on Monday')
  await page.keyboard.press('Enter')
  await expect(row(page, 'KC-6')).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await expect(row(page, 'MA-7')).toBeFocused()
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/programs\/1\/backlog/)
  await page.getByRole('tab', { name: /^Comments \(1\)/ }).click()
  await expect(page.getByText('Back on Monday')).toBeVisible()
})

test('what others do shows by itself, and waits for one’s word', async ({ page, server, browser }) => {
  await enter(page, server, 'thandi')
  await page.goto(`${server.url}/watch`)
  await expect(list(page, 'Waits for your word')).toContainText('Nothing of your teams is in review')
  const other = await (await browser.newContext()).newPage()
  await enter(other, server, 'matthias')
  await other.goto(`${server.url}/programs/1/set-up/teams`)
  await other.getByRole('checkbox', { name: /somebody other than its assignee/ }).press('Space')
  await other.goto(`${server.url}/programs/1/track?teams=KC`)
  await other.locator('li[data-item="KC-2"]').focus()
  await other.keyboard.press('ArrowRight')
  await expect(other.locator('li[data-item="KC-2"]')).toHaveAttribute('aria-label', /, sea trial,/)
  await other.keyboard.press('ArrowRight')
  const waits = list(page, 'Waits for your word')
  await expect(waits.locator('li[data-row="1/KC-2"]')).toContainText('assigned to Björk Hallsdóttir')
  await waits.getByRole('button', { name: 'Send back…' }).click()
  await page.keyboard.type('Rings too softly')
  await page.keyboard.press('Enter')
  await expect(waits.locator('li')).toHaveCount(0)
  await expect(other.locator('li[data-item="KC-2"]')).toHaveAttribute('aria-label', /sea trial,.*sent back/)
  await other.locator('li[data-item="KC-2"]').focus()
  await other.keyboard.press('ArrowRight')
  await waits.getByRole('button', { name: 'Accept' }).click()
  await expect(waits.locator('li')).toHaveCount(0)
  await expect(other.locator('li[data-item="KC-2"]')).toHaveAttribute('aria-label', /, done,/)
  await other.context().close()
})

test('who is mentioned reads it in their news, until they have seen it', async ({
  page,
  server,
  browser,
}) => {
  await enter(page, server, 'thandi')
  await page.goto(`${server.url}/watch`)
  const waiting = list(page, 'Waits for your word') // the page has all
  await expect(waiting).toBeVisible()
  const other = await (await browser.newContext()).newPage()
  await enter(other, server, 'matthias')
  await other.goto(`${server.url}/programs/1/backlog?item=LC-8`)
  await other.getByRole('tab', { name: /^Comments/ }).click()
  const field = other.getByLabel('Your comment')
  await field.focus()
  await other.keyboard.type('Does it dim in fog, @th')
  await expect(other.getByRole('listbox').getByRole('option', { name: 'Thandi' })).toHaveAttribute(
    'aria-selected',
    'true',
  )
  await other.keyboard.press('Enter')
  await expect(field).toHaveValue('Does it dim in fog, @Thandi Mokwena ')
  await other.keyboard.type('?')
  await other.keyboard.press('Control+Enter')
  const first = list(page, 'News').getByRole('listitem').first()
  await expect(first).toContainText('LC-8')
  await expect(first).toContainText('Matthias Ferreol mentions you: “Does it dim in fog, @Thandi Mokwena ?”')
  const count = /\d+/.exec((await list(page, 'News').getByRole('heading').textContent())!)![0]
  await page.goto(`${server.url}/programs/1/track`)
  await page.getByRole('button', { name: `You are Thandi Mokwena, with ${count} news` }).click()
  await page.getByRole('link', { name: `My watch: ${count} news` }).press('Enter')
  await expect(list(page, 'News')).toBeVisible()
  await expect(page.getByRole('dialog')).toHaveCount(0) // the menu has gone
  await page.keyboard.press('n')
  await expect(list(page, 'News')).toHaveCount(0)
  await page.reload()
  await expect(waiting).toBeVisible()
  await expect(page.getByRole('button', { name: 'You are Thandi Mokwena', exact: true })).toBeVisible()
  await expect(list(page, 'News')).toHaveCount(0)
  await other.context().close()
})

test('who is nobody in a program is told so; the way there is in one’s menu', async ({ plan }) => {
  await plan.getByRole('button', { name: 'You are Matthias Ferreol' }).click()
  await plan.getByRole('link', { name: 'My watch' }).press('Enter')
  await expect(plan.getByText('No program knows yet which of its people you are.')).toBeVisible()
})
