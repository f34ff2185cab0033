import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from './build.mjs';
import { checkNode, installModules, installPackages } from './install.mjs';
import { run } from './run.mjs';

/** `npm run bench`: builds the interface and the peer pages, measures, writes docs/benchmarks.md. */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

checkNode();
await installPackages('postgresql-15', 'chromium');
await installModules(ROOT);
await build(ROOT);
const vite = [
  join(ROOT, 'node_modules/vite/bin/vite.js'),
  'build',
  '--config',
  'peers/vite.config.ts',
  '--logLevel',
  'warn',
];
const bench = join(ROOT, 'bench');
if ((await run(process.execPath, vite, { cwd: bench })) !== 0) process.exit(1);
process.exit(
  await run(process.execPath, ['--import', 'tsx', 'run.ts', ...process.argv.slice(2)], { cwd: bench }),
);
