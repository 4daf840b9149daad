import { defineConfig } from '@playwright/test';

/** The real interface in Debian's Chromium, against a Zusammen of its own (e2e/setup.ts). */
export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/setup.ts',
  workers: 1,
  timeout: 180_000,
  // A machine that shares its disk stands still for seconds now and then.
  expect: { timeout: 20_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/playwright.json' }]],
  outputDir: 'test-results/playwright',
  use: {
    viewport: { width: 1280, height: 800 },
    // A trace films every test, for the one that fails; where these run nobody could open it. What was on the page is kept.
    trace: 'off',
    permissions: ['clipboard-read', 'clipboard-write'],
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
