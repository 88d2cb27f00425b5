import { type Page } from '@playwright/test'
import { enter, expect, goTo, Server, test } from './server'

/** Sends signals as a service outside does: with a token. */
async function report(page: Page, server: Server, token: string, signals: object): Promise<unknown> {
  const answer = await page.request.post(`${server.url}/api/v1/programs/1/signals`, {
    data: signals,
    headers: { Authorization: `Bearer ${token}` },
  })
  expect(answer.status(), await answer.text()).toBe(200)
  return answer.json()
}

test('what services outside find shows at once, and leads to what it is about', async ({ page, server }) => {
  await enter(page, server, 'matthias')
  // A token lasts a year at most: the real clock says which.
  const expires = new Date(Date.now() + 9 * 86_400_000).toISOString().slice(0, 10)
  const token = await page.request.post(`${server.url}/api/v1/programs/1/tokens`, {
    data: { name: 'Build server', role: 'program manager', expires },
  })
  const secret = ((await token.json()) as { token: string }).token

  await page.goto(`${server.url}/programs/1/track?teams=LC`)
  const track = page.getByRole('main', { name: 'Track' })
  await expect(track.getByText('Its build is green')).toBeVisible()
  const row = track.getByRole('listitem', { name: /^LC-4 / })
  await expect(row).toContainText('2 tests fail, 3 tests not run')

  const found = {
    builds: [{ team: 'LC', name: 'firmware', at: '2027-03-23T05:00:00Z', state: 'red' }],
    tests: [{ item: 'LC-4', at: '2027-03-23T06:00:00Z', passed: 23, failed: 0, notRun: 0 }],
    defects: [
      {
        id: 'bug-1',
        team: 'LC',
        at: '2027-03-23T06:10:00Z',
        title: 'Dims when the tide turns',
        hinders: ['LC-5'],
      },
    ],
  }
  const taken = (await report(page, server, secret, found)) as { keys: string[] }
  expect(await report(page, server, secret, found)).toMatchObject({ changes: 0 })
  await expect(track.getByText(/^Build firmware has been red since 23 Mar/)).toBeVisible()
  await expect(row).not.toContainText('tests')
  await expect(track.getByRole('listitem', { name: /^LC-5 .*tests wait for / })).toBeVisible()

  // It needs somebody.
  await track.getByRole('button', { name: 'Attention' }).press('Enter')
  const calls = page.getByRole('list', { name: 'What needs somebody' }).getByRole('listitem')
  await expect(calls.filter({ hasText: /Lamp Control.*build is red: firmware/ })).toHaveCount(1)
  const hindered = calls.filter({ hasText: `cannot be tested before ${taken.keys[0]} is mended` })
  await hindered.focus()
  await page.keyboard.press('Enter')
  const item = page.getByRole('region', { name: 'Item LC-5' })
  await expect(item.getByText(`Tests wait for ${taken.keys[0]}`)).toBeVisible()

  // The defect says whose tests wait; another is added by keyboard.
  await goTo(page, `/programs/1/backlog?item=${taken.keys[0]}`)
  const defect = page.getByRole('region', { name: `Item ${taken.keys[0]}` })
  await expect(defect.getByRole('button', { name: /^LC-5 / })).toBeVisible()
  await defect.getByRole('combobox', { name: 'Add an item whose tests wait' }).focus()
  await page.keyboard.type('LC-6')
  await page.getByRole('option', { name: /^LC-6 / }).waitFor()
  await page.keyboard.press('Enter')
  await expect(defect.getByRole('button', { name: /^LC-6 / })).toBeVisible()

  // Mended, nothing waits for it any more.
  await report(page, server, secret, {
    defects: [
      { id: 'bug-1', team: 'LC', at: '2027-03-23T09:00:00Z', title: 'Dims', hinders: ['LC-5'], mended: true },
    ],
  })
  await goTo(page, '/programs/1/track?as=attention&team=LC')
  await expect(calls.filter({ hasText: 'build is red' })).toHaveCount(1)
  await expect(calls.filter({ hasText: 'cannot be tested' })).toHaveCount(0)
})

test('simulated teams work on a demo that is to live, through the interface', async ({ page }) => {
  const server = await Server.demo(0, '--pace', '8s')
  try {
    await enter(page, server, 'petra')
    await page.goto(`${server.url}/programs/1/track`)
    await page.getByRole('button', { name: 'What changed' }).click()
    await expect(page.getByText(/^Simulated teams · /).nth(3)).toBeVisible()
  } finally {
    await server.end()
  }
})
