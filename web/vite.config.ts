import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { build, defineConfig, type Plugin, type Rolldown, type UserConfig } from 'vite';

const ROOT = fileURLToPath(new URL('.', import.meta.url));

/** What of the rooms a page needs before it shows anything, by a pattern of its path; keys and undo stand around all. */
const HOST = 'src/app/command-host.tsx';
const PAGE_MODULES: Readonly<Record<string, readonly string[]>> = {
  '^/boards/': ['src/boards/board-page.tsx', HOST],
  '^/(?:boards)?$': ['src/boards/boards-page.tsx', HOST],
  '^/library|^/sources': ['src/library/pages/library-page.tsx', HOST],
  '^/subjects': ['src/subjects/subjects-page.tsx', HOST],
  '^/(?:landing|bring|clip)': ['src/gather/pages/landing-page.tsx', HOST],
  '^/settings': ['src/owner/settings-page.tsx', HOST],
  '^/perch/': ['src/perch/perch-page.tsx'],
};
/** Of the first paint; others are asked for when a letter needs them. */
const FONTS = /(?:instrument-sans|newsreader|jetbrains-mono)-latin-wght-normal/;

type Chunk = Pick<Rolldown.OutputChunk, 'fileName' | 'imports' | 'moduleIds'>;

/** A file and all that it imports at once. */
function withImports(byFile: ReadonlyMap<string, Chunk>, file: string, all = new Set<string>()): Set<string> {
  if (all.has(file)) return all;
  all.add(file);
  for (const next of byFile.get(file)?.imports ?? []) withImports(byFile, next, all);
  return all;
}

function chunkOf<C extends Chunk>(chunks: readonly C[], module: string): C {
  const chunk = chunks.find(({ moduleIds }) => moduleIds.includes(`${ROOT}${module}`));
  if (!chunk) throw new Error(`${module} is in no chunk`);
  return chunk;
}

/** Writes `preloads.json`, from which the server names in each page what it will need: asked for while the entry is read. */
function preloads(): Plugin {
  return {
    name: 'preloads',
    generateBundle(_options, bundle) {
      const chunks = Object.values(bundle).filter((one) => one.type === 'chunk');
      const byFile = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
      const entry = withImports(byFile, chunks.find(({ isEntry }) => isEntry)!.fileName);
      const pages = Object.entries(PAGE_MODULES).map(([path, modules]) => {
        const files = new Set<string>();
        for (const module of modules) withImports(byFile, chunkOf(chunks, module).fileName, files);
        return { path, scripts: [...files].filter((file) => !entry.has(file)) };
      });
      const fonts = Object.keys(bundle).filter((file) => FONTS.test(file));
      this.emitFile({ type: 'asset', fileName: 'preloads.json', source: JSON.stringify({ pages, fonts }) });
    },
  };
}

const REACT = /node_modules\/(?:react|react-dom|scheduler)\/|rolldown.runtime/;
const SHARED: UserConfig = {
  root: ROOT,
  plugins: [react(), tailwindcss()],
  worker: { format: 'es' },
};

/**
 * The modules that a board needs beyond the entry. By themselves they fall into as many files as there are ways in which
 * other pages share them, and each file costs a browser on two cores about fifteen milliseconds: they are made one.
 * Which they are is known when everything was bundled once.
 */
async function modulesOfBoards(): Promise<ReadonlySet<string>> {
  const built = await build({ ...SHARED, configFile: false, logLevel: 'silent', build: { write: false } });
  const { output } = built as Rolldown.RolldownOutput;
  const chunks = output.filter((one) => one.type === 'chunk');
  const byFile = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
  const entry = withImports(byFile, chunks.find(({ isEntry }) => isEntry)!.fileName);
  const board = new Set(
    PAGE_MODULES['^/boards/']!.flatMap((module) => [
      ...withImports(byFile, chunkOf(chunks, module).fileName),
    ]),
  );
  const files = [...board].filter((file) => !entry.has(file));
  return new Set(files.flatMap((file) => byFile.get(file)!.moduleIds));
}

export default defineConfig(async ({ command }) => {
  const ofBoards = command === 'build' ? await modulesOfBoards() : new Set<string>();
  return {
    ...SHARED,
    plugins: [...SHARED.plugins!, preloads()],
    // Fonts and icons stay files: a strict policy for styles and fonts forbids data addresses.
    build: {
      ...{ assetsInlineLimit: 0, target: 'es2023', chunkSizeWarningLimit: 900 },
      rolldownOptions: {
        output: {
          codeSplitting: {
            includeDependenciesRecursively: false,
            groups: [
              // Alters only with its package: a browser keeps it over versions of ours.
              { name: 'react', test: REACT },
              { name: 'board', test: (id: string) => ofBoards.has(id) },
            ],
          },
        },
      },
    },
    server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4870' } },
  };
});
