import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from './build.mjs';
import { checkNode, installModules, installPackages } from './install.mjs';
import { run } from './run.mjs';

/** `npm run screenshots [-- name …]`: makes docs/screenshots from the demo data. */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

checkNode();
await installPackages('postgresql-15', 'chromium');
await installModules(ROOT);
await build(ROOT);
const take = ['--import', 'tsx', 'screenshots.ts', ...process.argv.slice(2)];
process.exit(await run(process.execPath, take, { cwd: join(ROOT, 'e2e') }));
