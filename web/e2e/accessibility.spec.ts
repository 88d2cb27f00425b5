import type { Page } from '@playwright/test'
import { readableByAll } from './axe'
import { block, enter, expect, goTo, test, type Server } from './server'

// Each stage, panel and dialog can be used by everybody, in both themes. Here alone: other flows don't look again. Nobody
// changes anything, so all of them look at one server.

const at = (server: Server, path: string) => `${server.url}/programs/1/${path}`

/** Goes to a stage: within the page, once it is loaded. */
const visit = async (page: Page, server: Server, path: string) =>
  new URL(page.url()).pathname.startsWith('/programs/')
    ? goTo(page, `/programs/1/${path}`)
    : page.goto(at(server, path))

const find = async (page: Page, text: string) => {
  await page.keyboard.press('Control+k')
  await page.keyboard.type(text)
  await page.keyboard.press('Enter')
}

/** Looks at the dialog that is open, and closes it. */
async function lookAtDialog(page: Page): Promise<void> {
  const dialog = page.getByRole('dialog')
  await expect(dialog).toBeVisible()
  await readableByAll(page, '[role="dialog"]')
  await page.keyboard.press('Escape')
  await expect(dialog).toHaveCount(0)
}

test('plan: an item, a draft, levers, the journal, guidance', async ({ look: page, shared }) => {
  await enter(page, shared)
  await page.goto(at(shared, 'plan'))
  await block(page, 'LC-8').click()
  await expect(page.getByText('Why here')).toBeVisible()
  await page.getByRole('button', { name: 'How this step is done well' }).press('Enter')
  await expect(page.getByRole('complementary', { name: 'Guidance' })).toBeVisible()
  await readableByAll(page)
  await page.getByRole('button', { name: 'How this step is done well' }).press('Enter')
  await page.keyboard.press('s')
  await expect(page.getByRole('button', { name: 'Accept all' })).toBeEnabled()
  await readableByAll(page, '[aria-label="Draft of a schedule"]')
  await page.getByRole('button', { name: 'Discard' }).click()
  await page.getByRole('button', { name: 'Fix First Light: recovery options' }).press('Enter')
  const levers = page.getByRole('region', { name: 'Recovery options: First Light' })
  await expect(levers.getByRole('listitem').first()).toBeVisible()
  await readableByAll(page, '.levers, [aria-label^="Recovery"]')
  await levers.getByRole('button', { name: 'Close' }).press('Enter')
  await page.getByRole('button', { name: 'What changed' }).click()
  await expect(page.locator('.journal').getByRole('heading').first()).toBeVisible()
  // The drawer slides in; half-way its colours are not its own yet.
  await page.locator('.p-drawer-enter-active').waitFor({ state: 'detached' })
  await readableByAll(page, '.journal')
})

test('plan: roomy blocks with keys and features, colour rules, a filter', async ({ look: page, shared }) => {
  await enter(page, shared)
  await page.goto(at(shared, 'plan'))
  await block(page, 'LC-9').waitFor()
  await page.getByRole('button', { name: 'Look…' }).click()
  await page.getByLabel('Roomy').check()
  await page.getByLabel('Key', { exact: true }).check()
  await page.getByLabel('Features', { exact: true }).check()
  await expect(page.locator('[data-bar]').first()).toBeVisible()
  await readableByAll(page, 'main')
  await page.keyboard.press('Escape')
  await page.getByLabel('Colour', { exact: true }).selectOption('Own rules')
  const rules = page.getByRole('dialog', { name: 'Colour rules' })
  await rules.getByRole('button', { name: 'Add a rule' }).click()
  await rules.getByRole('button', { name: 'Add a condition' }).click()
  await readableByAll(page, '[role="dialog"]')
  await rules.getByRole('button', { name: 'Done', exact: true }).click()
  await page.getByRole('button', { name: 'Filter', exact: true }).click()
  await page
    .getByRole('dialog', { name: 'What the plan shows' })
    .getByRole('button', { name: 'Add a condition' })
    .click()
  await readableByAll(page, '[role="dialog"]')
})

test('dependencies: the map, by week, chains, as a table, owed', async ({ look: page, shared }) => {
  await enter(page, shared)
  await page.goto(at(shared, 'plan?as=needs&gives=TW&waits=LC'))
  const main = page.getByRole('main', { name: 'Needs' })
  await main
    .getByRole('button', { name: /^Answer / })
    .first()
    .press('Enter')
  await expect(main.getByRole('form').first()).toBeVisible()
  await readableByAll(page)
  await main.getByRole('button', { name: 'Export…' }).press('Enter')
  await lookAtDialog(page)
  for (const [show, region] of [
    ['When', 'When'],
    ['Chains', /^The longest chain/],
    ['Owed and waited for', 'Owed'],
    ['As a table', 'All needs, as a table'],
  ] as const) {
    await main.getByRole('button', { name: show, exact: true }).press('Enter')
    await expect(main.getByRole('region', { name: region, exact: true })).toBeVisible()
    if (show === 'As a table') await main.getByRole('button', { name: 'Add needs…' }).press('Enter')
    await readableByAll(page, 'main')
  }
})

test('backlog: the list, an item, what stands beside it, imports', async ({ look: page, shared }) => {
  await enter(page, shared)
  await page.goto(at(shared, 'backlog'))
  await page.locator('[data-item="LC-5"] .cell.title').click()
  await expect(page.getByRole('region', { name: 'Item LC-5' })).toBeVisible()
  await page.getByLabel('Heads').selectOption('by release')
  await page.locator('[data-item="LC-6"] .cell.title').click({ modifiers: ['Shift'] })
  await readableByAll(page)
  const beside = page.getByRole('navigation', { name: 'Beside the list' })
  for (const name of ['What fits', 'Ready', 'Mix', 'Scope']) {
    await beside.getByRole('button', { name, exact: true }).click()
    await page.locator('aside.side section').waitFor()
    await readableByAll(page, 'aside.side')
  }
  await page.getByRole('link', { name: 'Import' }).click()
  await readableByAll(page, 'main')
})

test('dialogs and menus of what there is', async ({ look: page, shared }) => {
  await enter(page, shared)
  await page.goto(at(shared, 'plan'))
  await block(page, 'LC-8').waitFor()
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
  ]) {
    await find(page, command)
    await lookAtDialog(page)
  }
  await page.keyboard.press('Control+k')
  await page.keyboard.type('lamp')
  await expect(page.getByRole('option').first()).toBeVisible()
  await readableByAll(page, 'header, [role="search"], .bar')
  await page.keyboard.press('Escape')
  await goTo(page, '/programs/1/backlog')
  await page.locator('[data-item="LC-8"] .cell.title').click()
  await page.keyboard.press('?')
  await lookAtDialog(page)
  for (const name of ['Split…', 'Break down…', 'Delete…']) {
    await page.getByRole('button', { name, exact: true }).click()
    await lookAtDialog(page)
  }
  await page.getByRole('button', { name: 'More', exact: true }).click()
  await page.getByRole('button', { name: 'Priorities…' }).press('Enter')
  await expect(page.getByRole('dialog', { name: 'Priorities' })).toBeVisible()
  await expect(page.locator('.p-popover')).toHaveCount(0)
  await lookAtDialog(page)
})

test('a proposal, with all that it would do', async ({ look: page, shared }) => {
  await enter(page, shared)
  await page.goto(at(shared, 'set-up/teams'))
  await page.getByRole('button', { name: /^Lamp Control/ }).click()
  await page.getByRole('button', { name: 'Take Tomasz Brzoza out of the team' }).click()
  await expect(page.getByRole('dialog')).toContainText('Capacity of')
  await lookAtDialog(page)
})

test('forecast: its questions and answers', async ({ look: page, shared }) => {
  await enter(page, shared)
  const main = page.getByRole('main', { name: 'Forecast' })
  for (const [ask, shows] of [
    ['', main.getByRole('region', { name: 'What moves it most' }).getByRole('listitem').first()],
    ['?ask=fits', main.getByRole('heading', { name: /^(The first|All) / })],
    ['?ask=pace', main.getByRole('heading', { name: /^All teams \d+/ })],
    ['?ask=dates', main.getByRole('region', { name: 'What was promised' }).getByRole('row').nth(1)],
    ['?ask=went', main.getByRole('region', { name: 'What changed it' }).getByRole('row').nth(1)],
    ['?ask=kept', main.getByRole('region', { name: 'How often it came' })],
  ] as const) {
    await visit(page, shared, `forecast${ask}`)
    await expect(shows).toBeVisible()
    await readableByAll(page, ask ? 'main' : undefined)
  }
  await goTo(page, '/programs/1/forecast?ask=dates')
  await main.getByRole('button', { name: 'Promise a date…' }).press('Enter')
  await readableByAll(page, 'main form')
})

test('track: courses, stacks, tasks, closing', async ({ look: page, shared }) => {
  await enter(page, shared)
  await page.goto(at(shared, 'track'))
  const row = page.locator('li[data-item="LC-5"]')
  await row.focus()
  await page.keyboard.press('t')
  await expect(page.getByRole('list', { name: 'Tasks of LC-5' })).toBeVisible()
  await readableByAll(page)
  await page.getByRole('button', { name: 'Close LC·10…' }).click()
  await lookAtDialog(page)
  await page.getByRole('button', { name: 'Steps…' }).press('Enter')
  await lookAtDialog(page)
  await goTo(page, '/programs/1/track?as=stacks&by=person')
  await expect(page.locator('li[data-item]').first()).toBeVisible()
  await readableByAll(page, 'main')
})

test('track: what needs somebody, health, risks, hours, scope, reviews', async ({ look: page, shared }) => {
  await enter(page, shared)
  for (const [view, shows] of [
    ['attention', page.locator('[data-call]').first()],
    ['health', page.getByRole('table', { name: 'Teams' }).getByRole('row').nth(1)],
    ['risks&risk=RK-1', page.getByRole('complementary', { name: 'Risk RK-1' })],
    ['risks&risks=matrix', page.locator('[data-risk]').first()],
    ['hours', page.getByRole('table').first()],
    ['scope', page.locator('.burn .ideal')],
    ['review', page.getByRole('article').first()],
  ] as const) {
    await visit(page, shared, `track?as=${view}`)
    await expect(shows).toBeVisible()
    await readableByAll(page, 'main')
  }
})

test('the page of one’s own, and the week’s hours', async ({ look: page, shared }) => {
  await enter(page, shared, 'ingrid')
  await page.goto(`${shared.url}/watch`)
  const mine = page.getByRole('region', { name: 'Under way', exact: true })
  await expect(mine.getByRole('listitem', { name: /^LC-5 / })).toBeVisible()
  await readableByAll(page)
  await page.goto(at(shared, 'track?as=hours'))
  await expect(page.getByRole('table', { name: 'Hours of Ingrid Oksanen' })).toBeVisible()
  await readableByAll(page, 'main')
})

test('report: pages, what is behind a mark, briefs, files, the way of working', async ({
  look: page,
  shared,
}) => {
  await enter(page, shared)
  for (const [ready, shows] of [
    ['manager', 'Work by team'],
    ['stakeholder', 'Dates'],
  ]) {
    await visit(page, shared, `report?page=ready:${ready}`)
    await expect(page.getByRole('region', { name: shows, exact: true })).toBeVisible()
    for (const waits of ['Counting…', 'Playing the plan…']) await expect(page.getByText(waits)).toHaveCount(0)
    await readableByAll(page, 'main')
  }
  await goTo(page, '/programs/1/report?as=briefs')
  await expect(page.getByRole('main', { name: 'Report' })).toBeVisible()
  await readableByAll(page, 'main')
  await goTo(page, '/programs/1/report?as=files')
  await expect(page.getByRole('link', { name: 'The plan as XLSX' })).toBeVisible()
  await readableByAll(page, 'main')
  await goTo(page, '/programs/1/report?as=working')
  await expect(page.getByRole('region', { name: 'What was agreed' })).toBeVisible()
  await readableByAll(page, 'main')
})

test('set up, accounts and the server', async ({ look: page, shared }) => {
  await enter(page, shared, 'solveig')
  for (const tab of ['calendar', 'releases', 'teams', 'people', 'capacity', 'velocity', 'files', 'access']) {
    await visit(page, shared, `set-up/${tab}`)
    await expect(page.getByRole('link', { name: 'Set up' })).toBeVisible()
    await page.getByText('working out when it lands').first().waitFor({ state: 'detached' })
    if (tab === 'velocity') await page.locator('svg').first().waitFor()
    await readableByAll(page, 'main')
  }
  for (const path of ['/account', '/server/accounts', '/server/audit', '/server/backups']) {
    await goTo(page, path)
    await page.getByRole('heading', { level: 1 }).waitFor()
    await readableByAll(page, 'main')
  }
})

test('what became of the plan, and the past', async ({ look: page, shared }) => {
  await enter(page, shared)
  await page.goto(at(shared, 'plan?as=since&of=2027-03-01'))
  await expect(page.getByRole('main', { name: 'Since then' }).getByRole('row').nth(3)).toBeVisible()
  await readableByAll(page, 'main')
  await goTo(page, '/programs/1/past-2027-03-01/track')
  await expect(page.getByRole('region', { name: 'The line in view' })).toContainText('1 Mar')
  await readableByAll(page, '[aria-label="The line in view"]')
})

test('scenarios: made, compared, published', async ({ page, server }) => {
  await enter(page, server)
  const made = await page.request.post(`${server.url}/api/v1/programs/1/scenarios`, {
    data: { name: 'What if' },
  })
  expect(made.ok(), await made.text()).toBe(true)
  const { id } = (await made.json()) as { id: number }
  const { revision } = (await (await page.request.get(`${server.url}/api/v1/programs/1/outline`)).json()) as {
    revision: number
  }
  const edited = await page.request.post(`${server.url}/api/v1/programs/1/changes?scenario=${id}`, {
    data: {
      client: 'e2e',
      revision,
      label: 'Larger',
      changes: [{ op: 'set', kind: 'item', key: 'LC-8', field: 'size', value: 13 }],
    },
  })
  expect(edited.ok(), await edited.text()).toBe(true)
  await page.goto(`${server.url}/programs/1/scenario-${id}/plan?as=compare`)
  await expect(
    page.getByRole('main', { name: 'Compare' }).getByRole('row', { name: /^LC-8 size/ }),
  ).toBeVisible()
  await readableByAll(page)
  await page.getByRole('button', { name: 'Publish…' }).press('Enter')
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Publish', exact: true })).toBeEnabled()
  await lookAtDialog(page)
})

test('a program with nothing in it, and the list of programs', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(server.url)
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
  await readableByAll(page, 'main')
  const made = await page.request.post(`${server.url}/api/v1/programs`, { data: { name: 'Skerry Lights' } })
  const { id } = (await made.json()) as { id: number }
  for (const [stage, shows] of [
    ['plan', page.getByText('There is nothing to plan here yet')],
    ['plan?as=needs', page.getByText('No team waits for another.')],
    ['forecast', page.getByRole('heading', { name: 'Nothing is left to do' })],
    ['forecast?ask=fits', page.getByRole('heading', { name: 'Nothing is left to do' })],
    ['forecast?ask=pace', page.getByText('Say beside by which date it is to be done.')],
    ['forecast?ask=dates', page.getByText('This program has neither releases nor milestones.')],
    ['set-up', page.getByText('Start with one.')],
  ] as const) {
    await goTo(page, `/programs/${id}/${stage}`)
    await expect(shows).toBeVisible()
    await readableByAll(page, 'main')
  }
})

// What a page complains of in its console fails it, too: here nobody has signed in.
test('before signing in', async ({ look: page, shared, empty }) => {
  await page.goto(shared.url)
  await expect(page.getByText('Enter it as one of its made-up people')).toBeVisible()
  await readableByAll(page)
  await page.goto(empty.first)
  await expect(page.getByLabel('Your name, as others see it')).toBeFocused()
  await readableByAll(page, 'main')
})
