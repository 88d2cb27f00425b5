import { test as base, type Page } from '@playwright/test'
import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'

const binary = fileURLToPath(new URL('../../bin/jantrel', import.meta.url))

/** The real binary with a data folder of its own. */
export class Server {
  readonly data = mkdtempSync(join(tmpdir(), 'jantrel-e2e-'))
  url = ''
  /** The day that plans are seen on; it may be another the next time that it starts. */
  today = '2027-03-23'
  /** The one-time link to the first administrator, where `serve` shows one. */
  first = ''
  private process?: ChildProcess

  /** Starts it; again at the address it had, if it has been up before. */
  async start(command: 'demo' | 'serve' = 'demo', ...more: string[]): Promise<void> {
    const fresh = !this.url
    const addr = this.url ? new URL(this.url).host : '127.0.0.1:0'
    const child = spawn(binary, [
      command,
      '--addr',
      addr,
      '--data',
      this.data,
      '--today',
      this.today,
      ...more,
    ])
    this.process = child
    for await (const line of createInterface({ input: child.stdout })) {
      const found = /http:\/\/\S+/.exec(line)?.[0]
      if (found?.includes('/first#')) this.first = found
      else if (found) this.url = found
      if (this.url && (command === 'demo' || this.first || !fresh)) return
    }
    throw new Error('the server did not start')
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.process
    if (!child || child.exitCode !== null || child.signalCode !== null) return
    const gone = new Promise((resolve) => child.once('exit', resolve))
    child.kill(signal)
    await gone
  }

  async end(): Promise<void> {
    await this.stop('SIGKILL')
    rmSync(this.data, { recursive: true, force: true })
  }
}

/** Signs a page in as one of the demo's accounts. */
export async function enter(page: Page, server: Server, login = 'matthias'): Promise<void> {
  const answer = await page.request.post(`${server.url}/api/v1/sign-in/demo`, { data: { login } })
  if (!answer.ok()) throw new Error(await answer.text())
}

/** A test with a demo of its own, which fails on what the page's console complains of. */
export const test = base.extend<{ server: Server; empty: Server; plan: Page; complaints: string[] }>({
  // What a page says in its console is a fault, but for answers that refuse something: the
  // browser itself notes these, and the page shows them. Nor is it one that handlers are
  // refused to run: some flows type hostile text, which is parsed before it is cleaned.
  page: async ({ page }, use) => {
    const said: string[] = []
    page.on('console', (message) => {
      if (
        message.type() === 'error' &&
        !/status of (403|404|409|413|422|429|5\d\d)|ERR_|inline event handler/.test(message.text())
      )
        said.push(message.text())
    })
    await use(page)
    if (said.length) throw new Error(`in the console: ${said.join('\n')}`)
  },
  // eslint-disable-next-line no-empty-pattern
  empty: async ({}, use) => {
    const server = new Server()
    await server.start('serve')
    await use(server)
    await server.end()
  },
  // eslint-disable-next-line no-empty-pattern
  complaints: async ({}, use) => {
    await use([])
  },
  // eslint-disable-next-line no-empty-pattern
  server: async ({}, use) => {
    const server = new Server()
    await server.start()
    await use(server)
    await server.end()
  },
  plan: async ({ page, server, complaints }, use) => {
    page.on('pageerror', (error) => complaints.push(error.message))
    page.on('request', (request) => {
      if (!request.url().startsWith(server.url) && !request.url().startsWith('data:'))
        complaints.push(`asked ${request.url()}`)
    })
    await enter(page, server)
    await page.goto(server.url)
    await page.locator('[data-block]').first().waitFor()
    await use(page)
    if (complaints.length) throw new Error(complaints.join('\n'))
  },
})

export { expect } from '@playwright/test'

export const block = (page: Page, key: string) => page.locator(`[data-block="${key}"]`)

export const slot = (page: Page, name: string) => page.locator('.slot').filter({ hasText: name })

/** Drags from the middle of an element to the middle of another, as a hand does. */
export async function drag(
  page: Page,
  from: ReturnType<Page['locator']>,
  to: ReturnType<Page['locator']>,
  drop = true,
): Promise<void> {
  const a = await from.boundingBox()
  if (!a) throw new Error('there is nothing to drag')
  await page.mouse.move(a.x + Math.min(20, a.width / 2), a.y + a.height / 2)
  await page.mouse.down()
  await page.mouse.move(a.x + 30, a.y + a.height / 2 + 8, { steps: 3 })
  // The eyes follow the place to drop at: what loads beside it may still move it.
  for (let before = ''; ;) {
    const b = await to.boundingBox()
    if (!b) throw new Error('there is nowhere to drop')
    if (JSON.stringify(b) === before) break
    before = JSON.stringify(b)
    await page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 6 })
  }
  if (drop) await page.mouse.up()
}
