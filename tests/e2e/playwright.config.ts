import { defineConfig } from '@playwright/test'
import { chromium } from './chromium.mjs'

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  timeout: 120_000,
  // A server just started compiles what it is asked for the first time; how fast it answers is measured in bench/.
  expect: { timeout: 20_000 },
  workers: 1,
  reporter: [['list'], ['json', { outputFile: process.env.GRADUS_E2E_REPORT ?? 'test-results/report.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: chromium,
    trace: 'retain-on-failure',
  },
})
