import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { announceDemoTemplate, demoTemplate } from './demo-template.ts';

/** Specs that start from the demo; a run without them does not take it in. */
const STARTS_FROM_DEMO = /sort|demo/;

/**
 * Before all browser tests: one `initdb`, from which every throwaway cluster is copied; and behind the first tests, the
 * demo is taken in once for those that need it.
 */
export default async function setup(): Promise<() => Promise<void>> {
  const { bundleServer } = (await import(
    fileURLToPath(new URL('../../scripts/build.mjs', import.meta.url))
  )) as {
    bundleServer(): Promise<void>;
  };
  await bundleServer();
  const { makeThrowawayTemplate, TEMPLATE_VARIABLE } = (await import(
    fileURLToPath(new URL('../../scripts/postgres.mjs', import.meta.url))
  )) as { makeThrowawayTemplate(): string; TEMPLATE_VARIABLE: string };
  const empty = makeThrowawayTemplate();
  process.env[TEMPLATE_VARIABLE] = empty;
  const withDemo = mkdtempSync(join(tmpdir(), 'miradero-pg-demo-'));
  announceDemoTemplate(withDemo);
  const chosen = process.argv.slice(3).filter((argument) => /^[a-z]/i.test(argument));
  const isWanted = chosen.length === 0 || chosen.some((argument) => STARTS_FROM_DEMO.test(argument));
  // Whoever waits for it hears of a failure.
  const made = isWanted ? demoTemplate().catch(() => {}) : Promise.resolve();
  return async () => {
    await made;
    for (const folder of [empty, withDemo]) rmSync(folder, { recursive: true, force: true });
  };
}
