import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Browser, BrowserContext, Page } from '@playwright/test';
import { ADDRESS, secretOf, serverFolder } from './address';
import {
  addClient,
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
  written,
  choose,
} from './app';

// All hand their backups to the one server of these tests: one after another, each finds its own first.
test.describe.configure({ mode: 'default' });

const connected = () => `/#${secretOf(serverFolder())}`;
const backups = (page: Page) => page.getByRole('region', { name: 'Backups' });

/** A browser with nothing in it. */
async function emptied(browser: Browser): Promise<{ page: Page; context: BrowserContext }> {
  const context = await browser.newContext({ baseURL: ADDRESS, serviceWorkers: 'block' });
  const page = await context.newPage();
  await page.clock.install({ time: NOW });
  return { page, context };
}

/** An empty studio of its own name, with a backup of it. */
async function ownStudio(page: Page): Promise<void> {
  await page.goto(connected());
  await ready(page);
  await startEmpty(page);
  await open(page, '/setup/data');
  await backups(page).getByRole('button', { name: 'Back up now' }).click();
  await expect(backups(page).getByText('A backup is with the local server.')).toBeVisible();
}

/** Takes the open workspace's database away, as a browser does that clears it. */
const clear = (page: Page) =>
  page.evaluate(async () => {
    for (const { name } of await indexedDB.databases())
      if (name?.startsWith('half-penny-')) indexedDB.deleteDatabase(name);
  });

test('a backup comes back in an emptied browser before the demo, byte for byte', async ({ page, browser }) => {
  await ownStudio(page);
  await expect(page.getByText('The last file or backup holds everything.')).toBeVisible();
  await expectAxeClean(page);
  const held = await page.evaluate(async () => {
    const headers = { 'x-half-penny': localStorage.getItem('half-penny.server')! };
    return ((await (await fetch('/backups', { headers })).json()) as { backups: { id: string; name: string }[] })
      .backups[0]!;
  });
  const kept = readFileSync(join(serverFolder(), 'backups', `${held.id}.half-penny.zip`));

  const { page: fresh, context } = await emptied(browser);
  await fresh.goto(connected());
  await expect(fresh.getByRole('heading', { name: 'Your backups are here' })).toBeVisible();
  // The secret is in no address that could be passed on.
  expect(fresh.url()).not.toContain('#');
  await expectAxeClean(fresh);
  await row(fresh, new RegExp(held.name)).first().getByRole('button', { name: 'Bring back' }).click();
  await ready(fresh);
  await expect(fresh.getByText('Nothing is recorded on this day yet.')).toBeVisible();
  await open(fresh, '/setup/data');
  const [file] = await Promise.all([
    fresh.waitForEvent('download'),
    fresh.getByRole('button', { name: 'Export everything' }).click(),
  ]);
  expect(readFileSync(await file.path()).equals(kept)).toBe(true);
  await context.close();
});

test('a page that does not know the server says how to connect, and works on without', async ({ page }) => {
  await open(page, '/setup/data');
  const letters = backups(page).getByLabel('The server’s eight letters');
  await letters.fill('nonsense1');
  await letters.press('Enter');
  await expect(backups(page).getByRole('alert')).toContainText('eight letters after the #');
  await letters.fill('bbbbbbbb');
  await letters.press('Enter');
  await expect(backups(page).getByRole('alert')).toContainText('not the letters of this server');
  await backups(page).getByRole('button', { name: 'Back up now' }).click();
  await expect(backups(page).getByText('There is no place for a backup yet')).toBeVisible();
  await letters.fill(secretOf(serverFolder()));
  await letters.press('Enter');
  await expect(backups(page).getByText(join(serverFolder(), 'backups'))).toBeVisible();
  await open(page, '/sift/sources');
  await page.getByRole('button', { name: 'Show the pairing key' }).click();
  await expect(page.getByText(/^[\w-]{32}$/)).toBeVisible();
});

test('backups go into a folder that was chosen, and only those that are kept stay', async ({ page }) => {
  // The picker belongs to the browser's own windows; a folder of the page's own stands in.
  await page.addInitScript(() =>
    Object.assign(window, {
      showDirectoryPicker: async () =>
        (await navigator.storage.getDirectory()).getDirectoryHandle('kept', { create: true }),
    }),
  );
  const names = () =>
    page.evaluate(async () => {
      const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('kept', { create: true });
      const found: string[] = [];
      for await (const name of (folder as unknown as { keys(): AsyncIterable<string> }).keys()) found.push(name);
      return found.sort();
    });
  await startEmpty(page);
  await open(page, '/setup/data');
  await backups(page).getByRole('button', { name: 'Choose a folder…' }).click();
  await expect(backups(page).getByText('kept', { exact: true })).toBeVisible();
  const now = async () => {
    await backups(page).getByRole('button', { name: 'Back up now' }).click();
    await expect(backups(page).getByText('A backup is with the folder kept.')).toBeVisible();
  };
  await now();
  await expect.poll(names).toHaveLength(1);
  const [first] = await names();
  expect(first).toMatch(/^[a-z-]+-[0-9a-f]{8}-2026-11-12T1510\d\dZ\.half-penny\.zip$/);
  // Later on the same day the first one is let go; another's file is left alone.
  await page.evaluate(async () => {
    const folder = await (await navigator.storage.getDirectory()).getDirectoryHandle('kept');
    await folder.getFileHandle('mine.txt', { create: true });
  });
  await page.clock.fastForward('30:00');
  await now();
  await expect.poll(async () => (await names()).length).toBe(2);
  expect(await names()).not.toContain(first);
  expect(await names()).toContain('mine.txt');
  await backups(page).getByRole('button', { name: 'Use none' }).click();
  await expect(backups(page).getByRole('button', { name: 'Choose a folder…' })).toBeVisible();
});

test('a workspace that is taken away is told of in words at once, and comes back from its backup', async ({ page }) => {
  await ownStudio(page);
  await clear(page);
  await expect(page.getByRole('alert')).toContainText('deleted in another tab, or cleared by the browser');
  await page.reload();
  await expect(page.getByRole('heading', { name: /could not be shown/ })).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('no longer has what the workspace held');
  await expectAxeClean(page);
  await page.getByRole('button', { name: 'Save what can be read' }).click();
  await expect(page.getByText(/nothing of this workspace is left/i)).toBeVisible();
  await row(page, /Taken/).waitFor();
  await page.getByRole('grid', { name: 'Backups' }).getByRole('button', { name: 'Bring back' }).first().click();
  await page.waitForURL('**/today');
  await ready(page);
  await expect(page.getByText('Nothing is recorded on this day yet.')).toBeVisible();
});

test('without its database another workspace, a file or the demo is offered', async ({ page }) => {
  await open(page, '/today');
  await addTime(page, '15m', 'Before it was cleared');
  await written(page);
  await clear(page);
  await expect(page.getByRole('alert')).toContainText('cleared by the browser');
  await page.reload();
  await expect(page.getByText('There is no other.')).toBeVisible();
  await page
    .getByLabel('Workspace file')
    .setInputFiles({ name: 'note.txt', mimeType: 'text/plain', buffer: Buffer.from('Dear diary') });
  await expect(page.getByText('The file was not imported')).toContainText('not a workspace file');
  await page.getByRole('button', { name: 'Load the demo' }).click();
  await page.waitForURL('**/today', { timeout: 60_000 });
  await ready(page);
  await expect(grid(page, /^Entries of/)).toBeVisible();
});

test('a workspace of a newer version is left as it is, and said to be newer', async ({ page }) => {
  await open(page, '/today');
  await page.evaluate(async () => {
    const name = (await indexedDB.databases()).find((each) => each.name?.startsWith('half-penny-'))!;
    await new Promise<void>((resolve, reject) => {
      const opening = indexedDB.open(name.name!, name.version! + 100);
      opening.onsuccess = () => resolve(opening.result.close());
      opening.onerror = () => reject(new Error('It could not be made newer.'));
    });
  });
  await expect(page.getByRole('alert')).toContainText('A newer Half Penny was opened in another tab');
  await page.reload();
  await expect(page.getByRole('alert')).toContainText('written by a newer Half Penny');
});

test('a client’s data is deleted for good: out of records, history and backups, and stays on issued invoices', async ({
  page,
}) => {
  await ownStudio(page);
  await addClient(page, 'Pinwheel Meadow Trust', 'Pier', '60');
  await addTime(page, '1h', 'Call with the Pinwheel Meadow Trust', 'Pier');
  await open(page, '/setup/data');
  await backups(page).getByRole('button', { name: 'Back up now' }).click();
  await expect(backups(page).getByText('A backup is with the local server.')).toBeVisible();
  const forget = page.getByRole('region', { name: 'Deleting a person’s data for good' });
  await choose(forget.getByLabel('Whose data'), 'Pinwheel Meadow Trust (client)');
  await forget.getByRole('button', { name: 'Delete for good…' }).click();
  const dialog = page.getByRole('dialog');
  await expectAxeClean(page);
  await dialog.getByRole('button', { name: 'Delete for good' }).click();
  await expect(dialog.getByRole('alert')).toContainText('Type the name as it stands');
  await dialog.getByLabel(/^Type “Pinwheel/).fill('Pinwheel Meadow Trust');
  await dialog.getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByRole('dialog', { name: 'Pinwheel Meadow Trust is deleted' })).toBeVisible();
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.waitForURL('**/today');
  await ready(page);
  await expect(grid(page, /^Entries of/).getByText(/Call with the Deleted [0-9a-f]{8}/)).toBeVisible();
  // Nothing of it is in the browser's records, the file, or a backup of this workspace.
  const left = await page.evaluate(async () => {
    let text = '';
    for (const { name } of await indexedDB.databases()) {
      const database = await new Promise<IDBDatabase>((resolve) => {
        const asked = indexedDB.open(name!);
        asked.onsuccess = () => resolve(asked.result);
      });
      for (const store of database.objectStoreNames) {
        const rows = await new Promise<unknown>((resolve) => {
          const asked = database.transaction(store).objectStore(store).getAll();
          asked.onsuccess = () => resolve(asked.result);
        });
        text += JSON.stringify(rows);
      }
      database.close();
    }
    return text.includes('Pinwheel');
  });
  expect(left).toBe(false);
  await open(page, '/setup/data');
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export without the history' }).click(),
  ]);
  const root = fileURLToPath(new URL('../..', import.meta.url));
  const check = [join(root, 'node_modules/.bin/tsx'), 'cli/src/main.ts', 'check', await file.path()] as const;
  expect(execFileSync(check[0], check.slice(1), { cwd: root, encoding: 'utf8' })).toMatch(/sound|no fault|nothing/i);
});

test('a workspace of an older version is kept as it was before it is brought forward, and can be taken out', async ({
  page,
}) => {
  await open(page, '/setup/data');
  await page.goto('/coin.svg');
  // The same records in a database of an older version, as an older Half Penny would have left them.
  await page.evaluate(async () => {
    const done = <T>(asked: IDBRequest<T>) =>
      new Promise<T>((resolve, reject) => {
        asked.onsuccess = () => resolve(asked.result);
        asked.onerror = () => reject(new Error(String(asked.error)));
      });
    const { name, version } = (await indexedDB.databases()).find((each) => each.name?.startsWith('half-penny-'))!;
    const before = await done(indexedDB.open(name!));
    const stores = await Promise.all(
      [...before.objectStoreNames].map(async (store) => {
        const source = before.transaction(store).objectStore(store);
        return { store, keyPath: source.keyPath, rows: await done(source.getAll()) };
      }),
    );
    before.close();
    await done(indexedDB.deleteDatabase(name!));
    const asked = indexedDB.open(name!, version! - 10);
    asked.onupgradeneeded = () => {
      for (const { store, keyPath, rows } of stores) {
        const made = asked.result.createObjectStore(store, { keyPath });
        for (const row of rows) made.put(row);
      }
    };
    (await done(asked)).close();
  });
  await open(page, '/today');
  await expect(
    grid(page, /^Entries of/)
      .getByRole('row')
      .nth(2),
  ).toBeVisible();
  await open(page, '/setup/data');
  const kept = page.getByRole('region', { name: 'Kept as they were' });
  await expect(kept.getByText('before version 13')).toBeVisible();
  await expectAxeClean(page);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    kept.getByRole('button', { name: 'Save as a file' }).click(),
  ]);
  const path = await file.path();
  await page.getByLabel('Workspace file').setInputFiles({
    name: 'kept.half-penny.zip',
    mimeType: 'application/zip',
    buffer: readFileSync(path),
  });
  await page.waitForURL('**/today');
  await ready(page);
  await open(page, '/setup/data');
  await expect(row(page, /Saltmere Lighting/)).toHaveCount(2);
  await kept.getByRole('button', { name: 'Delete' }).click();
  await expect(kept).toHaveCount(0);
});

test('the trail’s sealed copy comes back in an emptied browser, and goes with the trail', async ({ page, browser }) => {
  const passphrase = 'seven lamps over the water';
  const copies = (of: Page) => of.getByRole('region', { name: 'A sealed copy' });
  const kept = () => readdirSync(join(serverFolder(), 'trail-backups')).filter((name) => name.endsWith('-trail'));
  const count = async (of: Page) =>
    Number(/([\d,]+) activities are kept/.exec(await of.locator('main').innerText())![1]!.replace(',', ''));
  await ownStudio(page);
  await open(page, '/sift/sources');
  const noticed = await count(page);
  await copies(page).getByRole('button', { name: 'Keep a copy…' }).click();
  const dialog = page.getByRole('dialog', { name: 'A sealed copy of the trail' });
  await dialog.getByLabel('Passphrase').fill('short');
  await dialog.getByLabel('Once more').fill('short');
  await dialog.getByRole('button', { name: 'Keep a copy' }).click();
  await expect(dialog.getByRole('alert')).toContainText('at least 10 letters');
  await dialog.getByLabel('Passphrase').fill(passphrase);
  await dialog.getByLabel('Once more').fill(passphrase);
  await dialog.getByRole('button', { name: 'Keep a copy' }).click();
  await expect(copies(page).getByText(/^Taken /)).toBeVisible();
  await expectAxeClean(page);
  const [file] = kept();
  // Nothing of what was noticed can be read in it.
  const bytes = readFileSync(join(serverFolder(), 'trail-backups', file!));
  for (const word of ['Plotting desk', 'quayside', '"from"']) expect(bytes.includes(word)).toBe(false);

  const { page: fresh, context } = await emptied(browser);
  await fresh.goto(connected());
  await lookAround(fresh);
  await open(fresh, '/sift/sources');
  await fresh.getByRole('button', { name: 'Wipe the trail…' }).click();
  await fresh.getByRole('button', { name: 'Wipe it' }).click();
  await expect.poll(() => count(fresh)).toBe(0);
  // Wiping here takes no copy that is of another browser.
  expect(kept()).toEqual([file]);
  await copies(fresh).getByRole('button', { name: 'Bring back…' }).click();
  const opening = fresh.getByRole('dialog', { name: 'Bring the trail back' });
  await opening.getByLabel('Passphrase').fill('another passphrase');
  await opening.getByRole('button', { name: 'Bring back' }).click();
  await expect(opening.getByRole('alert')).toContainText('The passphrase is not that of this file');
  await opening.getByLabel('Passphrase').fill(passphrase);
  await opening.getByRole('button', { name: 'Bring back' }).click();
  await expect(copies(fresh).getByText(/rows came back/)).toBeVisible();
  await expect.poll(() => count(fresh)).toBe(noticed);

  await fresh.getByRole('button', { name: 'Wipe the trail…' }).click();
  await fresh.getByRole('button', { name: 'Wipe it' }).click();
  await expect.poll(kept).toEqual([]);
  await context.close();
});
