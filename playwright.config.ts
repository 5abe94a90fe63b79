import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: './tests/e2e',
  fullyParallel: false,
  // One after the other in one college; two runs beside each other have a college each.
  workers: 1,
  retries: 0,
  // How quick a page is, is the bench's business: others share the machine here.
  timeout: 120_000,
  expect: { timeout: 20_000 },
  reporter: [['list'], ['json']],
  use: {
    baseURL: process.env.RIDGEWAY_ADDRESS,
    viewport: { width: 1280, height: 800 },
    trace: 'off',
    // Nobody waits for what only moves; the journey does as most people do.
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking',
        '--disable-component-update', '--disable-sync'],
    },
  },
})
