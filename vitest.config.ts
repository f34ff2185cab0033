import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // Files of the server have a database each, in one cluster.
    maxWorkers: 2,
    projects: [
      { test: { name: 'core', root: 'core', include: ['src/**/*.test.ts'] } },
      {
        test: {
          name: 'server',
          root: 'server',
          include: ['src/**/*.test.ts'],
          globalSetup: ['src/test/database.ts'],
          testTimeout: 60_000,
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
