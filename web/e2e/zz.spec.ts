import { test, enter } from './server'
test('boot', async ({ demo: page, server }) => {
  test.setTimeout(120000)
  for (let i = 0; i < 20; i++) {
    await page.goto(`${server.url}/programs/1/plan`)
    await page.locator('[data-block]').first().waitFor()
  }
})
