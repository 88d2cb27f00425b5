import type { Page } from '@playwright/test'
import { block, enter, expect, test } from './server'

// Not a test: the pictures in docs/screenshots. Run with `make screenshots`.

/** Takes a picture of a view that has all that it shows. */
async function take(page: Page, name: string): Promise<void> {
  await expect(page.getByText('working out when it lands')).toHaveCount(0)
  await page.screenshot({ path: `../docs/screenshots/${name}.png` })
}

test('plan', async ({ plan }) => {
  await block(plan, 'LC-8').click()
  await plan.getByText('Waits for TW-5').waitFor()
  await plan.mouse.move(600, 770)
  await take(plan, 'plan')
})

test('levers', async ({ plan }) => {
  await plan.getByRole('button', { name: 'Fix First Light: recovery options' }).press('Enter')
  await plan.getByRole('button', { name: /^Show on the plan: Accept a new draft/ }).press('Enter')
  await plan.locator('.ghost').first().waitFor()
  await take(plan, 'levers')
})

test('draft', async ({ plan }) => {
  await plan.keyboard.press('s')
  await plan.getByRole('button', { name: 'Draft again' }).waitFor()
  await plan.locator('.ghost').first().waitFor()
  await take(plan, 'draft')
})

test.describe('dark', () => {
  test.use({ colorScheme: 'dark' })
  test('attention', async ({ plan, server }) => {
    await plan.goto(`${server.url}/programs/1/track?as=attention`)
    await plan.getByRole('button', { name: 'How this step is done well' }).press('Enter')
    await plan.getByRole('list', { name: 'Checklist' }).waitFor()
    await plan.locator('[data-call]').first().focus()
    await take(plan, 'attention')
  })
})

test('hours', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/track?as=hours&person=p11&week=2027-03-15`)
  await plan.getByRole('table', { name: 'Hours of Diego Marroquín' }).waitFor()
  await take(plan, 'hours')
})

test('risks', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/track?as=risks&risks=matrix&risk=RK-3`)
  await expect(plan.getByText(/Together they cost/)).toBeVisible()
  await take(plan, 'risks')
})

test('forecast', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/forecast`)
  await plan.getByText(/with that alone otherwise/).waitFor()
  await take(plan, 'forecast')
})

test('calendar', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/set-up/calendar`)
  await plan.getByRole('button', { name: /^LC·13, / }).click()
  await plan.getByRole('button', { name: 'Resize…' }).waitFor()
  await plan.mouse.move(600, 130)
  await take(plan, 'calendar')
})

test('releases', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/set-up/releases`)
  await plan.getByText('What changes for skippers').waitFor()
  await take(plan, 'releases')
})

test('capacity', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/set-up/capacity`)
  await plan.getByRole('button', { name: /^LC·12, / }).click()
  await plan.getByText('20 member-days are there').waitFor()
  await plan.mouse.move(600, 130)
  await take(plan, 'capacity')
})

test('compare', async ({ plan, server }) => {
  const url = `${server.url}/api/v1/programs/1`
  const post = async (path: string, data: unknown) =>
    (await (await plan.request.post(url + path, { data })).json()) as { id: number }
  const set = (key: string, field: string, value: unknown) => ({ op: 'set', kind: 'item', key, field, value })
  const frozen = await post('/baselines', { name: 'As agreed in March' })
  const tried: [string, unknown[]][] = [
    [
      'One more pair in Lamp Control',
      [
        { op: 'set', kind: 'team', key: 'LC', field: 'velocity', value: 24 },
        set('LC-10', 'iteration', 'LC-i11'),
        set('LC-9', 'iteration', 'LC-i12'),
      ],
    ],
    [
      'Without the archive',
      ['CD-10', 'CD-11', 'CD-12', 'CD-17', 'MA-18'].map((key) => set(key, 'keptOut', true)),
    ],
  ]
  const lines: number[] = []
  for (const [name, changes] of tried) {
    const { id } = await post('/scenarios', { name })
    const { revision } = (await (await plan.request.get(`${url}/outline?scenario=${id}`)).json()) as {
      revision: number
    }
    await post(`/changes?scenario=${id}`, { client: 'e2e', revision, label: name, changes })
    lines.push(id)
  }
  const of = `live,scenario-${lines[0]},scenario-${lines[1]},baseline-${frozen.id}`
  await plan.goto(`${server.url}/programs/1/scenario-${lines[0]}/plan?as=compare&of=${of}`)
  await plan.getByRole('heading', { name: /stand elsewhere/ }).waitFor()
  await take(plan, 'compare')
})

test('backlog', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/backlog`)
  await plan.getByRole('button', { name: 'What fits' }).click()
  await plan.getByText(/the first \d+ with 50/).waitFor()
  await plan.locator('[data-item="LC-1"] .cell.title').click()
  for (let n = 0; n < 12 && !(await plan.locator('.cut.odds85').isVisible()); n++)
    await plan.keyboard.press('PageDown')
  await plan.locator('.cut.odds85').waitFor()
  await plan.mouse.move(600, 770)
  await take(plan, 'backlog')
})

test('scope', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/track?as=scope`)
  await expect(plan.getByRole('region', { name: 'Done a week' })).toBeVisible()
  await take(plan, 'scope')
})

test('report', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/report?page=ready:manager`)
  await expect(plan.getByRole('region', { name: 'Dates', exact: true })).toContainText('First Light is')
  await expect(plan.getByText('Playing the plan…')).toHaveCount(0)
  await expect(plan.getByText('Looking…')).toHaveCount(0)
  await expect(plan.getByText('Counting…')).toHaveCount(0)
  await take(plan, 'report')
})

test('brief', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/report?as=briefs`)
  await plan.getByLabel('A new brief about').selectOption('First Light')
  await plan.getByRole('button', { name: 'Begin' }).press('Enter')
  await expect(plan.getByRole('region', { name: 'In short' })).toContainText('lands between')
  const picture = plan.getByRole('application', { name: /how the plays go on/ })
  await expect(picture.locator('svg')).toBeVisible()
  await plan.getByRole('region', { name: 'When', exact: true }).evaluate((e) => e.scrollIntoView())
  await take(plan, 'brief')
})

test('screen', async ({ page, server, browser }) => {
  await enter(page, server)
  const api = `${server.url}/api/v1/programs/1/pages`
  const { ready } = await (await page.request.get(api)).json()
  const kept = await (
    await page.request.post(api, { data: { name: 'Beacon at a glance', cards: ready[0].cards.slice(2, 4) } })
  ).json()
  const link = await (
    await page.request.post(`${api}/${kept.id}/screens`, { data: { seconds: 60, dimFrom: 0, dimTo: 0 } })
  ).json()
  const wall = await (await browser.newContext({ viewport: { width: 1280, height: 720 } })).newPage()
  await wall.goto(`${server.url}${link.path}`)
  await wall
    .getByRole('region', { name: 'Attention' })
    .getByText(/things? needs? somebody/)
    .waitFor()
  await wall.getByRole('button', { name: /Fill the screen/ }).waitFor({ state: 'detached' })
  await take(wall, 'screen')
})

test('watch', async ({ page, server }) => {
  await enter(page, server, 'thandi')
  await page.goto(server.url)
  await page.locator('li[data-row]').first().waitFor()
  await page.getByRole('button', { name: 'Seen' }).waitFor()
  await take(page, 'watch')
})

test('track', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/track`)
  const at = (key: string) => plan.locator(`li[data-item="${key}"]`)
  const along = async (key: string, ...keys: string[]) => {
    await at(key).focus()
    for (const k of keys) {
      const before = await at(key).getAttribute('aria-label')
      await plan.keyboard.press(k)
      await expect(at(key)).not.toHaveAttribute('aria-label', before!)
    }
  }
  await along('LC-4', 'ArrowRight')
  await along('LC-5', 'ArrowRight')
  await plan.getByRole('button', { name: /event/ }).first().click()
  await expect(plan.getByText('5 of 16 pt done')).toBeVisible()
  await take(plan, 'track')
})

test('needs', async ({ plan, server }) => {
  await plan.goto(`${server.url}/programs/1/plan?as=needs&gives=LC&waits=KC`)
  const main = plan.getByRole('main', { name: 'Needs' })
  await expect(main.getByText(/In time with/).first()).toBeVisible()
  await take(plan, 'needs')
})
