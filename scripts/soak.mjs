import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from './build.mjs';
import { checkNode, installModules, installPackages } from './install.mjs';
import { run } from './run.mjs';

/**
 * `npm run soak [-- part [count seed]]`: what takes longer than a test may. Parts: `kill` (server and PostgreSQL killed
 * while five write), `fuzz` (a hundred thousand requests of any kind), `hand` (ten thousand random actions against the
 * model in core, memory watched); all of them without a word. What each came to is written to docs/soak.md.
 */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const [part, count, seed] = process.argv.slice(2);
const given = [count, seed].filter((value) => value !== undefined);
const script = (name) => ({
  args: ['--import', 'tsx', `soak/${name}.ts`, ...given],
  options: { cwd: join(ROOT, 'e2e') },
});
const PARTS = {
  kill: script('kill'),
  fuzz: {
    args: ['node_modules/vitest/vitest.mjs', 'run', '--project', 'server', 'src/http/fuzz.test.ts'],
    options: {
      cwd: ROOT,
      env: {
        ...process.env,
        FUZZ_REQUESTS: count ?? '100000',
        FUZZ_SEED: seed ?? String(Date.now() % 1_000_000),
      },
    },
  },
  hand: script('run'),
};

if (part !== undefined && !(part in PARTS)) {
  console.error(`soak: the parts are ${Object.keys(PARTS).join(', ')}`);
  process.exit(1);
}
checkNode();
await installPackages('postgresql-15', 'chromium');
await installModules(ROOT);
await build(ROOT);
for (const name of part === undefined ? Object.keys(PARTS) : [part]) {
  console.log(`\n── soak: ${name}`);
  const { args, options } = PARTS[name];
  const status = await run(process.execPath, args, options);
  if (status !== 0) process.exit(status);
}
