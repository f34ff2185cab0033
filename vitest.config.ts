import { defineConfig } from 'vitest/config';

/** Machines are shared: a property of a hundred runs once took longer than the five seconds of the default. */
const PATIENCE = { testTimeout: 60_000, hookTimeout: 60_000 };

export default defineConfig({
  test: {
    // Files of the server have a database each, in one cluster.
    maxWorkers: 2,
    projects: [
      { test: { name: 'core', root: 'core', include: ['src/**/*.test.ts'], ...PATIENCE } },
      {
        test: {
          name: 'server',
          root: 'server',
          include: ['src/**/*.test.ts'],
          globalSetup: ['src/test/database.ts'],
          // Jobs that let everything else go first are never done while other tests run.
          env: { JOBS_IN_HASTE: '1' },
          ...PATIENCE,
        },
      },
      {
        test: {
          name: 'demo',
          root: 'demo',
          include: ['**/*.test.ts'],
          ...PATIENCE,
        },
      },
      { test: { name: 'web', root: 'web', include: ['src/**/*.test.ts'], ...PATIENCE } },
    ],
  },
});
