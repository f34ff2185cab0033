import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';

/** Programs that run beside the server, by where their source is. */
const SOURCES = {
  jobs: './job-process.ts',
  decoder: './pixels/decoding/child.ts',
} as const;

/** How the viewer of board files is bundled; the start command does the same. */
const VIEWER_BUILD = { bundle: true, minify: true, format: 'iife', target: 'es2022' } as const;

/** From its sources (by tsx, in development), or from the bundle that the start command builds. */
const isBundle = !import.meta.url.endsWith('.ts');

/** The viewer that goes into board files. */
export const viewerProgram = (): Promise<string> => handedOut('viewer');
/** The page of those who look at a board by a link. */
export const lookerProgram = (): Promise<string> => handedOut('looker');

const HANDED_OUT = {
  viewer: new URL('../../web/src/viewer/viewer.ts', import.meta.url),
  looker: new URL('../../web/src/viewer/looker.ts', import.meta.url),
};
const made = new Map<string, Promise<string>>();

/** A script for browsers: from the bundle; in development it is bundled when it is asked for first. */
function handedOut(name: keyof typeof HANDED_OUT): Promise<string> {
  const known = made.get(name) ?? read(name);
  made.set(name, known);
  known.catch(() => made.delete(name));
  return known;
}

async function read(name: keyof typeof HANDED_OUT): Promise<string> {
  if (isBundle) return readFile(new URL(`./${name}.js`, import.meta.url), 'utf8');
  const { build } = await import('esbuild');
  const source = fileURLToPath(HANDED_OUT[name]);
  const { outputFiles } = await build({ ...VIEWER_BUILD, entryPoints: [source], write: false });
  return outputFiles[0]!.text;
}

/** What `fork` needs to run one of them the way this program runs itself. */
export const programOf = (name: keyof typeof SOURCES): { path: string; execArgv: string[] } =>
  isBundle
    ? { path: fileURLToPath(new URL(`./${name}.js`, import.meta.url)), execArgv: ['--enable-source-maps'] }
    : {
        path: fileURLToPath(new URL(SOURCES[name], import.meta.url)),
        execArgv: ['--import', import.meta.resolve('tsx')],
      };
