import { defineConfig } from '@playwright/test'
import { chromium } from './chromium.mjs'

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  globalSetup: './seed.mjs',
  timeout: 120_000,
  // A server just started compiles what it is asked for the first time; how fast it answers is measured in bench/.
  expect: { timeout: 20_000 },
  // Files run side by side, each with a server of its own; the tests of a file share it and follow each other.
  workers: 2,
  reporter: [['list'], ['json', { outputFile: process.env.GRADUS_E2E_REPORT ?? 'test-results/report.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    // Tests that stand between page and server would not see what a service worker asks; the page without a network has tests of its own.
    serviceWorkers: 'block',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: chromium,
  },
})
