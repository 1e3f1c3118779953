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

test('week, month and import', async ({ page }) => {
  await open(page, '/week');
  await grid(page, 'The week').locator('[data-place="1:4"]').focus();
  await shoot(page, 'week');
  await open(page, '/today?view=month');
  await shoot(page, 'month');
  await open(page, '/hours/in');
  const table = [
    'Date;Client;Project;Start;End;Duration;Description;Activity',
    '09.11.2026;Quayside Playhouse;Winter season rig;09:00;10:30;1:30;Plot sheet 4;Drafting',
    '10.11.2026;Otterbourne Town Council;Lantern Lane arches;;;2:15;Survey of the arches;Site and focus',
    '11.11.2026;Fernhill Folk Museum;Museum gallery 3;;;0:45;Lux readings;Measuring',
    '12.11.2026;;;13:00;14:00;1:00;Call with the venue;',
  ].join('\n');
  await page
    .getByLabel('File with hours')
    .setInputFiles({ name: 'hours.csv', mimeType: 'text/csv', buffer: Buffer.from(table) });
  await grid(page, 'Rows that come in').waitFor();
  await shoot(page, 'import');
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
  await page.getByRole('link', { name: 'Money', exact: true }).click();
  await grid(page, 'Money by cost code').waitFor();
  await shoot(page, 'money');
});

test('clients and setup', async ({ page }) => {
  await open(page, '/clients');
  await shoot(page, 'clients');
  await grid(page, 'Clients').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await grid(page, 'Projects')
    .getByRole('row', { name: /Studio theatre/ })
    .waitFor();
  await shoot(page, 'client');
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link', { name: 'Bramble Street Dance' }).click();
  await grid(page, 'Projects').getByRole('link', { name: 'Spring double bill' }).click();
  await grid(page, 'Budgets').waitFor();
  await shoot(page, 'project');
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link', { name: 'Fernhill Folk Museum' }).click();
  await page.getByRole('link', { name: 'Rates and markups' }).click();
  await page.getByRole('button', { name: /Anyone: cost/ }).click();
  await page.getByRole('dialog').getByLabel('Markup, %').fill('80');
  await page.getByText(/entries to bill change/).waitFor();
  await shoot(page, 'rates');
  await open(page, '/setup/rounding');
  await shoot(page, 'setup');
});

test('an empty workspace', async ({ page }) => {
  await startEmpty(page);
  await shoot(page, 'empty');
});
