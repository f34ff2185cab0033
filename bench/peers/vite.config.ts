import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const page = (name: string) => fileURLToPath(new URL(`./${name}.html`, import.meta.url));

export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  build: {
    outDir: '../dist',
    emptyOutDir: true,
    target: 'es2023',
    chunkSizeWarningLimit: 2000,
    rolldownOptions: { input: ['konva', 'pixi', 'blit', 'ink'].map(page) },
  },
});
