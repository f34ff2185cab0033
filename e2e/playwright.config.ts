import { defineConfig } from '@playwright/test';

/** Two cores, two workers: each has a browser, a server and a PostgreSQL of its own, since clipboard and floating window are
 * shared by a whole browser. */
// Tests wait for what is made of pictures; people do not. Servers inherit it.
process.env.JOBS_IN_HASTE = '1';

export default defineConfig({
  testDir: './tests',
  globalSetup: './support/template.ts',
  outputDir: '../.cache/test-results',
  workers: 2,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  forbidOnly: true,
});
