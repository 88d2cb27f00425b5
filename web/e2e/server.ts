import { test as base, type Browser, type BrowserContext, type Page, type Route } from '@playwright/test'
import { spawn, type ChildProcess } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createServer } from 'node:net'
import { createInterface } from 'node:readline'
import { fileURLToPath } from 'node:url'
import type { App } from 'vue'

/** How large every page is, unless a test says otherwise. */
const viewport = { width: 1280, height: 800 }

const binary = fileURLToPath(new URL('../../bin/jantrel', import.meta.url))

/** The real binary with a data folder of its own. */
export class Server {
  url = ''
  /** The day that plans are seen on; it may be another the next time that it starts. */
  today = '2027-03-23'
  /** The one-time link to the first administrator, where `serve` shows one. */
  first = ''
  private process?: ChildProcess
  private started: 'demo' | 'serve' = 'demo'

  constructor(
    readonly port = 0,
    readonly data = mkdtempSync(join(tmpdir(), 'jantrel-e2e-')),
  ) {}

  /** A demo that is up, in a copy of the folder that was made for all of them. */
  static async demo(port = 0, ...more: string[]): Promise<Server> {
    const server = new Server(port)
    cpSync(process.env.JANTREL_E2E_DEMO!, server.data, { recursive: true })
    await server.start('demo', ...more)
    return server
  }

  /** Starts it; again at the address it had, if it has been up before. */
  async start(command: 'demo' | 'serve' = 'demo', ...more: string[]): Promise<void> {
    const fresh = !this.url
    this.started = command
    const addr = this.url ? new URL(this.url).host : `127.0.0.1:${this.port}`
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

  /** Its process, where it is up. */
  private get running(): ChildProcess | undefined {
    const child = this.process
    return child?.exitCode === null && child.signalCode === null ? child : undefined
  }

  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.running
    if (!child) return
    const gone = new Promise((resolve) => child.once('exit', resolve))
    child.kill(signal)
    await gone
  }

  /** Starts it once more where it is down. */
  async up(): Promise<void> {
    if (!this.running) await this.start(this.started)
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

/** Goes to a path within the page, as a link in it does: nothing is loaded anew. It is there when this ends. */
export async function goTo(page: Page, path: string): Promise<void> {
  await page.evaluate(async (path) => {
    const root = document.querySelector('#app') as unknown as { __vue_app__: App }
    await root.__vue_app__.config.globalProperties.$router.push(path)
    await new Promise(requestAnimationFrame)
  }, path)
}

/** A port that is free. */
function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer()
    probe.once('error', reject)
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number }
      probe.close(() => resolve(port))
    })
  })
}

/** What can be typed into. A table begins to edit its cell with the first key. */
const fields = ['input', 'textarea', 'select', '[contenteditable]', '[role="grid"]']

/**
 * Types as a person does, who looks first: a question that comes with an answer of the server stands there a moment later,
 * and keys typed before that would go to whatever had the focus.
 */
function typeIntoFields(page: Page): void {
  const type = page.keyboard.type.bind(page.keyboard)
  page.keyboard.type = async (text, options) => {
    await page.locator(fields.map((f) => `${f}:focus`).join()).waitFor({ state: 'attached', timeout: 40_000 })
    await type(text, options)
  }
}

/** By how many milliseconds answers are late, at the most: for looking whether flows wait for what they expect. */
const slow = Number(process.env.SLOW ?? 0)

/** Has an answer come late, by chance: what is asked waits, what is done is done at once and its answer waits. */
async function late(route: Route): Promise<void> {
  const wait = () => new Promise((resolve) => setTimeout(resolve, Math.random() * slow))
  try {
    if (route.request().method() === 'GET') {
      await wait()
      await route.continue()
    } else {
      const response = await route.fetch({ maxRedirects: 0 })
      await wait()
      await route.fulfill({ response })
    }
  } catch {
    await route.abort().catch(() => {}) // the server was down, or the page has gone on
  }
}

/**
 * Somebody's browser, which a worker keeps from test to test: opening one anew and reading all into it takes longer than
 * most tests.
 */
class Seat {
  private uses = 0
  private constructor(
    readonly context: BrowserContext,
    private page: Page,
  ) {}

  static async open(browser: Browser): Promise<Seat> {
    const context = await browser.newContext({ viewport })
    context.on('page', typeIntoFields)
    if (slow) await context.route(/\/api\/(?!.*\/events\b)/, late)
    return new Seat(context, await context.newPage())
  }

  /** Its page. After some uses there is so much of old ones in memory that a new one is quicker. */
  async take(): Promise<Page> {
    if (this.uses++ >= 8) {
      await this.page.close()
      this.page = await this.context.newPage()
      this.uses = 1
    }
    return this.page
  }
}

/** What a worker goes through its tests with. */
interface Kept {
  /** A port that its servers listen at: with the same address the browser need not compile the page's code anew. */
  port: number
  /** Browsers of so many people. */
  seats: Seat[]
}

/** Leaves a page as if nobody had used it, at an address of the server where nothing runs. */
async function leave(page: Page, server: Server): Promise<void> {
  await server.up()
  for (const of of ['console', 'pageerror', 'request', 'response', 'dialog'] as const)
    page.removeAllListeners(of)
  await page.unrouteAll({ behavior: 'ignoreErrors' })
  await page.context().clearCookies()
  await page.setViewportSize(viewport)
  await page.goto(`${server.url}/healthz`)
  await page.evaluate(() => {
    localStorage.clear()
    sessionStorage.clear()
  })
}

/**
 * A test with a demo of its own, or one that is `shared` by those who only look; it fails on what the page's console
 * complains of. Pages are the worker's; `as` gives those of others, signed in or not, in browsers of their own.
 */
export const test = base.extend<
  {
    server: Server
    empty: Server
    demo: Page
    plan: Page
    complaints: string[]
    look: Page
    as: (login?: string) => Promise<Page>
  },
  { kept: Kept; shared: Server }
>({
  kept: [
    async ({ browser }, use) => {
      const kept = { port: await freePort(), seats: [await Seat.open(browser)] }
      await use(kept)
      for (const seat of kept.seats) await seat.context.close()
    },
    { scope: 'worker' },
  ],
  context: async ({ kept }, use) => use(kept.seats[0].context),
  // What a page says in its console is a fault, but for answers that refuse something: the
  // browser itself notes these, and the page shows them. Nor is it one that handlers are
  // refused to run: some flows type hostile text, which is parsed before it is cleaned.
  page: async ({ kept, colorScheme }, use) => {
    const page = await kept.seats[0].take()
    await page.emulateMedia({ colorScheme })
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
  as: async ({ browser, kept, server }, use) => {
    const taken: Page[] = []
    await use(async (login) => {
      const seat = (kept.seats[taken.length + 1] ??= await Seat.open(browser))
      const page = await seat.take()
      taken.push(page)
      if (login) await enter(page, server, login)
      return page
    })
    for (const page of taken) await leave(page, server)
  },
  empty: async ({ page, kept }, use) => {
    const server = new Server(kept.port)
    await server.start('serve')
    await use(server)
    await leave(page, server)
    await server.end()
  },
  // eslint-disable-next-line no-empty-pattern
  complaints: async ({}, use) => {
    await use([])
  },
  server: async ({ page, kept }, use) => {
    const server = await Server.demo(kept.port)
    await use(server)
    await leave(page, server)
    await server.end()
  },
  shared: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const server = await Server.demo()
      await use(server)
      await server.end()
    },
    { scope: 'worker' },
  ],
  look: async ({ page, shared }, use) => {
    await use(page)
    await leave(page, shared)
  },
  // A page that has signed in to the demo, and has gone nowhere yet. It asks nothing of any other host.
  demo: async ({ page, server, complaints }, use) => {
    page.on('pageerror', (error) => complaints.push(error.message))
    page.on('request', (request) => {
      if (!request.url().startsWith(server.url) && !request.url().startsWith('data:'))
        complaints.push(`asked ${request.url()}`)
    })
    await enter(page, server)
    await use(page)
    if (complaints.length) throw new Error(complaints.join('\n'))
  },
  // The same, at the plan.
  plan: async ({ demo, server }, use) => {
    await demo.goto(`${server.url}/programs/1/plan`)
    await demo.locator('[data-block]').first().waitFor()
    await use(demo)
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
