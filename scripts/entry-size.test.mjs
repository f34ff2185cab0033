import assert from 'node:assert/strict';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test } from 'node:test';
import { entryChunks, MOST, sizesOf } from './entry-size.mjs';

/** A built interface of these chunks. */
function built(chunks) {
  const folder = mkdtempSync(join(tmpdir(), 'miradero-built-'));
  mkdirSync(join(folder, 'assets'));
  writeFileSync(
    join(folder, 'index.html'),
    '<script type="module" crossorigin src="/assets/entry.js"></script>',
  );
  for (const [file, code] of Object.entries(chunks)) writeFileSync(join(folder, 'assets', file), code);
  return folder;
}

test('what the entry imports counts, through others and once; what it asks for later does not', async () => {
  const folder = built({
    'entry.js': 'import{a as b}from"./one.js";import"./two.js";const c=()=>import("./later.js");',
    'one.js': 'import{t}from"./two.js";export{t};',
    'two.js': 'export const t=1;',
    'later.js': 'export{}',
  });
  assert.deepEqual([...entryChunks(folder).sizes.keys()].sort(), ['entry.js', 'one.js', 'two.js']);
  rmSync(folder, { recursive: true });
});

test('an entry that has grown too large is refused, alone and with what it imports', async () => {
  const large = built({ 'entry.js': `const a="${'x'.repeat(MOST.entry)}";` });
  await assert.rejects(sizesOf(large), /the entry is 300 kB/);
  const heavy = built({
    'entry.js': 'import{x}from"./one.js";',
    'one.js': `export const x="${'x'.repeat(MOST.withImports)}";`,
  });
  await assert.rejects(sizesOf(heavy), /with its imports/);
  for (const folder of [large, heavy]) rmSync(folder, { recursive: true });
});
