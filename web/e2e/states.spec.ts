import { block, enter, expect, goTo, test } from './server'

test('an empty program, a bad document and a good one', async ({ page, empty: server }) => {
  await page.goto(server.first)
  await page.getByLabel('Your name, as others see it').fill('Ann Berg')
  await page.getByLabel('Sign-in name').fill('ann')
  await page.getByLabel('Password').fill('seven lamps burn')
  await page.getByRole('button', { name: 'Make the account' }).click()
  await expect(page.getByText('There are none yet.')).toBeVisible()
  const choose = (text: string) =>
    page
      .locator('input[type=file]')
      .setInputFiles({ name: 'p.json', mimeType: 'application/json', buffer: Buffer.from(text) })
  await choose(
    '{"format":"jantrel-program","version":1,"name":"X","colour":1,"items":[{"title":"","kind":"saga"}]}',
  )
  await expect(page.getByRole('alert')).toContainText('Item 1, key: is missing')
  await expect(page.getByRole('alert')).toContainText('Colour: is not a field')
  await page.getByLabel('Name of a new program').fill('Nothing yet')
  await page.getByLabel('Start from').selectOption('Nothing')
  await page.getByRole('button', { name: 'Start', exact: true }).click()
  await expect(page.getByText('Start with one.')).toBeVisible()
  await page.getByRole('link', { name: 'Plan', exact: true }).click()
  await expect(page.getByText('There is nothing to plan here yet')).toBeVisible()
  await page.getByRole('button', { name: 'Import a program document' }).click()
  const cadence = '"cadences":[{"key":"w","start":"2027-03-01","lengthDays":14}]'
  const team =
    '"teams":[{"key":"T","name":"Team","unit":"points","cadence":"w","velocity":10,"iterations":[{"key":"1","start":"2027-03-15","end":"2027-03-28"}]}]'
  await choose(
    `{"format":"jantrel-program","version":1,"name":"Small",${cadence},${team},"items":[{"key":"A","title":"Only one","kind":"story","team":"T","size":3,"iteration":"1"}]}`,
  )
  await expect(block(page, 'A')).toBeVisible()
  await page.getByRole('link', { name: 'Jantrel: all programs' }).click()
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Small' })
    .getByRole('button', { name: 'Delete' })
    .click()
  await page.getByRole('button', { name: 'Delete for good' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'Small' })).toHaveCount(0)
  await goTo(page, '/programs/77/plan')
  await expect(page.getByText('There is no such program')).toBeVisible()
})

test('without a connection edits are refused, and it recovers by itself', async ({ plan, server }) => {
  await block(plan, 'LC-20').click()
  await server.stop()
  await expect(plan.locator('.offline')).toBeVisible()
  await plan.keyboard.press(']')
  await expect(plan.getByText('There is no connection to the server.')).toBeVisible()
  await server.start()
  await expect(plan.locator('.offline')).toBeHidden()
  await plan.keyboard.press(']')
  await expect(plan.getByRole('group', { name: /^LC·15:/ }).locator('[data-block="LC-20"]')).toBeVisible()
})

test('a server that fails says so and can be asked again', async ({ page, server }) => {
  await enter(page, server)
  await page.route('**/api/v1/programs/1/outline', (route) =>
    route.fulfill({
      status: 500,
      contentType: 'application/problem+json',
      body: '{"detail":"The server could not do this."}',
    }),
  )
  await page.goto(server.url + '/programs/1/plan')
  await expect(page.getByText('The program could not be loaded')).toBeVisible()
  await page.unroute('**/api/v1/programs/1/outline')
  await page.getByRole('button', { name: 'Try again' }).click()
  await expect(block(page, 'LC-8')).toBeVisible()
})

test('the interface can be read without another host', async ({ page, server }) => {
  const asked: string[] = []
  page.on('request', (r) => asked.push(r.url()))
  // One operation with what it speaks of: to draw all of them takes a slow machine half a minute.
  await page.route('**/openapi.json', async (route) => {
    const whole = (await (await route.fetch()).json()) as Described
    const path = '/api/v1/programs/{id}/changes'
    const part = { ...whole, paths: { [path]: whole.paths[path] } }
    await route.fulfill({ json: { ...part, components: spokenOf(part, whole.components) } })
  })
  await page.goto(server.url + '/api-docs.html')
  await expect(page.getByText('Apply changes, all or none').first()).toBeVisible()
  expect(
    asked.filter(
      (url) => !url.startsWith(server.url) && !url.startsWith('data:') && !url.startsWith('blob:'),
    ),
  ).toEqual([])
})

type Components = Record<string, Record<string, unknown>>
interface Described {
  paths: Record<string, unknown>
  components: Components
}

/** The components that a part of the description speaks of, and those that these speak of in turn. */
function spokenOf(part: object, components: Components): Components {
  const found: Components = { securitySchemes: components.securitySchemes }
  const look = (text: string) => {
    for (const [, kind, name] of text.matchAll(/"#\/components\/(\w+)\/([^"]+)"/g))
      if (!(name in (found[kind] ??= {}))) {
        found[kind][name] = components[kind][name]
        look(JSON.stringify(components[kind][name]))
      }
  }
  look(JSON.stringify({ ...part, components: undefined }))
  return found
}
