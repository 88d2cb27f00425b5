import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Server } from './server'

/**
 * Makes the demo once: each server of a flow begins with a copy of its folder. It takes ten times as long to make the
 * demo, edit by edit, as to open it.
 */
export default async function makeDemo(): Promise<() => void> {
  const made = new Server(0, mkdtempSync(join(tmpdir(), 'jantrel-e2e-demo-')))
  await made.start()
  await made.stop()
  process.env.JANTREL_E2E_DEMO = made.data
  return () => rmSync(made.data, { recursive: true, force: true })
}
