import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'e2e',
  testMatch: process.env.SCREENSHOTS ? 'screenshots.ts' : '*.spec.ts',
  globalSetup: './e2e/demo.ts',
  // Each test has a server of its own, or looks at one that nobody changes.
  workers: 2,
  fullyParallel: true,
  // Generous, for machines that others slow down: a test waits for what it expects.
  timeout: 240_000,
  expect: { timeout: 40_000 },
  reporter: process.env.E2E_REPORT ? [['line'], ['json', { outputFile: process.env.E2E_REPORT }]] : 'line',
  use: {
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
    },
  },
})
