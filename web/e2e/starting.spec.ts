import type { Page } from '@playwright/test'
import { enter, expect, test, type Server } from './server'

/** Makes the first account of an empty server, by keys. */
async function makeAccount(page: Page, server: Server): Promise<void> {
  await page.goto(server.first)
  await expect(page.getByLabel('Your name, as others see it')).toBeFocused()
  for (const text of ['Ann Berg', 'ann', 'seven lamps burn']) {
    await page.keyboard.type(text)
    await page.keyboard.press('Tab')
  }
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Name of a new program')).toBeFocused()
}

test('a newcomer gets from an empty server to an accepted draft in 20 keys beyond typing', async ({
  empty: server,
  page,
}) => {
  let keys = 0
  const press = async (key: string) => {
    keys++
    await page.keyboard.press(key)
  }
  const type = (text: string) => page.keyboard.type(text)
  const focused = (label: string) => expect(page.getByLabel(label, { exact: true })).toBeFocused()

  await page.goto(server.first)
  await focused('Your name, as others see it')
  await type('Ann Berg')
  await press('Tab')
  await type('ann')
  await press('Tab')
  await type('seven lamps burn')
  await press('Enter')

  // A template brings the rhythm: teams come next, and a line says so.
  await focused('Name of a new program')
  await expect(page.getByLabel('Start from')).toHaveValue('template:two-weeks')
  await type('Skerry Lights')
  await press('Enter')
  await expect(page.getByText('Next the teams')).toBeVisible()
  await press('n')
  const name = page.getByRole('dialog', { name: 'New team' }).getByLabel('Name')
  await expect(name).toBeFocused()
  for (const team of ['Lamp Control', 'Tide & Weather']) {
    await type(team)
    await press('Tab')
    await type('10')
    await press('Enter')
    await expect(page.getByText(`${team} was added. Add another, or press Esc to go on.`)).toBeVisible()
    await expect(name).toBeFocused()
  }
  await press('Escape')
  await expect(page.getByText('Next a release')).toBeVisible()

  await press('Control+k')
  await type('new item')
  await press('Enter')
  await focused('Title of the new item')
  for (const line of [
    'Heartbeat frame (5, LC)',
    'Surge model (8, TW)',
    'Missed-beat counter (3, LC)',
    'Warning levels (5, TW)',
  ]) {
    await type(line)
    await press('Enter')
  }
  await expect(page.locator('.row[data-item]')).toHaveCount(4)
  await press('Escape')

  await press('Control+k')
  await type('draft')
  await press('Enter')
  await expect(page.getByRole('heading', { name: '4 moves' })).toBeVisible()
  await press('Control+Enter')
  await expect(page.getByRole('button', { name: /^Undo/ })).toHaveAccessibleName(/Accept a draft: 4 moves/)
  await expect(page.getByRole('button', { name: '0 unplaced' })).toBeVisible()
  expect(keys).toBeLessThanOrEqual(20)
})

test('an empty server offers the sample, and a program with the set-up of another', async ({
  empty: server,
  page,
}) => {
  await makeAccount(page, server)
  // A table that is brought where a program document is wanted is told where it goes.
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'work.csv', mimeType: 'text/csv', buffer: Buffer.from('title,size\nLamp,3\n') })
  await expect(page.getByRole('alert')).toContainText('Backlog, Import')
  await page.getByRole('button', { name: 'Look at the sample program' }).click()
  await expect(page.getByRole('region', { name: 'Where the plan stands' })).toContainText('First Light')
  await page.getByRole('link', { name: 'Jantrel: all programs' }).click()
  await expect(page.getByLabel('Name of a new program')).toBeFocused()
  await expect(page.getByLabel('Start from')).toHaveValue('template:two-weeks')
  await page.keyboard.type('Outer chain')
  await page.keyboard.press('Tab')
  await page.keyboard.type('Set-up')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Next a release')).toBeVisible()
  await page.keyboard.press('3')
  await expect(page.getByRole('heading', { name: 'Teams' })).toBeVisible()
  await expect(page.getByRole('button', { name: /^Keepers' Console/ })).toBeVisible()
  // Dismissed, the line is gone for good.
  await page.getByRole('button', { name: 'Don’t show next steps' }).click()
  await expect(page.getByText('Next a release')).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('button', { name: /^Keepers' Console/ })).toBeVisible()
  await expect(page.getByText('Next a release')).toHaveCount(0)
})

test('find or do finds items, teams, people, iterations and commands of every stage', async ({
  look: page,
  shared,
}) => {
  await enter(page, shared)
  await page.goto(`${shared.url}/programs/1/backlog`)
  const row = (key: string) => page.locator(`[data-item="${key}"]`)
  await row('LC-1').waitFor()
  const find = async (text: string) => {
    await page.keyboard.press('Control+k')
    await page.keyboard.type(text)
    await page.keyboard.press('Enter')
  }
  await find('echo sounder')
  await expect(page.getByRole('region', { name: 'Item FW-10' })).toBeVisible()
  await expect(row('FW-10').locator('.cell.title')).toBeVisible()
  await find('chart desk')
  await expect(row('CD-1')).toBeVisible()
  await expect(row('LC-1')).toHaveCount(0)
  await find('set up people')
  await expect(page).toHaveURL(/set-up\/people/)
  await find('hana koba')
  await expect(page.getByRole('dialog', { name: 'Hana Kobayagi' })).toBeVisible()
  await page.keyboard.press('Escape')
  await find('who has time')
  await expect(page.getByRole('dialog', { name: 'Who has time?' })).toBeVisible()
  await page.keyboard.press('Escape')
  await find('capacity report')
  await expect(page.getByRole('dialog', { name: 'Capacity report' })).toBeVisible()
  await page.keyboard.press('Escape')
  await find('TW·14')
  await expect(page.getByRole('heading', { name: 'TW·14' })).toBeVisible()
  await find('new cadence')
  await expect(page.getByRole('dialog', { name: 'New cadence' })).toBeVisible()
  await page.keyboard.press('Escape')
  await find('dark theme')
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark')
  await find('what changed')
  await expect(
    page.locator('.journal').getByRole('heading', { name: 'Hours of the week from 22 Mar' }).first(),
  ).toBeVisible()
})
