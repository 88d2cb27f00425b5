import { readFileSync } from 'node:fs'
import { expect, goTo, test } from './server'

test('a way of working is kept as a template, used, sent out and brought along', async ({
  demo: page,
  server,
}) => {
  // Iteration plans have sections that the program wants; a brief says which are still to be written.
  await page.goto(`${server.url}/programs/1/report?as=briefs`)
  await page.getByRole('button', { name: 'Sections of every iteration plan…' }).press('Enter')
  const sections = page.getByRole('dialog', { name: 'Sections of every iteration plan' })
  await expect(sections.getByRole('textbox')).toBeFocused()
  await page.keyboard.type('Who shows it: a name and a day\nWhat could stop us')
  await sections.getByRole('button', { name: 'Keep them' }).press('Enter')
  await expect(sections).toHaveCount(0)
  await page.getByLabel('A new brief about').selectOption({ index: 4 })
  await page.getByRole('button', { name: 'Begin' }).press('Enter')
  await expect(page.getByText('Still to be written: Who shows it, What could stop us.')).toBeVisible()
  await page.getByRole('button', { name: 'Write: Who shows it' }).press('Enter')
  await page.getByLabel('Your words, as Markdown; keys of items become links').focus()
  await page.keyboard.type('Ingrid, on Friday.')
  await expect(page.getByText('Still to be written: What could stop us.')).toBeVisible()

  // The roles to choose from are the program's, and are offered where one is written.
  await goTo(page, '/programs/1/set-up/people')
  await page.getByRole('button', { name: 'Roles…' }).press('Enter')
  const roles = page.getByRole('dialog', { name: 'Roles' })
  const words = roles.getByRole('textbox', { name: /What people do in teams/ })
  await expect(words).toBeFocused()
  await page.keyboard.press('Control+Home')
  await page.keyboard.type('diving\n')
  await roles.getByRole('button', { name: 'Keep' }).press('Enter')
  await expect(roles).toHaveCount(0)
  await page
    .getByRole('row', { name: /^Mateus Arruda/ })
    .getByRole('button')
    .press('Enter')
  const person = page.getByRole('dialog', { name: 'Mateus Arruda' })
  await expect(person.locator('#p-roles + datalist option').first()).toHaveAttribute('value', 'diving')
  await person.getByLabel('Roles').focus()
  await page.keyboard.press('End')
  await page.keyboard.type('diving, ')
  await expect(person.locator('#p-roles + datalist option').first()).toHaveAttribute('value', 'diving, lead')
  await person.getByRole('button', { name: 'Cancel' }).press('Enter')

  await goTo(page, '/programs/1/report?as=working')
  await expect(page.getByRole('region', { name: 'What was agreed' })).toContainText(
    'Who shows it: a name and a day',
  )
  await page.getByRole('button', { name: 'Keep as a template…' }).press('Enter')
  const keep = page.getByRole('dialog', { name: 'Keep this way of working as a template' })
  await expect(keep.getByLabel('Name', { exact: true })).toBeFocused()
  await keep.getByLabel('What it is for').press('End')
  await page.keyboard.type('For chains of lights')
  await keep.getByRole('button', { name: 'Keep it' }).press('Enter')
  await page.getByRole('link', { name: 'new programs can start from it' }).press('Enter')

  const start = page.getByRole('region', { name: 'Start a program' })
  await page.getByLabel('Name of a new program').press('End')
  await page.keyboard.type('Second chain')
  await start.getByLabel('Start from').selectOption('As Beacon Renewal works')
  await expect(start).toContainText('For chains of lights')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    start
      .getByRole('list', { name: 'Templates that are kept' })
      .getByRole('link', { name: 'Export' })
      .click(),
  ])
  const text = readFileSync(await download.path(), 'utf8')
  await start.getByRole('button', { name: 'Start', exact: true }).press('Enter')
  await expect(page).toHaveURL(/programs\/2\/set-up\/teams/)
  await goTo(page, '/programs/2/report?as=working')
  const agreed = page.getByRole('region', { name: 'What was agreed' })
  await expect(agreed).toContainText('Two weeks: 14 days each')
  await expect(agreed).toContainText('What could stop us')
  await expect(agreed).toContainText('diving, lead, firmware')

  // As a file it goes to another server, and comes to the same.
  await page.goto(server.url)
  await page.locator('input[type="file"]').setInputFiles({
    name: 'template.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text.replace('As Beacon Renewal works', 'From elsewhere')),
  })
  await expect(start.getByLabel('Start from').locator('option:checked')).toHaveText('From elsewhere')
  await start.getByRole('button', { name: 'Remove the template As Beacon Renewal works' }).press('Enter')
  await start.getByRole('button', { name: 'Remove for good' }).press('Enter')
  await expect(
    start.getByRole('list', { name: 'Templates that are kept' }).getByRole('listitem'),
  ).toHaveCount(1)
})
