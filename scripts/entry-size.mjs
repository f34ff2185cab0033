import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

const KB = 1_000;
/** Of what is loaded before anything is shown: the chunk of ours that the page names, and all that it needs at once. */
export const MOST = { entry: 300 * KB, withImports: 450 * KB };

/** Chunks that a chunk imports at once, not those that it asks for later. */
const importsOf = (code) =>
  [
    ...code.matchAll(/(?:^|[;}\n])\s*(?:import|export)\s*(?:[\w$*{},\s]+\s*from\s*)?"\.\/([\w.-]+\.js)"/g),
  ].map(([, file]) => file);

/** The entry of a built interface and everything that it imports, by file, in bytes. @param folder - `web/dist` */
export function entryChunks(folder) {
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  const entry = page.match(/<script type="module"[^>]*src="\/assets\/([\w.-]+\.js)"/)?.[1];
  if (!entry) throw new Error('the page names no entry');
  const sizes = new Map();
  const add = (file) => {
    if (sizes.has(file)) return;
    const path = join(folder, 'assets', file);
    sizes.set(file, statSync(path).size);
    for (const next of importsOf(readFileSync(path, 'utf8'))) add(next);
  };
  add(entry);
  return { entry, sizes };
}

/** @returns what was measured, in words @throws Error where something is larger than it may be */
export async function sizesOf(folder) {
  const { entry, sizes } = entryChunks(folder);
  const own = sizes.get(entry);
  const all = [...sizes.values()].reduce((sum, size) => sum + size, 0);
  const inKb = (bytes) => `${Math.round(bytes / KB)} kB`;
  if (own > MOST.entry) throw new Error(`the entry is ${inKb(own)}; it may be ${inKb(MOST.entry)}`);
  if (all > MOST.withImports)
    throw new Error(`the entry with its imports is ${inKb(all)}; it may be ${inKb(MOST.withImports)}`);
  return [`entry ${inKb(own)}, with what it needs at once ${inKb(all)}`];
}
