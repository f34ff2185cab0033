import { rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

/** Before all browser tests: one `initdb`, from which every throwaway cluster is copied. */
export default async function setup(): Promise<() => void> {
  const { makeThrowawayTemplate, TEMPLATE_VARIABLE } = (await import(
    fileURLToPath(new URL('../../scripts/postgres.mjs', import.meta.url))
  )) as { makeThrowawayTemplate(): string; TEMPLATE_VARIABLE: string };
  const folder = makeThrowawayTemplate();
  process.env[TEMPLATE_VARIABLE] = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
