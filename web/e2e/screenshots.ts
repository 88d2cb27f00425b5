import { block, test } from './server'

// Not a test: the pictures in docs/screenshots. Run with `make screenshots`.

const to = (name: string) => `../docs/screenshots/${name}.png`

test('plan', async ({ plan }) => {
  await block(plan, 'LC-8').click()
  await plan.getByText('Waits for TW-5').waitFor()
  await plan.mouse.move(600, 770)
  await plan.screenshot({ path: to('plan') })
})

test('draft', async ({ plan }) => {
  await plan.keyboard.press('s')
  await plan.getByRole('button', { name: 'Accept all' }).waitFor()
  await plan.locator('.ghost').first().waitFor()
  await plan.screenshot({ path: to('draft') })
})

test.describe('dark', () => {
  test.use({ colorScheme: 'dark' })
  test('plan in the dark theme', async ({ plan }) => {
    await plan.getByRole('button', { name: /^Chart Desk/ }).click()
    await plan.getByRole('button', { name: /broken needs/ }).click()
    await plan.getByText('4 items selected.').waitFor()
    await plan.screenshot({ path: to('plan-dark') })
  })
})

test('programs', async ({ plan }) => {
  await plan.getByRole('link', { name: 'Jantrel: all programs' }).click()
  await plan.getByRole('button', { name: 'Import a program document' }).waitFor()
  await plan.screenshot({ path: to('programs') })
})
