import { defineConfig } from '@playwright/test';

/** One worker: clipboard and floating window are shared by a whole browser, and the machine has two cores. */
export default defineConfig({
  testDir: './tests',
  outputDir: '../.cache/test-results',
  workers: 1,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  forbidOnly: true,
});
