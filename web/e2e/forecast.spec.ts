import { readFileSync } from 'node:fs'
import { type Page } from '@playwright/test'
import { enter, expect, goTo, test } from './server'

const forecast = (page: Page) => page.getByRole('main', { name: 'Forecast' })
const strip = (page: Page, release: string) =>
  page
    .getByRole('region', { name: 'Where the plan stands' })
    .getByRole('article')
    .filter({ hasText: release })

/** Tab until something has the focus. */
async function tabTo(
  page: Page,
  role: 'button' | 'slider' | 'application' | 'combobox',
  name: string | RegExp,
) {
  const target = page.getByRole(role, { name }).first()
  await target.waitFor()
  for (let i = 0; i < 60; i++) {
    if (await target.evaluate((el) => el === document.activeElement)) return
    await page.keyboard.press('Tab')
  }
  throw new Error(`Tab does not lead to ${String(name)}`)
}

test('the four questions, by keyboard, say what the strip says', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(`${server.url}/programs/1/forecast`)
  const main = forecast(page)
  // When: the same range and chance as in the strip.
  const said = main.locator('.said')
  await expect(said).toHaveText(/ to \d/)
  const range = (await said.innerText()).replace(' to ', ' – ')
  await expect(strip(page, 'First Light')).toContainText(range)
  const chance = /(\d+)\s%/.exec(await main.getByText(/^\s*Due .* likely/).innerText())![1]
  await expect(strip(page, 'First Light').locator('.chance')).toHaveText(`${chance}\u00a0%`)
  // A picture is read by the arrow keys, and has a table behind it.
  await tabTo(page, 'application', /^Work done and to come/)
  await page.keyboard.press('End')
  const fan = main.getByRole('region', { name: 'Work done and to come', exact: true })
  await expect(fan.getByText(/100\s% done at even odds/)).toBeVisible()
  await page.keyboard.press('Home')
  await expect(fan.getByText(/% done of \d+\s%$/)).toBeVisible()
  await fan.getByRole('button', { name: 'Table' }).press('Enter')
  await expect(fan.getByRole('columnheader', { name: 'There is' })).toBeVisible()

  // What moves it: each measured, the largest first.
  const drivers = main.getByRole('region', { name: 'What moves it most' })
  await expect(drivers.getByText(/with that alone otherwise/)).toBeVisible()
  const worths = (await drivers.getByRole('listitem').locator('.worth').allInnerTexts()).map((text) =>
    Number(/(\d+) point/.exec(text)?.[1] ?? 0),
  )
  expect(worths.length).toBeGreaterThan(4)
  expect(worths).toEqual([...worths].sort((a, b) => b - a))

  // What fits: what would have to go is taken out, and the strip reads what was promised.
  await tabTo(page, 'button', 'What fits by a date?')
  await page.keyboard.press('Enter')
  await expect(main.getByRole('heading', { name: /^(The first|All) / })).toBeVisible()
  const go = main.getByRole('region', { name: 'What would have to go' })
  const promised = await go.getByText(/Without \d+ items?, the rest/).innerText()
  const then = /with (\d+)\s%/.exec(promised)![1]
  expect(Number(then)).toBeGreaterThanOrEqual(85)
  const keys = await go.getByRole('listitem').getByRole('link').allInnerTexts()
  await go.getByRole('button', { name: /^Keep \d+ items? out$/ }).press('Enter')
  await expect(strip(page, 'First Light').locator('.chance')).toHaveText(`${then}\u00a0%`)
  await expect(go.getByText(/Nothing: as it is planned/)).toContainText(`${then}\u00a0%`)
  await expect(main.getByRole('table').first()).not.toContainText(keys[0].split(' ')[0] + ' ')
  await page.keyboard.press('Control+z')
  await expect(strip(page, 'First Light').locator('.chance')).toHaveText(`${chance}\u00a0%`)
  await expect(go.getByRole('button', { name: /^Keep \d+ items? out$/ })).toBeVisible()

  // At which pace.
  await tabTo(page, 'button', 'What would it take?')
  await page.keyboard.press('Enter')
  const faster = await main.getByRole('heading', { name: /^All teams \d+\s% faster$/ }).innerText()
  const percents = Number(/(\d+)/.exec(faster)![1])
  await expect(main.getByText(`As things are: ${chance}\u00a0%`)).toBeVisible()
  await expect(main.getByRole('row', { name: /^All teams/ })).toContainText(`${percents} %`)

  // All dates at once.
  await tabTo(page, 'button', 'Are the dates safe?')
  await page.keyboard.press('Enter')
  const row = main.getByRole('region', { name: 'All dates' }).getByRole('row', { name: /^First Light/ })
  await expect(row).toContainText(`${chance}\u00a0%`)
  await expect(
    main.getByRole('region', { name: 'All dates' }).getByRole('row', { name: /^Harbour trial/ }),
  ).toBeVisible()
  await row.getByRole('button', { name: 'First Light', exact: true }).press('Enter')
  await expect(main.locator('.said')).toHaveText(range.replace(' – ', ' to '))
  await expect(page).toHaveURL(/of=release/)
})

test('what moved a forecast is told by causes, by days and by edits', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(`${server.url}/programs/1/forecast?ask=went`)
  const main = forecast(page)
  await expect(main.locator('.said')).toHaveText(/^\d+ points? of chance (lost|gained) since /)
  // The causes sum up to what the sentence says, which ends at what the strip says.
  const table = main.getByRole('region', { name: 'What changed it' })
  const number = (cell: string) => Number(cell.replace('−', '-'))
  const cells = await table.getByRole('row').allInnerTexts()
  const rows = cells.slice(1).map((row) => number(row.split('\t').at(-2)!))
  const sum = rows.slice(0, -1).reduce((a, b) => a + b, 0)
  expect(Math.abs(sum - rows.at(-1)!)).toBeLessThan(0.31) // each is rounded
  const now = /to (\d+)\s%;/.exec(await main.getByText(/From \d+\s% to \d+\s%/).innerText())![1]
  await expect(strip(page, 'First Light').locator('.chance')).toHaveText(`${now}\u00a0%`)
  // The line ends there too, and is read by key; a day that moved it opens to its edits.
  const line = main.getByRole('application', { name: /^The chance, day by day: \d\d+ days/ })
  await expect(line).toBeVisible()
  await expect(main.getByText(/Reckoning/)).toHaveCount(0)
  await line.focus()
  await page.keyboard.press('End')
  await expect(main.getByText(new RegExp(`lands .*, ${now}\\s% by `))).toBeVisible()
  const edits = main.getByRole('region', { name: 'Edits that moved it' })
  // Of some days it is told that time alone moved it.
  const move = edits.getByRole('listitem').first()
  for (const chip of await edits.getByRole('button', { name: /^\d+ \w{3}$/ }).all()) {
    await chip.press('Enter')
    await expect(move.or(edits.getByText(/^No edit of/))).toBeVisible()
    if (await move.isVisible()) break
  }
  await move.getByRole('button').press('Enter')
  await expect(
    page
      .getByRole('complementary', { name: /changed/ })
      .or(page.getByRole('dialog'))
      .first(),
  ).toBeVisible()
  await page.keyboard.press('Escape')
  await main.getByRole('button', { name: 'yesterday' }).press('Enter')
  await expect(main.locator('.said')).toHaveText(/22 Mar$/)
})

test('how good forecasts were is counted, against luck', async ({ page, server }) => {
  await enter(page, server, 'thandi')
  await page.goto(`${server.url}/programs/1/forecast?ask=kept`)
  const main = forecast(page)
  await expect(main.locator('.said')).toHaveText(/^What was said at 85 % came \d+ times of \d+$/)
  const [came, of] = /came (\d+) times of (\d+)/.exec(await main.locator('.said').innerText())!.slice(1)
  await expect(
    main.getByRole('region', { name: 'How often it came' }).getByRole('row', { name: /^85 %/ }),
  ).toContainText(`${came} of ${of}`)
  await expect(
    main.getByRole('region', { name: 'Iterations, the latest first' }).getByRole('row'),
  ).toHaveCount(Number(of) + 1)
  // An iteration leads to its review.
  await main.getByRole('link', { name: 'LC·9' }).press('Enter')
  await expect(
    page.getByRole('main', { name: 'Track' }).getByRole('combobox', { name: /iteration/i }),
  ).toHaveValue('LC-i9')
})

test('what if a team were faster is seen at once, and the plan stays', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(`${server.url}/programs/1/forecast?of=release:R2`)
  const main = forecast(page)
  const said = main.locator('.said')
  const was = await said.innerText()
  await tabTo(page, 'slider', 'Pace of all teams')
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight')
  await expect(main.getByText(/As you suppose: \d+ days? earlier at even odds, \d+\s% before/)).toBeVisible()
  await expect(said).not.toHaveText(was)
  await tabTo(page, 'application', /^How the chance rises/)
  await page.keyboard.press('Home')
  await expect(main.getByText(/^by .*; as things are \d+\s%$/)).toBeVisible()
  await main.getByRole('button', { name: 'Reset' }).press('Enter')
  await expect(said).toHaveText(was)

  // People and items, too: an item that is not there is named, and nothing is asked.
  await main.getByText('More', { exact: true }).click()
  await main.getByLabel('People').focus()
  await page.keyboard.type('Field')
  await tabTo(page, 'button', 'Suppose so')
  await page.keyboard.press('Enter')
  const people = main.getByRole('list', { name: 'Who joins and who is away' })
  await expect(people.getByText(/Somebody more in Field Works from 23 Mar/)).toBeVisible()
  await expect(main.getByText(/As you suppose: /)).toBeVisible()
  await main.getByLabel('Without items').focus()
  await page.keyboard.type('fw-9 XX-1')
  await page.keyboard.press('Enter')
  await expect(main.getByText('There is no item XX-1.')).toBeVisible()
  await people.getByRole('button', { name: /^Not: Somebody more/ }).press('Enter')
  await expect(said).toHaveText(was)
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled()

  // What moves it leads to the recovery options of the plan.
  await main.getByRole('link', { name: 'Recovery options' }).press('Enter')
  await expect(
    page
      .getByRole('complementary', { name: /recovery options/i })
      .or(page.getByRole('region', { name: /recovery options/i }))
      .first(),
  ).toBeVisible()
  await page.goBack()

  // To a team's work in the backlog.
  await main
    .getByRole('region', { name: 'When each team is done' })
    .getByRole('link', { name: 'Field Works' })
    .press('Enter')
  await expect(page).toHaveURL(/\/backlog/)
  await expect(page.getByRole('row', { name: /FW-/ }).first()).toBeVisible()
  await expect(page.getByRole('row', { name: /LC-/ })).toHaveCount(0)
})

test('what is picked in the backlog is asked about', async ({ page, server }) => {
  await enter(page, server, 'ingrid')
  await page.goto(`${server.url}/programs/1/backlog`)
  await page.getByRole('gridcell', { name: 'LC-7', exact: true }).click()
  await page.keyboard.press('Shift+ArrowDown')
  await page.getByRole('link', { name: 'When are they done?' }).press('Enter')
  const main = forecast(page)
  await expect(main.getByText('2 picked items: done, from even odds to 85 %')).toBeVisible()
  await expect(main.locator('.said')).toHaveText(/\d/)
  await main.getByLabel('By', { exact: true }).click()
  await page.keyboard.type('30.4.2027')
  await page.keyboard.press('Tab')
  await expect(main.getByText(/By 30 Apr: .*likely/)).toBeVisible()
  await main.getByRole('button', { name: 'Ask about other work' }).press('Enter')
  await expect(main.getByText(/First Light lands/)).toBeVisible()
})

test('pictures are kept as files', async ({ page, server }) => {
  await enter(page, server, 'petra')
  await page.goto(`${server.url}/programs/1/forecast?of=team:FW`)
  const fan = forecast(page).getByRole('region', { name: 'Work done and to come', exact: true })
  const keep = async (as: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      fan.getByRole('button', { name: `Work done and to come as ${as}` }).press('Enter'),
    ])
    return { name: download.suggestedFilename(), bytes: readFileSync(await download.path()) }
  }
  const csv = await keep('CSV')
  expect(csv.name).toBe('field-works-burn-up.csv')
  const lines = csv.bytes.toString().trim().split('\r\n')
  expect(lines[0]).toBe('Day,Done,There is,10 %,25 %,75 %,90 %')
  expect(lines.length).toBeGreaterThan(30)
  expect((await keep('SVG')).bytes.toString()).toMatch(/^<svg .*<path/s)
  expect((await keep('PNG')).bytes.subarray(1, 4).toString()).toBe('PNG')
})

test('a date is promised by key with the odds of the strip, watched, and calls for somebody', async ({
  page,
  server,
}) => {
  await enter(page, server, 'matthias')
  await page.goto(`${server.url}/programs/1/forecast?ask=dates`)
  const main = forecast(page)
  const odds = await strip(page, 'Full Chain').locator('.chance').innerText()
  const promised = main.getByRole('region', { name: 'What was promised' })
  await expect(promised.getByRole('row', { name: /Harbour board/ })).toContainText('fell')

  // For its due date, by key alone; the odds are said before it is noted.
  await tabTo(page, 'button', 'Promise a date…')
  await page.keyboard.press('Enter')
  const form = main.getByRole('form', { name: 'Promise a date' })
  await expect(form.getByLabel('To whom')).toBeFocused()
  await page.keyboard.type('Keepers’ union')
  await page.keyboard.press('Shift+Tab')
  await page.keyboard.press('Shift+Tab')
  await expect(form.getByLabel('What')).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await expect(form.getByLabel('What')).toHaveValue('release:R2')
  await expect(form.getByText(`As things are it is kept with ${odds}.`)).toBeVisible()
  await form.getByLabel('To whom').press('Enter')
  const mine = promised.getByRole('row', { name: /Keepers’ union/ })
  await expect(mine).toBeFocused()
  await expect(mine).toContainText(`${odds} on 23 Mar`)
  await expect(mine.getByRole('cell').nth(4)).toHaveText(odds)

  // One that will rather be missed stands among what needs somebody, and leads back.
  await goTo(page, '/programs/1/track?as=attention&call=promise')
  const call = page.getByText(/First Light, promised to Harbour board/)
  await expect(call.first()).toBeVisible()
  await page.goBack()
  await promised.getByRole('button', { name: 'Take back what was promised to Keepers’ union' }).press('Enter')
  await expect(mine).toContainText('taken back on 23 Mar')
  await page.keyboard.press('Control+z')
  await expect(mine).not.toContainText('taken back')

  // Who may not promise sees what was promised.
  await enter(page, server, 'petra')
  await page.goto(`${server.url}/programs/1/forecast?ask=dates`)
  await expect(mine).toBeVisible()
  await expect(promised.getByRole('button')).toHaveCount(0)
})
