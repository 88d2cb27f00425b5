import type { Page } from '@playwright/test'
import { block, enter, expect, test, type Server } from './server'

/** Goes on with Tab until the focus is on a link or button of a name. */
async function tabTo(page: Page, name: string | RegExp): Promise<void> {
  const wanted = page.getByRole('button', { name }).or(page.getByRole('link', { name }))
  for (let i = 0; i < 40; i++) {
    await page.keyboard.press('Tab')
    if (await wanted.first().evaluate((x) => x === document.activeElement)) return
  }
  throw new Error(`${name} is not reached by Tab`)
}

const retitle = (page: Page, server: Server, title: string) =>
  page.request.post(`${server.url}/api/v1/programs/1/do/enter`, {
    data: {
      client: 'other',
      revision: 0,
      intent: { keys: ['LC-20'], fields: ['title'], cells: [[title]] },
    },
  })

test('an administrator makes a backup with keys, and the audit log tells of it', async ({ page, server }) => {
  await enter(page, server, 'solveig')
  await page.goto(server.url + '/programs/1/plan')
  await block(page, 'LC-8').waitFor()
  await page.getByRole('button', { name: 'You are Solveig Aune' }).press('Enter')
  await page.getByRole('link', { name: 'The server' }).press('Enter')
  await expect(page.getByRole('row', { name: /Solveig Aune/ })).toBeVisible()
  await tabTo(page, 'Backups')
  await page.keyboard.press('Enter')
  await expect(page.getByText('There is no backup yet.')).toBeVisible()
  await tabTo(page, 'Make a backup now')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('status')).toContainText('It was looked through.')
  const download = page.waitForEvent('download')
  await tabTo(page, /^Download jantrel-/)
  await page.keyboard.press('Enter')
  expect((await download).suggestedFilename()).toMatch(/^jantrel-\d{8}-\d{6}\.db$/)
  await page.getByRole('link', { name: 'Audit log' }).press('Enter')
  const rows = page.getByRole('row')
  await expect(rows.nth(1)).toContainText('backup fetched')
  await expect(rows.nth(2)).toContainText('backup made')
  await expect(rows.nth(3)).toContainText('signed in')
  await page.getByLabel('What happened').press('ArrowDown')
  await expect(rows).toHaveCount(2)
  await page.getByLabel('By or about whom').focus()
  await page.keyboard.type('nobody')
  await page.keyboard.press('Enter')
  await expect(page.getByText('There is no such entry.')).toBeVisible()

  // Others see nothing of the server.
  await enter(page, server)
  await page.goto(server.url + '/server/audit')
  await expect(page.getByText('This is for administrators of the server.')).toBeVisible()
  await expect(page.getByRole('table')).toHaveCount(0)
})

test('an edit whose answer is lost is made once', async ({ plan, server }) => {
  let lost = 0
  const names = new Set<string>()
  await plan.route('**/do/place', async (route) => {
    names.add((await route.request().headerValue('Idempotency-Key')) ?? '')
    if (lost++) return route.continue()
    await route.fetch() // it gets there, and what comes back does not
    await route.abort('connectionreset')
  })
  await block(plan, 'LC-20').click()
  await plan.keyboard.press(']')
  await expect(plan.getByRole('group', { name: /^LC·15:/ }).locator('[data-block="LC-20"]')).toBeVisible()
  await expect.poll(() => lost).toBe(2)
  expect(names.size).toBe(1)
  const journal = await plan.request.get(`${server.url}/api/v1/programs/1/journal`)
  expect((await journal.text()).match(/LC-20/g)).toHaveLength(2) // of one edit: its label and its change
})

test('that edits cannot be saved is said until they can', async ({ plan, server }) => {
  await plan.route('**/do/place', (route) =>
    route.fulfill({
      status: 507,
      contentType: 'application/problem+json',
      body: JSON.stringify({ title: 'Insufficient Storage', status: 507, detail: 'Nothing was changed.' }),
    }),
  )
  await block(plan, 'LC-20').click()
  await plan.keyboard.press(']')
  const banner = plan.getByRole('alert').filter({ hasText: 'Edits cannot be saved' })
  await expect(banner).toBeVisible()
  expect((await retitle(plan, server, 'Read on')).ok()).toBe(true)
  await expect(block(plan, 'LC-20')).toContainText('Read on')
  await expect(banner).toBeHidden() // with the next beat: this server's disk has room
})

test('files of an item that is gone are seen, and removed for good', async ({ page, server }) => {
  await enter(page, server)
  const at = `${server.url}/api/v1/programs/1`
  const put = await page.request.post(`${at}/attachments?item=LC-14&name=noon.txt`, {
    headers: { 'Content-Type': 'application/octet-stream' },
    data: 'twice',
  })
  expect(put.ok()).toBe(true)
  const { revision } = (await (await page.request.get(at)).json()) as { revision: number }
  const gone = await page.request.post(`${at}/do/delete`, {
    data: { client: 'a', revision, intent: { keys: ['LC-14'] } },
  })
  expect(gone.status(), await gone.text()).toBe(200)
  await page.goto(server.url + '/programs/1/set-up/files')
  const row = page.getByRole('row', { name: /noon\.txt/ })
  await expect(row).toContainText('Lamp flashes twice at noon restart')
  await expect(row).toContainText('by Matthias')
  await row.getByRole('button', { name: 'Remove noon.txt' }).press('Enter')
  await tabTo(page, 'Remove for good')
  await page.keyboard.press('Enter')
  await expect(page.getByText('There are none.')).toBeVisible()
})
