import { readdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { checkNode, installModules, installPackages } from './install.mjs';
import { run } from './run.mjs';

/** `npm test`: set-up, then everything that can fail, cheapest first. */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const node = (...args) => [process.execPath, args];
const own = readdirSync(join(ROOT, 'scripts')).filter((name) => name.endsWith('.test.mjs'));

const STEPS = [
  ['lint', ROOT, node('node_modules/@biomejs/biome/bin/biome', 'check', '--error-on-warnings', '.')],
  ['types', ROOT, node('scripts/types.mjs')],
  ['architecture', ROOT, node('scripts/architecture.mjs')],
  ['scripts', ROOT, node('--test', ...own.map((name) => `scripts/${name}`))],
  ['core, server, demo, web', ROOT, node('node_modules/vitest/vitest.mjs', 'run')],
  ['build', ROOT, node('scripts/build.mjs')],
  // One test of hundreds that a busy machine broke is run once more, and named at the end as flaky: a defect to be found.
  ['browser', join(ROOT, 'e2e'), node('../node_modules/@playwright/test/cli.js', 'test', '--retries', '1')],
];

async function main() {
  checkNode();
  await installPackages('postgresql-15', 'chromium');
  await installModules(ROOT);
  for (const [name, cwd, [command, args]] of STEPS) {
    const started = Date.now();
    console.log(`\n── ${name}`);
    if ((await run(command, args, { cwd })) !== 0) throw new Error(`${name}: failed`);
    console.log(`   ${((Date.now() - started) / 1000).toFixed(0)} s`);
  }
  console.log('\neverything passed');
}

main().catch((error) => {
  console.error(error.message);
  process.exit(1);
});
