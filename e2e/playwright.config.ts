import { defineConfig } from '@playwright/test';

export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

const PAGES = ['looks.spec.ts', 'walk.spec.ts'];

export default defineConfig({
  testDir: '.',
  projects: [
    // Looks at pages and changes next to nothing, so that these can run beside each other.
    { name: 'pages', testMatch: PAGES, fullyParallel: true },
    { name: 'jobs', testMatch: '*.spec.ts', testIgnore: PAGES },
  ],
  workers: 1,
  timeout: 60_000,
  expect: { timeout: 8_000 },
  reporter: [['list'], ['./recap.ts']],
  globalSetup: './setup.ts',
  outputDir: '../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    launchOptions: { executablePath: '/usr/bin/chromium', args: CHROMIUM_ARGS },
    trace: 'off',
    screenshot: 'only-on-failure',
  },
});
