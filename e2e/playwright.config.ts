import { defineConfig } from '@playwright/test';

// Tests wait for what is made of pictures; people do not. Servers inherit it.
process.env.JOBS_IN_HASTE = '1';

export default defineConfig({
  testDir: './tests',
  globalSetup: './support/template.ts',
  outputDir: '../.cache/test-results',
  // Each has a browser, a server and a PostgreSQL of its own.
  workers: 2,
  // A test that needs a second run is a defect to be found; `npm test` runs it once more, and names it.
  retries: 0,
  fullyParallel: false,
  timeout: 180_000,
  expect: { timeout: 30_000 },
  reporter: [['list']],
  forbidOnly: true,
});
