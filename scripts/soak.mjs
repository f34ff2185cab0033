import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { checkNode, installModules, installPackages } from './install.mjs';
import { run } from './run.mjs';
import { build } from './start.mjs';

/** `npm run soak [-- count seed]`: random actions against the model in core, memory watched; writes docs/soak.md. */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

checkNode();
await installPackages('postgresql-15', 'chromium');
await installModules(ROOT);
await build(ROOT);
const args = ['--import', 'tsx', 'soak/run.ts', ...process.argv.slice(2)];
process.exit(await run(process.execPath, args, { cwd: join(ROOT, 'e2e') }));
