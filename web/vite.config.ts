import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

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

/** Writes `preloads.json`, from which the server names in each page what it will need: asked for while the entry is read. */
function preloads(): Plugin {
  return {
    name: 'preloads',
    generateBundle(_options, bundle) {
      const chunks = Object.values(bundle).filter((one) => one.type === 'chunk');
      const byFile = new Map(chunks.map((chunk) => [chunk.fileName, chunk]));
      const withImports = (file: string, all = new Set<string>()): Set<string> => {
        if (all.has(file)) return all;
        all.add(file);
        for (const next of byFile.get(file)?.imports ?? []) withImports(next, all);
        return all;
      };
      const entry = withImports(chunks.find(({ isEntry }) => isEntry)!.fileName);
      const pages = Object.entries(PAGE_MODULES).map(([path, modules]) => {
        const files = new Set<string>();
        for (const module of modules) {
          const chunk = chunks.find(({ moduleIds }) => moduleIds.includes(`${ROOT}${module}`));
          if (!chunk) this.error(`${module} is in no chunk`);
          withImports(chunk.fileName, files);
        }
        return { path, scripts: [...files].filter((file) => !entry.has(file)) };
      });
      const fonts = Object.keys(bundle).filter((file) => FONTS.test(file));
      this.emitFile({ type: 'asset', fileName: 'preloads.json', source: JSON.stringify({ pages, fonts }) });
    },
  };
}

export default defineConfig({
  plugins: [react(), tailwindcss(), preloads()],
  // Fonts and icons stay files: a strict policy for styles and fonts forbids data addresses.
  build: {
    ...{ assetsInlineLimit: 0, target: 'es2023', chunkSizeWarningLimit: 900 },
    rolldownOptions: {
      // Alters only with its package: a browser keeps it over versions of ours.
      output: {
        codeSplitting: { groups: [{ name: 'react', test: /node_modules\/(?:react|react-dom|scheduler)\// }] },
      },
    },
  },
  worker: { format: 'es' },
  server: { host: '127.0.0.1', proxy: { '/api': 'http://127.0.0.1:4870' } },
});
