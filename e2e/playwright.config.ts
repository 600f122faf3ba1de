import { defineConfig } from '@playwright/test'
import { CHROMIUM } from '../scripts/chromium.mjs'

export default defineConfig({
  testDir: '.',
  outputDir: '../reports/browser',
  // Generous: a slow machine is not a defect; how fast things are is measured by the bench.
  timeout: 300_000,
  expect: { timeout: 60_000 },
  workers: 2,
  fullyParallel: true,
  forbidOnly: true,
  retries: 0,
  reporter: [['list'], ['json', { outputFile: '../reports/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    // Only where a test is about pages that are kept: elsewhere every page comes from the server.
    serviceWorkers: 'block',
    launchOptions: CHROMIUM,
  },
})
