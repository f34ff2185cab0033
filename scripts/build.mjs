import { existsSync, rmSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { sizesOf } from './entry-size.mjs';
import { newestIn } from './newest.mjs';
import { run } from './run.mjs';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

/** Where the server starts from. */
export const SERVER = 'server/dist/main.js';

/** Ours goes into the bundle; packages stay where npm put them: some hold native code and files of their own. */
const packagesOutside = {
  name: 'packages-outside',
  setup(build) {
    build.onResolve({ filter: /^[^./]/ }, ({ path, kind }) =>
      kind === 'entry-point' || path.startsWith('@miradero/') ? undefined : { path, external: true },
    );
  },
};

/** Bundles the server, its jobs and its decoder, where a source is newer than the last bundle. */
export async function bundleServer(root = ROOT) {
  const main = join(root, SERVER);
  const folders = ['server', 'core', 'web/src/viewer'];
  const sources = Math.max(...folders.map((folder) => newestIn(join(root, folder))));
  if (existsSync(main) && statSync(main).mtimeMs >= sources) return;
  const { build } = await import('esbuild');
  rmSync(dirname(main), { recursive: true, force: true });
  await build({
    absWorkingDir: root,
    entryPoints: {
      jobs: 'server/src/job-process.ts',
      decoder: 'server/src/pixels/decoding/child.ts',
      main: 'server/src/main.ts',
    },
    outdir: dirname(main),
    plugins: [packagesOutside],
    ...{ bundle: true, splitting: true, sourcemap: true, logLevel: 'warning' },
    ...{ platform: 'node', format: 'esm', target: 'node20' },
  });
  // The viewer of board files and the page of a link: scripts for browsers that the server hands out.
  await build({
    absWorkingDir: root,
    entryPoints: { viewer: 'web/src/viewer/viewer.ts', looker: 'web/src/viewer/looker.ts' },
    outdir: dirname(main),
    ...{ bundle: true, minify: true, format: 'iife', target: 'es2022', logLevel: 'warning' },
  });
}

/** Builds the interface where a source is newer than the last build. */
async function buildInterface(root, say) {
  const page = join(root, 'web/dist/index.html');
  const sources = Math.max(newestIn(join(root, 'web')), newestIn(join(root, 'core')));
  if (existsSync(page) && statSync(page).mtimeMs >= sources) return;
  say('building the interface …');
  const vite = ['../node_modules/vite/bin/vite.js', 'build', '--logLevel', 'warn'];
  if ((await run(process.execPath, vite, { cwd: join(root, 'web') })) !== 0)
    throw new Error('The interface could not be built; what was printed above says why.');
}

/** Everything that has to be built before the server can start. */
export async function build(root = ROOT, say = console.log) {
  await Promise.all([buildInterface(root, say), bundleServer(root)]);
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  await build();
  for (const line of await sizesOf(join(ROOT, 'web/dist'))) console.log(`   ${line}`);
}
