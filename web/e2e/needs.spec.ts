import { readFileSync } from 'node:fs'
import { type Page } from '@playwright/test'
import { enter, expect, goTo, test } from './server'

const needs = (page: Page) => page.getByRole('main', { name: 'Needs' })

test('who owes whom is read by key, agreed to, and leads to the plan', async ({ page, server }) => {
  await enter(page, server, 'ingrid')
  await page.goto(`${server.url}/programs/1/plan`)
  await expect(page.getByRole('region', { name: 'Lanes' })).toBeVisible()
  await page.keyboard.press('Control+k')
  await page.keyboard.type('who owes whom')
  await page.getByRole('option', { name: /Who owes whom/ }).waitFor()
  await page.keyboard.press('Enter')
  const main = needs(page)
  const map = main.getByRole('region', { name: 'Who owes whom' })
  await expect(map.getByText(/\d+ needs between teams are open/)).toBeVisible()

  // The sum of the cells is what the list counts.
  const cells = await map.locator('.cell b').allInnerTexts()
  const sum = cells.reduce((n, text) => n + Number(text), 0)
  await expect(main.getByText(new RegExp(`^${sum} needs ·`))).toBeVisible()

  // By key from cell to cell; each lists exactly what it counts.
  const cell = map.getByRole('button', { name: /^Lamp Control gives Keepers' Console/ })
  await map.getByRole('button', { name: /^Lamp Control gives Mariner App/ }).focus()
  await page.keyboard.press('ArrowRight')
  await expect(cell).toBeFocused()
  await page.keyboard.press('Enter')
  const said = (await cell.getAttribute('aria-label'))!
  const list = main.getByRole('region', { name: "Lamp Control gives Keepers' Console" })
  await expect(list.getByRole('listitem')).toHaveCount(Number(/(\d+) needs?/.exec(said)![1]))
  await expect(list.getByText(/Broken by \d+ days/)).toHaveCount(Number(/(\d+) broken/.exec(said)![1]))
  await expect(page).toHaveURL(/gives=LC&waits=KC/)
  await expect(list.getByText(/In time with \d+\s%/).first()).toBeVisible()

  // What her team gives she agrees to; the cell says so at once.
  await list
    .getByRole('button', { name: /^Agree that/ })
    .first()
    .press('Enter')
  await expect(cell).not.toHaveAttribute('aria-label', said)
  await expect(list.getByRole('button', { name: /^Agree that/ })).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(cell).toHaveAttribute('aria-label', said)

  // A broken one leads to its recovery options, an item to its place; and back.
  await list
    .getByRole('button', { name: /^Fix the dependency of/ })
    .first()
    .press('Enter')
  await expect(page.getByRole('region', { name: /^Recovery options/ }).first()).toBeVisible()
  await page.goBack()
  await expect(list).toBeVisible()
  const leads = list.getByRole('listitem').first().getByRole('button').first()
  await expect(leads).toHaveText(/\S/) // coming back, it may be drawn once more
  const key = (await leads.innerText()).trim()
  await leads.press('Enter')
  await expect(page.locator(`[data-block="${key}"]`)).toHaveAttribute('aria-pressed', 'true')
  await page.goBack()

  // What a team gives, and what it waits for.
  await map.getByRole('button', { name: 'Field Works', exact: true }).last().press('Enter')
  await expect(main.getByRole('heading', { name: 'What Field Works gives' })).toBeVisible()
  await expect(main.getByRole('button', { name: /^(Agree|Decline) that/ })).toHaveCount(0) // not hers to give
  await main.getByRole('button', { name: 'Export…' }).press('Enter')
  const menu = page.getByRole('dialog', { name: 'Export the needs that are listed' })
  await expect(menu).toBeVisible()
  const saving = page.waitForEvent('download')
  await menu.getByRole('link', { name: 'Mermaid' }).press('Enter')
  const text = readFileSync(await (await saving).path(), 'utf8')
  expect(text).toMatch(/^flowchart LR\n {2}subgraph team0 \["/)
  await page.keyboard.press('Escape')
  await expect(menu).toBeHidden()
  const listed = main.getByRole('region', { name: 'What Field Works gives' }).getByRole('listitem')
  await expect(listed).toHaveCount(text.match(/--?>|-\.->/g)!.length)
  await main.getByRole('button', { name: 'All needs' }).press('Enter')
  await expect(main.getByRole('heading', { name: 'All needs between teams' })).toBeVisible()

  // The same by week: each lists exactly what it counts.
  await main.getByRole('button', { name: 'When' }).press('Enter')
  const weeks = main.getByRole('region', { name: 'When' })
  const gives = weeks.getByRole('button', { name: /^Lamp Control gives \d/ }).first()
  const many = Number(/gives (\d+)/.exec((await gives.getAttribute('aria-label'))!)![1])
  await gives.press('Enter')
  await expect(gives).toHaveAttribute('aria-pressed', 'true')
  const due = main.getByRole('region', { name: /^What Lamp Control gives, in the week of/ })
  await expect(due.getByRole('listitem')).toHaveCount(many)
  await expect(page).toHaveURL(/show=when&gives=LC&week=2027-/)
  await page.reload()
  await expect(due.getByRole('listitem')).toHaveCount(many)
})

test('the longest chain of a release is read, and leads to its items and back', async ({ page, server }) => {
  await enter(page, server, 'petra')
  await page.goto(`${server.url}/programs/1/plan?as=needs&waits=MA`)
  const main = needs(page)
  await expect(main.getByRole('heading', { name: 'What Mariner App waits for' })).toBeVisible()
  await expect(main.getByRole('button', { name: /^(Agree|Decline)/ })).toHaveCount(0) // she only looks
  await main.getByRole('button', { name: 'Chains', exact: true }).press('Enter')
  const chain = main.getByRole('region', { name: /^The longest chain: [\d.]+ days$/ })
  await expect(chain).toBeVisible({ timeout: 20_000 })

  // Its days add up, and each waits for the one before it.
  const rows = chain.locator('tbody tr')
  const keys = await rows.getByRole('rowheader').getByRole('button').allInnerTexts()
  const days = (await rows.locator('td:nth-of-type(2)').allInnerTexts()).map(Number)
  const total = Number(/([\d.]+) days/.exec((await chain.getAttribute('aria-label'))!)![1])
  const state = (await (await page.request.get(`${server.url}/api/v1/programs/1`)).json()) as {
    program: { needs: { item: string; needs: string; lagDays?: number }[] }
  }
  const gaps = keys.slice(1).map((key, i) => {
    const need = state.program.needs.find((n) => n.item === key && n.needs === keys[i])
    expect(need, `${key} needs ${keys[i]}`).toBeDefined()
    return need!.lagDays ?? 0
  })
  expect(Math.abs(total - [...days, ...gaps].reduce((a, b) => a + b, 0))).toBeLessThan(0.3)
  await expect(rows.first()).toContainText(/\d+ of 100/)

  // As a picture: each link is in it.
  const saving = page.waitForEvent('download')
  await main.getByRole('button', { name: 'Save the chains as SVG' }).press('Enter')
  const drawn = readFileSync(await (await saving).path(), 'utf8')
  for (const key of keys) expect(drawn).toContain(`>${key} `)
  const png = page.waitForEvent('download')
  await main.getByRole('button', { name: 'Save the chains as PNG' }).press('Enter')
  expect(
    readFileSync(await (await png).path())
      .subarray(1, 4)
      .toString(),
  ).toBe('PNG')

  // What is most often critical is told of the same plays.
  const often = main.getByRole('region', { name: 'Most often critical' })
  await expect(often.getByRole('listitem').first()).toContainText(/\d+\s%/)

  // To an item, its own chain, and back.
  await chain.getByRole('button', { name: keys.at(-1)!, exact: true }).press('Enter')
  await expect(page.locator(`[data-block="${keys.at(-1)}"]`)).toHaveAttribute('aria-pressed', 'true')
  await page
    .getByRole('region', { name: 'Selected item' })
    .getByRole('link', { name: 'Its longest chain' })
    .press('Enter')
  await expect(main.getByLabel('Of which work')).toHaveValue(`item:${keys.at(-1)}`)
  await expect(main.getByRole('region', { name: /^The longest chain/ })).toBeVisible({ timeout: 20_000 })
  await page.goBack()
  await page.goBack()
  await expect(chain).toBeVisible({ timeout: 20_000 })
})

test('all needs as a table, by keyboard: found, pasted, changed and removed', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(`${server.url}/programs/1/plan?as=needs`)
  const main = needs(page)
  await main.getByRole('button', { name: 'As a table' }).press('Enter')
  const table = main.getByRole('region', { name: 'All needs, as a table' })
  const counted = table.getByRole('status')
  await expect(counted).toHaveText(/^\d+ needs$/)
  const many = parseInt((await counted.textContent())!)

  // Two columns of keys: what cannot be is said by the line, a cycle by its items; then what it does is shown first.
  await table.getByRole('button', { name: 'Add needs…' }).press('Enter')
  const form = table.getByRole('form', { name: 'Add needs' })
  await page.keyboard.type('LC-17 TW-13')
  await page.keyboard.press('Enter')
  await page.keyboard.type('LC-18 XX-9')
  await form.getByRole('button', { name: 'See what it does…' }).press('Enter')
  await expect(page.getByText(/line 2: there is no item XX-9/).first()).toBeVisible()
  await form.getByRole('textbox').click()
  for (let i = 0; i < 'XX-9'.length; i++) await page.keyboard.press('Backspace')
  await page.keyboard.type('LC-17 3')
  await page.keyboard.press('Enter')
  await page.keyboard.type('LC-17 LC-18')
  await form.getByRole('button', { name: 'See what it does…' }).press('Enter')
  await expect(page.getByText(/cycle.*LC-1[78]/).first()).toBeVisible()
  await form.getByRole('textbox').click()
  await page.keyboard.press('Control+End')
  for (let i = 0; i < 'LC-17 LC-18'.length; i++) await page.keyboard.press('Backspace')
  await form.getByRole('button', { name: 'See what it does…' }).press('Enter')
  const dialog = page.getByRole('dialog', { name: /Add 2 needs/ })
  await expect(dialog).toBeVisible()
  await dialog.getByRole('button', { name: 'Apply' }).press('Enter')
  await expect(dialog).toBeHidden()
  await expect(counted).toHaveText(`${many + 2} needs`)

  // Found by words; from row to row by key; days between for those that are chosen.
  await table.getByLabel('Find needs by words').click()
  await page.keyboard.type('lc-17')
  const row = (item: string, on: string) =>
    table.getByRole('row', { name: `${item} needs ${on}`, exact: true })
  await expect(row('LC-18', 'LC-17')).toBeVisible()
  await expect(table.getByLabel('Days between LC-17 and LC-18')).toHaveValue('3')
  await row('LC-17', 'TW-13').focus()
  await page.keyboard.press(' ')
  await expect(row('LC-17', 'TW-13')).toHaveAttribute('aria-selected', 'true')
  const saved = page.waitForResponse(/changes/)
  await table.getByLabel(/^Days between, for 1 chosen need/).click()
  await page.keyboard.type('2')
  await page.keyboard.press('Tab')
  await saved
  await expect(table.getByLabel('Days between TW-13 and LC-17')).toHaveValue('2')

  // Removed by key, and back by undo.
  await row('LC-17', 'TW-13').focus()
  await page.keyboard.press('Delete')
  await expect(row('LC-17', 'TW-13')).toHaveCount(0)
  await page.keyboard.press('Control+z')
  await expect(row('LC-17', 'TW-13')).toBeVisible()

  // To the item, and back.
  await row('LC-17', 'TW-13').focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-block="LC-17"]')).toHaveAttribute('aria-pressed', 'true')
  await page.goBack()
  await expect(table).toBeVisible()
})

test('a need between features tells the needs between their items, and the map is saved as a picture', async ({
  page,
  server,
}) => {
  await enter(page, server, 'matthias')
  await page.goto(`${server.url}/programs/1/plan?as=needs&show=table`)
  await page.getByRole('button', { name: 'Add needs…' }).press('Enter')
  await page.keyboard.type('FE-16 FE-9')
  await page.getByRole('button', { name: 'See what it does…' }).press('Enter')
  await page.getByRole('dialog').getByRole('button', { name: 'Apply' }).press('Enter')
  const main = needs(page)
  await main.getByRole('button', { name: 'Who owes whom' }).press('Enter')
  const card = main
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: 'FE-16', exact: true }) })
    .first()
  const stands = card.getByText(/^It stands for \d+ needs between items$/)
  const many = parseInt(/\d+/.exec((await stands.textContent())!)![0])
  expect(many).toBeGreaterThan(1)
  await stands.press('Enter')
  await expect(card.getByRole('listitem')).toHaveCount(many)

  await main.getByRole('button', { name: 'Export…' }).press('Enter')
  const saving = page.waitForEvent('download')
  await page.getByRole('link', { name: 'SVG', exact: true }).press('Enter')
  const drawn = readFileSync(await (await saving).path(), 'utf8')
  const cells = await main.locator('.cell b').allInnerTexts()
  expect(drawn.match(/font-weight="700">\d+</g)!.map((t) => /\d+(?=<)/.exec(t)![0])).toEqual(cells)
})

test('what milestones need stands below the map, and a cycle that a document holds is named', async ({
  page,
  server,
}) => {
  await enter(page, server, 'matthias')
  await page.goto(`${server.url}/programs/1/plan?as=needs`)
  const milestones = needs(page).getByRole('region', { name: 'Milestones' })
  await expect(milestones).toContainText('Harbour trial')
  const item = milestones.getByRole('button').first()
  const key = await item.innerText()
  await item.press('Enter')
  await expect(page.locator(`[data-block="${key}"]`)).toHaveAttribute('aria-pressed', 'true')

  const written = (await (await page.request.get(`${server.url}/api/v1/programs/1/document`)).json()) as {
    name: string
    needs: { item: string; needs: string }[]
  }
  written.needs.push({ item: 'TW-5', needs: 'LC-8' }) // which needs TW-5
  written.name = 'Round and round'
  const made = await page.request.post(`${server.url}/api/v1/programs/import`, { data: written })
  const { id } = (await made.json()) as { id: number }
  await goTo(page, `/programs/${id}/plan?as=needs`)
  const cycles = needs(page).getByRole('region', { name: 'Cycles' })
  await expect(cycles).toContainText('1 cycle: these wait for one another')
  await expect(cycles.getByRole('button')).toHaveText(['TW-5', 'LC-8'])
})
