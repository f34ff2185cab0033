import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // Files of the server have a database each, in one cluster; they wait more than they compute.
    maxWorkers: 3,
    projects: [
      { test: { name: 'core', root: 'core', include: ['src/**/*.test.ts'] } },
      {
        test: {
          name: 'server',
          root: 'server',
          include: ['src/**/*.test.ts'],
          globalSetup: ['src/test/database.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'demo',
          root: 'demo',
          include: ['**/*.test.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
        },
      },
      { test: { name: 'web', root: 'web', include: ['src/**/*.test.ts'] } },
    ],
  },
});
