import { dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import { run } from './run.mjs';

/** Checks the types of every room. `core` alone is checked twice: without DOM and Node, then with its tests. */
const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const PROJECTS = ['core', 'core/tsconfig.test.json', 'server', 'web', 'demo', 'e2e', 'bench'];

let failures = 0;
for (const project of PROJECTS) {
  failures +=
    (await run(process.execPath, ['node_modules/typescript/bin/tsc', '-p', project], { cwd: ROOT })) === 0
      ? 0
      : 1;
}
process.exit(failures === 0 ? 0 : 1);
