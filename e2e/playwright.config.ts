import { defineConfig } from '@playwright/test';

/**
 * One worker for now: with two (each with a browser, a server and a PostgreSQL of its own) two races of tests and product
 * came to light in one of three runs; they are mended, which is not yet proven by runs enough.
 */
// Tests wait for what is made of pictures; people do not. Servers inherit it.
process.env.JOBS_IN_HASTE = '1';

export default defineConfig({
  testDir: './tests',
  globalSetup: './support/template.ts',
  outputDir: '../.cache/test-results',
  workers: 1,
  // Listed as flaky where it is needed: a defect to be found, not a pass.
  retries: 1,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  forbidOnly: true,
});
