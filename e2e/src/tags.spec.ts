import type { Page } from '@playwright/test';
import { addTime, expect, expectAxeClean, grid, open, row, startEmpty, test, choose } from './app';

const dialog = (page: Page) => page.getByRole('dialog');

test('entries are tagged by keyboard, several at once, and found by their tags in a report', async ({ page }) => {
  await startEmpty(page);
  await addTime(page, '9-10', 'Plot sheet 4');
  await addTime(page, '10-11', 'Lux study');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  const day = grid(page, /^Entries of/);
  await day.locator('[data-place="0:1"]').focus();
  await page.keyboard.press('t');
  await dialog(page).getByLabel('Tags, with commas between').fill('urgent, #Lamp test');
  await expectAxeClean(page);
  await page.keyboard.press('Enter');
  await expect(dialog(page)).toHaveCount(0);
  await expect(day.getByRole('row').nth(1)).toContainText('Lamp test');
  // Of several, only what all have stands there; what one has by itself stays with it.
  for (const line of [0, 1]) {
    await day.locator(`[data-place="${line}:1"]`).focus();
    await page.keyboard.press('Space');
  }
  await page.keyboard.press('t');
  await expect(dialog(page).getByText(/also have .*Lamp test, urgent.*, which they keep/)).toBeVisible();
  await dialog(page).getByLabel('Tags, with commas between').fill('x'.repeat(61));
  await page.keyboard.press('Enter');
  await expect(dialog(page).getByRole('alert')).toHaveText('A tag has at most 60 characters.');
  await dialog(page).getByLabel('Tags, with commas between').fill('dress rehearsal');
  await page.keyboard.press('Enter');
  await expect(dialog(page)).toHaveCount(0);
  for (const line of [1, 2]) await expect(day.getByRole('row').nth(line)).toContainText('dress rehearsal');
  await expect(day.getByRole('row').nth(1)).toContainText('urgent');
  // Taken back and done again.
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(day.getByRole('row').nth(2)).not.toContainText('dress rehearsal');
  await day.locator('[data-place="1:1"]').focus();
  await page.keyboard.press('t');
  await dialog(page).getByRole('button', { name: 'Add the tag urgent' }).click();
  await page.keyboard.press('Tab');
  await dialog(page).getByRole('button', { name: /^Tag/ }).click();
  await expect(day.getByRole('row').nth(2)).toContainText('urgent');
  // A report by tag, of one tag alone.
  const asked = { rows: ['tag'], measures: ['recorded', 'count'], when: { kind: 'all' } };
  await page.goto(`/reports/ask/new?ask=${encodeURIComponent(JSON.stringify(asked))}`);
  await expect(page.getByRole('group', { name: 'What this report asks' })).toBeVisible();
  const button = (name: string | RegExp) =>
    page.getByRole('group', { name: 'What this report asks' }).getByRole('button', { name });
  await button(/^Add a condition/).click();
  await choose(page.getByLabel('Only some'), 'Tag');
  await page.keyboard.press('Escape');
  await button(/^Condition on tag/).click();
  await page.getByLabel('urgent', { exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(button('Condition on tag: tag urgent')).toBeVisible();
  const sums = page.getByRole('grid', { name: 'Report' });
  await expect(sums).toContainText('Lamp test');
  await expect(row(page, /^All/)).toContainText('2');
});

test('a project’s and a cost’s tags are kept, refused where they are none, and found', async ({ page }) => {
  await open(page, '/clients');
  await page.getByLabel('Find a client or project').fill('stage');
  await expect(grid(page, /Clients/).getByText('Quayside Playhouse')).toBeVisible();
  await expect(grid(page, /Clients/).getByText('Maison Clairval')).toHaveCount(0);
  await page.getByRole('link', { name: 'Winter season rig' }).first().click();
  const field = page.getByLabel('Tags', { exact: true });
  await expect(field).toHaveValue('stage');
  await field.fill('stage, repertory');
  await field.press('Enter');
  await expect(field).toHaveValue('repertory, stage');
  await field.fill('y'.repeat(70));
  await field.press('Enter');
  await expect(page.getByText('A tag has at most 60 characters.')).toBeVisible();
  await field.press('Escape');
  await expect(field).toHaveValue('repertory, stage');
});

test('a report is copied as a table, and its address holds what it asks', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const asked = { rows: ['client'], measures: ['recorded', 'worth'], when: { kind: 'moving', name: 'last month' } };
  const address = `/reports/ask/new?ask=${encodeURIComponent(JSON.stringify(asked))}`;
  await open(page, address);
  const sums = page.getByRole('grid', { name: 'Report' });
  await expect(sums).toContainText('Fernhill Folk Museum');
  const take = async (item: string) => {
    await page.getByRole('button', { name: 'Export…' }).click();
    await page.getByRole('menuitem', { name: item }).click();
    await expect(page.getByText(/^The (table|address) is copied/).last()).toBeVisible();
    return page.evaluate(() => navigator.clipboard.readText());
  };
  const lines = (await take('Copy as a table')).split('\n').map((line) => line.split('\t'));
  expect(lines.every((cells) => cells.length === lines[0]!.length)).toBe(true);
  const museum = lines.find((cells) => cells.includes('Fernhill Folk Museum'))!;
  for (const cell of museum.slice(1)) await expect(row(page, /Fernhill Folk Museum/)).toContainText(cell.trim());
  const copied = await take('Copy its address');
  expect(copied).not.toContain('Fernhill');
  await page.goto(copied);
  await expect(sums).toContainText('Fernhill Folk Museum');
  await expect(page.getByRole('button', { name: 'When: last month' })).toBeVisible();
});

test('words in titles are a report of their own, for any of its periods', async ({ page }) => {
  await open(page, '/reports');
  await page.getByRole('link', { name: 'Attention by words in titles' }).click();
  const words = grid(page, 'Words in titles');
  await choose(page.getByLabel('Period'), 'The last 90 days');
  await expect(words.getByRole('row').nth(1)).toContainText('%');
  await expectAxeClean(page);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'CSV' }).click();
  expect((await download).suggestedFilename()).toBe('Attention by words in titles.csv');
  // From one day to another, as people write days; an end before the beginning takes the beginning along.
  await choose(page.getByLabel('Period'), 'From one day to another');
  const day = (name: string) => page.getByRole('textbox', { name, exact: true });
  await day('To').fill('11 nov');
  await day('To').press('Enter');
  await expect(page).toHaveURL(/to=2026-11-11/);
  await day('From').fill('10 nov');
  await day('From').press('Enter');
  await expect(page).toHaveURL(/from=2026-11-10&to=2026-11-11/);
  await expect(words.getByRole('row').nth(1)).toContainText('%');
  await day('To').fill('8 nov');
  await day('To').press('Enter');
  await expect(page).toHaveURL(/from=2026-11-08&to=2026-11-08/);
  await expect(page.getByText('This computer’s trail has nothing for these days.')).toBeVisible();
});
