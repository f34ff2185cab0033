import { vi } from 'vitest';

/** Machines are shared: what takes a tenth of a second alone once took more than the one second of the default. */
const PATIENCE_MS = 30_000;

/** Asks again and again until nothing is thrown. @returns what was answered then */
export const soon = <T>(ask: () => T | Promise<T>): Promise<T> =>
  vi.waitFor(ask, { timeout: PATIENCE_MS, interval: 30 });
