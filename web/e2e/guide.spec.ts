import { expect, test } from './server'

test('guidance stands beside a stage, leads to what is open, and is said in own words', async ({
  plan,
  server,
  as,
}) => {
  const panel = plan.getByRole('complementary', { name: 'Guidance' })
  await plan.getByRole('button', { name: 'How this step is done well' }).press('Enter')
  await expect(panel.getByRole('heading', { name: 'Plan, done well' })).toBeVisible()
  // Its figures are the strip's, and lead to the same place.
  const unplaced = await plan
    .getByRole('region', { name: 'Where the plan stands' })
    .getByRole('button', { name: /unplaced/ })
    .textContent()
  const open = panel.getByRole('button', { name: /open items have no iteration/ })
  await expect(open).toHaveText(new RegExp(`^${parseInt(unplaced ?? '')} of `))
  await panel.getByRole('button', { name: 'In your own words…' }).press('Enter')
  await panel.getByLabel('For whom').selectOption('every team lead')
  await panel.getByRole('textbox').press('Control+a')
  await plan.keyboard.type('Bring your **list**.')
  await panel.getByRole('button', { name: 'Keep it' }).press('Enter')
  await expect(panel.getByRole('list', { name: 'Checklist' })).toBeVisible()

  // It goes with one from stage to stage, and what is done is seen at once.
  await plan.getByRole('link', { name: 'Track', exact: true }).press('Enter')
  await expect(panel.getByRole('heading', { name: 'Track, done well' })).toBeVisible()
  await plan.getByRole('link', { name: 'Backlog', exact: true }).press('Enter')
  await panel.getByRole('button', { name: /not ready in time/ }).press('Enter')
  await expect(plan.getByRole('combobox', { name: 'View' }).locator('option:checked')).toHaveText('Not ready')

  // A lead reads what is for leads; nobody else does.
  const lead = await as('ingrid')
  await lead.goto(`${server.url}/programs/1/plan`)
  await lead.getByRole('button', { name: 'How this step is done well' }).press('Enter')
  await expect(lead.getByRole('complementary', { name: 'Guidance' })).toContainText('Bring your list.')
  await expect(lead.getByRole('button', { name: 'In your own words…' })).toHaveCount(0)

  // The whole way of working, and off for all.
  await panel.getByRole('link', { name: 'The whole way of working' }).press('Enter')
  const report = plan.getByRole('main', { name: 'Report' })
  await expect(report.getByRole('region', { name: 'What was agreed' })).toContainText('14 days each')
  await expect(report.getByRole('region', { name: 'Forecast' })).toContainText('What goes wrong')
  await report.getByRole('checkbox', { name: 'guidance beside each stage' }).press('Space')
  await expect(plan.getByRole('button', { name: 'How this step is done well' })).toHaveCount(0)
})
