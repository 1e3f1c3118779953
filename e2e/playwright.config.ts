import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defineConfig } from '@playwright/test';
import { PORT } from './src/address';
import { launch } from './src/chromium';

// The tests' own processes read what the server keeps there.
const data = (process.env.E2E_DATA ??= mkdtempSync(join(tmpdir(), 'half-penny-e2e-')));

export default defineConfig({
  testDir: './src',
  // Long enough for a machine that others keep busy: what passes does not wait.
  timeout: 180_000,
  expect: { timeout: 20_000 },
  workers: 2,
  fullyParallel: true,
  outputDir: '../test-results',
  reporter: process.env.E2E_REPORT ? [['list'], ['json', { outputFile: process.env.E2E_REPORT }]] : 'list',
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    timezoneId: 'Europe/London',
    locale: 'en-GB',
    launchOptions: launch,
    acceptDownloads: true,
    // What it fetches ahead for later is only in the way here; the test without a network allows it.
    serviceWorkers: 'block',
  },
  webServer: {
    command: 'node_modules/.bin/tsx server/src/main.ts',
    cwd: '..',
    env: { PORT: String(PORT), HALF_PENNY_DATA: data },
    url: `http://127.0.0.1:${PORT}`,
    reuseExistingServer: false,
  },
});
