import type { Page } from '@playwright/test';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, scratchPostgres } from '../../relay/src/testing/postgres';
import { RelayProcess } from '../../trials/src/relay-process';
import {
  addClient,
  addTime,
  choose,
  elsewhere,
  type Elsewhere,
  expect,
  expectAxeClean,
  grid,
  NOW,
  open,
  row,
  startEmpty,
  test,
  till,
  written,
} from './app';
import { mark, meet, share, state } from './several-devices';

// Each walks through two or three browsers.
test.describe.configure({ timeout: 400_000 });

let relay: RelayProcess;
let folder: string;

test.beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'half-penny-relay-'));
  relay = new RelayProcess(await freePort(), { RELAY_DATA: folder });
  await relay.start();
});

test.afterEach(async () => {
  await relay.end('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

/** What Setup says of how far the log is here. */
async function head(page: Page): Promise<string> {
  await open(page, '/setup/devices');
  await expect(state(page)).toContainText('All here');
  return (await page.getByText(/^[\d,]+ · [0-9a-f]{8}$/).textContent())!;
}

/** A laptop with a client and an entry, and a phone that met it. */
async function laptopAndPhone(page: Page): Promise<Elsewhere> {
  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85.00');
  await addTime(page, '2h', 'Focus session', 'winter');
  await share(page, relay.address, 'Laptop');
  const phone = await elsewhere(NOW);
  await meet(relay.address, page, phone.page, 'Phone');
  return phone;
}

test('a timer that is started on a phone is stopped on a laptop and billed on a third device; the relay dies meanwhile', async ({
  page,
}) => {
  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85.00');
  await share(page, relay.address, 'Laptop');
  await expectAxeClean(page);
  const phone = await elsewhere(NOW);
  await phone.page.setViewportSize({ width: 390, height: 780 });
  const office = await elsewhere(NOW);
  await meet(relay.address, page, phone.page, 'Phone');
  await meet(relay.address, page, office.page, 'Office');
  await expect(grid(page, 'Devices').getByRole('row')).toHaveCount(4);

  await open(page, '/today');
  await till(phone.page).getByRole('button', { name: 'Switch jobs, or write down time' }).click();
  await till(phone.page).getByRole('combobox').fill('winter');
  await phone.page
    .getByRole('option', { name: /Winter season rig/ })
    .first()
    .click();
  await expect(till(phone.page).getByRole('timer')).toBeVisible();
  await expect(till(page).getByRole('timer')).toBeVisible();

  await relay.end('SIGKILL');
  await expect(mark(page)).toContainText(/^off line since \d\d:\d\d/);
  await page.clock.fastForward('01:00:00');
  await till(page).getByRole('button', { name: 'Stop the timer' }).click();
  await expect(mark(page)).toContainText('1 waiting');
  await expect(till(phone.page).getByRole('timer')).toBeVisible();
  await relay.start();
  await expect(till(phone.page).getByText('Nothing is running')).toBeVisible({ timeout: 60_000 });
  await expect(mark(page)).toHaveText('all here');

  await open(office.page, '/billing');
  await grid(office.page, 'To bill by client').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await office.page.getByRole('button', { name: /Put on invoice/ }).click();
  await office.page.getByRole('button', { name: /^Issue/ }).click();
  await office.page.getByRole('button', { name: 'Issue 0001' }).click();
  await expect(office.page.getByRole('heading', { level: 1, name: '0001' })).toBeVisible();
  const total = await office.page
    .getByTestId('invoice-sheet')
    .getByText(/^£\d+\.\d\d$/)
    .last()
    .textContent();
  expect(Number(total!.slice(1))).toBeGreaterThanOrEqual(85);

  await open(page, '/billing');
  await expect(row(page, /0001/)).toContainText(total!);
  await written(page);
  const heads = [await head(page), await head(phone.page), await head(office.page)];
  expect(new Set(heads).size).toBe(1);
  await phone.leave();
  await office.leave();
});

test('what no longer fits is kept with its reason, done again or let go; what others see waits for its turn', async ({
  page,
}) => {
  const phone = await laptopAndPhone(page);
  await expect(mark(phone.page)).toHaveText('all here');
  await phone.page.route(`${relay.address}/**`, (route) => route.abort());
  await expect(mark(phone.page)).toContainText('off line since');
  const entry = grid(phone.page, /^Entries of/);
  await entry.getByRole('button', { name: 'Billable. Change' }).click();
  const coin = phone.page.getByRole('dialog', { name: 'How much is billable' });
  await coin.getByLabel('Only this much').fill('1h');
  await coin.getByRole('button', { name: 'Set' }).click();
  await expect(mark(phone.page)).toContainText('1 waiting');

  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await page.getByRole('button', { name: /Put on invoice/ }).click();
  await expect(page.getByTestId('invoice-sheet')).toContainText('£170.00');
  await relay.end('SIGTERM');
  await expect(mark(page)).toContainText('off line since');
  await page.getByRole('button', { name: /^Issue/ }).click();
  await page.getByRole('button', { name: 'Issue when connected' }).click();
  await expect(page.getByText(/waits until this device is connected/)).toBeVisible();
  await open(page, '/setup/devices');
  await expect(page.getByRole('region', { name: 'Waiting' })).toContainText('done when connected');
  await expectAxeClean(page);
  await relay.start();
  await expect(state(page)).toContainText('All here', { timeout: 60_000 });
  await open(page, '/billing');
  await expect(row(page, /0001/)).toContainText('£204.00');

  await phone.page.unroute(`${relay.address}/**`);
  await expect(phone.page.getByText(/did not fit any more/).first()).toBeVisible({ timeout: 60_000 });
  await open(phone.page, '/setup/devices');
  const refused = phone.page.getByRole('region', { name: 'Did not fit' });
  await expect(refused).toContainText('0001');
  await expectAxeClean(phone.page);
  await refused.getByRole('button', { name: /^Do again/ }).click();
  await expect(refused).toContainText('0001');
  await open(page, '/billing');
  await row(page, /0001/).getByRole('link', { name: '0001' }).click();
  await page.getByRole('button', { name: 'Void', exact: true }).click();
  await page.getByLabel('Reason').fill('Half of it was a favour');
  await page.getByRole('button', { name: 'Void 0001' }).click();
  await expect(page.getByText(/Void since/)).toBeVisible();
  await expect
    .poll(async () => {
      if ((await refused.count()) > 0) await refused.getByRole('button', { name: /^Do again/ }).click();
      return refused.count();
    })
    .toBe(0);
  await open(page, '/today');
  await expect(grid(page, /^Entries of/)).toContainText('£85.00');
  await phone.leave();
});

test('a device that is removed is not let in any more; one that slept meanwhile goes on with the new key and what waited there', async ({
  page,
}) => {
  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85.00');
  await share(page, relay.address, 'Laptop');
  const [lost, phone] = [await elsewhere(NOW), await elsewhere(NOW)];
  await meet(relay.address, page, lost.page, 'Lost tablet');
  await meet(relay.address, page, phone.page, 'Phone');
  await expect(mark(phone.page)).toHaveText('all here');
  await phone.page.route(`${relay.address}/**`, (route) => route.abort());
  await expect(mark(phone.page)).toContainText('off line since', { timeout: 90_000 });
  await addTime(phone.page, '0:45', 'Noted while asleep', 'winter');

  await open(page, '/setup/devices');
  await page.getByRole('button', { name: 'Remove Lost tablet' }).click();
  await page.getByRole('button', { name: 'Remove it' }).click();
  await expect(grid(page, 'Devices')).not.toContainText('Lost tablet');
  await expect(state(page)).toContainText('All here');
  await addTime(page, '1:30', 'After the key was changed', 'winter');
  await open(lost.page, '/setup/devices');
  await expect(state(lost.page)).toContainText('Removed from the others', { timeout: 90_000 });
  await lost.page.getByRole('button', { name: 'Go on alone on this device' }).click();
  await lost.page.getByRole('dialog').getByRole('button', { name: 'Go on alone' }).click();
  await expect(lost.page.getByRole('button', { name: 'Share this workspace' })).toBeVisible();

  await phone.page.unroute(`${relay.address}/**`);
  await open(phone.page, '/today');
  const there = grid(phone.page, /^Entries of/);
  await expect(there).toContainText('After the key was changed', { timeout: 90_000 });
  await expect(there).toContainText('Noted while asleep');
  await open(page, '/today');
  await expect(grid(page, /^Entries of/)).toContainText('Noted while asleep');
  expect(await head(phone.page)).toBe(await head(page));
  await lost.leave();
  await phone.leave();
});

test('whose data is deleted for good is gone from every device', async ({ page }) => {
  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85.00');
  await share(page, relay.address, 'Laptop');
  const phone = await elsewhere(NOW);
  await meet(relay.address, page, phone.page, 'Phone');
  await expect(mark(phone.page)).toHaveText('all here');
  await open(page, '/setup/data');
  const forget = page.getByRole('region', { name: 'Deleting a person’s data for good' });
  await choose(forget.getByLabel('Whose data'), 'Quayside Playhouse (client)');
  await forget.getByRole('button', { name: 'Delete for good…' }).click();
  await page.getByLabel(/^Type “Quayside/).fill('Quayside Playhouse');
  await page.getByRole('dialog').getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByRole('dialog', { name: 'Quayside Playhouse is deleted' })).toBeVisible({ timeout: 60_000 });
  await open(phone.page, '/clients');
  // What is left of it, under a hash, is archived.
  await phone.page.getByText('Show archived (1)').click({ timeout: 60_000 });
  await expect(phone.page.getByText(/^Deleted [0-9a-f]{8}/).first()).toBeVisible();
  await expect(phone.page.getByText('Quayside Playhouse')).toHaveCount(0);
  await page.getByRole('button', { name: 'Go on' }).click();
  await page.waitForURL('**/today');
  expect(await head(phone.page)).toBe(await head(page));
  await phone.leave();
});

test('of the demo, its receipts come when they are looked at, and the relay has kept not one text', async ({
  page,
}) => {
  await share(page, relay.address, 'Laptop');
  const phone = await elsewhere(NOW);
  await meet(relay.address, page, phone.page, 'Phone');
  await addTime(page, '0:25', 'Written where both can read it');
  await open(phone.page, '/today');
  await expect(grid(phone.page, /^Entries of/)).toContainText('Written where both can read it', { timeout: 60_000 });

  const texts = await page.evaluate(async () => {
    const found = new Set<string>();
    const look = (value: unknown) => {
      if (typeof value === 'string' && value.length > 7 && /[a-z] [a-z]/i.test(value)) found.add(value.slice(0, 60));
      else if (value !== null && typeof value === 'object' && !(value instanceof Blob))
        Object.values(value).forEach(look);
    };
    const asked = <T>(request: IDBRequest<T>) =>
      new Promise<T>((resolve) => (request.onsuccess = () => resolve(request.result)));
    const { name } = (await indexedDB.databases()).find((each) => /^half-penny-[0-9a-f]{8}-/.test(each.name ?? ''))!;
    const database = await asked(indexedDB.open(name!));
    for (const store of ['clients', 'projects', 'entries', 'costs', 'invoices', 'members', 'workspace'])
      look(await asked(database.transaction(store).objectStore(store).getAll()));
    return [...found];
  });
  expect(texts.length).toBeGreaterThan(100);

  const cost = await page.evaluate(async () => {
    const asked = <T>(request: IDBRequest<T>) =>
      new Promise<T>((resolve) => (request.onsuccess = () => resolve(request.result)));
    const { name } = (await indexedDB.databases()).find((each) => /^half-penny-[0-9a-f]{8}-/.test(each.name ?? ''))!;
    const database = await asked(indexedDB.open(name!));
    const costs: { id: string; receiptIds: string[] }[] = await asked(
      database.transaction('costs').objectStore('costs').getAll(),
    );
    return costs.find(({ receiptIds }) => receiptIds.length > 0)!.id;
  });
  await open(phone.page, `/costs/cost/${cost}`);
  await phone.page
    .getByRole('button', { name: /^Show the receipt/ })
    .first()
    .click();
  await expect(phone.page.locator('img[src^="blob:"], iframe[src^="blob:"]').first()).toBeVisible();
  await phone.leave();
  await relay.end('SIGTERM');
  const kept = Buffer.concat(
    readdirSync(folder, { recursive: true, withFileTypes: true })
      .filter((file) => file.isFile())
      .map((file) => readFileSync(join(file.parentPath, file.name))),
  );
  expect(kept.length).toBeGreaterThan(1_000_000);
  expect(texts.filter((text) => kept.includes(text))).toEqual([]);
});

test('a later start elsewhere ends a timer, and Today says so; the history of an entry says where each thing was done', async ({
  page,
}) => {
  const phone = await laptopAndPhone(page);
  await open(page, '/today');
  const start = async (own: Page, note: string) => {
    await till(own).getByRole('combobox').fill(note);
    await own.keyboard.press('Enter');
    await expect(till(own).getByRole('timer')).toBeVisible();
  };
  await start(page, 'Plot the upper rig');
  await page.clock.fastForward('00:30:00');
  await phone.page.clock.fastForward('00:40:00');
  await open(phone.page, '/today');
  await expect(till(phone.page).getByRole('timer')).toBeVisible();
  await start(phone.page, 'Cable the foyer');

  const ended = page.getByRole('region', { name: 'Timers that ended' });
  await expect(ended).toContainText(/Plot the upper rig ended on .* at \d\d:\d\d, when a timer was started on Phone\./);
  await expectAxeClean(page);
  await ended.getByRole('button', { name: 'All right' }).click();
  await expect(ended).toHaveCount(0);

  const entry = row(grid(phone.page, /^Entries of/), /Focus session/);
  await entry.getByText('Focus session').dblclick();
  await phone.page.keyboard.press('Control+a');
  await phone.page.keyboard.type('Focus session, stalls');
  await phone.page.keyboard.press('Enter');
  const changed = row(grid(page, /^Entries of/), /Focus session, stalls/);
  await expect(changed).toBeVisible();
  await changed.getByRole('gridcell').nth(1).click();
  await page.getByRole('button', { name: /^History/ }).click();
  const history = page.getByRole('dialog').getByRole('listitem');
  await expect(history.first()).toContainText('note Focus session → Focus session, stalls');
  await expect(history.first()).toContainText('on Phone');
  await expect(history.last()).toContainText('on Laptop, this one');
  await expectAxeClean(page);
  await phone.leave();
});

test('behind PostgreSQL nothing is lost or doubled either, whether it is killed, or the relay, or both', async ({
  page,
}) => {
  const postgres = await scratchPostgres();
  const behind = new RelayProcess(await freePort(), { RELAY_DATABASE_URL: postgres.url });
  await behind.start();
  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85.00');
  await share(page, behind.address, 'Laptop');
  const phone = await elsewhere(NOW);
  await meet(behind.address, page, phone.page, 'Phone');

  await postgres.kill();
  await addTime(page, '2h', 'Focus session', 'winter');
  await addTime(phone.page, '1h', 'Cable the foyer', 'winter');
  for (const own of [page, phone.page]) await expect(mark(own)).toContainText('1 waiting');
  await postgres.start();
  const both = async (note: string) => {
    for (const own of [page, phone.page])
      await expect(row(grid(own, /^Entries of/), note)).toHaveCount(1, { timeout: 90_000 });
  };
  await both('Focus session');
  await both('Cable the foyer');

  await behind.end('SIGKILL');
  await postgres.kill();
  await addTime(phone.page, '0:30', 'Hang the drapes', 'winter');
  await expect(mark(phone.page)).toContainText('1 waiting');
  await postgres.start();
  await behind.start();
  await both('Hang the drapes');
  await both('Focus session');
  await written(page);
  expect(await head(page)).toBe(await head(phone.page));
  await phone.leave();
  await behind.end('SIGKILL');
  await postgres.stop();
});
