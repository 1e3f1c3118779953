import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { expect, expectAxeClean, grid, open, row, startEmpty, test, till } from './app';

const screens = [
  '/today',
  '/billing',
  '/costs',
  '/costs/place',
  '/costs/receipts',
  '/costs/in',
  '/costs/rules',
  '/costs/new/expense',
  '/costs/new/bill',
  '/reports',
  '/reports/made/money',
  '/reports/made/hours',
  '/reports/standing/owed',
  '/reports/standing/burn',
  '/clients',
  '/sift?day=2026-11-11',
  '/sift/rules',
  '/sift/documents',
  '/sift/back',
  '/sift/sources',
  '/week',
  '/time',
  '/today?view=month',
  '/hours/in',
  '/hours/out',
  '/setup',
  '/setup/people',
  '/setup/rates',
  '/setup/services',
  '/setup/recording',
  '/setup/rounding',
  '/setup/invoicing',
  '/setup/bookkeeping',
  '/setup/looks',
  '/setup/keys',
  '/setup/data',
];

for (const scheme of ['light', 'dark'] as const) {
  test(`every screen is axe clean, ${scheme}`, async ({ page }) => {
    test.setTimeout(480_000);
    // The themes differ in colours alone.
    const rules = scheme === 'dark' ? ['color-contrast'] : undefined;
    await page.emulateMedia({ colorScheme: scheme });
    for (const path of screens) {
      await open(page, path);
      await expectAxeClean(page, rules);
    }
    await open(page, '/billing');
    await grid(page, 'To bill by client').getByRole('link').first().click();
    await expect(page.getByRole('button', { name: /Put on invoice|Add to the draft/ })).toBeVisible();
    await expectAxeClean(page, rules);
    for (const standing of ['draft', 'paid']) {
      await open(page, `/billing?standing=${standing}`);
      await grid(page, 'Invoices').getByRole('link').first().click();
      await expect(page.getByTestId('invoice-sheet')).toBeVisible();
      await expectAxeClean(page, rules);
    }
    await open(page, '/clients');
    await grid(page, 'Clients').getByRole('link').first().click();
    const parts = page.getByRole('navigation', { name: 'About this client' });
    for (const part of await parts.getByRole('link').allTextContents()) {
      await parts.getByRole('link', { name: part }).click();
      await expect(page.getByText('Reading…')).toHaveCount(0);
      await expectAxeClean(page, rules);
    }
    await parts.getByRole('link', { name: 'Work' }).click();
    await grid(page, 'Projects').getByRole('link').first().click();
    await expect(page.getByRole('heading', { name: 'Budgets', exact: true })).toBeVisible();
    await expectAxeClean(page, rules);
  });
}

test('what opens over a screen is axe clean too', async ({ page }) => {
  await open(page, '/today?add=1');
  await expect(page.getByRole('form', { name: 'Add time' })).toBeVisible();
  await grid(page, /^Entries of/)
    .getByRole('button', { name: /working of/ })
    .first()
    .click();
  await expect(page.getByRole('dialog', { name: 'Working' })).toBeVisible();
  await expectAxeClean(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/A client, project/).fill('quay');
  await expect(page.getByRole('option', { name: 'Quayside Playhouse', exact: true })).toBeVisible();
  await expectAxeClean(page);
  await page.keyboard.press('Escape');
  await open(page, '/clients?add=1');
  await expectAxeClean(page);
});

test('an empty workspace says on each screen what belongs there', async ({ page }) => {
  await startEmpty(page);
  for (const [path, words] of [
    ['/today', 'Nothing is recorded on this day yet'],
    ['/billing', 'There are no invoices yet'],
    ['/costs', 'Nothing was bought yet'],
    ['/costs/place', 'Every cost has its place'],
    ['/sift/rules', 'No rules yet'],
    ['/clients', 'Clients are who you invoice'],
    ['/setup/rates', 'No rates here yet'],
  ] as const) {
    await open(page, path);
    await expect(page.getByText(words)).toBeVisible();
    await expectAxeClean(page);
  }
});

test('nothing sticks out of a window 360 pixels wide', async ({ page }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  for (const path of screens) {
    await open(page, path);
    expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 360]);
    await expect(till(page)).toBeInViewport();
  }
});

test('tables are worked by keyboard', async ({ page }) => {
  await open(page, '/today');
  const day = grid(page, /^Entries of/);
  const first = day.getByRole('row').nth(1);
  await first.getByRole('gridcell').nth(2).click();
  await page.keyboard.press('Escape');
  await expect(first.getByRole('gridcell').nth(2)).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(day.getByRole('row').nth(2).getByRole('gridcell').nth(2)).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Bar 6 again');
  await page.keyboard.press('Enter');
  await expect(day.getByRole('row').nth(2)).toContainText('Bar 6 again');
  await expect(day.getByRole('row').nth(2).getByRole('gridcell').nth(2)).toBeFocused();
  await page.keyboard.press('Delete');
  await expect(day.getByText('Bar 6 again')).toHaveCount(0);

  await open(page, '/billing');
  await grid(page, 'To bill by client').locator('[data-place="0:0"]').focus();
  await page.keyboard.press('ArrowDown');
  await expect(grid(page, 'To bill by client').locator('[data-place="1:0"]')).toBeFocused();
  // A client with few things to bill: a long list is rendered in part.
  await grid(page, 'To bill by client')
    .getByRole('row', { name: /Maison Clairval/ })
    .locator('[data-place$=":0"]')
    .focus();
  await page.keyboard.press('Enter');
  const picking = grid(page, /^To bill for/);
  await expect(picking.getByRole('row', { selected: true }).first()).toBeVisible();
  const rows = await picking.getByRole('row', { selected: true }).count();
  await picking.locator('[data-place="0:0"]').focus();
  await page.keyboard.press('Space');
  await expect(picking.getByRole('row', { selected: true })).toHaveCount(rows - 1);
  await page.keyboard.press('Control+a');
  await expect(picking.getByRole('row', { selected: true })).toHaveCount(rows);
});

test('Ctrl K finds by name and runs commands', async ({ page }) => {
  await open(page, '/today');
  const find = async (text: string, option: string | RegExp) => {
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder(/A client, project/).fill(text);
    await page.getByRole('option', { name: option }).first().click();
  };
  await find('foyer', /Foyer refresh · Quayside/);
  await expect(page.getByRole('heading', { level: 1, name: 'Foyer refresh' })).toBeVisible();
  await find('SL-0131', /SL-0131/);
  await expect(page.getByRole('heading', { level: 1, name: 'SL-0131' })).toBeVisible();
  await find('lux study', /Gallery 3 lux study/);
  await expect(row(page, /Gallery 3 lux study/).first()).toBeVisible();
  await find('stop', /Stop the timer/);
  await expect(till(page).getByText('Nothing is running')).toBeVisible();
  await find('theme dark', 'Theme: dark');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
});

test('the Till switches jobs; "." again stops', async ({ page }) => {
  await open(page, '/billing');
  await page.keyboard.press('.');
  await page.keyboard.type('footbridge');
  await page.keyboard.press('Enter');
  await expect(till(page)).toContainText('Footbridge lighting');
  await expect(till(page).getByRole('timer')).toHaveText(/^00:00:\d\d$/);
  await page.keyboard.press('.');
  await page.keyboard.press('.');
  await expect(till(page).getByText('Nothing is running')).toBeVisible();
});

test('printing prints the invoice alone', async ({ page }) => {
  await open(page, '/billing?standing=paid');
  await grid(page, 'Invoices').getByRole('link').first().click();
  await expect(page.getByTestId('invoice-sheet')).toBeVisible();
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByTestId('invoice-sheet')).toBeVisible();
  await expect(till(page)).toBeHidden();
  await expect(page.getByRole('navigation', { name: 'Screens' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'PDF' })).toBeHidden();
});

test('Today needs at most 220 kB of JavaScript, gzipped', async ({ page }) => {
  const loaded = new Set<string>();
  page.on('response', (response) => {
    const { pathname } = new URL(response.url());
    // What the service worker fetches ahead for later is not needed for Today.
    if (pathname.endsWith('.js') && !response.fromServiceWorker() && response.request().serviceWorker() === null)
      loaded.add(pathname);
  });
  await open(page, '/today');
  // The worker and its client only make the demo, on the very first visit; opened again, Today does without.
  loaded.clear();
  await page.reload();
  await open(page, '/today');
  const dist = join(import.meta.dirname, '../../web/dist');
  const html = readFileSync(join(dist, 'index.html'), 'utf8');
  const linked = [...html.matchAll(/(?:src|href)="(\/[^"]+\.js)"/g)].map((match) => match[1]!);
  const needed = new Set([...loaded, ...linked]);
  const size = [...needed]
    .filter((path) => !/workbox|sw\.js/.test(path))
    .reduce((sum, path) => sum + gzipSync(readFileSync(join(dist, path))).length, 0);
  console.log(`JavaScript for Today: ${(size / 1000).toFixed(1)} kB gzipped in ${needed.size} files`);
  expect(readdirSync(join(dist, 'assets')).length).toBeGreaterThan(5);
  expect(size).toBeLessThanOrEqual(220_000);
});
