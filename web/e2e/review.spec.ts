import { expect, goTo, test } from './server'

test('a team looks back on an iteration, and on what it agreed to do the time before', async ({
  demo: page,
  server,
}) => {
  await page.goto(`${server.url}/programs/1/track?as=review&team=LC`)
  const review = page.getByRole('article', { name: 'Review of LC·9' })
  await expect(review.getByRole('heading', { name: /^Lamp Control LC·9 .* closed Mon/ })).toBeVisible()
  await expect(review.getByRole('region', { name: 'Done' })).toContainText(
    'LC-3 Heartbeat stops after a cold start',
  )
  await review.getByRole('textbox', { name: 'What went well' }).click()
  await page.keyboard.type('Two at *every* lamp')
  await page.keyboard.press('Tab')
  await expect(page.getByRole('button', { name: 'Undo: Review of LC·9' })).toBeEnabled()
  await review.getByRole('textbox', { name: 'New action' }).click()
  await page.keyboard.type('Try on the pier first')
  await page.keyboard.press('Enter')
  // The page is left at once: not before the server has it.
  const owner = review.getByRole('combobox', { name: 'Who sees to Try on the pier first' })
  await owner.waitFor()
  const kept = page.waitForResponse((r) => r.url().endsWith('/changes') && r.ok())
  await owner.selectOption('Amara Okonjo')
  await kept
  await expect(review.getByRole('checkbox', { name: 'Try on the pier first' })).not.toBeChecked()

  // The next one: it is closed, with what is not done going on.
  await goTo(page, '/programs/1/track?teams=LC')
  await page.locator('li[data-item="LC-4"]').focus()
  await page.keyboard.press('ArrowLeft')
  await page.keyboard.type('Too dim')
  await page.keyboard.press('Enter')
  await expect(page.locator('li[data-item="LC-4"]')).toHaveAttribute('aria-label', /sent back once/)
  await page.getByRole('button', { name: 'Close LC·10…' }).press('Enter')
  await page.getByRole('dialog').getByRole('button', { name: 'Close LC·10…' }).press('Enter')
  await page.getByRole('dialog').getByRole('button', { name: 'Apply' }).press('Enter')
  await expect(page.getByRole('heading', { name: /^Lamp Control LC·11/ })).toBeVisible()
  await page.getByRole('button', { name: 'Review', exact: true }).press('Enter')
  await page.getByRole('combobox', { name: 'Of which team' }).selectOption('Lamp Control')
  await page.getByRole('combobox', { name: 'Of which iteration' }).selectOption('LC·10')
  const next = page.getByRole('article', { name: 'Review of LC·10' })
  await expect(next.getByRole('region', { name: 'Carried on' })).toContainText(
    'LC-4 Heartbeat on the backup lamp',
  )
  await expect(next.getByRole('region', { name: 'Sent back' })).toContainText(
    'LC-4 Heartbeat on the backup lamp once',
  )
  const figure = async (name: string) =>
    Number(
      /[\d.]+/.exec(
        (await next.locator('dl > div').filter({ hasText: name }).locator('b').textContent())!,
      )![0],
    )
  expect(await figure('done')).toBe(
    (await figure('at the start')) +
      (await figure('came in')) -
      (await figure('taken out')) +
      (await figure('grown')) -
      (await figure('smaller')) -
      (await figure('carried on')),
  )
  await expect(next.getByRole('region', { name: 'Actions' })).toContainText('Amara Okonjo, since LC·9')

  // As a file, which says the same; ticked, the action turns up no more.
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Markdown' }).press('Enter'),
  ])
  expect(file.suggestedFilename()).toBe('review-LC-i10.md')
  const chunks: Buffer[] = []
  for await (const chunk of await file.createReadStream()) chunks.push(chunk as Buffer)
  const text = Buffer.concat(chunks).toString()
  expect(text).toContain('# Lamp Control LC·10')
  expect(text).toContain('- LC-4 Heartbeat on the backup lamp: 1 time')
  expect(text).toContain('- [ ] Try on the pier first, Amara Okonjo, since LC·9')
  await next.getByRole('checkbox', { name: 'Try on the pier first' }).press('Space')
  await expect(next.getByText('Nothing was agreed on.')).toBeVisible()
  await page.getByRole('combobox', { name: 'Of which iteration' }).selectOption('LC·9')
  await expect(review.getByRole('checkbox', { name: 'Try on the pier first' })).toBeChecked()
  await expect(review.getByRole('textbox', { name: 'What went well' })).toHaveValue('Two at *every* lamp')
})
