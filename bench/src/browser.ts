import { chromium, type BrowserContext } from '@playwright/test';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('../..', import.meta.url));
export const tsx = join(root, 'node_modules/.bin/tsx');
const PORT = 4379;
export const ADDRESS = `http://127.0.0.1:${PORT}`;

/** The built application in a Chromium of its own, with a folder for files; all of it is gone afterwards. */
export async function inBrowser(task: (context: BrowserContext, folder: string) => Promise<void>): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'half-penny-bench-'));
  const server = spawn(tsx, ['server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, PORT: String(PORT), HALF_PENNY_DATA: join(folder, 'data') },
    stdio: 'ignore',
  });
  const context = await chromium.launchPersistentContext(join(folder, 'browser'), {
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--enable-precise-memory-info'],
    viewport: { width: 1280, height: 800 },
  });
  try {
    await answered();
    await lookAround(context);
    await task(context, folder);
  } finally {
    await context.close();
    server.kill();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Makes the demo, as somebody does who looks around. */
async function lookAround(context: BrowserContext): Promise<void> {
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto(ADDRESS);
  await page.getByRole('button', { name: 'Look around' }).click();
  await page.getByRole('contentinfo', { name: 'Till' }).waitFor({ timeout: 120_000 });
}

async function answered(): Promise<void> {
  for (let tries = 0; tries < 100; tries++) {
    const there = await fetch(ADDRESS).then(
      (response) => response.ok,
      () => false,
    );
    if (there) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error('The server did not start.');
}

export const middle = (values: number[]): number => values.sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
