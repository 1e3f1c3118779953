import type { Page } from '@playwright/test';
import { join } from 'node:path';
import { grid, open, startEmpty, test } from '../src/app';

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
  await page.emulateMedia({ colorScheme: 'dark' });
  await shoot(page, 'today-dark');
  await page.emulateMedia({ colorScheme: 'light' });
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
  await page.getByRole('button', { name: /^Always here/ }).click();
  await page.getByText(/would have matched/).waitFor();
  await shoot(page, 'rules');
});

test('billing', async ({ page }) => {
  await open(page, '/billing');
  await shoot(page, 'billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Fernhill Folk Museum' }).click();
  await page
    .getByRole('group', { name: 'Kinds' })
    .getByRole('button', { name: /^Supplier bills/ })
    .click();
  await grid(page, /^To bill for/)
    .locator('[data-place="2:4"]')
    .focus();
  await shoot(page, 'to-bill');
  await page.getByRole('group', { name: 'Kinds' }).getByRole('button', { name: /^All/ }).click();
  await page.getByRole('button', { name: /Put on invoice/ }).click();
  await grid(page, 'Lines of the draft').waitFor();
  await shoot(page, 'draft');
  await open(page, '/billing?standing=issued');
  await grid(page, 'Invoices').getByRole('link').first().click();
  await shoot(page, 'invoice');
});

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
  await open(page, '/reports');
  // The pictures come one after the other.
  await page
    .getByRole('region', { name: 'Attention', exact: true })
    .getByRole('img')
    .nth(4)
    .waitFor({ timeout: 60_000 });
  await page.getByRole('region', { name: 'Hours', exact: true }).getByRole('img').nth(6).waitFor();
  await shoot(page, 'reports');
  await open(page, '/reports/made/team');
  await grid(page, 'Report').getByRole('row').nth(3).waitFor();
  await page.getByRole('button', { name: /^Grouped by/ }).click();
  await shoot(page, 'report-builder');
  await open(page, '/reports/made/money');
  await grid(page, 'Report').getByRole('row').nth(3).waitFor();
  await shoot(page, 'report-money');
  await open(page, '/sift/back');
  await grid(page, 'Time by job').waitFor({ timeout: 60_000 });
  await shoot(page, 'looking-back');
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
