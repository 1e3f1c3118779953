import type { Page } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { RelayProcess } from '../../trials/src/relay-process';
import { addClient, addTime, elsewhere, grid, NOW, open, startEmpty, test } from '../src/app';
import { asClient, connected, payingSimulated } from '../src/post';
import { freePort } from '../../relay/src/testing/postgres';
import { mark, meet, share } from '../src/several-devices';

const folder = join(import.meta.dirname, '../../docs/screenshots');
const shoot = async (page: Page, name: string) => {
  await page.waitForTimeout(400);
  await page.screenshot({ path: join(folder, `${name}.png`) });
};

test('today', async ({ page }) => {
  await open(page, '/today');
  await grid(page, /^Entries of/)
    .locator('[data-place="2:4"]')
    .focus();
  await shoot(page, 'today');
  await page.setViewportSize({ width: 390, height: 844 });
  await shoot(page, 'today-phone');
});

test('week', async ({ page }) => {
  await open(page, '/week?day=2026-10-29');
  await grid(page, 'The week').locator('[data-place="1:4"]').focus();
  await shoot(page, 'week');
});

test('sift', async ({ page }) => {
  await open(page, '/sift?day=2026-11-10');
  const lines = grid(page, /^Stretches of/);
  await lines.getByRole('row').nth(3).waitFor();
  // A part is placed, the rest is offered.
  for (let count = 0; count < 3; count++) {
    await lines
      .getByRole('button', { name: /^Place as offered: / })
      .first()
      .click();
    await page.waitForTimeout(800);
  }
  await lines.locator('[data-place="1:1"]').focus();
  await page.mouse.move(700, 20);
  await page.waitForTimeout(6500);
  await shoot(page, 'sift');
});

test('billing', async ({ page }) => {
  await open(page, '/billing');
  await shoot(page, 'billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Fernhill Folk Museum' }).click();
  await page
    .getByRole('group', { name: 'Kinds' })
    .getByRole('button', { name: /^Supplier bills/ })
    .click();
  await page.getByRole('group', { name: 'Kinds' }).getByRole('button', { name: /^All/ }).click();
  await page.getByRole('button', { name: /Put on invoice/ }).click();
  await grid(page, 'Lines of the draft').waitFor();
  await shoot(page, 'draft');
  await open(page, '/billing?standing=issued');
  await grid(page, 'Invoices').getByRole('link').first().click();
  await shoot(page, 'invoice');
});

test('from agreed to paid', async ({ page }) => {
  await connected(page);
  await payingSimulated(page);
  await open(page, '/billing?standing=issued');
  await grid(page, 'Invoices')
    .getByRole('row', { name: /Quayside Playhouse/ })
    .first()
    .getByRole('link')
    .first()
    .click();
  const client = await asClient(page);
  await client.locator('summary').first().click();
  await shoot(client, 'client-page');
  await client.close();
  await open(page, '/billing/ahead');
  await page.locator('.recharts-area').first().waitFor();
  await shoot(page, 'cash-ahead');
  await open(page, '/billing/money');
  await page.getByRole('button', { name: 'Ask the demo’s bank' }).click();
  await page.getByRole('button', { name: /^Import \d+ sums/ }).click();
  await grid(page, 'Sums that wait to be matched').waitFor();
  await putAway(page);
  await shoot(page, 'money-in');
});

/** Notices would stand in the picture. */
async function putAway(page: Page): Promise<void> {
  const crosses = page.getByRole('region', { name: 'Notices' }).getByRole('button', { name: 'Dismiss' });
  while ((await crosses.count()) > 0) await crosses.first().click();
}

test('costs', async ({ page }) => {
  await open(page, '/costs');
  await grid(page, 'Costs').locator('[data-place="1:1"]').focus();
  await shoot(page, 'costs');
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link', { name: 'Fernhill Folk Museum' }).click();
  await grid(page, 'Projects').getByRole('link', { name: 'Museum gallery 3' }).click();
  await page.getByRole('group', { name: 'Billed' }).waitFor();
  await shoot(page, 'project');
});

test('reports', async ({ page }) => {
  await open(page, '/reports/made/team');
  await grid(page, 'Report').getByRole('row').nth(3).waitFor();
  await page.getByRole('button', { name: /^Grouped by/ }).click();
  await shoot(page, 'report-builder');
});

test('team', async ({ page }) => {
  await open(page, '/team?day=2026-11-05');
  await grid(page, 'Members')
    .getByRole('button', { name: /^Approve/ })
    .waitFor();
  await shoot(page, 'team');
  await open(page, '/team?day=2026-10-29');
  await grid(page, 'Members').getByRole('link', { name: 'Asha Quill' }).click();
  await page.getByRole('region', { name: 'Changed while it was checked' }).waitFor();
  await page.getByRole('table', { name: 'By job and day' }).getByRole('button').first().click();
  await shoot(page, 'checking');
});

test('clients and setup', async ({ page }) => {
  await open(page, '/clients');
  await shoot(page, 'clients');
  await open(page, '/setup');
  await shoot(page, 'setup');
});

test('an empty workspace', async ({ page }) => {
  await startEmpty(page);
  await shoot(page, 'empty');
});

test('devices, and a change that did not fit', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'half-penny-relay-'));
  const relay = new RelayProcess(await freePort(), { RELAY_DATA: folder });
  await relay.start();
  const phone = await elsewhere(NOW);
  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85.00');
  await addTime(page, '2h', 'Focus session', 'winter');
  await share(page, relay.address, 'Laptop');
  await meet(relay.address, page, phone.page, 'Phone');
  await page.route(`${relay.address}/**`, (route) => route.abort());
  await open(page, '/today');
  await mark(page)
    .getByText(/^off line/)
    .waitFor();
  await grid(page, /^Entries of/)
    .getByRole('button', { name: 'Billable. Change' })
    .click();
  const coin = page.getByRole('dialog', { name: 'How much is billable' });
  await coin.getByLabel('Only this much').fill('1h');
  await coin.getByRole('button', { name: 'Set' }).click();
  await mark(page)
    .getByText(/1 waiting/)
    .waitFor();
  await open(phone.page, '/billing');
  await grid(phone.page, 'To bill by client').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await phone.page.getByRole('button', { name: /Put on invoice/ }).click();
  await phone.page.getByRole('button', { name: /^Issue/ }).click();
  await phone.page.getByRole('button', { name: 'Issue 0001' }).click();
  await phone.page.getByRole('heading', { level: 1, name: '0001' }).waitFor();
  await page.unroute(`${relay.address}/**`);
  await open(page, '/setup/devices');
  await page.getByRole('region', { name: 'Did not fit' }).waitFor();
  await mark(page).waitFor();
  await shoot(page, 'devices');
  await phone.leave();
  await relay.end('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});
