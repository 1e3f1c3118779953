import { chromium, type BrowserContext } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PORT } from './address';
import {
  addTime,
  expect,
  expectAxeClean,
  grid,
  lookAround,
  NOW,
  open,
  ready,
  row,
  startEmpty,
  test,
  till,
} from './app';
import { launch } from './chromium';

test('a killed browser loses nothing: the timer still runs, with the right time', async () => {
  const profile = mkdtempSync(join(tmpdir(), 'half-penny-profile-'));
  const start = () =>
    chromium.launchPersistentContext(profile, {
      ...launch,
      baseURL: `http://127.0.0.1:${PORT}`,
      timezoneId: 'Europe/London',
    });
  const visit = async (context: BrowserContext) => {
    const page = await context.newPage();
    await open(page, '/today');
    return page;
  };
  const seconds = (text: string) => text.split(':').reduce((sum, part) => sum * 60 + Number(part), 0);

  let page = await (await start()).newPage();
  await page.goto('/today');
  await lookAround(page);
  await page.keyboard.press('.');
  await page.keyboard.type('Lamp shelf');
  await page.keyboard.press('Enter');
  await expect(till(page).getByRole('button', { name: /Running: Lamp shelf/ })).toBeVisible();
  const before = seconds((await till(page).getByRole('timer').textContent())!);
  const at = Date.now();
  const running = async () => seconds((await till(page).getByRole('timer').textContent())!);
  await expect.poll(running).toBeGreaterThan(before);
  execFileSync('pkill', ['-9', '-f', profile]);

  const context = await start();
  page = await visit(context);
  await expect(till(page).getByRole('button', { name: /Running: Lamp shelf/ })).toBeVisible();
  const after = seconds((await till(page).getByRole('timer').textContent())!);
  const passed = (Date.now() - at) / 1000;
  expect(Math.abs(after - before - passed)).toBeLessThan(10);
  await context.close();
});

test('undo and redo, by key and on the notice, and again after a reload', async ({ page }) => {
  await open(page, '/today');
  const day = grid(page, /^Entries of/);
  await expect(day.getByRole('row').nth(3)).toBeVisible();
  const count = await day.getByRole('row').count();
  await addTime(page, '15m', 'Lamp order');
  await expect(day.getByRole('row')).toHaveCount(count + 1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(day.getByRole('row')).toHaveCount(count);
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await page.keyboard.press('Control+Shift+Z');
  await expect(day.getByText('Lamp order')).toBeVisible();
  await page.reload();
  await ready(page);
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Control+z');
  await expect(day.getByText('Lamp order')).toHaveCount(0);
});

test('what was issued is not undone', async ({ page }) => {
  await open(page, '/billing?standing=draft');
  await grid(page, 'Invoices').getByRole('link').first().click();
  await page.getByRole('button', { name: /^Issue/ }).click();
  await page.getByRole('button', { name: /^Issue SL-/ }).click();
  await expect(page.getByRole('heading', { level: 1, name: /^SL-/ })).toBeVisible();
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/Void it instead, with a reason/).first()).toBeVisible();
});

test('two tabs stay in step', async ({ page, context }) => {
  await open(page, '/today');
  const other = await context.newPage();
  await other.clock.install({ time: new Date('2026-11-12T15:10:00Z') });
  await open(other, '/today');
  await addTime(page, '15m', 'Lamp order');
  await expect(grid(other, /^Entries of/).getByText('Lamp order')).toBeVisible();
  await till(other).getByRole('button', { name: 'Stop the timer' }).click();
  await expect(till(page).getByText('Nothing is running')).toBeVisible();
});

test('everything goes out as a file and comes back, beside what is there', async ({ page }) => {
  await open(page, '/setup/data');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export everything' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('saltmere-lighting-2026-11-12.half-penny.zip');
  const path = join(mkdtempSync(join(tmpdir(), 'half-penny-file-')), 'workspace.zip');
  await download.saveAs(path);
  await addTime(page, '15m', 'Since the export');

  await open(page, '/setup/data');
  const bytes = readFileSync(path);
  const faulty = { name: 'cut.zip', mimeType: 'application/zip', buffer: bytes.subarray(0, bytes.length - 2000) };
  await page.getByLabel('Workspace file').setInputFiles(faulty);
  await expect(page.getByRole('alert')).toContainText('broken or cut off');
  await page
    .getByLabel('Workspace file')
    .setInputFiles({ name: 'note.txt', mimeType: 'text/plain', buffer: Buffer.from('Dear diary') });
  await expect(page.getByRole('alert')).toContainText('not a workspace file');
  await expect(row(page, /Saltmere Lighting/)).toHaveCount(1);

  await page.getByLabel('Workspace file').setInputFiles(path);
  await page.waitForURL('**/today');
  await ready(page);
  await expect(grid(page, /^Entries of/).getByText('Since the export')).toHaveCount(0);

  // The file holds what the browser held: exported again, its bytes are the same.
  await open(page, '/setup/data');
  const [again] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export everything' }).click(),
  ]);
  expect(readFileSync(await again.path()).equals(bytes)).toBe(true);
  await row(page, /demo/).getByRole('button', { name: 'Open' }).click();
  await page.waitForURL('**/today');
  await ready(page);
  await expect(grid(page, /^Entries of/).getByText('Since the export')).toBeVisible();
});

test('a faulty record is named with its place', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'half-penny-faulty-'));
  const cli = (...args: string[]) =>
    execFileSync('node_modules/.bin/tsx', ['cli/src/main.ts', ...args], { cwd: join(import.meta.dirname, '../..') });
  cli('demo', join(folder, 'demo.zip'));
  cli('unpack', join(folder, 'demo.zip'), join(folder, 'parts'));
  const clients = join(folder, 'parts/tables/clients.jsonl');
  writeFileSync(clients, readFileSync(clients, 'utf8').replace('"currency":"EUR"', '"currency":"EUX"'));
  cli('pack', join(folder, 'parts'), join(folder, 'faulty.zip'));
  await open(page, '/setup/data');
  await page.getByLabel('Workspace file').setInputFiles(join(folder, 'faulty.zip'));
  await expect(page.getByRole('alert')).toContainText(/tables\/clients\.jsonl:\d currency: This is not a currency/);
  await expect(page.getByRole('alert')).toContainText('What was there is untouched');
});

test.describe('with its service worker', () => {
  test.use({ serviceWorkers: 'allow' });

  test('works without a network after the first visit', async ({ browser }) => {
    const context = await browser.newContext({ baseURL: `http://127.0.0.1:${PORT}` });
    const page = await context.newPage();
    await page.goto('/today');
    await lookAround(page);
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
    await context.setOffline(true);
    await page.reload();
    await ready(page);
    await addTime(page, '15m', 'On the train');
    await expect(grid(page, /^Entries of/).getByText('On the train')).toBeVisible();
    await open(page, '/billing');
    await expect(page.getByRole('heading', { name: 'To bill' })).toBeVisible();
    await context.close();
  });
});

test('what no file holds is counted, an export settles it, and a workspace left unfinished can be removed', async ({
  page,
}) => {
  await startEmpty(page);
  await page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const opening = indexedDB.open('half-penny-left-behind', 1);
        opening.onupgradeneeded = () => opening.result.createObjectStore('clients');
        opening.onsuccess = () => resolve(opening.result.close());
      }),
  );
  await open(page, '/setup/data');
  await expect(
    page.getByText('One change today is in this browser only; there is no file and no backup yet.'),
  ).toBeVisible();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export everything' }).click();
  await saved;
  await expect(page.getByText('The last file or backup holds everything.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Room in this browser' })).toContainText(/Used\s*\d+ MB/);
  await expect(page.getByText('One workspace was left unfinished by an import that was broken off')).toBeVisible();
  await expectAxeClean(page);
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(page.getByText('left unfinished by an import')).toHaveCount(0);
  // The demo and the studio are still there.
  await expect(grid(page, 'Workspaces').getByRole('row')).toHaveCount(3);
  // Weeks and many changes later the index says so; a reminder, not a warning.
  await page.clock.setSystemTime(new Date(NOW.getTime() + 9.5 * 86_400_000));
  await open(page, '/setup/recording');
  for (let count = 0; count < 20; count++) {
    await page.getByLabel('a note', { exact: true }).click();
    await expect(page.getByLabel('a note', { exact: true })).toBeChecked({ checked: count % 2 === 0 });
  }
  await expect(
    page.getByRole('link', { name: '20 changes in 9 days are in this browser only. Export a file' }),
  ).toBeVisible();
  // Now that there is something to lose, it is said that it may be cleared.
  await expect(page.getByText('this browser may clear what is kept here')).toBeVisible();
});
