import { readFileSync } from 'node:fs'
import { enter, expect, goTo, type Server, test } from './server'

const at = (server: Server, tab: string) => `${server.url}/programs/1/set-up/${tab}`

/**
 * From an empty server to a program with two cadences, three teams, nine people and
 * two releases, by the keyboard alone. Every key that is no typing counts, Tab too.
 */
test('a program is set up from nothing by keyboard in under 60 keys beyond typing', async ({
  page,
  empty: server,
}) => {
  let keys = 0
  const press = async (...list: string[]) => {
    for (const key of list) {
      keys++
      await page.keyboard.press(key)
    }
  }
  const type = (text: string) => page.keyboard.type(text)
  /** Tab until something has the focus. */
  const tabTo = async (name: string | RegExp, role: 'button' | 'link' = 'button') => {
    const target = page.getByRole(role, { name, exact: typeof name === 'string' }).first()
    await target.waitFor()
    for (let i = 0; i < 30; i++) {
      if (await target.evaluate((el) => el === document.activeElement)) return
      await press('Tab')
    }
    throw new Error(`Tab does not lead to ${name}`)
  }
  const tabToField = async (label: string) => {
    const target = page.getByRole('dialog').getByLabel(label, { exact: true })
    for (let i = 0; i < 12; i++) {
      if (await target.evaluate((el) => el === document.activeElement)) return
      await press('Tab')
    }
    throw new Error(`Tab does not lead to ${label}`)
  }
  const focused = (label: string) => expect(page.getByLabel(label, { exact: true })).toBeFocused()

  await page.goto(server.first)
  await focused('Your name, as others see it')
  await type('Ann Berg')
  await press('Tab')
  await type('ann')
  await press('Tab')
  await type('seven lamps burn')
  await press('Enter')

  await focused('Name of a new program')
  await type('Skerry Lights')
  await press('Tab')
  await focused('Start from')
  await type('Nothing')
  await press('Tab')
  await press('Enter')
  await expect(page.getByText('Start with one.')).toBeVisible()

  await press('n')
  await focused('Name')
  await type('Fortnight')
  await press('Enter')
  await expect(page.getByRole('button', { name: 'Fortnight', exact: true })).toBeVisible()
  await focused('Name')
  await type('Three weeks')
  await tabToField('Length')
  await type('3')
  await press('Enter')
  await expect(page.getByRole('button', { name: 'Three weeks', exact: true })).toBeVisible()
  await press('Escape')

  await page.getByRole('dialog').waitFor({ state: 'detached' })
  await press('3')
  await page.getByRole('button', { name: 'New team' }).waitFor()
  await press('n')
  await focused('Name')
  for (const [name, change] of [
    ['Lamp Control', []],
    ['Tide & Weather', []],
    ['Field Works', ['Tab', 'Tab', 'Tab', 'd', 'Tab', 't', 'Tab', 'Tab']],
  ] as const) {
    await type(name)
    for (const key of change) await press(key)
    await press('Enter')
    await expect(page.getByRole('button', { name: new RegExp(`^${name}`) })).toBeVisible()
  }
  await press('Escape')
  await page.getByRole('dialog').waitFor({ state: 'detached' })

  await press('4')
  await page.getByRole('button', { name: 'Add people' }).waitFor()
  await press('n')
  await focused('People, one a line')
  await page.keyboard.insertText(
    [
      'Ingrid Oksanen, LC, firmware, lead, off 2027-04-12..2027-04-23',
      'Tomasz Brzoza, LC, firmware',
      'Amara Okonjo, LC 50%, TW 50%, electronics, off 2027-05-03..2027-05-07',
      'Hana Kobayagi, TW, modelling',
      'Mateus Arruda, TW 80%, modelling, off 2027-06-01',
      'Leila Farhadi, TW 60% from 2027-05-01, data',
      'Eilidh Sinclare, FW, rigging, lead',
      'Pavel Dvoranek, FW, electrics, 6 h',
      'open seat boat, FW 50% from 2027-04-26, boat',
    ].join('\n'),
  )
  await press('Control+Enter')
  // What they do to capacity is shown before they are added.
  await expect(page.getByRole('dialog', { name: 'Add 9 people' })).toContainText('Capacity of')
  await press('Enter')
  await expect(page.getByText('9 people', { exact: true })).toBeVisible()

  await expect(page.getByRole('dialog')).toHaveCount(0)
  await press('2')
  await page.getByRole('button', { name: 'New release' }).waitFor()
  await press('n')
  await focused('Name')
  for (const [name, month, year] of [
    ['First Light', '06', '2027'],
    ['Full Chain', '09', '2027'],
  ]) {
    await type(name)
    await tabToField('Due')
    await type(`25.${month}.${year}`)
    await press('Enter')
    await expect(page.getByRole('button', { name: new RegExp(`^${name}`) })).toBeVisible()
  }
  await press('Escape')
  expect(keys).toBeLessThan(60)

  const exported = await page.request.get(`${server.url}/api/v1/programs/1/document`)
  const program = (await exported.json()) as {
    cadences: { lengthDays: number }[]
    teams: {
      key: string
      unit: string
      cadence: string
      iterations: unknown[]
      members: { share: number }[]
    }[]
    people: { daysOff?: unknown[] }[]
    releases: { due: string }[]
  }
  expect(program.cadences.map((c) => c.lengthDays)).toEqual([14, 21])
  expect(program.teams.map((t) => [t.key, t.unit, t.cadence])).toEqual([
    ['LC', 'points', 'fortnight'],
    ['TW', 'points', 'fortnight'],
    ['FW', 'days', 'three-weeks'],
  ])
  expect(program.teams.map((t) => t.members.map((m) => m.share))).toEqual([
    [1, 1, 0.5],
    [0.5, 1, 0.8, 0.6],
    [1, 1, 0.5],
  ])
  for (const team of program.teams) expect(team.iterations.length).toBeGreaterThanOrEqual(8)
  expect(program.people).toHaveLength(9)
  expect(program.people.filter((p) => p.daysOff?.length)).toHaveLength(3)
  expect(program.releases.map((r) => r.due)).toEqual(['2027-06-25', '2027-09-25'])
  await tabTo('Plan', 'link')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^Field Works/ })).toBeVisible()
})

test('a dragged edge shows what it would do, and is done only when agreed', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(at(server, 'calendar'))
  const cell = page.getByRole('button', { name: /^LC·11, / })
  const next = page.getByRole('button', { name: /^LC·12, 12 Apr to 25 Apr/ })
  await expect(next).toBeVisible()
  const box = (await cell.boundingBox())!
  const drag = async () => {
    await page.mouse.move(box.x + box.width - 4, box.y + box.height / 2)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width + 30, box.y + box.height / 2, { steps: 4 })
    await page.mouse.move(box.x + box.width - 4 + 56, box.y + box.height / 2, { steps: 4 })
    await page.mouse.up()
  }
  await drag()
  const dialog = page.getByRole('dialog', { name: 'LC·11 ends 18 Apr' })
  await expect(dialog).toContainText('Lamp Control, LC·12: 12 Apr – 25 Apr to 19 Apr – 2 May')
  await expect(dialog).toContainText('Breaks')
  await dialog.getByRole('button', { name: 'Leave it as it is' }).click()
  await expect(next).toBeVisible()
  await page.getByRole('dialog').waitFor({ state: 'detached' })
  await drag()
  await dialog.getByRole('button', { name: 'Apply' }).click()
  await expect(page.getByRole('button', { name: /^LC·12, 19 Apr to 2 May/ })).toBeVisible()
  await page.getByRole('dialog').waitFor({ state: 'detached' })
  // A whole bar moves too; the one before it ends later, those after it go along.
  const whole = (await page.getByRole('button', { name: /^LC·13, 3 May/ }).boundingBox())!
  await page.mouse.move(whole.x + 40, whole.y + whole.height / 2)
  await page.mouse.down()
  await page.mouse.move(whole.x + 60, whole.y + whole.height / 2, { steps: 4 })
  await page.mouse.move(whole.x + 96, whole.y + whole.height / 2, { steps: 4 })
  await page.mouse.up()
  const moved = page.getByRole('dialog', { name: 'Move LC·13 by 7 days' })
  await expect(moved).toContainText('Lamp Control, LC·13: 3 May – 16 May to 10 May – 23 May')
  await moved.getByRole('button', { name: 'Leave it as it is' }).click()
  await page.getByRole('dialog').waitFor({ state: 'detached' })
  await page.keyboard.press('Control+z')
  await expect(next).toBeVisible()
})

test('an iteration is closed: what was completed is noted, the rest carries over', async ({
  page,
  server,
}) => {
  await enter(page, server)
  await page.goto(at(server, 'calendar'))
  await page.getByRole('button', { name: /^LC·10, .*open/ }).click()
  await page.getByRole('button', { name: 'Close…' }).click()
  const dialog = page.getByRole('dialog', { name: 'Close LC·10' })
  await expect(dialog).toContainText('LC-5 Dimming curve for the great lens')
  await dialog.getByRole('button', { name: 'Apply' }).click()
  await expect(page.getByRole('button', { name: /^LC·10, .*closed/ })).toBeVisible()
  await goTo(page, '/programs/1/set-up/velocity')
  await expect(page.getByRole('row', { name: /^LC·10/ }).first()).toContainText('yes')
})

test('calendars are refreshed: first shown, then applied, and the second time there is nothing', async ({
  page,
  server,
}) => {
  await enter(page, server)
  await page.goto(at(server, 'people'))
  const refresh = page.getByRole('button', { name: 'Refresh from calendars…' })
  await refresh.click()
  const dialog = page.getByRole('dialog', { name: 'Days off from calendars' })
  await expect(dialog).toContainText('Amara Okonjo: new, 5 May to 7 May (Family visit)')
  await expect(dialog).toContainText("Holiday: new, 25 Jun, Keepers' Day")
  await expect(dialog).not.toContainText('fell through')
  await dialog.getByRole('button', { name: 'Apply' }).click()
  await page.getByRole('dialog').waitFor({ state: 'detached' })
  await expect(page.getByRole('row', { name: /^Amara Okonjo/ })).toContainText('5 May – 7 May')
  await refresh.click()
  await expect(dialog).toContainText('There is nothing to change.')
})

test('a broken calendar file is refused with its line', async ({ page, server }) => {
  await enter(page, server)
  await page.goto(at(server, 'calendar'))
  await page.getByLabel('iCalendar file').setInputFiles({
    name: 'h.ics',
    mimeType: 'text/calendar',
    buffer: Buffer.from(
      'BEGIN:VCALENDAR\nBEGIN:VEVENT\nDTSTART;VALUE=DATE:2027\nEND:VEVENT\nEND:VCALENDAR\n',
    ),
  })
  await expect(page.getByText('line 3: "2027" is not a date')).toBeVisible()
})

test('a capacity opens to how it came about, is set by hand with a reason, and cleared', async ({
  page,
  server,
}) => {
  await enter(page, server)
  await page.goto(at(server, 'capacity'))
  await page.getByRole('button', { name: /^LC·12, .*carries 13 pt of 9.7 pt, over by 3.3 pt/ }).click()
  const panel = page.getByRole('complementary', { name: 'How the capacity comes about' })
  await expect(panel).toContainText('20 member-days are there: × 57 %')
  await expect(panel).toContainText('10 days off: 12 Apr – 23 Apr')
  await panel.getByLabel('Set by hand, points').fill('13')
  await panel.getByLabel('Why').fill('Ingrid comes back early')
  await panel.getByRole('button', { name: 'Set' }).click()
  await expect(panel).toContainText('Set by hand by Matthias Ferreol')
  await expect(panel).toContainText('Ingrid comes back early')
  await expect(panel).toContainText('It would be 9.7 pt without.')
  await expect(page.getByRole('button', { name: /^2 over capacity/ })).toBeVisible()
  await panel.getByRole('button', { name: 'Clear' }).click()
  await expect(page.getByRole('button', { name: /^3 over capacity/ })).toBeVisible()
  await page.getByRole('button', { name: 'Person', exact: true }).click()
  await expect(page.getByText('with too much')).toBeVisible()
  await page.getByRole('button', { name: 'Report' }).click()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'By team (CSV)' }).click()
  const csv = readFileSync(await (await download).path(), 'utf8')
  expect(csv).toContain('Team,Iteration,From,To,State,Unit,Available days')
  expect(csv).toContain(
    'Lamp Control,LC·12,2027-04-12,2027-04-25,planned,points,20,35,9.71,13,-3.29,,,agreed velocity',
  )
})

test('an iteration is left out of velocity with a reason, and a suggestion agreed on', async ({
  page,
  server,
}) => {
  await enter(page, server)
  await page.goto(at(server, 'velocity'))
  await expect(page.getByText('Measured 16.9 pt')).toBeVisible()
  await page.getByRole('row', { name: /^LC·3/ }).getByRole('button', { name: 'leave out' }).click()
  await page.getByLabel('Why it is left out').fill('The radio was down')
  await page.getByRole('button', { name: 'Leave out', exact: true }).click()
  await expect(page.getByRole('row', { name: /^LC·3/ })).toContainText('no: The radio was down')
  await expect(page.getByText('Measured 17.4 pt')).toBeVisible()
  await page.getByRole('button', { name: /^Agree on .* for LC·11, 85 % sure/ }).click()
  await expect(page.getByRole('row', { name: /^LC·11/ })).toContainText('by hand')
  await page.getByRole('button', { name: 'What changed' }).click()
  await expect(page.getByRole('heading', { name: /^Agree on .* for LC·11/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Agree on 85 % for all coming iterations' }).press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Agree on 85 % for all coming iterations of Lamp Control' })
  await expect(dialog.getByRole('row', { name: /^First Light/ })).toContainText('%')
  await dialog.getByRole('button', { name: 'Apply' }).press('Enter')
  for (const n of [11, 12, 13])
    await expect(page.getByRole('row', { name: new RegExp(`^LC·${n}`) })).toContainText('by hand')
})

test('who may not change a thing sees it dimmed', async ({ page, server }) => {
  await enter(page, server, 'petra')
  await page.goto(at(server, 'teams'))
  await expect(page.getByRole('region', { name: 'Lamp Control' }).getByLabel('Name')).toBeDisabled()
  await expect(page.getByRole('button', { name: 'New team' })).toHaveCount(0)
  await expect(page.getByRole('button', { name: 'Draft a schedule' })).toBeDisabled()
  await goTo(page, '/programs/1/plan')
  await page.locator('[data-block="LC-20"]').click()
  await expect(page.getByRole('region', { name: 'Selected item' }).getByLabel('Title')).toBeDisabled()
  await page.keyboard.press(']')
  await expect(page.getByText('as viewer you may not')).toBeVisible()
})

test('a member edits their own days off, and nobody else’s', async ({ page, server }) => {
  await enter(page, server, 'thandi')
  await page.goto(at(server, 'people'))
  await page.getByRole('button', { name: 'Your days off' }).click()
  const dialog = page.getByRole('dialog', { name: 'Thandi Mokwena' })
  await expect(dialog.getByLabel('Name')).toBeDisabled()
  await dialog.getByLabel('First day off', { exact: true }).fill('6 Apr')
  await dialog.getByLabel('Last day off', { exact: true }).fill('9.4.2027')
  await dialog.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByRole('row', { name: /^Thandi Mokwena/ })).toContainText('6 Apr – 9 Apr')
  await page.getByRole('button', { name: 'Ingrid Oksanen' }).click()
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Keep' })).toHaveCount(0)
})

test('accounts and roles are given in the browser, and taken at once', async ({ page, server, as }) => {
  await enter(page, server, 'solveig')
  await page.goto(server.url + '/server')
  await page.getByRole('button', { name: 'New account' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Ines Marek')
  await page.getByLabel('Sign-in name').fill('ines')
  await page.getByLabel('Password', { exact: true }).fill('nine lamps burn')
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByRole('row', { name: /Ines Marek/ })).toBeVisible()
  await goTo(page, '/programs/1/set-up/access')
  await page.getByLabel('Add by sign-in name').fill('ines')
  await page.getByRole('button', { name: 'Add' }).click()
  await expect(page.getByRole('row', { name: /Ines Marek/ })).toBeVisible()
  const ines = await as()
  const signedIn = await ines.request.post(`${server.url}/api/v1/sign-in`, {
    data: { login: 'ines', password: 'nine lamps burn' },
  })
  expect(signedIn.ok()).toBe(true)
  await ines.goto(`${server.url}/programs/1/plan`)
  await ines.locator('[data-block]').first().waitFor()
  await page.getByRole('button', { name: 'End Ines Marek’s belonging' }).click()
  await expect(page.getByRole('row', { name: /Ines Marek/ })).toHaveCount(0)
  await ines.reload()
  await expect(ines.getByText('There is no such program')).toBeVisible()
  await goTo(page, '/server')
  await page.getByRole('main').getByRole('button', { name: 'Ines Marek' }).click()
  const access = page.getByRole('region', { name: 'Access' })
  await expect(access).toContainText('Signed in on 1 browser')
  await access.getByRole('button', { name: 'Sign out everywhere' }).press('Enter')
  await expect(access).toContainText('Not signed in anywhere')
  await ines.reload()
  await expect(ines.getByRole('heading', { name: 'Sign in' })).toBeVisible()
})

test('a phase is moved by dates, with what starts in it, as one step', async ({ demo: page, server }) => {
  await page.goto(`${server.url}/programs/1/set-up/releases?release=R1`)
  const panel = page.getByRole('region', { name: 'First Light' })
  await panel.getByText('Move by dates, with what is placed of it').focus()
  await page.keyboard.press('Enter')
  await panel.getByLabel('What to move').focus()
  await page.keyboard.type('Trial')
  await panel.getByLabel('Days later; below 0: earlier').focus()
  await page.keyboard.type('14')
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText('Move Trial of First Light by 14 days')
  await expect(dialog.getByRole('radio', { name: /goes along/ })).toBeChecked()
  await expect(dialog).toContainText('items with other dates')
  await dialog.getByRole('radio', { name: /stays where it is/ }).press('Space')
  await expect(dialog).not.toContainText('items with other dates')
  await dialog.getByRole('radio', { name: /goes along/ }).press('Space')
  await expect(dialog).toContainText('items with other dates')
  await dialog.getByRole('button', { name: 'Apply' }).press('Enter')
  await expect(dialog).toBeHidden()
  const undo = page.getByRole('button', { name: /^Undo/ })
  await expect(undo).toHaveAttribute('title', /Move Trial of First Light by 14 days/)
})
