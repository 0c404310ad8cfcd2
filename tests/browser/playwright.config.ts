import { defineConfig } from '@playwright/test';

/** Debian's Chromium against the built application at SLEUTH_ADDRESS, with the demo shop; ./test starts it. */
export default defineConfig({
  testDir: '.',
  workers: 1,
  timeout: 420_000,
  expect: { timeout: 45_000 },
  outputDir: '../../test-results/browser',
  use: {
    baseURL: process.env.SLEUTH_ADDRESS ?? 'http://127.0.0.1:8737',
    actionTimeout: 45_000,
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
      ],
    },
  },
});
