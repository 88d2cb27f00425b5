import { block, drag, enter, expect, goTo, slot, test } from './server'

test('an item dragged to another iteration stays there after a restart', async ({ plan, server }) => {
  const to = plan.getByRole('group', { name: /^LC·15:/ })
  await drag(plan, block(plan, 'LC-18'), to)
  await expect(to.locator('[data-block="LC-18"]')).toBeVisible()
  await expect(plan.getByRole('button', { name: 'Undo: Move LC-18 to LC·15' })).toBeEnabled()
  await server.stop('SIGKILL')
  await expect(plan.locator('.offline')).toBeVisible()
  await server.start()
  await expect(plan.locator('.offline')).toBeHidden()
  await plan.reload()
  await expect(plan.getByRole('group', { name: /^LC·15:/ }).locator('[data-block="LC-18"]')).toBeVisible()
})

test('a drop shows beforehand whether it fits; items go into the plan and back; time zooms', async ({
  plan,
}) => {
  const to = plan.getByRole('group', { name: /^LC·12:/ })
  await drag(plan, block(plan, 'LC-13'), to, false)
  await expect(to.locator('.hint.over')).toContainText('over by')
  await expect(plan.getByRole('group', { name: /^LC·17:/ }).locator('.hint')).toContainText('fits')
  await plan.keyboard.press('Escape')
  await plan.mouse.up()
  await expect(plan.locator('.hint')).toHaveCount(0)
  await expect(plan.getByRole('group', { name: /^LC·11:/ }).locator('[data-block="LC-13"]')).toBeVisible()
  await expect(plan.getByRole('button', { name: /^Undo/ })).toBeDisabled()

  // From the list into the plan and back.
  const row = plan.locator('[data-row="LC-24"]')
  await plan.getByLabel('Team', { exact: true }).selectOption('Lamp Control')
  await drag(plan, row, plan.getByRole('group', { name: /^LC·15:/ }))
  await expect(row).toHaveCount(0)
  await expect(plan.getByRole('group', { name: /^LC·15:/ }).locator('[data-block="LC-24"]')).toBeVisible()
  await drag(plan, block(plan, 'LC-24'), plan.locator('[data-drop="unplaced"] header h2'))
  await expect(row).toBeVisible()

  // The lanes of other teams open, and time scrolls and zooms.
  await plan.getByRole('button', { name: /^Field Works/ }).click()
  await expect(slot(plan, 'FW·10').first()).toBeVisible()
  await plan.getByRole('button', { name: 'Later' }).first().click()
  await plan.getByRole('button', { name: 'Zoom out' }).click()
  await expect(plan.getByText('25 weeks')).toBeVisible()
  await plan.getByLabel('Colour', { exact: true }).selectOption('kind')
  await expect(plan.getByLabel('Legend')).toContainText('Enabler')
})

test('everything that drag can do a key can do', async ({ plan }) => {
  await block(plan, 'LC-20').focus()
  await plan.keyboard.press('Enter')
  await expect(block(plan, 'LC-20')).toHaveAttribute('aria-pressed', 'true')
  await plan.keyboard.press(']')
  await expect(plan.getByRole('group', { name: /^LC·15:/ }).locator('[data-block="LC-20"]')).toBeVisible()
  await plan.keyboard.press('[')
  await expect(plan.getByRole('group', { name: /^LC·14:/ }).locator('[data-block="LC-20"]')).toBeVisible()
  await plan.keyboard.press('9')
  await expect(plan.getByRole('group', { name: /^LC·18:/ }).locator('[data-block="LC-20"]')).toBeVisible()
  await plan.keyboard.press('u')
  await expect(block(plan, 'LC-20')).toHaveCount(0)
  await plan.keyboard.press('Control+z')
  await expect(plan.getByRole('group', { name: /^LC·18:/ }).locator('[data-block="LC-20"]')).toBeVisible()
  await plan.keyboard.press('Control+Shift+z')
  await expect(block(plan, 'LC-20')).toHaveCount(0)
  await plan.keyboard.press('?')
  await expect(plan.getByRole('dialog', { name: 'Keys' })).toBeVisible()
  await plan.keyboard.press('Escape')

  // Arrows go from block to block.
  await block(plan, 'LC-5').focus()
  await plan.keyboard.press('ArrowUp')
  await expect(block(plan, 'LC-6')).toBeFocused()
  await plan.keyboard.press('ArrowDown')
  await expect(block(plan, 'LC-5')).toBeFocused()

  // Several that are selected move at once.
  await plan.keyboard.press('Control+z')
  await expect(plan.getByRole('group', { name: /^LC·18:/ }).locator('[data-block="LC-20"]')).toBeVisible()
  await plan.keyboard.press('Control+z')
  await expect(plan.getByRole('group', { name: /^LC·14:/ }).locator('[data-block="LC-20"]')).toBeVisible()
  await block(plan, 'LC-19').click()
  await block(plan, 'LC-20').click({ modifiers: ['Shift'] })
  await expect(plan.getByText('2 items selected.')).toBeVisible()
  await plan.keyboard.press(']')
  const next = plan.getByRole('group', { name: /^LC·15:/ })
  await expect(next.locator('[data-block="LC-19"]')).toBeVisible()
  await expect(next.locator('[data-block="LC-20"]')).toBeVisible()
  await plan.getByRole('button', { name: /^Undo/ }).click()
  await expect(next.locator('[data-block]')).toHaveCount(0)
})

test('counts lead to what they count, an edit shows what it costs, a cycle is refused', async ({ plan }) => {
  // The counts lead to exactly what they count.
  const count = plan.getByRole('button', { name: /^\d+ broken needs/ })
  await expect(count).toContainText('2')
  await count.click()
  await expect(plan.getByRole('region', { name: 'In a broken need' }).locator('.row')).toHaveCount(4)
  await plan.getByRole('button', { name: /^\d+ not ready/ }).click()
  await expect(plan.getByRole('region', { name: 'Not ready' }).locator('.row')).toHaveCount(8)

  const strip = plan.getByRole('region', { name: 'Where the plan stands' })
  await expect(strip.getByText('on time').first()).toBeVisible()
  await expect(strip.locator('.delta')).toHaveCount(0)
  // Placing it later costs nothing by itself: a team with room takes it ahead. More work does.
  await block(plan, 'LC-13').click()
  await plan.getByRole('region', { name: 'Selected item' }).getByLabel('Size').focus()
  await plan.keyboard.press('Control+a')
  await plan.keyboard.type('60')
  await plan.keyboard.press('Tab')
  await expect(strip.locator('.delta.worse').first()).toContainText(/days|chance/)

  // A need that would close a cycle is refused, and the cycle named.
  await block(plan, 'LC-6').click()
  await plan.keyboard.press('n')
  await plan.keyboard.type('LC-8')
  await plan.getByRole('option', { name: /LC-8 / }).click()
  await expect(plan.getByText('LC-6 needs LC-8 needs LC-6')).toBeVisible()
})

test('an item is edited in place, with its reasons and needs', async ({ plan }) => {
  await block(plan, 'LC-8').click()
  const panel = plan.getByRole('region', { name: 'Selected item' })
  await expect(panel).toContainText('Waits for TW-5, which ends 11 Apr.')
  await panel.getByLabel('Title').fill('Dim well ahead of fog')
  await panel.getByLabel('Title').press('Enter')
  await expect(block(plan, 'LC-8')).toHaveAttribute('aria-label', /Dim well ahead of fog/)
  await panel.getByLabel('Size').fill('3')
  await panel.getByLabel('Size').press('Enter')
  await panel.getByLabel('Size').blur()
  await expect(block(plan, 'LC-8')).toHaveAttribute('aria-label', /, 3 pt/)
  await panel.getByRole('button', { name: /^Agreement on TW-5: asked/ }).press('Enter')
  await panel
    .getByRole('form', { name: 'Answer TW-5 for LC-8' })
    .getByRole('button', { name: 'Agree' })
    .last()
    .press('Enter')
  await expect(panel.getByRole('button', { name: /^Agreement on TW-5: agreed/ })).toBeVisible()
  await panel.getByRole('button', { name: 'Remove the need on LC-6' }).click()
  await expect(panel.getByText('LC-6')).toHaveCount(0)
  await panel.getByLabel('Add a need').fill('LC-6')
  await plan.getByRole('option', { name: /LC-6 / }).click()
  await expect(panel.getByRole('button', { name: 'Remove the need on LC-6' })).toBeVisible()
  await plan.getByRole('button', { name: 'What changed' }).click()
  await expect(plan.getByRole('complementary').or(plan.getByRole('dialog'))).toContainText('LC-8 needs LC-6')
})

test('a need is drawn from block to block, and only those that are asked for are shown', async ({ plan }) => {
  const curves = plan.locator('.curves .curve')
  const show = (what: string) => plan.getByLabel('Needs', { exact: true }).selectOption(what)
  await expect(curves).toHaveCount(2)
  await show('all')
  await expect.poll(() => curves.count()).toBeGreaterThan(10)
  await show('of the selection’s chain')
  await expect(curves).toHaveCount(0)
  await block(plan, 'LC-9').click()
  const before = await curves.count()
  const [from, to] = [await block(plan, 'LC-9').boundingBox(), await block(plan, 'LC-20').boundingBox()]
  if (!from || !to) throw new Error('both are in view')
  await plan.mouse.move(from.x + from.width - 1, from.y + from.height / 2)
  await plan.mouse.down()
  await plan.mouse.move(to.x + 20, to.y + to.height / 2, { steps: 8 })
  await expect(plan.getByText('LC-20 needs LC-9')).toBeVisible()
  await plan.mouse.up()
  await expect(plan.getByRole('button', { name: /^Undo/ })).toHaveAccessibleName(/LC-20 needs LC-9/)
  await expect.poll(() => curves.count()).toBeGreaterThan(before)

  await plan.getByRole('button', { name: 'Look…' }).click()
  await plan.getByLabel('Roomy').check()
  await plan.getByLabel('Key', { exact: true }).check()
  await expect(block(plan, 'LC-9')).toContainText('LC-9')
  await plan.reload()
  await expect(block(plan, 'LC-9')).toContainText('LC-9')
})

test('a draft is shown, accepted in part and whole, and undone in one step', async ({ plan }) => {
  await plan.getByRole('button', { name: 'Draft a schedule' }).click()
  const draft = plan.getByRole('region', { name: 'Draft of a schedule' })
  await expect(draft.getByText(/no schedule has fewer|none can have fewer/)).toBeVisible()
  await expect(plan.locator('.ghost').first()).toBeVisible()
  await expect(plan.getByRole('button', { name: /^\d+ over capacity/ })).toContainText('3')
  // The first good one is in view while a better one is looked for.
  await expect(draft.getByRole('button', { name: 'Draft again' })).toBeVisible()
  await draft.getByRole('button', { name: 'Untick all' }).click()
  await draft
    .getByRole('checkbox', { name: /Accept the move of/ })
    .first()
    .check()
  // The figures are those of the ticked move, and the rest stays when it is accepted.
  await expect(draft.getByText('With the 1 ticked move')).toBeVisible()
  await expect(draft.getByText(/^388 → 0/)).toHaveCount(0)
  const moves = Number((await draft.getByRole('heading', { name: /moves$/ }).innerText()).split(' ')[0])
  await draft.getByRole('button', { name: 'Accept 1' }).click()
  await expect(plan.getByRole('button', { name: 'Undo: Accept part of a draft: 1 move' })).toBeEnabled()
  await expect(draft.getByRole('heading', { name: `${moves - 1} moves` })).toBeVisible()
  await draft.getByRole('button', { name: 'Tick all', exact: true }).click()
  await draft.getByRole('button', { name: 'Accept all' }).click()
  await expect(draft).toBeHidden()
  await expect(plan.getByRole('button', { name: /^\d+ over capacity/ })).toContainText('0')
  await plan.getByRole('button', { name: /^Undo/ }).click()
  await expect(plan.getByRole('button', { name: /^\d+ over capacity/ })).not.toContainText('0')
  await plan.keyboard.press('s')
  await draft.getByRole('button', { name: 'Discard' }).click()
  await expect(draft).toBeHidden()
})

test('two browsers see each other at once, and neither loses what it is typing', async ({
  plan,
  server,
  as,
}) => {
  const other = await as('solveig')
  await other.goto(server.url)
  await block(other, 'LC-8').click()
  const title = other.getByRole('region', { name: 'Selected item' }).getByLabel('Title')
  await title.fill('Half a thou')
  await block(plan, 'LC-8').click()
  await plan.keyboard.press(']')
  await expect(other.getByRole('group', { name: /^LC·13:/ }).locator('[data-block="LC-8"]')).toBeVisible()
  await expect(title).toHaveValue('Half a thou')
})

test('iterations that have ended are closed at once, in three clicks', async ({ page, server }) => {
  await server.stop()
  server.today = '2027-04-13'
  await server.start()
  await enter(page, server)
  await page.goto(`${server.url}/programs/1/plan`)
  const line = page.getByRole('status').filter({ hasText: 'have ended' })
  await expect(line).toContainText('LC·11')
  const names = (await line.textContent())!
  await goTo(page, '/programs/1/backlog')
  await expect(line).toHaveText(names)
  await line.getByRole('button', { name: 'Close them…' }).click()
  const dialog = page.getByRole('dialog')
  await expect(dialog).toContainText(/LC·11: completed [\d.]+ of [\d.]+ points; \d+ items go on in LC·12/)
  await dialog.getByRole('button', { name: 'Apply' }).click()
  await expect(line).toBeHidden()
  await goTo(page, '/programs/1/plan')
  await block(page, 'LC-8').waitFor()
  await expect(line).toHaveCount(0)
  await page.getByRole('button', { name: /^Undo/ }).click()
  await expect(line).toHaveText(names)
})

test('undo steps past what somebody else has changed since', async ({ plan, server }) => {
  await block(plan, 'LC-20').click()
  await plan.keyboard.press(']')
  await expect(plan.getByRole('group', { name: /^LC·15:/ }).locator('[data-block="LC-20"]')).toBeVisible()
  await block(plan, 'LC-19').click()
  await plan.keyboard.press('u')
  await expect(plan.locator('[data-row="LC-19"]')).toBeVisible()
  const { revision } = await (await plan.request.get(`${server.url}/api/v1/programs/1/outline`)).json()
  const place = await plan.request.post(`${server.url}/api/v1/programs/1/do/place`, {
    data: {
      client: 'other',
      revision,
      intent: { label: 'Place', placements: [{ item: 'LC-19', iteration: 'LC-i17' }] },
    },
  })
  expect(place.ok()).toBe(true)
  await expect(plan.getByRole('group', { name: /^LC·17:/ }).locator('[data-block="LC-19"]')).toBeVisible()
  await plan.keyboard.press('Control+z')
  const dialog = plan.getByRole('dialog', { name: 'This cannot be taken back' })
  await expect(dialog).toContainText('LC-19')
  await plan.keyboard.press('Enter')
  await expect(dialog).toBeHidden()
  await plan.keyboard.press('Control+z')
  await expect(plan.getByRole('group', { name: /^LC·14:/ }).locator('[data-block="LC-20"]')).toBeVisible()
})

test('what a draft leaves unplaced is listed with its reason and what mends it', async ({ plan }) => {
  await plan.keyboard.press('s')
  await expect(plan.getByText('Late as planned')).toBeVisible()
  await plan.getByLabel('Assume missing sizes').press('Space')
  await plan.getByRole('button', { name: 'Draft again' }).press('Enter')
  const left = plan.getByRole('button', { name: /^\d+, why$/ })
  await left.press('Enter')
  const list = plan.getByRole('list', { name: 'Left unplaced' })
  const row = list.getByRole('listitem').filter({ hasText: 'LC-16' })
  await expect(row).toContainText('Has no size')
  await row.getByRole('button', { name: 'Size it' }).press('Enter')
  await expect(plan.getByRole('region', { name: 'Item LC-16' })).toBeVisible()
})

test('a feature is moved by its bar: by drag, by key, by date; what that does is shown first', async ({
  plan,
}) => {
  await plan.getByRole('button', { name: 'Look…' }).click()
  await plan.getByLabel('Features', { exact: true }).check()
  await plan.keyboard.press('Escape')
  const bar = plan.locator('[data-bar="FE-3"]')
  const item = (iteration: string) =>
    plan.getByRole('group', { name: new RegExp(`^${iteration}:`) }).locator('[data-block="LC-6"]')
  await expect(item('LC·10')).toBeVisible()

  const box = (await bar.boundingBox())!
  await plan.mouse.move(box.x + 40, box.y + 8)
  await plan.mouse.down()
  await plan.mouse.move(box.x + 40 + 14 * 8, box.y + 8, { steps: 6 })
  await expect(bar).toContainText('+14 days')
  await plan.mouse.up()
  const shown = plan.getByRole('dialog', { name: 'Move FE-3 14 days later' })
  await expect(shown).toContainText('LC-6')
  await expect(shown).toContainText('First Light')
  await plan.keyboard.press('Escape')
  await expect(item('LC·10')).toBeVisible()

  await bar.focus()
  await plan.keyboard.press(']')
  await expect(shown).toBeVisible()
  await plan.keyboard.press('Enter')
  await expect(shown).toBeHidden()
  await expect(item('LC·10')).toHaveCount(0)
  await expect(plan.getByRole('button', { name: 'Undo: Move FE-3 14 days later' })).toBeEnabled()
  await expect(bar).toBeFocused()
  await plan.keyboard.press('Control+z')
  await expect(item('LC·10')).toBeVisible()

  await bar.focus()
  await plan.keyboard.press('Enter')
  const panel = plan.getByRole('region', { name: 'Selected feature' })
  await expect(panel).toContainText('Remote dimming')
  await panel.getByLabel('Start', { exact: true }).focus()
  await plan.keyboard.type('1.6.')
  await plan.keyboard.press('Enter')
  await expect(plan.getByRole('dialog', { name: /^Move FE-3 \d+ days later$/ })).toContainText('LC-6')
})
