import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { fileURLToPath } from 'node:url';
import { defineConfig, type Plugin } from 'vite';
import { clientPageScript } from '../scripts/client-page-script.mjs';

const FIRST = new RegExp(
  [
    'web/src/parts/(figures|page|swatch|field|spans|editing|coin|coin-button|jobs|job-picker|hour-page|button|slip|owed-fill|days',
    'tallies|services|use-later|scroll-context|opener|ledger|day-field|bar|print|tag-words)\\.tsx?$',
  ].join('|') +
    '|web/src/state/|web/src/data/(secret|opening|in-words|session|queries|ready|ready-reports)\\.|web/src/app/(presence|sections|boot|fallen|shell|routes)\\.',
);

const PRODUCTION_ROUTER = fileURLToPath(
  new URL('../node_modules/react-router/dist/production/index.mjs', import.meta.url),
);

/** Spreadsheet packages zip and unzip without workers of their own; see the file that stands in. */
const inPlace: Plugin = {
  name: 'fflate-in-place',
  enforce: 'pre',
  resolveId: (source, importer) =>
    source === 'fflate' && /(?:read|write)-excel-file/.test(importer ?? '')
      ? fileURLToPath(new URL('src/workers/fflate-in-place.ts', import.meta.url))
      : null,
};

const NODE_ONLY = new Set([
  'child_process',
  'fs',
  'path',
  'url',
  'tmp-promise',
  '@e965/xlsx',
  'ajv/dist/2019',
  '@esgettext/runtime',
]);

/** Electronic invoices are written without what their library needs elsewhere only; see the file that stands in. */
const withoutNode: Plugin = {
  name: 'e-invoice-without-node',
  enforce: 'pre',
  resolveId: (source, importer) =>
    NODE_ONLY.has(source) && /@e-invoice-eu/.test(importer ?? '')
      ? fileURLToPath(new URL('src/workers/not-in-a-browser.ts', import.meta.url))
      : null,
};

/** The Swiss payment part is put together as text: a worker has no document that its library could put elements into. */
const svgAsText: Plugin = {
  name: 'svg-as-text',
  enforce: 'pre',
  resolveId: (source) =>
    source === 'svg-engine'
      ? fileURLToPath(new URL('../node_modules/svg-engine/lib/node/esm/index.js', import.meta.url))
      : null,
};

export default defineConfig(({ command }) => ({
  // Its package offers bundlers the development build alone.
  resolve: {
    alias: command === 'build' ? [{ find: /^react-router$/, replacement: PRODUCTION_ROUTER }] : [],
  },
  plugins: [inPlace, react(), tailwindcss()],
  server: { host: '127.0.0.1', port: 4351 },
  worker: { format: 'es', plugins: () => [inPlace, withoutNode, svgAsText, clientPageScript()] },
  build: {
    target: 'es2022',
    sourcemap: false,
    chunkSizeWarningLimit: 2000,
    // What every first look needs stands in one file: many small ones compress worse and are asked for one by one.
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: 'first', test: FIRST }] } } },
  },
}));
