import { chromium, test, type BrowserContext, type Page } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { createServer, type Server } from 'node:http';
import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { secretOf } from './address';
import { expect, expectAxeClean, lookAround, ready } from './app';
import { launch } from './chromium';

const root = fileURLToPath(new URL('../..', import.meta.url));
const PORT = 4388;
const ADDRESS = `http://127.0.0.1:${PORT}`;

/** Addresses of pages that the extension told this browser. */
const told = (page: Page): Promise<{ title: string; address: string; seconds: number }[]> =>
  page.evaluate(async () => {
    const opened = await new Promise<IDBDatabase>((resolve) => {
      const asked = indexedDB.open('half-penny.trail');
      asked.onsuccess = () => resolve(asked.result);
    });
    type Row = { device: string; title?: string; address?: string; from: number; to: number };
    const rows = await new Promise<Row[]>((resolve) => {
      const asked = opened.transaction('activities').objectStore('activities').getAll();
      asked.onsuccess = () => resolve(asked.result as Row[]);
    });
    opened.close();
    return rows
      .filter((row) => row.device.startsWith('pages-'))
      .map(({ title = '', address = '', from, to }) => ({ title, address, seconds: (to - from) / 1000 }));
  });

/** All that lies in a folder, as one text. */
function* textsIn(folder: string): Generator<string> {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) yield* textsIn(path);
    else yield readFileSync(path, 'latin1');
  }
}

test('the extension tells the page in front, sealed, and nothing of what is not to be recorded', async () => {
  test.setTimeout(240_000);
  const data = mkdtempSync(join(tmpdir(), 'half-penny-extension-'));
  const profile = mkdtempSync(join(tmpdir(), 'half-penny-extended-'));
  let serving: ChildProcess | null = null;
  const serve = async () => {
    serving = spawn(join(root, 'node_modules/.bin/tsx'), ['server/src/main.ts'], {
      cwd: root,
      env: { ...process.env, PORT: String(PORT), HALF_PENNY_DATA: data },
      stdio: 'ignore',
      detached: true,
    });
    const answers = () => fetch(ADDRESS).then((response) => response.ok, () => false); // prettier-ignore
    await expect.poll(answers, { timeout: 30_000 }).toBe(true);
  };
  const end = () => serving && process.kill(-serving.pid!, 'SIGKILL');
  // Pages of sites: every name under localhost is this machine.
  const site: Server = createServer((request, response) => {
    const title = decodeURIComponent(request.url!.split('/')[1]!.split('?')[0]!);
    response.writeHead(200, { 'content-type': 'text/html' }).end(`<title>${title}</title><h1>${title}</h1>`);
  });
  await new Promise<void>((done) => site.listen(0, done));
  const at = (host: string, title: string, more = '') =>
    `http://${host}.localhost:${(site.address() as AddressInfo).port}/${encodeURIComponent(title)}${more}`;
  let context: BrowserContext | null = null;
  try {
    await serve();
    const extension = join(root, 'extension/dist');
    context = await chromium.launchPersistentContext(profile, {
      ...launch,
      viewport: { width: 1000, height: 700 },
      serviceWorkers: 'allow',
      ignoreDefaultArgs: ['--disable-extensions'],
      args: [...launch.args!, `--disable-extensions-except=${extension}`, `--load-extension=${extension}`],
    });
    const worker = context.serviceWorkers()[0] ?? (await context.waitForEvent('serviceworker'));
    const id = new URL(worker.url()).host;

    const app = await context.newPage();
    await app.goto(`${ADDRESS}/#${secretOf(join(data, String(PORT)))}`);
    await lookAround(app);
    await app.goto(`${ADDRESS}/sift/sources`);
    await ready(app);
    await app.getByRole('button', { name: 'Show the pairing key' }).click();
    const key = await app.locator('code').innerText();
    await app.getByLabel('Sites', { exact: true }).fill('news.localhost');
    await app.getByLabel('Sites', { exact: true }).blur();
    await app.getByLabel('Private words').fill('loan');
    await app.getByLabel('Private words').blur();
    await app.getByRole('combobox', { name: 'Of an address is kept' }).click();
    await app.getByRole('option', { name: 'site and path' }).click();

    const options = await context.newPage();
    await options.goto(`chrome-extension://${id}/options.html`);
    await options.getByLabel('Pairing key').fill('wrong');
    await options.getByLabel('Address of Half Penny').fill('http://elsewhere.example');
    await options.getByRole('button', { name: 'Pair' }).click();
    await expect(options.getByRole('status')).toContainText('on this computer');
    await options.getByLabel('Address of Half Penny').fill(ADDRESS);
    await options.getByRole('button', { name: 'Pair' }).click();
    await expect(options.getByRole('status')).toContainText('pairing key is wrong');
    await options.getByLabel('Pairing key').fill(key);
    // What was set a moment ago is told to the server within some seconds; within a minute where it was not to be had at first.
    await expect
      .poll(
        async () => {
          await options.getByRole('button', { name: 'Pair' }).click();
          // Before the page has told the server anything, it says so and is asked again.
          const status = options.getByRole('status');
          await expect(status).not.toHaveText('Asking…');
          if ((await status.textContent()) !== 'Paired.') return false;
          const shelf = await worker.evaluate(() => chrome.storage.local.get('shelf'));
          return JSON.stringify(shelf).includes('news.localhost') && JSON.stringify(shelf).includes('loan');
        },
        { timeout: 75_000 },
      )
      .toBe(true);
    await expectAxeClean(options);
    // A site of its own list.
    await options.evaluate(() =>
      chrome.runtime.sendMessage({ order: 'site', site: 'quiet.localhost', until: 'never' }),
    );
    await options.reload();
    await expect(options.getByRole('button', { name: 'Record quiet.localhost again' })).toBeVisible();

    const page = await context.newPage();
    const visit = async (address: string) => {
      await page.goto(address);
      // The extension has seen that it is in front, by its title.
      const title = await page.title();
      const followed = () =>
        worker.evaluate(async () => {
          const { memory } = (await chrome.storage.session.get('memory')) as {
            memory?: { following: { page: { title: string } } | null };
          };
          return memory?.following?.page.title;
        });
      await expect.poll(followed).toBe(title);
    };
    end();
    await visit(at('hire', 'Gel swatches', '?customer=9'));
    for (const address of [
      at('news', 'Headlines'),
      at('quiet', 'Something quiet'),
      at('hire', 'Loan answer'),
      at('hire', 'Truss prices'),
      at('hire', 'The end'),
    ])
      await visit(address);
    // Nobody listens: what waits lies sealed in the profile.
    const waiting = await worker.evaluate(async () => {
      const { shelf } = (await chrome.storage.local.get('shelf')) as { shelf: { lines: string[] } };
      return shelf.lines;
    });
    expect(waiting.length).toBeGreaterThanOrEqual(2);
    expect(JSON.stringify(waiting)).not.toContain('hire');
    await serve();
    await page.goto(`chrome-extension://${id}/popup.html`);
    await page.getByRole('button', { name: 'Pause' }).click();
    await expect(page.getByRole('status')).toHaveText('Recording.');
    await expectAxeClean(page);
    await app.bringToFront();
    await expect
      .poll(async () => (await told(app)).map((each) => each.title), { timeout: 30_000 })
      .toContain('Truss prices');
    const pages = (await told(app)).filter((each) => each.address.includes('.localhost'));
    expect(pages.map((each) => each.title)).toEqual(expect.arrayContaining(['Gel swatches', 'Truss prices']));
    for (const { title, address, seconds } of pages) {
      expect(['', 'Gel swatches', 'Truss prices', 'The end']).toContain(title);
      expect(address).not.toContain('customer');
      expect(seconds).toBeGreaterThan(0);
    }
    await expect(app.getByRole('list', { name: 'Devices' })).toContainText('Extension in Chromium', {
      timeout: 30_000,
    });
    // Neither the server's folder nor the extension's store holds a title.
    const stored = [...textsIn(data), ...textsIn(join(profile, 'Default/Local Extension Settings'))].join('\n');
    expect(stored).toContain('publicKey');
    for (const title of ['Gel swatches', 'Truss prices', 'Headlines', 'Loan answer', 'Something quiet'])
      expect(stored).not.toContain(title);
  } finally {
    await context?.close();
    end();
    site.close();
    rmSync(profile, { recursive: true, force: true });
  }
});
