import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));

export default defineConfig({
  root: here('src'),
  publicDir: here('public'),
  base: './',
  build: {
    target: 'es2022',
    outDir: here('dist'),
    emptyOutDir: true,
    modulePreload: false,
    rolldownOptions: {
      input: {
        background: here('src/background.ts'),
        options: here('src/options.html'),
        popup: here('src/popup.html'),
      },
      output: { entryFileNames: '[name].js', chunkFileNames: '[name].js', assetFileNames: '[name][extname]' },
    },
  },
});
