import { expect, goTo, test } from './server'

const number = (text: string | null): number => Number(/\d+/.exec(text ?? '')?.[0])

test('how a release came about: burnup, ledger, progress and flow', async ({ demo: page, server }) => {
  // What the backlog counts for the release …
  await page.goto(`${server.url}/programs/1/backlog`)
  await page.getByRole('button', { name: /^Scope/ }).click()
  const scope = page.getByRole('region', { name: 'Release scope' }).locator('[data-release="R1"]')
  await expect(scope).toContainText(/\d+ items · \d+ done/)
  const [, items, done] = /(\d+) items · (\d+) done/.exec((await scope.textContent())!)!

  // … is what its history ends with.
  await page.getByRole('link', { name: 'Track', exact: true }).click()
  await page
    .getByRole('main', { name: 'Track' })
    .getByRole('button', { name: 'Scope', exact: true })
    .press('Enter')
  await expect(page).toHaveURL(/as=scope/)
  await expect(page.getByRole('main').getByRole('heading', { name: 'First Light' })).toBeVisible()
  await expect(page.getByText(`${done} of ${items} items done`)).toBeVisible()
  await expect(page.locator('.burn .ideal')).toHaveCount(1)
  const ledger = page.getByRole('table')
  const cells = (name: string | RegExp) => ledger.getByRole('row', { name }).getByRole('cell')
  const of = async (name: string | RegExp) => (await cells(name).allTextContents()).map(number)
  const adds = async (name: string | RegExp) => {
    const [start, added, removed, grown, shrunk, now, isDone, , left] = await of(name)
    const change = (added || 0) - (removed || 0) + (grown || 0) - (shrunk || 0)
    expect([name, start + change]).toEqual([name, now])
    expect([name, isDone + left]).toEqual([name, now])
  }
  for (const name of ['All, in items', 'Lamp Control, in points', 'Field Works, in days']) await adds(name)

  // So is that of what a view holds what its list counts.
  const which = page.getByRole('combobox', { name: 'Of which work' })
  await which.selectOption('Defects')
  await expect(page).toHaveURL(/of=view:defects/)
  const states = await page.evaluate(async () => {
    const program = await (await fetch('/api/v1/programs/1/document')).json()
    return program.items
      .filter((i: { kind: string }) => i.kind === 'defect')
      .map((i: { state: string }) => i.state)
  })
  const defectsDone = states.filter((s: string) => s === 'done').length
  await expect(page.getByText(`${defectsDone} of ${states.length} items done`)).toBeVisible()
  await which.selectOption('First Light')
  await expect(page.getByText(`${done} of ${items} items done`)).toBeVisible()

  // Features say when they land; the last of them as the release does, or sooner.
  const features = page.getByRole('region', { name: 'Progress by feature' })
  await expect(
    features
      .getByRole('listitem')
      .filter({ hasText: /lands \d+ [A-Z][a-z]{2}/ })
      .first(),
  ).toBeVisible()

  // By the hours left of its tasks.
  const unit = page.getByRole('combobox', { name: 'Drawn in' })
  await unit.selectOption('hours left of Mariner App')
  await expect(page).toHaveURL(/line=MA&in=hours/)
  const hours = page.getByRole('img', { name: /^Burndown of First Light: [\d.]+ h left/ })
  await expect(hours).toBeVisible()
  const [left] = /[\d.]+ h left/.exec((await hours.getAttribute('aria-label'))!)!
  await expect(page.getByText(`· ${left} of its tasks`)).toBeVisible()
  const worked = await page.request.post(`${server.url}/api/v1/programs/1/do/work-on-task`, {
    data: {
      client: 'another',
      revision: 0,
      intent: { item: 'MA-6', task: 0, title: 'Build it', hoursLeft: 2 },
    },
  })
  expect(worked.status(), await worked.text()).toBe(200)
  const less = `${Number.parseFloat(left) - 10} h left`
  await expect(page.getByText(`· ${less} of its tasks`)).toBeVisible()
  await hours.focus()
  await page.keyboard.press('End')
  await expect(page.locator('.burn .tip')).toContainText(`MA-6 from 18 h to 8 h; ${less}`)
  await unit.selectOption('items of all')

  // The burnup is read by key, and by what came or went.
  const burnup = page.getByRole('img', { name: /^Burnup of First Light/ })
  await burnup.focus()
  await page.keyboard.press('Home')
  await expect(page.locator('.burn .tip')).toContainText(/: [A-Z]+-\d+ (done|added|taken out)/)
  await page.keyboard.press('ArrowRight')
  await expect(page.locator('.burn .tip')).toContainText(` of `)
  await ledger.getByRole('button', { name: /^Field Works, in days, added/ }).press('Enter')
  await expect(page).toHaveURL(/line=FW/)
  const events = page.getByRole('region', { name: 'Events' })
  const added = await cells('Field Works, in days').nth(1).textContent()
  const sizes = events.getByRole('link', { name: /added, [\d.]+ d$/ })
  await expect(sizes.first()).toBeVisible()
  const sum = (await sizes.allTextContents()).reduce((n, t) => n + Number(/added, ([\d.]+) d/.exec(t)![1]), 0)
  expect(sum).toBe(number(added))

  // An event leads to its edit in the journal.
  await events
    .getByRole('button', { name: /its edit$/ })
    .first()
    .press('Enter')
  const journal = page.getByRole('complementary', { name: 'What changed' }).or(page.locator('.journal'))
  await expect(journal.getByRole('heading', { level: 3 }).first()).toHaveText('FE-13 joins First Light')
  await page.keyboard.press('Escape')

  // The release's review as a file.
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Markdown' }).press('Enter'),
  ])
  expect(file.suggestedFilename()).toBe('review-R1.md')

  // Since a day, nothing of that came.
  await page.getByLabel('Changes since').selectOption('yesterday')
  await expect(events.getByText('Nothing of that kind since then.')).toBeVisible()
  await adds('Field Works, in days')
  await page.getByLabel('Changes since').selectOption('a day…')
  await expect(page.getByLabel('Since which day')).toHaveValue('2027-03-09')
  await expect(ledger.getByRole('columnheader', { name: 'on 9 Mar' })).toBeVisible()
})

test('what is taken out of a release shows at once, with who did it', async ({ demo: page, server, as }) => {
  await page.goto(`${server.url}/programs/1/track?as=scope&of=item:FE-3&what=scope`)
  await expect(page.getByRole('heading', { name: 'FE-3 Remote dimming' })).toBeVisible()
  await expect(page.getByRole('img', { name: /^Burnup of FE-3/ })).toBeVisible()
  const other = await as('solveig')
  const outline = (await (await other.request.get(`${server.url}/api/v1/programs/1/outline`)).json()) as {
    revision: number
  }
  const made = await other.request.post(`${server.url}/api/v1/programs/1/changes`, {
    data: {
      client: 'other',
      revision: outline.revision,
      label: 'LC-6 waits',
      changes: [{ op: 'set', kind: 'item', key: 'LC-6', field: 'keptOut', value: true }],
    },
  })
  expect(made.status()).toBe(200)
  const events = page.getByRole('region', { name: 'Events' })
  await expect(events.getByRole('listitem').first()).toContainText('LC-6 taken out')
  await expect(events.getByRole('listitem').first()).toContainText('Solveig Aune')
  await page.getByLabel('Of which work').selectOption('All work')
  await expect(page.getByRole('heading', { name: 'All work' })).toBeVisible()
  await page.getByLabel('Of which work').selectOption('Tide & Weather')
  await expect(page).toHaveURL(/of=team:TW/)
  await expect(page.getByRole('row', { name: 'Tide & Weather, in points' })).toBeVisible()
})

test('who changes the scope of what has begun is asked why, where the program wants to know', async ({
  demo: page,
  server,
}) => {
  await page.goto(`${server.url}/programs/1/set-up`)
  await page
    .getByRole('tab', { name: 'Teams' })
    .or(page.getByRole('link', { name: 'Teams' }))
    .click()
  await page
    .getByRole('checkbox', { name: /changes the scope of what has begun is asked why/ })
    .press('Space')

  // A size in an iteration under way: the edit is made, and the question stands beside it.
  await goTo(page, '/programs/1/backlog?item=LC-6')
  const size = page.getByRole('region', { name: 'Item LC-6' }).getByRole('textbox', { name: 'Size' })
  await size.click()
  await page.keyboard.press('Control+A')
  await page.keyboard.type('5')
  await page.keyboard.press('Enter')
  const asks = page.getByRole('form', { name: 'Why the scope was changed' })
  await expect(asks).toContainText('LC-6 changed the scope of what has begun. Why?')
  await asks.getByRole('textbox').focus()
  await page.keyboard.type('receipts turned out to be signed')
  await page.keyboard.press('Enter')
  await expect(asks).toHaveCount(0)

  // It stands in the history of the item, in that of the scope, and in the journal.
  await page.getByRole('tab', { name: 'History' }).click()
  await expect(page.getByText('Why: receipts turned out to be signed')).toBeVisible()
  await goTo(page, '/programs/1/track?as=scope&of=release:R1&line=LC')
  const events = page.getByRole('region', { name: 'Events' })
  await expect(events.getByText('receipts turned out to be signed')).toBeVisible()
  await page.getByRole('button', { name: 'What changed' }).click()
  await expect(page.locator('.journal').getByText('Why: receipts turned out to be signed')).toBeVisible()
  await page.keyboard.press('Escape')

  // What has not begun is nobody's to explain; neither is what is taken back.
  await goTo(page, '/programs/1/backlog?item=LC-6')
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(size).toHaveValue('3')
  await expect(asks).toHaveCount(0)
})
