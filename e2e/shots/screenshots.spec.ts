import type { Page } from '@playwright/test';
import { join } from 'node:path';
import { grid, open, startEmpty, test } from '../src/app';
import { asClient, connected, payingSimulated } from '../src/post';

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
  await open(page, '/setup/people');
  await grid(page, 'Members')
    .getByRole('row', { name: 'Teodor Lund' })
    .getByRole('button', { name: 'Work as' })
    .click();
  await open(page, '/week?day=2026-10-29');
  await page.getByText('sent back', { exact: true }).waitFor();
  await shoot(page, 'sent-back');
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
