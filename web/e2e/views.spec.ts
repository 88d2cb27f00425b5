import { block, expect, goTo, test } from './server'

test('the plan is coloured by rules of its own, keeps to a filter, and both are saved and shared', async ({
  plan,
  server,
  as,
}) => {
  const legend = plan.getByRole('list', { name: 'Legend' })
  // A rule is made with keys alone.
  await plan.getByLabel('Colour', { exact: true }).focus()
  await plan.keyboard.type('Own')
  const rules = plan.getByRole('dialog', { name: 'Colour rules' })
  await expect(rules).toBeVisible()
  await rules.getByRole('button', { name: 'Add a rule' }).focus()
  await plan.keyboard.press('Enter')
  await expect(rules.getByLabel('Name of rule 1')).toBeFocused()
  await plan.keyboard.type('Large ones')
  await plan.keyboard.press('Tab')
  await plan.keyboard.type('Rust')
  await plan.keyboard.press('Tab')
  await plan.keyboard.type('Dots')
  await rules.getByRole('button', { name: 'Add a condition' }).focus()
  await plan.keyboard.press('Enter')
  await rules.getByLabel('Field', { exact: true }).focus()
  await plan.keyboard.type('Size')
  await rules.getByLabel('Comparison').focus()
  await plan.keyboard.type('is at least')
  await rules.getByLabel('Value', { exact: true }).focus()
  await plan.keyboard.type('8')
  await plan.keyboard.press('Tab')
  await rules.getByRole('button', { name: 'Done', exact: true }).focus()
  await plan.keyboard.press('Enter')
  await expect(rules).toBeHidden()
  await expect(legend).toContainText('Large ones')
  const fill = (key: string) =>
    block(plan, key).evaluate((e) => getComputedStyle(e).getPropertyValue('--fill').trim())
  await expect.poll(() => fill('LC-23')).toBe('#b3401c') // 8 points
  await expect.poll(() => fill('LC-18')).not.toBe('#b3401c') // 5 points
  await expect(block(plan, 'LC-23').locator('.mark')).toHaveCount(1)

  // What is left out keeps its room, and the list of unplaced items says so.
  await plan.getByRole('button', { name: 'Filter', exact: true }).click()
  const filter = plan.getByRole('dialog', { name: 'What the plan shows' })
  await filter.getByRole('button', { name: 'Add a condition' }).click()
  await filter.getByLabel('Field', { exact: true }).selectOption('Release')
  await filter.locator('summary').click()
  await filter.getByLabel('Full Chain').check()
  await expect(filter).toContainText('Shows items: release is Full Chain')
  await plan.keyboard.press('Escape')
  await expect(block(plan, 'LC-6')).toHaveCount(0)
  await expect(block(plan, 'LC-23')).toBeVisible()
  await expect(plan.locator('.unseen').first()).toBeVisible()
  await expect(plan.getByText(/\d+ not in this view$/)).toBeVisible()

  await plan.getByRole('button', { name: 'Save view…' }).click()
  const save = plan.getByRole('dialog', { name: 'Save this view' })
  await expect(save.getByLabel('Name')).toBeFocused()
  await plan.keyboard.type('Full Chain by size')
  await save.getByLabel('Share it').check()
  await save.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(save).toBeHidden()
  await expect(plan.getByRole('button', { name: 'Save view…' })).toHaveCount(0)

  // Another view and back again: all of it returns. Somebody else has it too, in both stages.
  await plan.getByLabel('View', { exact: true }).selectOption('Everything')
  await expect(block(plan, 'LC-6')).toBeVisible()
  const other = await as('ingrid')
  await other.goto(`${server.url}/programs/1/plan`)
  await other.getByLabel('View', { exact: true }).selectOption('Full Chain by size')
  await expect(block(other, 'LC-6')).toHaveCount(0)
  await expect(other.getByRole('list', { name: 'Legend' })).toContainText('Large ones')
  await goTo(other, '/programs/1/backlog')
  await other.getByLabel('View', { exact: true }).selectOption('Full Chain by size')
  await expect(other.locator('[data-item="LC-18"]')).toBeVisible()
  await expect(other.locator('[data-item="LC-6"]')).toHaveCount(0)
})

test('what is under way keeps to a view of the plan, and its cards show what that says', async ({
  plan,
  server,
}) => {
  // Made on the plan: items of 5 or more, those of 8 or more in a colour of their own, with their tags.
  await plan.evaluate((view) => localStorage.setItem('jantrel-plan', JSON.stringify({ 1: view })), {
    key: 'large',
    name: 'Large',
    filter: { conditions: [{ field: 'size', is: 'at-least', values: ['5'] }] },
    colours: [
      {
        name: 'Very large',
        colour: 'rust',
        mark: 'dots',
        filter: { conditions: [{ field: 'size', is: 'at-least', values: ['8'] }] },
      },
    ],
    plan: { colourBy: 'rules', blocks: ['title', 'tags'] },
  })
  await plan.reload()
  await plan.getByRole('button', { name: 'Save view…' }).click()
  const save = plan.getByRole('dialog', { name: 'Save this view' })
  await expect(save.getByLabel('Name')).toBeFocused()
  await plan.keyboard.type('Large')
  await save.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(plan.getByRole('button', { name: 'Save view…' })).toHaveCount(0)

  await plan.goto(`${server.url}/programs/1/track?as=stacks`)
  const cards = plan.locator('li[data-item]')
  await expect(plan.locator('li[data-item="LC-6"]')).toContainText('LC-6') // 3 points
  const all = await cards.count()
  await plan.getByLabel('View', { exact: true }).focus()
  await plan.keyboard.type('Large')
  await expect(plan.locator('li[data-item="LC-6"]')).toHaveCount(0)
  const large = plan.locator('li[data-item="LC-5"]') // 8 points
  await expect(large).toContainText('Dimming curve for the great lens')
  await expect(large).toContainText('#lens · #night')
  await expect(large.locator('.key')).toHaveCount(0)
  await expect(plan.getByRole('list', { name: 'Legend' })).toContainText('Very large')
  const out = all - (await cards.count())
  expect(out).toBeGreaterThan(0)
  await expect(plan.getByText(`${out} not in this view`)).toBeVisible()

  // What cards show is the view's too; the keys go through what is shown alone.
  await plan.getByRole('button', { name: 'Cards…' }).click()
  await plan.getByLabel('Key', { exact: true }).press('Space')
  await plan.keyboard.press('Escape')
  await expect(large.locator('.key')).toHaveText('LC-5')
  await expect(plan.getByRole('button', { name: 'Save view…' })).toBeVisible()
  await plan.getByRole('button', { name: 'Courses' }).click()
  await expect(large).toBeVisible()
  await large.focus()
  await plan.keyboard.press('End')
  for (let i = await cards.count(); i > 1; i--) await plan.keyboard.press('ArrowUp')
  await expect(cards.first()).toBeFocused()
})
