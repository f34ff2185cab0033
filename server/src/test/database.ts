import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
  }
}

interface Throwaway {
  readonly url: string;
  stop(): Promise<void>;
}

/** One throwaway cluster for a run of the server's tests; every test file makes a database of its own in it. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const scripts = new URL('../../../scripts/postgres.mjs', import.meta.url).href;
  const { startThrowawayPostgres } = (await import(scripts)) as {
    startThrowawayPostgres(): Promise<Throwaway>;
  };
  const postgres = await startThrowawayPostgres();
  project.provide('databaseUrl', postgres.url);
  return () => postgres.stop();
}
