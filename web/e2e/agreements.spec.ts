import { readFileSync } from 'node:fs'
import { type Page } from '@playwright/test'
import { enter, expect, goTo, test } from './server'

const answer = (page: Page, needs: string, item: string) =>
  page.getByRole('button', { name: `Answer ${needs} for ${item}`, exact: true })
const card = (page: Page, needs: string, item: string) =>
  page
    .getByRole('main', { name: 'Needs' })
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: needs, exact: true }) })
    .filter({ has: page.getByRole('button', { name: item, exact: true }) })

test('two leads agree on a need in two browsers, word by word', async ({ page, server, as }) => {
  // Ingrid leads Lamp Control, which waits; Hana leads Tide & Weather, which gives.
  await enter(page, server, 'ingrid')
  await page.goto(`${server.url}/programs/1/plan`)
  await expect(page.getByRole('region', { name: 'Lanes' })).toBeVisible()
  const hana = await as('hana')
  await hana.goto(`${server.url}/programs/1/plan?as=needs&gives=TW&waits=LC`)
  await expect(hana.getByRole('heading', { name: 'Tide & Weather gives Lamp Control' })).toBeVisible()

  // She says by key what an item needs: the other lead has it at once, as asked for.
  await page.locator('[data-block="LC-17"]').click()
  const panel = page.getByRole('region', { name: 'Selected item' })
  await panel.getByLabel('Add a need: key or words').click()
  await page.keyboard.type('TW-13')
  await page.getByRole('option', { name: /TW-13/ }).waitFor()
  await page.keyboard.press('Enter')
  await expect(panel.getByRole('button', { name: /^Agreement on TW-13: asked/ })).toBeVisible()
  await expect(card(hana, 'TW-13', 'LC-17')).toContainText('Asked for, not agreed.')

  // Hana offers another day, with a word.
  await answer(hana, 'TW-13', 'LC-17').press('Enter')
  const form = hana.getByRole('form', { name: 'Answer TW-13 for LC-17' })
  await expect(form.getByRole('button', { name: 'Offer another day' })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  await expect(form.getByLabel('What to say with it')).toBeFocused()
  await hana.keyboard.type('after the surge model')
  await form.getByLabel('Offered for').click()
  await hana.keyboard.type('30 May 2027')
  await hana.keyboard.press('Tab')
  await form.getByRole('button', { name: 'Offer it' }).press('Enter')
  await expect(card(hana, 'TW-13', 'LC-17')).toContainText(
    'Tide & Weather offers 30 May: “after the surge model”',
  )
  await expect(card(hana, 'TW-13', 'LC-17')).toContainText('Hana Kobayagi')
  await expect(
    hana.getByRole('button', { name: 'Accept TW-13 for LC-17 by 30 May', exact: true }),
    'it is not hers to accept what she offered',
  ).toHaveCount(0)

  // Ingrid sees the offer where she stands, and accepts it.
  await expect(panel.getByRole('button', { name: /^Agreement on TW-13: offered 30 May/ })).toBeVisible()
  await goTo(page, '/programs/1/plan?as=needs&gives=TW&waits=LC')
  await card(page, 'TW-13', 'LC-17')
    .getByRole('button', { name: 'Accept TW-13 for LC-17 by 30 May', exact: true })
    .press('Enter')
  await expect(card(page, 'TW-13', 'LC-17')).toContainText('Agreed for 30 May.')
  await expect(card(hana, 'TW-13', 'LC-17')).toContainText('Agreed for 30 May.')
  await expect(card(hana, 'TW-13', 'LC-17')).toContainText('Ingrid Oksanen')

  // She asks for an earlier day; Hana declines, and cannot without saying why.
  await answer(page, 'TW-13', 'LC-17').press('Enter')
  const asking = page.getByRole('form', { name: 'Answer TW-13 for LC-17' })
  await asking.getByLabel('Wanted by').click()
  await page.keyboard.type('2 May 2027')
  await page.keyboard.press('Tab')
  await asking.getByRole('button', { name: 'Ask', exact: true }).press('Enter')
  await expect(card(hana, 'TW-13', 'LC-17')).toContainText('Wanted by 2 May')
  await answer(hana, 'TW-13', 'LC-17').press('Enter')
  await form.getByRole('button', { name: 'Decline', exact: true }).press('Enter')
  await expect(form.getByRole('button', { name: 'Decline it' })).toBeDisabled()
  await form.getByLabel('Why').click()
  await hana.keyboard.type('two of us are away')
  await hana.keyboard.press('Enter')
  await expect(card(page, 'TW-13', 'LC-17')).toContainText('Declined: “two of us are away”')

  // What was said is news to the other side, and in the journal, by whom.
  const journal = await page.request.get(`${server.url}/api/v1/programs/1/journal?limit=4`)
  const said = ((await journal.json()) as { label: string; actor: string }[]).map(
    (e) => `${e.actor}: ${e.label}`,
  )
  expect(said.reverse()).toEqual([
    'Hana Kobayagi: LC-17 needs TW-13: offered for 30 May',
    'Ingrid Oksanen: LC-17 needs TW-13: agreed for 30 May',
    'Ingrid Oksanen: LC-17 needs TW-13: asked for by 2 May',
    'Hana Kobayagi: LC-17 needs TW-13: declined',
  ])
})

test('a program whose teams agree on nothing asks nobody', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  await page.goto(`${server.url}/programs/1/set-up/teams`)
  const kept = page.waitForResponse(/changes/)
  await page.getByLabel('Teams agree on what they need of each other, and by when').press('Space')
  await kept
  await goTo(page, '/programs/1/plan?as=needs')
  const main = page.getByRole('main', { name: 'Needs' })
  await expect(main.getByRole('listitem').first()).toBeVisible()
  await expect(main.getByText(/not agreed yet/)).toHaveCount(0)
  await expect(main.getByText(/\d+ not agreed/)).toHaveCount(0)
  await expect(main.getByRole('button', { name: /^(Answer|Agree that|Accept)/ })).toHaveCount(0)
})

test('what a lead owes and waits for: what is to be answered first, as files too', async ({
  page,
  server,
}) => {
  await enter(page, server, 'ingrid')
  await page.goto(`${server.url}/programs/1/plan?as=needs`)
  const main = page.getByRole('main', { name: 'Needs' })
  await main.getByRole('button', { name: 'Owed and waited for' }).press('Enter')
  const owed = main.getByRole('region', { name: 'Owed', exact: true })
  const awaited = main.getByRole('region', { name: 'Waited for' })
  await expect(owed.getByRole('listitem').first()).toContainText('To answer')
  await expect(owed.getByText(/In time with \d+\s%/).first()).toBeVisible()

  // It is what the map counts for her team, on either side.
  const many = {
    owes: await owed.getByRole('listitem').count(),
    waits: await awaited.getByRole('listitem').count(),
  }
  const counted = (await (await page.request.get(`${server.url}/api/v1/programs/1/needs/map`)).json()) as {
    cells: { gives: string; waits: string; needs: number }[]
  }
  const sum = (of: 'gives' | 'waits') =>
    counted.cells.filter((c) => c[of] === 'LC').reduce((n, c) => n + c.needs, 0)
  expect(many).toEqual({ owes: sum('gives'), waits: sum('waits') })

  // Agreed to, it is no longer to be answered, and moves down to its day.
  const left = await owed.getByText('To answer', { exact: true }).count()
  await owed
    .getByRole('button', { name: /^Agree that/ })
    .first()
    .press('Enter')
  await expect(owed.getByText('To answer', { exact: true })).toHaveCount(left - 1)

  // As a calendar: a day for each that has one.
  await main.getByRole('button', { name: 'Export…' }).press('Enter')
  const saving = page.waitForEvent('download')
  await page.getByRole('link', { name: 'iCalendar' }).press('Enter')
  const text = readFileSync(await (await saving).path(), 'utf8')
  await page.keyboard.press('Escape')
  const dayless = await main.getByText('What waits has no place').count()
  expect(text.match(/BEGIN:VEVENT/g)!.length).toBe(many.owes + many.waits - dayless)

  // Which agreed days the plan misses is said beside the dates of the forecast too.
  const listed = (await (await page.request.get(`${server.url}/api/v1/programs/1/needs/owed`)).json()) as {
    owed: { missed: boolean; needs: string }[]
  }
  const missed = listed.owed.filter((o) => o.missed)
  expect(missed.length).toBeGreaterThan(0)
  await goTo(page, '/programs/1/forecast?ask=dates')
  const said = page.getByRole('region', { name: 'Days that teams agreed on' })
  await expect(said).toContainText(`${missed.length} day`)
  for (const o of missed) await expect(said).toContainText(o.needs)
  await page.goBack()

  // Of somebody else's: a team, or a person to whom items are assigned.
  await main.getByLabel('by').selectOption('Field Works')
  await expect(page).toHaveURL(/show=owed&team=FW/)
  await expect(owed.getByRole('listitem')).toHaveCount(
    counted.cells.filter((c) => c.gives === 'FW').reduce((n, c) => n + c.needs, 0),
  )
  await main.getByLabel('by').selectOption('Hana Kobayagi')
  await expect(page).toHaveURL(/show=owed&person=p05/)
  await expect(owed.getByRole('listitem')).toHaveCount(
    counted.cells.filter((c) => c.gives === 'TW').reduce((n, c) => n + c.needs, 0),
  ) // she leads Tide & Weather
})
