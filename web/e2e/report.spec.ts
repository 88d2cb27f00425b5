import { readFileSync } from 'node:fs'
import { type Page } from '@playwright/test'
import { enter, expect, goTo, test } from './server'

const report = (page: Page) => page.getByRole('main', { name: 'Report' })
const card = (page: Page, name: string) => page.getByRole('region', { name, exact: true })
const settings = (page: Page) => page.getByRole('complementary', { name: 'Card settings' })
const behind = (page: Page) => page.getByRole('complementary', { name: 'What it counts' })

/** Adds a card by the menu. */
async function add(page: Page, kind: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a card' }).press('Enter')
  await page
    .getByRole('list', { name: 'Kinds of cards' })
    .getByRole('button', { name: kind, exact: true })
    .press('Enter')
  await expect(settings(page)).toBeVisible()
}

test('a page is built, kept, shared, looked behind and acted on', async ({ page, server, as }) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/report?page=new`)
  await expect(report(page)).toContainText('There is nothing on this page yet')
  await add(page, 'Chart')
  // By choosing, with the picture changing at once.
  await settings(page).getByLabel('Title').pressSequentially('Who has what')
  await page.keyboard.press('Tab')
  await expect(card(page, 'Who has what')).toContainText('items. State: ')
  await settings(page).getByLabel('Divided by').selectOption('Assigned to')
  await settings(page).getByLabel('and by').selectOption('State')
  await settings(page).getByLabel('Drawn as').selectOption('bars on one another')
  await expect(card(page, 'Who has what')).toContainText('Assigned to: ')
  // Units of several teams are refused, with what to choose instead.
  await settings(page).getByLabel('Measure').selectOption('Size')
  await expect(card(page, 'Who has what').getByRole('alert')).toHaveText(
    'Sizes of different teams are never added up: choose one team, or a share.',
  )
  await settings(page).getByLabel('Of team').selectOption('Lamp Control')
  await expect(card(page, 'Who has what')).toContainText(/Size: \d+(\.\d)?\u00a0pt of \d+ items/)
  await settings(page).getByLabel('Measure').selectOption('Number')
  await page.getByRole('button', { name: 'Close the settings' }).press('Enter')
  await add(page, 'Dates')
  await expect(card(page, 'Dates')).toContainText('First Light')
  await page.getByLabel('Name of the page').fill('')
  await page.getByLabel('Name of the page').pressSequentially('Weekly look')
  await page.keyboard.press('Tab')
  await page.getByRole('button', { name: 'Keep it' }).press('Enter')
  await expect(page.getByLabel('Page', { exact: true })).toContainText('Weekly look')
  await expect(page).toHaveURL(/page=\d+/)
  await page.getByRole('button', { name: 'Close the settings' }).press('Enter')

  // Arranged by keys: the second card becomes the first, and wider.
  const kept = () => page.waitForResponse((r) => r.request().method() === 'PUT' && /\/pages\//.test(r.url()))
  await expect(page.getByRole('button', { name: 'Arrange' })).toHaveAttribute('aria-pressed', 'true')
  let saved = kept()
  await page.getByRole('button', { name: /^Move card 2 of 2/ }).press('ArrowLeft')
  await expect(page.getByRole('button', { name: /^Move card 1 of 2/ })).toBeFocused()
  await page.keyboard.press('Shift+ArrowRight')
  await saved
  await expect(page.locator('[data-card]').first()).toContainText('Dates')
  await page.reload()
  await expect(page.locator('[data-card]').first()).toContainText('Dates')
  await expect(page.locator('[data-card]').first()).toHaveAttribute('style', /span 7/)

  // Read by keys; what it counts opens beside it, and is changed on the spot.
  const picture = card(page, 'Who has what').getByRole('application')
  await picture.focus()
  const read = card(page, 'Who has what').locator('.read')
  await page.keyboard.press('Home')
  for (let n = 0; n < 40 && !/to do: ([2-9]|\d\d)/.test((await read.textContent()) ?? ''); n++)
    await page.keyboard.press('ArrowRight')
  const text = (await read.textContent()) ?? ''
  expect(text).toMatch(/, to do: \d/)
  const who = text.split(':')[0]
  await page.keyboard.press('Enter')
  const things = behind(page).getByRole('listitem')
  await expect(things).toHaveCount(Number(/\d+$/.exec(text)?.[0]))
  const before = await things.count()
  const first = behind(page)
    .getByLabel(/^State of /)
    .first()
  await first.selectOption('doing')
  await expect(things).toHaveCount(before - 1)
  await expect(read).toHaveText(`${who}: ${before - 1}`)

  // Shared to look at: another one sees it and cannot change it, but can copy it.
  await page.getByRole('button', { name: 'Share…' }).press('Enter')
  await page.getByRole('dialog').getByLabel('for others to look at', { exact: true }).check()
  saved = kept()
  await page.getByRole('dialog').getByRole('button', { name: 'Share', exact: true }).press('Enter')
  await saved
  await expect(page.getByRole('dialog')).toHaveCount(0)
  const address = page.url()
  const other = await as('petra')
  await other.goto(address)
  await expect(other.getByRole('heading', { name: 'Weekly look' })).toBeVisible()
  await expect(other.getByRole('button', { name: 'Add a card' })).toHaveCount(0)
  await other.getByRole('button', { name: 'More', exact: true }).press('Enter')
  await other.getByRole('button', { name: 'Make a copy' }).press('Enter')
  await expect(other.getByRole('button', { name: 'Add a card' })).toBeVisible()
  // What one does shows on the other's page by itself.
  const theirs = card(other, 'Who has what')
  await theirs.getByRole('application').focus()
  await other.keyboard.press('Home')
  for (let n = 0; n < 40 && !(await theirs.locator('.read').textContent())?.startsWith(`${who}:`); n++)
    await other.keyboard.press('ArrowRight')
  await expect(theirs.locator('.read')).toHaveText(`${who}: ${before - 1}`)
  await behind(page)
    .getByLabel(/^State of /)
    .first()
    .selectOption('doing')
  await expect(theirs.locator('.read')).not.toHaveText(`${who}: ${before - 1}`)
})

test('a card is of a view that one keeps for oneself, which shows others nothing', async ({
  page,
  server,
  as,
}) => {
  await enter(page, server)
  await page.request.put(`${server.url}/api/v1/programs/1/private-views`, {
    data: [
      {
        key: 'v1',
        name: 'Defects of ours',
        filter: { conditions: [{ field: 'kind', is: 'is', values: ['defect'] }] },
      },
    ],
  })
  await page.goto(`${server.url}/programs/1/report?page=new`)
  await add(page, 'Chart')
  await settings(page).getByLabel('Title').pressSequentially('Ours')
  await page.keyboard.press('Tab')
  await settings(page).getByLabel('Divided by').selectOption('Kind')
  await expect(card(page, 'Ours')).toContainText('story')
  await settings(page).getByLabel('Of view').selectOption('Defects of ours')
  await expect(card(page, 'Ours')).toContainText(/\d+ items?\. Kind: defect \d+\./)
  await page.getByRole('button', { name: 'Close the settings' }).press('Enter')
  await add(page, 'Burn-up')
  await settings(page).getByLabel('About').selectOption('Defects of ours')
  await expect(card(page, 'Burn-up: Defects of ours')).toContainText('done.')
  await page.getByRole('button', { name: 'Close the settings' }).press('Enter')
  await add(page, 'Text')
  await settings(page)
    .getByLabel('Text, as Markdown')
    .pressSequentially(Array.from({ length: 14 }, (_, n) => `${n + 1}. step`).join('\n'))
  await page.keyboard.press('Tab')
  const text = card(page, 'Text')
  const tall = async () => (await text.boundingBox())?.height ?? 0
  const before = await tall()
  await text.getByRole('button', { name: 'More of Text' }).press('Enter')
  await page.getByRole('button', { name: 'As high as what it holds' }).press('Enter')
  await expect.poll(tall).toBeGreaterThan(before)
  const whole = text.getByRole('region', { name: 'Text, in full' })
  await expect.poll(() => whole.evaluate((e) => e.scrollHeight - e.clientHeight)).toBeLessThanOrEqual(1)
  await page.getByLabel('Name of the page').fill('')
  await page.getByLabel('Name of the page').pressSequentially('Ours alone')
  await page.keyboard.press('Tab')
  await page.getByRole('button', { name: 'Keep it' }).press('Enter')
  await expect(page).toHaveURL(/page=\d+/)
  // What is changed right before the page is left is kept.
  await page.getByLabel('Name of the page').press('End')
  await page.keyboard.type(', and more')
  await page.keyboard.press('Tab')
  await page.reload()
  await expect(page.getByLabel('Page', { exact: true })).toContainText('Ours alone, and more')
  await page.getByRole('button', { name: 'Share…' }).press('Enter')
  await page.getByRole('radio', { name: 'for others to look at', exact: true }).check()
  await expect(page.getByRole('dialog')).toContainText('2 cards are of views that you keep for yourself')
  await page.getByRole('button', { name: 'Share', exact: true }).press('Enter')
  await expect(page.getByRole('dialog')).toHaveCount(0)

  const other = await as('petra')
  await other.goto(page.url())
  await expect(card(other, 'Ours').getByRole('alert')).toContainText('keeps for themselves')
  await expect(report(other)).not.toContainText('Defects of ours')
})

test('ready pages show what the other stages show, in both themes', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/report?page=ready:stakeholder`)
  await expect(page.getByRole('heading', { name: 'What comes when' })).toBeVisible()
  // The dates are those of the strip.
  const strip = page.getByRole('region', { name: 'Where the plan stands' })
  const chance = (await strip.locator('b.chance').first().textContent())?.trim()
  await expect(card(page, 'Dates').getByRole('row', { name: /First Light/ })).toContainText(chance ?? '?')
  await expect(card(page, 'Burn-up: First Light')).toContainText(chance ?? '?')
  await expect(card(page, 'Odds over dates: First Light').getByRole('application')).toBeVisible()
  await expect(card(page, 'Scope: First Light')).toContainText(/\d+ of \d+ items done/)
  // As a table, too.
  await page.getByRole('button', { name: 'More of Dates' }).press('Enter')
  await page.getByRole('button', { name: 'As a table' }).press('Enter')
  await expect(page.getByRole('region', { name: 'Dates as a table' })).toContainText('Even odds')
  await page.getByRole('button', { name: 'Dark theme' }).click()
  for (const [name, shows] of [
    ['ready:manager', 'Work by team'],
    ['ready:lead', 'Who has what'],
    ['ready:member', 'Mine to do'],
  ]) {
    await page.getByLabel('Page', { exact: true }).selectOption(name)
    await expect(card(page, shows)).toBeVisible()
    await expect(report(page).getByText('Counting…')).toHaveCount(0)
    await expect(report(page).getByText('Playing the plan…')).toHaveCount(0)
    await expect(report(page).getByRole('alert')).toHaveCount(0)
  }
})

test('a list, a lane and an iteration lead to a chart of themselves', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/track`)
  await page
    .getByRole('link', { name: /^Chart / })
    .first()
    .press('Enter')
  await expect(settings(page)).toBeVisible()
  await expect(card(page, 'Chart')).toContainText(/Size: .* of \d+ items/)
  await expect(card(page, 'Chart')).toContainText('Where iteration is ')
  await goTo(page, '/programs/1/backlog')
  await page.getByRole('button', { name: 'More', exact: true }).press('Enter')
  await page.getByRole('link', { name: 'Chart this' }).press('Enter')
  await expect(card(page, 'Chart')).toContainText('items. State: ')
  // Over time, from the journal.
  await settings(page).getByLabel('When').selectOption('over the last 4 weeks')
  await settings(page).getByLabel('Drawn as').selectOption('areas on one another')
  await expect(card(page, 'Chart')).toContainText(/\d+ items today, .* on \d+ \w+/)
  await page.getByRole('button', { name: 'Keep it' }).press('Enter')
  await expect(page).toHaveURL(/page=\d+/)
})

test('a brief is begun, written, published and read by a link until that is ended', async ({
  page,
  server,
  as,
}) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/report`)
  await page.getByRole('link', { name: 'Briefs', exact: true }).press('Enter')
  await page.getByLabel('A new brief about').selectOption('First Light')
  await page.getByRole('button', { name: 'Begin' }).press('Enter')
  const letter = page.getByRole('article', { name: 'Plan of First Light' })
  const section = (name: string) => letter.getByRole('region', { name, exact: true })
  // It says what the strip says.
  const chance =
    (
      await page
        .getByRole('region', { name: 'Where the plan stands' })
        .locator('b.chance')
        .first()
        .textContent()
    )?.trim() ?? '?'
  await expect(section('In short')).toContainText(`by its due date with ${chance}`)
  await expect(section('What changed')).toContainText('This is the first brief about it.')
  await expect(section('Done and to come')).toContainText('of the work is done')
  await expect(
    section('Done and to come').getByRole('application', { name: /how the plays go on/ }),
  ).toBeVisible()

  // Own words with a key that becomes a link; a section less, one moved, one written over, a chart more.
  const kept = () => page.waitForResponse((r) => r.request().method() === 'PUT' && /\/briefs\//.test(r.url()))
  await section('In short').getByRole('button', { name: 'Write: In short' }).press('Enter')
  await expect(section('In short').getByLabel('Heading')).toBeFocused()
  await page.keyboard.press('Tab')
  let saved = kept()
  await page.keyboard.type('We begin with LC-8 and **light**.')
  await saved
  await expect(section('In short').locator('.own').getByRole('link', { name: 'LC-8' })).toHaveAttribute(
    'href',
    /item=LC-8/,
  )
  await section('In short').getByRole('button', { name: 'Done: In short' }).press('Enter')
  saved = kept()
  await section('Risks').getByRole('button', { name: 'Leave out: Risks' }).press('Enter')
  await saved
  await expect(section('Risks')).toContainText('Left out of the brief.')
  saved = kept()
  await section('When').getByRole('button', { name: 'Move up: When' }).press('Enter')
  await expect(section('When').getByRole('button', { name: 'Move up: When' })).toBeFocused()
  await saved
  await section('What was promised').getByRole('button', { name: 'Write: What was promised' }).press('Enter')
  await section('What was promised')
    .getByRole('button', { name: 'Write over what the plan says' })
    .press('Enter')
  await expect(section('What was promised').getByRole('textbox').nth(1)).toHaveValue(/promised/)
  saved = kept()
  await page.getByRole('button', { name: 'Add a section' }).press('Enter')
  await page
    .getByRole('list', { name: 'Kinds of sections' })
    .getByRole('button', { name: 'A chart' })
    .press('Enter')
  await saved
  await section('A chart').getByLabel('Divided by').selectOption('Team')
  await expect(section('A chart')).toContainText('items. Team: ')

  // An edit shows in the draft; once it is published it stands.
  const items = (await section('In short').textContent()) ?? ''
  await page.request.post(`${server.url}/api/v1/programs/1/changes`, {
    data: {
      client: 'other',
      revision: await revision(page, server.url),
      label: 'Out',
      changes: [{ op: 'set', kind: 'item', key: 'LC-8', field: 'keptOut', value: true }],
    },
  })
  await expect(section('In short')).not.toHaveText(items)
  const draft = (await section('In short').locator('p').last().textContent()) ?? ''
  await page.getByRole('button', { name: 'Publish' }).press('Enter')
  await expect(letter).toContainText('Brief 1, 23 Mar')
  await expect(section('Risks')).toHaveCount(0)
  await page.request.post(`${server.url}/api/v1/programs/1/changes`, {
    data: {
      client: 'other',
      revision: await revision(page, server.url),
      label: 'In',
      changes: [{ op: 'set', kind: 'item', key: 'LC-8', field: 'keptOut', value: false }],
    },
  })
  await page.reload()
  await expect(section('In short').locator('p').last()).toHaveText(draft)

  // By a link whoever has it reads this, without an account; until it is ended.
  await page.getByRole('button', { name: 'Links…' }).press('Enter')
  await page.getByRole('button', { name: 'Make a link' }).press('Enter')
  const address = await page.getByLabel('The new link: it is shown this once').inputValue()
  const stranger = await as()
  await stranger.goto(address)
  await expect(stranger.getByRole('heading', { level: 1 })).toHaveText('Plan of First Light')
  await expect(stranger.getByText('We begin with LC-8')).toBeVisible()
  await expect(stranger.getByRole('link')).toHaveCount(0)
  await expect(stranger.getByRole('img', { name: /how the plays go on/ })).toBeVisible()
  await expect(stranger.getByRole('img', { name: /items\. Team: / })).toBeVisible()
  await stranger.getByText('The figures').first().press('Enter')
  await expect(stranger.getByRole('columnheader', { name: 'In 8 of 10 plays' })).toBeVisible()
  await page.getByRole('button', { name: 'End it' }).press('Enter')
  await expect(page.getByText('There is none.')).toBeVisible()
  expect((await stranger.goto(address))?.status()).toBe(404)
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)

  // As a file its keys lead to their items, on this server.
  const asFile = page.waitForEvent('download')
  await page.getByRole('link', { name: 'HTML' }).press('Enter')
  const file = readFileSync(await (await asFile).path(), 'utf8')
  expect(file).toContain(`<a href="${server.url}/programs/1/backlog?item=LC-8">LC-8</a>`)

  // The next one goes on with its words, and tells what changed.
  await page.getByLabel('A new brief about').selectOption('First Light')
  await page.getByRole('button', { name: 'Begin' }).press('Enter')
  await expect(letter).toContainText('Draft')
  await expect(section('In short')).toContainText('We begin with LC-8')
  await expect(section('What changed')).toContainText('Since brief 1 of 23 Mar')
  await expect(section('What changed')).toContainText('came in')
})

async function revision(page: Page, url: string): Promise<number> {
  const found = await page.request.get(`${url}/api/v1/programs/1`)
  return ((await found.json()) as { revision: number }).revision
}

test('files say what is in them, and hold what the program holds', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/report?as=files`)
  const saved = async (name: string) => {
    const download = page.waitForEvent('download')
    await page
      .getByRole('link', { name, exact: true })
      .or(page.getByRole('button', { name, exact: true }))
      .press('Enter')
    const path = await (await download).path()
    return readFileSync(path)
  }
  expect((await saved('The plan as XLSX')).subarray(0, 2).toString()).toBe('PK')
  expect((await saved('The journal as JSON lines')).toString().split('\n')[0]).toContain('"revision"')
  const dates = (await saved('Dates for a calendar as iCalendar')).toString()
  expect(dates).toContain('SUMMARY:First Light is due')
  expect(dates).toContain('SUMMARY:Harbour trial')
  await page.getByRole('checkbox', { name: 'milestones' }).uncheck()
  expect((await saved('Dates for a calendar as iCalendar')).toString()).not.toContain('SUMMARY:Harbour trial')
  // What one makes again and again is kept with its choices.
  await page.getByRole('button', { name: 'Keep Capacity as CSV by team among your exports' }).press('Enter')
  const exports = page.getByRole('list', { name: 'Your exports' })
  const again = 'Capacity as CSV by team, 28 days back to 84 days ahead'
  await expect(exports).toContainText(again)
  await page.reload()
  const fetched = (await saved(again)).toString()
  expect(fetched).toContain('Lamp Control')
  expect(fetched).toBe((await saved('Capacity as CSV by team')).toString())
  await exports.getByRole('button', { name: `Keep ${again} no longer` }).press('Enter')
  await expect(exports).toHaveCount(0)
  // A calendar asks by itself at a private address, until that is ended.
  await page.getByRole('checkbox', { name: 'milestones' }).uncheck()
  await page.getByRole('button', { name: 'Make a private address' }).press('Enter')
  const address = await page.getByLabel('The new link: it is shown this once').inputValue()
  const calendar = await (await fetch(address)).text()
  expect(calendar).toContain('BEGIN:VCALENDAR')
  expect(calendar).not.toContain('SUMMARY:Harbour trial')
  await page
    .getByRole('list', { name: 'Your addresses' })
    .getByRole('button', { name: 'End it' })
    .press('Enter')
  await expect(page.getByRole('list', { name: 'Your addresses' })).toHaveCount(0)
  expect((await fetch(address)).status).toBe(404)
  expect((await saved('A view of the backlog as CSV')).toString()).toContain('LC-8')
  expect((await saved('The review of a release as Markdown')).toString()).toContain('# First Light')
  expect((await saved('Needs across teams as GraphML')).toString()).toContain('<graphml')
  // What takes a while is told of and can be stopped; what cannot be had says why.
  let goOn = () => {}
  const held = new Promise<void>((done) => (goOn = done))
  await page.route('**/reports/plan', async (route) => {
    await held
    await route.abort().catch(() => {}) // it was stopped
  })
  const makes = page.getByRole('list', { name: 'Files that are being made' })
  await page.getByRole('link', { name: 'The plan as XLSX' }).press('Enter')
  await expect(makes).toContainText('The plan as XLSX is being made')
  await makes.getByRole('button', { name: 'Stop The plan as XLSX' }).press('Enter')
  await expect(makes).toHaveCount(0)
  goOn()
  await page.unroute('**/reports/plan')
  await page.route('**/reports/plan', (route) =>
    route.fulfill({ status: 503, json: { detail: 'The server has too much to do.' } }),
  )
  await page.getByRole('link', { name: 'The plan as XLSX' }).press('Enter')
  await expect(makes.getByRole('alert')).toHaveText('The plan as XLSX: The server has too much to do.')
  await makes.getByRole('button', { name: 'Put it away' }).press('Enter')
  await expect(makes).toHaveCount(0)
  // Without days those about days are not offered.
  await page.getByLabel('From', { exact: true }).first().fill('')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('link', { name: 'Capacity as XLSX' })).toHaveCount(0)
})
