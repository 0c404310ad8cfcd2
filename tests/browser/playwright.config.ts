import { defineConfig } from '@playwright/test';

// One server with its own database to each worker, so that what one test sets for the shop is not met by another's.
const addresses = (process.env.SLEUTH_ADDRESS ?? 'http://127.0.0.1:8737').split(' ');

/** Debian's Chromium against the built application at SLEUTH_ADDRESS, with the demo shop; ./test starts it. */
export default defineConfig({
  testDir: '.',
  workers: addresses.length,
  timeout: 420_000,
  expect: { timeout: 45_000 },
  outputDir: '../../test-results/browser',
  use: {
    baseURL: addresses[Number(process.env.TEST_PARALLEL_INDEX ?? 0)],
    actionTimeout: 45_000,
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.SLEUTH_CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        // The certificate of deploy.spec, made for the run: of no other is an error passed over.
        ...(process.env.SLEUTH_TLS_SPKI
          ? [`--ignore-certificate-errors-spki-list=${process.env.SLEUTH_TLS_SPKI}`]
          : []),
      ],
    },
  },
});
