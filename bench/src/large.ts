import type { BrowserContext, Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { ADDRESS, inBrowser, middle, root, tsx } from './browser';
import { compare, count, note, report, short } from './measure';

const OPENINGS = count(9, 3);
const KEYS = count(40, 5);
const MEMORY_LIMIT = 400e6;

/** What the page remembers for us: when Today was all there, and how long each key press took to be seen. */
declare global {
  interface Window {
    shownAt: number;
    keyTimes: number[];
  }
}

/** A workspace of 250,000 entries over five years against an empty one, both in Chromium in the same run. */
export async function benchLarge(): Promise<void> {
  await inBrowser(async (context, folder) => {
    const file = join(folder, 'large.zip');
    const size = short ? [] : ['--large'];
    note(execFileSync(tsx, ['cli/src/main.ts', 'demo', file, ...size], { cwd: root, encoding: 'utf8' }).trim());
    const page = await preparedPage(context);
    await startEmpty(page);
    const empty = await openings(page);
    const bare = await bareKeys(context);
    await takeIn(page, file);
    const full = await openings(page);
    report('Today with 250,000 entries', full, 'with none', empty, 1.5);
    report('A key press in the week', await weekKeys(page), 'in a bare field', bare, 1.1);
    const bytes = await memory(page);
    const megabytes = (value: number) => `${Math.round(value / 1e6)} MB`;
    compare({
      what: 'Memory of the page',
      own: megabytes(bytes),
      peer: 'limit',
      other: megabytes(MEMORY_LIMIT),
      ratio: bytes / MEMORY_LIMIT,
      aim: 1,
    });
  });
}

// As text: what the loader adds to functions is not there in the page.
const WATCH = `
  new MutationObserver(() => {
    if (window.shownAt || !document.body) return;
    const list = document.querySelector('[aria-label^="Entries of"]');
    if (list || document.body.textContent.includes('Nothing is recorded on this day yet')) window.shownAt = performance.now();
  }).observe(document, { childList: true, subtree: true });
  window.keyTimes = [];
  // After the frame in which the key press is seen.
  document.addEventListener('keydown', () => {
    const pressed = performance.now();
    requestAnimationFrame(() => {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = () => window.keyTimes.push(performance.now() - pressed);
      port2.postMessage(null);
    });
  }, { capture: true });
`;

async function preparedPage(context: BrowserContext): Promise<Page> {
  await context.addInitScript({ content: WATCH });
  const page = context.pages()[0] ?? (await context.newPage());
  await page.goto(`${ADDRESS}/today`);
  await page.waitForFunction(() => window.shownAt > 0, null, { timeout: 120_000 });
  return page;
}

async function startEmpty(page: Page): Promise<void> {
  await page.goto(`${ADDRESS}/start`);
  await page.getByLabel('Your name').fill('Imogen Vale');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await page.waitForURL('**/today');
}

async function takeIn(page: Page, file: string): Promise<void> {
  await page.goto(`${ADDRESS}/setup/data`);
  const start = performance.now();
  await page.getByLabel('Workspace file').setInputFiles(file);
  await page.waitForURL('**/today', { timeout: 900_000 });
  note(`Taken into the browser in ${Math.round((performance.now() - start) / 1000)} s`);
}

/** Milliseconds from the beginning of the load until the day's list is there. */
async function openings(page: Page): Promise<number> {
  const times: number[] = [];
  for (let opening = 0; opening < OPENINGS; opening++) {
    await page.goto(`${ADDRESS}/today`);
    await page.waitForFunction(() => window.shownAt > 0, null, { timeout: 60_000 });
    if (opening >= 2) times.push(await page.evaluate(() => window.shownAt));
  }
  return middle(times);
}

async function pressKeys(page: Page): Promise<number> {
  for (let key = 0; key < KEYS; key++) await page.keyboard.press(String(key % 10));
  await page.waitForTimeout(200);
  return middle(await page.evaluate(() => window.keyTimes));
}

async function weekKeys(page: Page): Promise<number> {
  await page.goto(`${ADDRESS}/week`);
  await page.locator('[data-place="0:0"]').focus();
  return pressKeys(page);
}

async function bareKeys(context: BrowserContext): Promise<number> {
  const page = await context.newPage();
  // Written into an open page, the field would take the watching listeners away.
  await page.goto('data:text/html,<input autofocus>');
  await page.locator('input').focus();
  const time = await pressKeys(page);
  await page.close();
  return time;
}

async function memory(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send('HeapProfiler.collectGarbage');
  const { usedSize } = await session.send('Runtime.getHeapUsage');
  return usedSize;
}
