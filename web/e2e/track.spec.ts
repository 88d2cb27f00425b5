import { type Page } from '@playwright/test'
import { drag, expect, test, type Server } from './server'

async function track(page: Page, server: Server, query = ''): Promise<void> {
  await page.goto(`${server.url}/programs/1/track${query}`)
  await expect(page.getByRole('heading', { name: /^Lamp Control LC·10/ })).toBeVisible()
}

const row = (page: Page, key: string) => page.locator(`li[data-item="${key}"]`)
const section = (page: Page, team: string) => page.getByRole('region', { name: team, exact: true })
const number = (text: string | null): number => Number(/[\d.]+/.exec(text ?? '')?.[0])

test('items go along their course by key and by drag, and the burndown tells it', async ({
  demo: page,
  server,
}) => {
  await track(page, server)
  await page.getByRole('button', { name: 'Teams: All teams' }).click()
  for (const team of ['Tide & Weather', 'Chart Desk', 'Mariner App', 'Field Works'])
    await page.getByRole('checkbox', { name: team }).click()
  await page.keyboard.press('Escape')
  await expect(page).toHaveURL(/teams=LC,KC/)
  const lamp = section(page, 'Lamp Control')
  const items = lamp.locator('li[data-item]')
  const first = await items.first().getAttribute('data-item')
  const open = lamp.locator('li[data-item]:not([aria-label*=", done,"])')
  const key = (await open.first().getAttribute('data-item'))!
  await row(page, first!).focus()
  while ((await page.evaluate(() => (document.activeElement as HTMLElement).dataset.item)) !== key)
    await page.keyboard.press('ArrowDown')
  // To the end of its course, as far as it takes.
  for (const at of ['building', 'sea trial', 'in review', 'done']) {
    const label = (await row(page, key).getAttribute('aria-label'))!
    const steps = ['to do', 'building', 'sea trial', 'in review', 'done']
    if (steps.findIndex((s) => label.includes(`, ${s},`)) >= steps.indexOf(at)) continue
    await page.keyboard.press('ArrowRight')
    await expect(row(page, key)).toHaveAttribute('aria-label', new RegExp(`, ${at},`))
  }
  await expect(row(page, key)).toBeFocused()
  await lamp.getByRole('button', { name: /event/ }).click()
  const events = lamp.getByRole('list', { name: /^Events of LC·10/ })
  await expect(events.getByRole('listitem').first()).toContainText(`Matthias Ferreol: ${key} done`)
  // The burndown is read by key, and says what the list says.
  await lamp.getByRole('img', { name: /^Burndown:/ }).focus()
  await page.keyboard.press('End')
  await expect(lamp.locator('.tip')).toContainText(`Matthias Ferreol: ${key} done`)
  const leftInList = number(
    (await events.getByRole('listitem').first().locator('.quiet').last().textContent()) ?? '',
  )
  expect(number(/; (.*) left/.exec((await lamp.locator('.tip').textContent())!)![1])).toBe(leftInList)

  // Sent back by drag: the pebble is put down at another step.
  const pebble = row(page, key).locator('.pebble')
  await drag(page, pebble, lamp.locator(`li[data-item="${key}"] .step`).nth(3))
  await expect(row(page, key)).toHaveAttribute('aria-label', /, in review,/)
  await row(page, key).focus()
  const backBefore = Number(
    /sent back (\d+)/.exec((await row(page, key).getAttribute('aria-label'))!)?.[1] ?? 0,
  )
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByLabel('Sent back, why')).toBeFocused()
  await page.keyboard.type('The lamp flickers at dusk')
  await page.keyboard.press('Enter')
  await expect(row(page, key)).toHaveAttribute(
    'aria-label',
    backBefore ? /, sea trial,.*sent back \d/ : /, sea trial,.*sent back once/,
  )
  await expect(row(page, key)).toBeFocused()
  await page.keyboard.press('Control+z')
  await expect(row(page, key)).toHaveAttribute('aria-label', /, in review,/)
  await page.keyboard.press('Control+Shift+z')
  await expect(row(page, key)).toHaveAttribute('aria-label', /, sea trial,/)
  // Blocked, and free again.
  await page.keyboard.press('b')
  await page.keyboard.type('No lamp to try it on')
  await page.keyboard.press('Enter')
  await expect(row(page, key).locator('.pebble')).toHaveText('blocked: No lamp to try it on')
  await expect(lamp.getByText(/^1 blocked/)).toBeVisible()
  await page.keyboard.press('b')
  await page.keyboard.press('Control+a')
  await page.keyboard.press('Delete')
  await page.keyboard.press('Enter')
  await expect(row(page, key).locator('.pebble')).not.toContainText('blocked')
  await expect(events.getByRole('listitem').first()).toContainText(`${key} no longer blocked`)
  await page.keyboard.press('b')
  await page.keyboard.press('Escape')
  await expect(row(page, key)).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/backlog/)
  await expect(page.getByRole('region', { name: `Item ${key}` })).toBeVisible()
  await page.getByRole('tab', { name: /^Comments \(\d+\)/ }).click()
  await expect(page.getByText('Sent back: The lamp flickers at dusk')).toBeVisible()
})

test('an iteration is closed item by item, the next begins, and it is opened again', async ({
  demo: page,
  server,
}) => {
  await track(page, server, '?teams=LC')
  const lamp = section(page, 'Lamp Control')
  const keys = await lamp
    .locator('li[data-item]:not([aria-label*=", done,"])')
    .evaluateAll((rows) => rows.map((r) => (r as HTMLElement).dataset.item!))
  expect(keys.length).toBeGreaterThanOrEqual(2)
  await lamp.getByRole('button', { name: 'Say what it is for' }).click()
  await page.keyboard.type('The great lens dims by itself')
  await page.keyboard.press('Enter')
  await expect(lamp.getByText('Goal: The great lens dims by itself')).toBeVisible()

  await lamp.getByRole('button', { name: 'Close LC·10…' }).click()
  const dialog = page.getByRole('dialog', { name: 'Close LC·10' })
  const before = number(await dialog.locator('b').first().textContent())
  await dialog.getByRole('combobox', { name: `Where ${keys[0]} goes` }).selectOption('split at what is done')
  const done = dialog.getByRole('spinbutton', { name: `What is done of ${keys[0]}` })
  await done.press('Control+a')
  await page.keyboard.type('0')
  await expect(dialog.getByRole('alert')).toContainText('lies between nothing and its size')
  await expect(dialog.getByRole('button', { name: 'Close LC·10…' })).toBeDisabled()
  await done.press('Control+a')
  await page.keyboard.type('1')
  await expect(dialog.locator('b').first()).toHaveText(`${before + 1} pt`)
  await dialog.getByRole('combobox', { name: `Where ${keys[1]} goes` }).selectOption('back to the backlog')
  await dialog.getByRole('button', { name: 'Close LC·10…' }).press('Enter')
  const shown = page.getByRole('dialog', { name: 'Close LC·10' })
  await expect(shown.getByText(`LC·10: completed ${before + 1} of`)).toBeVisible()
  await shown.getByRole('button', { name: 'Apply' }).press('Enter')
  await expect(page.getByRole('heading', { name: /^Lamp Control LC·11 · begins 29 Mar/ })).toBeVisible()
  await expect(lamp.locator('li[data-item]').first()).toBeVisible()
  await expect(row(page, keys[1])).toHaveCount(0)
  await lamp.getByRole('button', { name: 'Open LC·10 again…' }).press('Enter')
  await page.getByRole('dialog').getByRole('button', { name: 'Apply' }).press('Enter')
  await expect(page.getByRole('heading', { name: /^Lamp Control LC·10/ })).toBeVisible()

  // Closed once more, the next one opens at once, days before it begins.
  await lamp.getByRole('button', { name: 'Close LC·10…' }).click()
  await dialog.getByRole('combobox', { name: 'When the next iteration opens' }).focus()
  await page.keyboard.type('opens at')
  await dialog.getByRole('button', { name: 'Close LC·10…' }).press('Enter')
  await shown.getByRole('button', { name: 'Apply' }).press('Enter')
  await expect(lamp.getByRole('button', { name: 'Close LC·11…' })).toBeVisible()
  await expect(lamp.getByRole('button', { name: /^Start/ })).toHaveCount(0)
})

test('several teams start at once, and another sees it at once', async ({ demo: page, server, as }) => {
  await track(page, server)
  for (const team of ['Lamp Control', "Keepers' Console"]) {
    await section(page, team)
      .getByRole('button', { name: /^Close .+·10…/ })
      .click()
    await page
      .getByRole('dialog')
      .getByRole('button', { name: /^Close .+…$/ })
      .press('Enter')
    await page.getByRole('dialog').getByRole('button', { name: 'Apply' }).press('Enter')
    await expect(section(page, team).getByRole('heading')).toContainText('·11 · begins 29 Mar')
  }
  await server.stop()
  server.today = '2027-03-29'
  await server.start()
  await page.goto(`${server.url}/programs/1/track?teams=LC,KC`)
  await expect(page.getByRole('heading', { name: /^Lamp Control LC·11 · not started/ })).toBeVisible()
  const other = await as('ingrid')
  await other.goto(`${server.url}/programs/1/track`)
  await expect(other.getByRole('heading', { name: /^Keepers' Console KC·11 · not started/ })).toBeVisible()

  await section(page, 'Lamp Control').getByRole('button', { name: 'Start LC·11…' }).press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Start iterations' })
  await expect(dialog.getByText(/ of .* pt/).first()).toBeVisible()
  await dialog.getByRole('checkbox', { name: /^Keepers' Console KC·11/ }).press('Space')
  await dialog.getByRole('textbox').nth(1).click()
  await page.keyboard.type('Watches hand over without paper')
  await expect(dialog.getByRole('button', { name: 'Start 2 iterations' })).toBeEnabled()
  await page.keyboard.press('Enter')
  await expect(dialog).toHaveCount(0)
  for (const each of [page, other]) {
    await expect(each.getByRole('heading', { name: /^Lamp Control LC·11 · day 1 of/ })).toBeVisible()
    await expect(each.getByText('Goal: Watches hand over without paper')).toBeVisible()
  }
  await expect(page.getByRole('button', { name: 'Undo: Start LC·11, KC·11' })).toBeEnabled()
})

test('somebody else accepts, where the program asks for that', async ({ demo: page, server, as }) => {
  await page.goto(`${server.url}/programs/1/set-up/teams`)
  await page.getByRole('checkbox', { name: /somebody other than its assignee/ }).press('Space')
  await expect(page.getByRole('button', { name: 'Undo: Who calls items done' })).toBeEnabled()
  await track(page, server)
  await row(page, 'MA-5').focus()
  await page.keyboard.press('ArrowRight')
  await expect(row(page, 'MA-5')).toHaveAttribute('aria-label', /, in review,/)

  const ingrid = await as('ingrid') // LC-5 is hers
  await track(ingrid, server)
  await row(ingrid, 'LC-5').focus()
  await ingrid.keyboard.press('ArrowRight')
  await expect(row(ingrid, 'LC-5')).toHaveAttribute('aria-label', /, sea trial,/)
  await expect(row(ingrid, 'LC-5')).toBeFocused()
  await ingrid.keyboard.press('ArrowRight')
  await expect(row(ingrid, 'LC-5')).toHaveAttribute('aria-label', /, in review,/)
  await expect(row(ingrid, 'LC-5')).toBeFocused()
  await ingrid.keyboard.press('ArrowRight')
  await expect(ingrid.getByText('somebody else accepts what you did')).toBeVisible()
  await expect(row(ingrid, 'LC-5')).toHaveAttribute('aria-label', /, in review,/)
  const thandi = await as('thandi') // of the same team as who does MA-5
  await track(thandi, server)
  await row(thandi, 'MA-5').focus()
  await thandi.keyboard.press('ArrowRight')
  await thandi.getByRole('button', { name: 'Leave them open' }).press('Enter')
  for (const each of [thandi, page]) await expect(row(each, 'MA-5')).toHaveAttribute('aria-label', /, done,/)
})

test('stacked by step, cards go on by key and by drag', async ({ demo: page, server }) => {
  await track(page, server)
  await page.getByRole('button', { name: 'Stacks' }).press('Enter')
  await expect(page).toHaveURL(/as=stacks/)
  const stack = (title: string) => page.getByRole('list', { name: `Items ${title}`, exact: true })
  await expect(stack('in review').locator('[data-item="LC-4"]')).toBeVisible()
  await row(page, 'LC-4').focus()
  await page.keyboard.press('ArrowRight')
  await expect(stack('done').locator('[data-item="LC-4"]')).toBeFocused()
  await drag(page, row(page, 'LC-4'), page.getByRole('heading', { name: /^in review/ }))
  await expect(stack('in review').locator('[data-item="LC-4"]')).toBeVisible()
  await row(page, 'LC-4').focus()
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.type('Too dim')
  await page.keyboard.press('Enter')
  await expect(stack('sea trial').locator('[data-item="LC-4"]')).toBeFocused()
  // Up and down go through the stack, the most important on top.
  const keys = await stack('sea trial')
    .locator('li[data-item]')
    .evaluateAll((all) => all.map((x) => (x as HTMLElement).dataset.item!))
  await page.keyboard.press('Home')
  for (const key of keys) {
    await expect(row(page, key)).toBeFocused()
    await page.keyboard.press('ArrowDown')
  }
  await page.reload()
  await expect(stack('sea trial').locator('[data-item="LC-4"]')).toBeVisible()
  await page.getByRole('button', { name: 'Courses', exact: true }).press('Enter')
  await expect(page.getByRole('heading', { name: /^Lamp Control LC·10/ })).toBeVisible()
})

test('the tasks of an item are worked on in its row, and after the last it is asked on', async ({
  demo: page,
  server,
}) => {
  await track(page, server)
  await expect(row(page, 'LC-5')).toHaveAttribute('aria-label', /, building,.*1 of 3 tasks done/)
  await row(page, 'LC-5').focus()
  await page.keyboard.press('t')
  const tasks = page.getByRole('list', { name: 'Tasks of LC-5' })
  await expect(tasks.getByRole('checkbox', { name: 'Measure the old curve' })).toBeChecked()
  await tasks.getByRole('spinbutton', { name: 'Hours left of Night trial' }).click()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('2.5')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('button', { name: 'Undo: LC-5: 2.5 h left of Night trial' })).toBeEnabled()
  await tasks.getByRole('checkbox', { name: 'Fit and tabulate' }).press('Space')
  await expect(row(page, 'LC-5')).toHaveAttribute('aria-label', /2 of 3 tasks done/)
  await tasks.getByRole('checkbox', { name: 'Night trial' }).press('Space')
  await expect(row(page, 'LC-5').getByRole('status')).toHaveText('All its tasks are done.')
  await page.keyboard.press('Enter')
  await expect(row(page, 'LC-5')).toHaveAttribute('aria-label', /, sea trial,.*3 of 3 tasks done/)
  await expect(row(page, 'LC-5')).toBeFocused()
  await page.keyboard.press('t')
  await expect(tasks).toHaveCount(0)
  // All at once, as the address says.
  await page.getByRole('button', { name: 'Tasks', exact: true }).press('Enter')
  await expect(page).toHaveURL(/tasks=shown/)
  for (const key of ['LC-5', 'MA-5', 'KC-6'])
    await expect(page.getByRole('list', { name: `Tasks of ${key}` })).toBeVisible()

  // The burndown by hours has every step of it: 10 h, 8.5 h, then the ticks.
  await page.getByLabel('burndown by').focus()
  await page.keyboard.type('hours')
  await expect(page).toHaveURL(/burn=hours/)
  const burn = section(page, 'Lamp Control').getByRole('img', {
    name: /^Burndown by hours: 10 h to do at the start, 0 h left/,
  })
  await burn.focus()
  for (const says of [
    'LC-5 from 10 h to 8.5 h; 8.5 h left',
    'LC-5 from 8.5 h to 2.5 h; 2.5 h left',
    'LC-5 from 2.5 h to 0 h; 0 h left',
  ]) {
    await page.keyboard.press('ArrowRight')
    await expect(section(page, 'Lamp Control')).toContainText(`Matthias Ferreol: ${says}`)
  }
})

test('a program divides states into steps, each with a limit, and sees who is at what', async ({
  demo: page,
  server,
}) => {
  await track(page, server)
  await page.getByRole('button', { name: 'Steps…' }).press('Enter')
  const dialog = page.getByRole('dialog', { name: 'Steps' })
  await dialog.getByLabel('Step 1 of doing').click()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('on the bench')
  await dialog.getByLabel('At most in on the bench').click()
  await page.keyboard.type('1')
  await dialog.getByRole('group', { name: 'in review' }).getByRole('button').press('Enter')
  await page.keyboard.type('Sea trial')
  await expect(dialog.getByRole('alert')).toHaveText('There are two steps called Sea trial.')
  await expect(dialog.getByRole('button', { name: 'Keep' })).toBeDisabled()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('seen by a keeper')
  await page.keyboard.press('Enter')
  await expect(dialog).toHaveCount(0)
  // LC-5 is on the bench, so another is one too many.
  await expect(row(page, 'LC-5')).toHaveAttribute('aria-label', /, on the bench,/)
  await expect(row(page, 'MA-5')).toHaveAttribute('aria-label', /, sea trial,/)
  await expect(row(page, 'LC-4')).toHaveAttribute('aria-label', /, seen by a keeper,/)
  await row(page, 'LC-6').focus()
  await page.keyboard.press('ArrowRight')
  const all = row(page, 'LC-6').getByRole('button', { name: 'Take it there all the same' })
  await expect(row(page, 'LC-6').getByRole('status')).toHaveText(
    'Lamp Control is to have 1 at most in on the bench',
  )
  await expect(all).toBeFocused()
  await page.keyboard.press('Escape')
  await expect(row(page, 'LC-6')).toBeFocused()
  await expect(row(page, 'LC-6')).toHaveAttribute('aria-label', /, to do,/)
  await page.keyboard.press('ArrowRight')
  await expect(all).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(row(page, 'LC-6')).toHaveAttribute('aria-label', /, on the bench,/)
  await page.getByRole('button', { name: 'Stacks' }).press('Enter')
  await expect(page.getByRole('heading', { name: /^on the bench .* Lamp Control has 2$/ })).toBeVisible()

  // By person, with nobody's work apart; up and down go through all of them.
  await page.getByRole('combobox', { name: 'rows by' }).selectOption('person')
  await expect(page).toHaveURL(/by=person/)
  await expect(page.getByRole('region', { name: 'Ingrid Oksanen' }).locator('li')).toHaveCount(1)
  await page.getByRole('button', { name: 'Courses' }).press('Enter')
  await expect(
    page.getByRole('heading', { name: /^Nobody yet \d+ of \d+ items left to finish/ }),
  ).toBeVisible()
  // The journal says which step it came to.
  await page.getByRole('combobox', { name: 'rows by' }).selectOption('team')
  await section(page, 'Lamp Control').getByRole('button', { name: /event/ }).click()
  await expect(
    page
      .getByRole('list', { name: /^Events of LC/ })
      .getByRole('listitem')
      .first(),
  ).toContainText('LC-6 on the bench')
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(row(page, 'LC-5')).toHaveAttribute('aria-label', /, building,/)
})
