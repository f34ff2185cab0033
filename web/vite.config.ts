import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
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
