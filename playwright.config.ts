// How the tests in a real browser are run.

import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './e2e/chromium';

export default defineConfig({
  testDir: 'e2e',
  globalSetup: './e2e/globalSetup.ts',
  workers: 2,
  timeout: 300_000,
  retries: 0,
  // Machines that run several things at once may take their time.
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  outputDir: 'test-results/e2e',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    trace: 'off',
    actionTimeout: 30_000,
  },
});
