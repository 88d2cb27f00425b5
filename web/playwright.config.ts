import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'e2e',
  testMatch: process.env.SCREENSHOTS ? 'screenshots.ts' : '*.spec.ts',
  workers: 1,
  // Generous, for machines that others slow down: a test waits for what it expects.
  timeout: 240_000,
  expect: { timeout: 40_000 },
  reporter: 'line',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
    },
  },
})
