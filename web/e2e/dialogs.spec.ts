import type { Page } from '@playwright/test'
import { noViolations } from './axe'
import { expect, test } from './server'

// Every dialog can be used by everybody, in both themes, as the screens can that they are over.

const find = async (page: Page, text: string) => {
  await page.keyboard.press('Control+k')
  await page.keyboard.type(text)
  await page.keyboard.press('Enter')
}

for (const colorScheme of ['light', 'dark'] as const) {
  test.describe(colorScheme, () => {
    test.use({ colorScheme })

    test(`every dialog, ${colorScheme}`, async ({ plan: page, server }) => {
      const dialog = page.getByRole('dialog')
      const look = async () => {
        await expect(dialog).toBeVisible()
        await noViolations(page, '[role="dialog"]')
        await page.keyboard.press('Escape')
        await expect(dialog).toHaveCount(0)
      }
      for (const command of [
        'new team',
        'new cadence',
        'new release',
        'new milestone',
        'add people',
        'who has time',
        'capacity report',
        'harbour trial',
        'ingrid oksanen',
        'what changed',
      ]) {
        await find(page, command)
        await look()
      }
      await page.goto(`${server.url}/programs/1/backlog`)
      const row = page.locator('[data-item="LC-8"] .cell.title')
      await row.click()
      for (const name of ['Split…', 'Break down…', 'Delete…']) {
        await page.getByRole('button', { name, exact: true }).click()
        await look()
      }
      await page.keyboard.press('?')
      await look()
      // A proposal, with all that it would do.
      await page.goto(`${server.url}/programs/1/set-up/teams`)
      await page.getByRole('button', { name: /^Lamp Control/ }).click()
      await page.getByRole('button', { name: 'Take Tomasz Brzoza out of the team' }).click()
      await expect(dialog).toContainText('Capacity of')
      await look()
    })
  })
}
