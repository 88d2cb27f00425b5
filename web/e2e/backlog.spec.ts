import type { Page } from '@playwright/test'
import { drag, enter, expect, test as base } from './server'

/** The demo, opened at its backlog. */
const test = base.extend<{ backlog: Page }>({
  backlog: async ({ demo, server }, use) => {
    await demo.goto(`${server.url}/programs/1/backlog`)
    await row(demo, 'LC-1').waitFor()
    await use(demo)
  },
})

const row = (page: Page, key: string) => page.locator(`[data-item="${key}"]`)
const grid = (page: Page) => page.getByRole('grid', { name: 'Backlog' })
const cell = (page: Page, key: string, field: string) => row(page, key).locator(`.cell.${field}`)
const panel = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Beside the list' }).getByRole('button', { name, exact: true })
const undo = (page: Page) => page.getByRole('button', { name: /^Undo/ })

async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((text) => {
    const data = new DataTransfer()
    data.setData('text/plain', text)
    document.activeElement!.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    )
  }, text)
}

const keysOf = (page: Page) =>
  page.locator('[data-item]').evaluateAll((rows) => rows.map((r) => (r as HTMLElement).dataset.item))

/** Goes down the list until the line at 85 % is in sight. */
async function toLine(page: Page): Promise<void> {
  const line = page.locator('.cut.odds85')
  for (let n = 0; n < 60 && !(await line.isVisible()); n++) {
    await page.keyboard.press('PageDown')
    await expect(page.locator('.cell.on')).toBeVisible()
  }
}

/** Three hundred rows for Full Chain, eight of them faulty. */
function sheet(): string {
  const teams = ['Lamp Control', 'Tide & Weather', 'Chart Desk', 'Mariner App', "Keepers' Console"]
  const rows = Array.from({ length: 300 }, (_, i) => ({
    Key: `N-${i + 1}`,
    Title: `Outer rock chore ${i + 1}`,
    Type: 'story',
    Team: teams[i % teams.length],
    Estimate: String(1 + (i % 5)),
    Release: 'Full Chain',
    'Depends on': i % 25 === 24 ? `N-${i}` : '',
    Deadline: '',
  }))
  rows[10].Type = 'chore'
  rows[20].Team = 'Lamps'
  rows[30].Estimate = 'many'
  rows[40].Estimate = '-3'
  rows[50].Release = 'Second Light'
  rows[60].Deadline = '25.6.27'
  rows[70]['Depends on'] = 'N-999'
  rows[80].Key = 'N-80'
  const heads = Object.keys(rows[0])
  return [heads.join(','), ...rows.map((r) => Object.values(r).join(','))].join('\r\n')
}

test('a newcomer brings in a spreadsheet, ranks, splits, shares a view and makes a release fit', async ({
  backlog,
  server,
  as,
}) => {
  const before = parseInt(await backlog.getByText(/^\d+ items$/).innerText())
  await backlog.getByRole('link', { name: 'Import' }).click()
  await backlog.getByLabel('CSV or XLSX file').setInputFiles({
    name: 'outer rocks.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(sheet()),
  })
  await expect(backlog.getByRole('heading', { name: '8 problems' })).toBeVisible()
  await expect(backlog.getByRole('button', { name: '8 with a problem' })).toBeVisible()
  await expect(backlog.getByRole('button', { name: 'Mend 8 problems first' })).toBeDisabled()
  const mends: [column: string, row: number, text: string][] = [
    ['Type', 11, 'upkeep'],
    ['Team', 21, 'Lamp Control'],
    ['Estimate', 31, '5'],
    ['Estimate', 41, '3'],
    ['Release', 51, 'Full Chain'],
    ['Deadline', 61, '2027-06-25'],
    ['Depends on', 71, 'N-70'],
    ['Key', 81, 'N-81'],
  ]
  for (const [column, number, text] of mends) {
    await backlog.getByRole('button', { name: `Row ${number}, ${column}` }).click()
    const field = backlog.getByLabel(`${column}, row ${number}`, { exact: true })
    await expect(field).toBeFocused()
    await field.fill(text)
    await field.press('Enter')
    await expect(backlog.getByRole('button', { name: `Row ${number}, ${column}` })).toHaveCount(0)
  }
  await backlog.getByRole('button', { name: 'Import 300 items' }).click()
  await expect(backlog.getByText(`${before + 300} items`, { exact: true })).toBeVisible()

  // Ranks by keyboard: the last to the top, then two below it.
  await backlog.getByLabel('Find: words or keys').fill('rock chore 298')
  await expect(row(backlog, 'N-298')).toBeVisible()
  await cell(backlog, 'N-298', 'title').click()
  await backlog.keyboard.press('Alt+Home')
  await expect(undo(backlog)).toHaveAccessibleName(/Rank N-298 top/)
  await backlog.getByLabel('Find: words or keys').fill('')
  await expect(backlog.getByText(`${before + 300} items`, { exact: true })).toBeVisible()
  await expect(cell(backlog, 'N-298', 'rank')).toHaveText('1')
  await backlog.keyboard.press('Escape')
  await cell(backlog, 'N-298', 'title').click()
  await backlog.keyboard.press('Alt+ArrowDown')
  await expect(cell(backlog, 'N-298', 'rank')).toHaveText('2')
  await backlog.keyboard.press('Alt+ArrowDown')
  await expect(cell(backlog, 'N-298', 'rank')).toHaveText('3')

  // Splits it, 3 into 2 and 1.
  await backlog.keyboard.press('Alt+s')
  const split = backlog.getByRole('dialog', { name: 'Split N-298' })
  await split.getByLabel('Title of part 2').fill('The far side of it')
  await split.getByRole('button', { name: 'Split' }).click()
  await expect(split).toBeHidden()
  await expect(cell(backlog, 'N-298', 'size')).toHaveText('2')
  await expect(backlog.locator('[data-item^="CD-"]', { hasText: 'The far side of it' })).toBeVisible()

  // Builds a view of what is left of Full Chain, and shares it.
  await backlog.getByRole('button', { name: 'Filter' }).click()
  await backlog.getByRole('button', { name: 'Add a condition' }).click()
  await backlog.getByLabel('Field', { exact: true }).selectOption('Release')
  await backlog.getByText('choose…').click()
  await backlog.getByRole('checkbox', { name: 'Full Chain' }).check()
  await backlog.getByRole('button', { name: 'Add a condition' }).click()
  await backlog.getByLabel('Field', { exact: true }).nth(1).selectOption('State')
  await backlog.getByLabel('Comparison').nth(1).selectOption('is not')
  await backlog.getByText('choose…').click()
  await backlog.getByRole('checkbox', { name: 'done' }).check()
  await expect(backlog.getByText('release is Full Chain, and state is not done')).toBeVisible()
  await backlog.keyboard.press('Escape')
  await backlog.getByRole('button', { name: 'Save view…' }).click()
  const save = backlog.getByRole('dialog', { name: 'Save this view' })
  await save.getByLabel('Name').fill('Full Chain, to do')
  await save.getByLabel('Share it with everybody').check()
  await save.getByRole('button', { name: 'Save' }).click()
  await expect(save).toBeHidden()
  const other = await as('petra')
  await other.goto(`${server.url}/programs/1/backlog`)
  await other.getByLabel('View', { exact: true }).selectOption('Full Chain, to do')
  await expect(row(other, 'N-298')).toBeVisible()

  // Takes out of the release what stands below the line, and so moves its cut.
  await panel(backlog, 'What fits').click()
  await backlog.getByLabel('Release', { exact: true }).selectOption('Full Chain')
  const answer = backlog.getByRole('region', { name: 'Where the date falls' })
  await expect(answer).toContainText(/All of them: 0\s%/)
  await expect(answer).toContainText('of 354 items are done')
  await grid(backlog).focus()
  await toLine(backlog)
  await backlog.locator('.cut.odds85 ~ [data-item] .cell.title').first().click()
  await backlog.keyboard.press('Control+Shift+End')
  await backlog.getByLabel('Field to set').selectOption('Kept out')
  await backlog.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(answer).toContainText(/All of them: (8[5-9]|9\d|100)\s%/)
  await expect(undo(backlog)).toHaveAccessibleName(/Kept out of \d+ items/)
})

test('cells are edited as in a spreadsheet', async ({ backlog }) => {
  await cell(backlog, 'LC-6', 'title').click()
  await backlog.keyboard.press('Enter')
  await backlog.keyboard.press('Control+a')
  await backlog.keyboard.type('Orders with a receipt')
  await backlog.keyboard.press('Tab')
  await expect(grid(backlog).getByLabel('Kind', { exact: true })).toBeFocused()
  await backlog.keyboard.press('Escape')
  await expect(cell(backlog, 'LC-6', 'title')).toHaveText('Orders with a receipt')
  // Writing begins an edit; Enter takes it and goes down; Escape leaves the cell as it was.
  await cell(backlog, 'LC-6', 'size').click()
  await backlog.keyboard.type('8')
  await backlog.keyboard.press('Enter')
  await expect(cell(backlog, 'LC-6', 'size')).toHaveText('8')
  await expect(cell(backlog, 'LC-7', 'size')).toHaveClass(/\bon\b/)
  await backlog.keyboard.type('99')
  await backlog.keyboard.press('Escape')
  await expect(cell(backlog, 'LC-7', 'size')).toHaveText('3')
  await backlog.keyboard.type('big')
  await backlog.keyboard.press('Enter')
  await expect(backlog.getByText('LC-7: "big" is not a size; write a number')).toBeVisible()
  await expect(cell(backlog, 'LC-7', 'size')).toHaveText('3')
  // A block goes down and right; one cell fills what is selected; Delete clears.
  await cell(backlog, 'LC-6', 'size').click()
  await paste(backlog, '2\tFull Chain\n1\tFull Chain\n')
  await expect(cell(backlog, 'LC-7', 'release')).toHaveText('Full Chain')
  await expect(cell(backlog, 'LC-7', 'size')).toHaveText('1')
  await cell(backlog, 'LC-6', 'size').click()
  await backlog.keyboard.press('Shift+ArrowDown')
  await paste(backlog, '3')
  await expect(cell(backlog, 'LC-7', 'size')).toHaveText('3')
  await expect(cell(backlog, 'LC-6', 'size')).toHaveText('3')
  await backlog.keyboard.press('Delete')
  await expect(cell(backlog, 'LC-6', 'size')).toHaveText('')
  await undo(backlog).click()
  await expect(cell(backlog, 'LC-6', 'size')).toHaveText('3')
})

test('new items are written below the cursor, one or many', async ({ backlog }) => {
  await cell(backlog, 'LC-6', 'title').click()
  await backlog.keyboard.press('Insert')
  const line = backlog.getByLabel('Title of the new item')
  await expect(line).toBeFocused()
  await line.fill('Fog bell (3 pt, defect)')
  await line.press('Enter')
  await expect(row(backlog, 'LC-28')).toContainText('Fog bell')
  await expect(cell(backlog, 'LC-28', 'kind')).toHaveText('defect')
  await expect(cell(backlog, 'LC-28', 'feature')).toHaveText('Remote dimming')
  await line.fill('Fog horn')
  await line.press('Enter')
  await expect(row(backlog, 'LC-29')).toContainText('Fog horn')
  await line.focus()
  await paste(backlog, '- Siren (2)\n- Gong (1, TW)\n')
  // Many are shown as they were understood before they are added.
  const pasted = backlog.getByRole('dialog', { name: 'Items from what was pasted' })
  await expect(pasted.getByRole('list', { name: 'As it was understood' })).toContainText(
    'Gong · story · 1 pt · Tide & Weather',
  )
  await expect(pasted.getByRole('list')).toContainText('Siren · story · 2 pt · Lamp Control')
  await pasted.getByRole('button', { name: 'Add 2 items' }).click()
  await expect(backlog.locator('[data-item^="TW-"]', { hasText: 'Gong' })).toBeVisible()
  await expect(line).toBeFocused()
  await line.press('Escape')
  await expect(line).toHaveCount(0)
  const keys = await keysOf(backlog)
  expect(keys.slice(keys.indexOf('LC-6'), keys.indexOf('LC-6') + 4)).toEqual([
    'LC-6',
    'LC-28',
    'LC-29',
    'LC-30',
  ])
})

test('everything selected is acted on at once', async ({ backlog }) => {
  await cell(backlog, 'LC-5', 'title').click()
  await cell(backlog, 'LC-8', 'title').click({ modifiers: ['Shift'] })
  const bulk = backlog.getByRole('toolbar', { name: 'Act on the selection' })
  await expect(bulk).toContainText('4 items')
  await bulk.getByLabel('Value to set').selectOption('Full Chain')
  await bulk.getByRole('button', { name: 'Set' }).click()
  await expect(cell(backlog, 'LC-8', 'release')).toHaveText('Full Chain')
  await bulk.getByLabel('Field to set').selectOption('Add a tag')
  await bulk.getByLabel('Value to set').fill('fog')
  await bulk.getByRole('button', { name: 'Set' }).click()
  await expect(undo(backlog)).toHaveAccessibleName(/Tags of 4 items/)
  await bulk.getByLabel('Rank to').selectOption('above')
  await bulk.getByLabel('Key of the item there').fill('LC-1')
  await bulk.getByRole('button', { name: 'Rank' }).click()
  await expect(cell(backlog, 'LC-1', 'rank')).toHaveText('5')
  await grid(backlog).focus()
  await backlog.keyboard.press('Control+Delete')
  const dialog = backlog.getByRole('dialog', { name: 'Delete' })
  await expect(dialog).toContainText('4 items will be deleted: LC-5, LC-6, LC-7, LC-8.')
  await expect(dialog).toContainText('MA-1 Dim from the bridge needs LC-6 and will need it no longer.')
  await dialog.getByRole('button', { name: 'Delete' }).click()
  await expect(row(backlog, 'LC-8')).toHaveCount(0)
  await undo(backlog).click()
  await expect(row(backlog, 'LC-8')).toBeVisible()
})

test('the selection is dragged to a rank, into a feature and onto a release', async ({ backlog }) => {
  await cell(backlog, 'LC-7', 'title').click()
  await drag(backlog, cell(backlog, 'LC-7', 'title'), cell(backlog, 'LC-2', 'key'))
  await expect(undo(backlog)).toHaveAccessibleName(/Rank LC-7 (above|below) LC-2/)
  await panel(backlog, 'Scope').click()
  // The panel stands still once it has its figures.
  await expect(backlog.locator('[data-release="R2"]')).toContainText(/\d/)
  await drag(backlog, cell(backlog, 'LC-7', 'title'), backlog.locator('[data-release="R2"] header'))
  await expect(cell(backlog, 'LC-7', 'release')).toHaveText('Full Chain')
  await backlog.getByLabel('Heads').selectOption('as a tree')
  await expect(row(backlog, 'FE-1')).toBeVisible()
  await drag(backlog, cell(backlog, 'LC-3', 'title'), cell(backlog, 'FE-3', 'key'))
  await expect(undo(backlog)).toHaveAccessibleName(/Part of of LC-3|Part of LC-3/)
})

test('a feature is broken down by a pattern, and iterations get what they repeat', async ({ backlog }) => {
  await backlog.getByLabel('Heads').selectOption('as a tree')
  await cell(backlog, 'FE-3', 'title').click()
  await backlog.getByRole('button', { name: 'Break down…' }).click()
  const dialog = backlog.getByRole('dialog', { name: 'Break FE-3 down' })
  await expect(dialog).toContainText('Firmware: Remote dimming')
  await dialog.getByRole('button', { name: 'Break it down' }).click()
  await expect(dialog).toBeHidden()
  await backlog.getByLabel('Find: words or keys').fill('trial remote')
  await expect(backlog.locator('[data-item]', { hasText: 'Trial: Remote dimming' })).toBeVisible()
  await backlog.getByLabel('Find: words or keys').fill('')
  await backlog.getByRole('button', { name: 'More' }).click()
  await backlog.getByRole('button', { name: 'Repeated items…' }).click()
  const repeat = backlog.getByRole('dialog', { name: 'Repeated items' })
  await expect(repeat).toContainText(/Makes \d+ items/)
  await repeat.getByRole('button', { name: 'Make them' }).click()
  await expect(undo(backlog)).toHaveAccessibleName(/repeated items/)
})

test('an item opens beside the list with all it says', async ({ backlog, server }) => {
  await cell(backlog, 'LC-5', 'title').click()
  const item = backlog.getByRole('region', { name: 'Item LC-5' })
  await expect(item.locator('strong')).toHaveText('night profile')
  await item.getByRole('button', { name: 'Edit' }).click()
  await item.getByLabel('Description in Markdown').fill('Now *shorter*. <img src=x onerror=alert(1)>')
  await item.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(item.locator('em')).toHaveText('shorter')
  await expect(item.locator('.prose img')).toHaveCount(0)
  await item.getByLabel('New task').fill('Paint it 3h')
  await item.getByLabel('New task').press('Enter')
  await expect(item.getByLabel('Hours left of Paint it')).toHaveValue('3')
  await item.getByLabel('New check').fill('Dry within a day')
  await item.getByLabel('New check').press('Enter')
  await item.getByLabel('Dry within a day is met').check()
  await expect(item).toContainText('2 of 3 met')
  await item.getByLabel('New link').fill('Paint https://docs.example.org/paint')
  await item.getByLabel('New link').press('Enter')
  await expect(item.getByRole('link', { name: 'Paint' })).toHaveAttribute('rel', /noopener/)
  await item
    .getByLabel('Attach a file')
    .setInputFiles({ name: 'curve.txt', mimeType: 'text/plain', buffer: Buffer.from('0 1 2') })
  await expect(item.getByRole('link', { name: 'curve.txt' })).toBeVisible()
  const file = await backlog.request.get(
    server.url + (await item.getByRole('link', { name: 'curve.txt' }).getAttribute('href')),
  )
  expect(await file.text()).toBe('0 1 2')
  await item.getByRole('tab', { name: 'Comments (2)' }).click()
  await item.getByLabel('Your comment').fill('Fine by me')
  await item.getByRole('button', { name: 'Say' }).click()
  await expect(item.getByRole('tab', { name: 'Comments (3)' })).toBeVisible()
  await expect(item).toContainText('Matthias Ferreol')
  await item.getByRole('tab', { name: 'History' }).click()
  await expect(item).toContainText('Describe LC-5')
})

test('ready, mix and odds are set by the program and lead to items', async ({ backlog }) => {
  await panel(backlog, 'Ready').click()
  const ready = backlog.getByRole('region', { name: 'Readiness' })
  await ready.getByLabel('has checks').check()
  await ready.locator('.one', { hasText: 'has checks' }).getByRole('button').click()
  await expect(cell(backlog, 'LC-6', 'readiness')).toContainText('has no checks')
  await expect(ready.locator('.starts li').first()).toContainText('waits for')
  await panel(backlog, 'Mix').click()
  const mix = backlog.getByRole('region', { name: 'Mix' })
  await expect(mix).toContainText('upkeep is short by')
  await mix.getByRole('button', { name: 'Pull MA-15 in' }).click()
  await expect(undo(backlog)).toHaveAccessibleName(/Release of MA-15/)
  await mix.getByLabel('Wanted share of spike').fill('5')
  await mix.getByLabel('Wanted share of spike').press('Enter')
  await mix.getByLabel('Wanted share of spike').blur()
  await expect(backlog.getByText(/the shares add up to 105 %/)).toBeVisible()
})

test('the lines and the dates answer to the list', async ({ backlog }) => {
  await panel(backlog, 'What fits').click()
  const fit = backlog.getByRole('region', { name: 'Where the date falls' })
  await expect(fit).toContainText(/the first \d+ of 109 items/)
  const fits = /the first (\d+) of/.exec(await fit.innerText())![1]
  await grid(backlog).focus()
  await backlog.keyboard.press('Control+Home')
  await toLine(backlog)
  await expect(backlog.locator('.cut.odds85')).toContainText(`${fits} items above this line`)
  await fit.getByRole('radio', { name: 'Down to the cursor' }).click()
  await expect(fit).toContainText('Everything down to')
  // Dropping work above the line moves it down.
  await backlog.keyboard.press('Control+Home')
  await fit.getByLabel('Buffer in percent').fill('50')
  await fit.getByText('Its steps').click()
  await expect(fit).toContainText('× 1.5')
  await fit.getByLabel('Done by').fill('20.4.')
  await fit.getByLabel('Done by').press('Enter')
  await expect(fit).not.toContainText(`the first ${fits} of`)
})

test('an outline becomes initiatives, features and items', async ({ backlog }) => {
  await backlog.getByRole('link', { name: 'Import' }).click()
  await backlog.getByLabel('Outline').focus()
  await backlog.keyboard.insertText(
    '- Fog signals\n  - Horn\n    - Mount it (4 d, FW, soon)\n    - Sound it (5, KC, #fog)',
  )
  await expect(backlog.getByText('“soon” is no size, team, kind, release or tag')).toBeVisible()
  await backlog.keyboard.press('Control+Enter')
  await expect(backlog.getByRole('region', { name: 'Item IN-7' })).toBeVisible()
  await expect(row(backlog, 'IN-7')).toContainText('Fog signals')
  await undo(backlog).click()
  await expect(row(backlog, 'IN-7')).toHaveCount(0)
})

test('who only looks is offered nothing, and a lead only their own', async ({ backlog, server, as }) => {
  const other = await as('petra')
  await other.goto(`${server.url}/programs/1/backlog`)
  await cell(other, 'LC-6', 'title').click()
  await other.keyboard.press('Enter')
  await expect(other.locator('.cell input')).toHaveCount(0)
  await expect(other.getByRole('button', { name: 'New' })).toBeDisabled()
  await expect(other.getByLabel('Attach a file')).toHaveCount(0)
  await enter(other, server, 'ingrid')
  await other.goto(`${server.url}/programs/1/backlog`)
  await cell(other, 'TW-6', 'title').click()
  await other.keyboard.press('Enter')
  await expect(other.locator('.cell input')).toHaveCount(0)
  await cell(other, 'LC-6', 'size').click()
  await other.keyboard.type('2')
  await other.keyboard.press('Enter')
  await expect(cell(backlog, 'LC-6', 'size')).toHaveText('2')
})
