import { fileURLToPath } from 'node:url';

/** Programs that run beside the server, by where their source is. */
const SOURCES = {
  jobs: './jobs/process.ts',
  decoder: './pixels/decoding/child.ts',
} as const;

/** From its sources (by tsx, in development), or from the bundle that the start command builds. */
const isBundle = !import.meta.url.endsWith('.ts');

/** What `fork` needs to run one of them the way this program runs itself. */
export const programOf = (name: keyof typeof SOURCES): { path: string; execArgv: string[] } =>
  isBundle
    ? { path: fileURLToPath(new URL(`./${name}.js`, import.meta.url)), execArgv: ['--enable-source-maps'] }
    : {
        path: fileURLToPath(new URL(SOURCES[name], import.meta.url)),
        execArgv: ['--import', import.meta.resolve('tsx')],
      };
