import type { Page } from '@playwright/test';
import { expect, grid, open, row, startEmpty, test, choose } from './app';

/** Counts what is pressed; the words of notes are counted apart. */
class Keys {
  readonly page: Page;
  pressed = 0;

  constructor(page: Page) {
    this.page = page;
  }

  async press(...keys: string[]): Promise<void> {
    for (const key of keys) {
      await this.page.keyboard.press(key);
      this.pressed++;
    }
  }

  async type(text: string): Promise<void> {
    await this.page.keyboard.type(text);
    this.pressed += text.length;
  }
}

/** A week of the studio: jobs by what is typed to find them, and a length for each day that has one. */
const WEEK: readonly (readonly [job: string, ...lengths: string[]])[] = [
  ['foot', '1:30', '', '2', '', '0:45'],
  ['foyer', '', '1:15', '', '1', ''],
  ['gall', '2', '2:30', '', '', '1:30'],
  ['salon', '', '', '0:45', '', '0:15'],
  ['doub', '1', '', '2:15', '3', '1'],
  ['summ', '', '1', '', '1:45', ''],
  ['stud', '0:30', '0:30', '0:30', '', ''],
  ['rig', '2:30', '', '', '1:30', ''],
  ['hadley', '', '', '', '', '2'],
];

test('a week of 22 entries on 9 jobs is recorded by keyboard alone', async ({ page }) => {
  test.setTimeout(120_000);
  const entries = WEEK.flatMap(([, ...lengths]) => lengths.filter(Boolean)).length;
  expect(entries).toBe(22);
  // A week in which nothing stands yet.
  await open(page, '/week?day=2026-12-07');
  const week = grid(page, 'The week');
  const keys = new Keys(page);
  // Into the grid as one comes with the keyboard: the way there is counted too.
  await page.getByLabel('Whose week').focus();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  const list = page.getByRole('listbox');
  for (const [index, [job, ...lengths]] of WEEK.entries()) {
    if (index === 0) await week.getByRole('button', { name: /Add a job/ }).press('Enter');
    else await keys.press('j');
    await expect(list).toBeVisible();
    await keys.type(job);
    await expect(list.getByRole('option').first()).toBeVisible();
    await keys.press('Enter');
    await expect(list).toHaveCount(0);
    await expect(page.locator('[data-place]:focus')).toHaveCount(1);
    await keys.press('Home');
    let column = 0;
    for (const [day, length] of lengths.entries()) {
      if (!length) continue;
      while (column < day) {
        await keys.press('ArrowRight');
        column++;
      }
      await keys.type(length);
      // Tab keeps what was typed and goes on to the next day.
      await keys.press('Tab');
      column = day + 1;
      await expect(page.locator('[data-place]:focus')).toHaveCount(1);
    }
  }
  // 31 hours, less half an hour's break by rule on two long days without times.
  await expect(row(page, /^Recorded/)).toContainText('30:00');
  const each = keys.pressed / entries;
  console.log(
    `Week by keyboard: ${keys.pressed} key presses for ${entries} entries, ${each.toFixed(1)} an entry (aim at most 12)`,
  );
  expect(each).toBeLessThanOrEqual(12);
  await expect(page.getByRole('row', { name: 'Not set up yet' })).toBeVisible();
  await expect(row(page, /hadley/)).toContainText('2:00');
});

test('a paper week of three jobs and 15 lengths takes at most 90 key presses, and changes nothing else', async ({
  page,
}) => {
  await open(page, '/week?day=2026-12-07');
  await expect(page.getByText('Nothing stands in this week yet')).toBeVisible();
  const paper: readonly (readonly [string, RegExp, ...string[]])[] = [
    ['foyer', /Foyer refresh/, '1:30', '2', '0:45', '1:15', '2'],
    ['foot', /Footbridge lighting/, '2', '1:30', '3', '2', '1:15'],
    ['salon', /Salon/, '3', '2:30', '1', '2', '1'],
  ];
  const keys = new Keys(page);
  const list = page.getByRole('listbox');
  const focused = page.locator('[data-place]:focus');
  for (const [job, , ...lengths] of paper) {
    // Wherever the focus is on the page, and in an empty week.
    await keys.press('j');
    await keys.type(job.slice(0, 4));
    await expect(list.getByRole('option').first()).toBeVisible();
    await keys.press('Enter');
    await expect(focused).toHaveAttribute('data-place', /:0$/);
    for (const length of lengths) {
      await keys.type(length);
      await keys.press('Tab');
    }
  }
  const two = (length: string) => (length.includes(':') ? length : `${length}:00`);
  for (const [, name, ...lengths] of paper) {
    await expect(row(page, name).locator('[data-place]')).toHaveText([...lengths.map(two), '', '']);
  }
  await expect(page.locator('[data-place]').filter({ hasText: /\d/ })).toHaveCount(15);
  console.log(`Paper week: ${keys.pressed} key presses for 15 lengths on 3 jobs (aim at most 90)`);
  expect(keys.pressed).toBeLessThanOrEqual(90);
});

test('in the week Tab goes on to the next row, Escape and Tab leave it, and a figure finds its cell', async ({
  page,
}) => {
  await open(page, '/week?day=2026-12-07');
  const focused = page.locator('[data-place]:focus');
  for (const job of ['foyer', 'salon']) {
    await page.keyboard.press('j');
    await page.keyboard.type(job);
    await page.keyboard.press('Enter');
    await expect(focused).toHaveCount(1);
  }
  const salon = row(page, /Salon/);
  const first = salon.locator('[data-place$=":0"]');
  await first.focus();
  await page.keyboard.type('1');
  await page.keyboard.press('Tab');
  await expect(first).toHaveText('1:00');
  // What is typed over is shown with what takes its place.
  await first.focus();
  await page.keyboard.type('2:30');
  await expect(salon.getByRole('status')).toHaveText('1:00 → 2:30');
  await page.keyboard.press('Escape');
  await expect(first).toHaveText('1:00');
  const foyer = row(page, /Foyer refresh/);
  const rows = await page
    .locator('[data-place$=":0"]')
    .evaluateAll((cells) => cells.map((cell) => cell.getAttribute('aria-label')!.split(',')[0]));
  // Clients stand in order: the row of Salon is the first.
  const [above, below] = rows[0] === 'Foyer refresh' ? [foyer, salon] : [salon, foyer];
  const last = above.locator('[data-place$=":6"]');
  await last.focus();
  await page.keyboard.type('1');
  await page.keyboard.press('Tab');
  await expect(last).toBeFocused();
  await page.keyboard.press('Tab');
  const empty = below === salon ? 1 : 0;
  await expect(below.locator(`[data-place$=":${empty}"]`)).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Tab');
  await expect(focused).toHaveCount(0);
  // A figure outside the grid goes to the cell that is marked, not into the Till.
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.type('1.5');
  await page.keyboard.press('Enter');
  await expect(below.locator(`[data-place$=":${empty}"]`)).toHaveText('1:30');
});

test('a block is pasted whole or not at all, and copied as spreadsheets take it', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await open(page, '/week?day=2026-12-07');
  const week = grid(page, 'The week');
  await week.getByRole('button', { name: /Add a job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('foyer');
  await page.keyboard.press('Enter');
  await week.locator('[data-place="0:0"]').focus();
  const paste = async (text: string) => {
    await page.evaluate((value) => navigator.clipboard.writeText(value), text);
    await page.keyboard.press('Control+v');
  };
  await paste('Winter season rig\t1:30\t2\nHadley Hall\tone\t0:15\n');
  await expect(page.getByRole('alert')).toContainText('Row 2, column 2 of the block');
  await expect(row(page, /Hadley Hall/)).toHaveCount(0);
  await paste('Winter season rig\t1:30\t2\nHadley Hall\t1\t0,25\n');
  await expect(row(page, /Winter season rig/)).toContainText('3:30');
  await expect(row(page, /Hadley Hall/)).toContainText('1:15');
  const rig = row(page, /Winter season rig/);
  await rig.locator('[data-place]').first().focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Control+c');
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe('1:30\t2:00');
  await page.keyboard.press('Control+z');
  await expect(row(page, /Hadley Hall/)).toHaveCount(0);
});

test('time is planned over days, becomes entries with one press, and stands against what was done', async ({
  page,
}) => {
  await open(page, '/week?day=2026-12-07');
  const week = grid(page, 'The week');
  await week.getByRole('button', { name: /Add a job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('foyer');
  await page.keyboard.press('Enter');
  const foyer = row(page, /Foyer refresh/);
  await foyer.locator('[data-place$=":0"]').focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('p');
  await page.keyboard.type('2h site visit');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Time planned on 3 days').first()).toBeVisible();
  await foyer.locator('[data-place$=":1"]').focus();
  await page.keyboard.press('r');
  await expect(foyer.locator('[data-place$=":1"]')).toHaveText(/^2:00$/);
  await expect(foyer).toContainText('of 6:00');
  await foyer.locator('[data-place$=":2"]').focus();
  await page.keyboard.type('1:15');
  await page.keyboard.press('Enter');
  await expect(foyer).toContainText('3:15');
  await expect(foyer.locator('[data-place$=":2"]')).toHaveText(/^1:15$/);
});

test('several entries under a cell fold out, and what cannot be read is answered at the cell', async ({ page }) => {
  await open(page, '/week?day=2026-11-02');
  const cell = page.locator('[data-place][aria-label*="entries"]').first();
  const several = Number(/(\d+) entries/.exec((await cell.getAttribute('aria-label'))!)![1]);
  await cell.focus();
  await page.keyboard.type('5');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Several entries stand here');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Space');
  const folded = page.getByRole('row').filter({ hasText: 'Fold in' });
  await expect(folded.getByLabel('Note')).toHaveCount(several);
  await folded.getByLabel('Note').first().fill('Told again');
  await folded.getByLabel('Note').first().press('Enter');
  await expect(page.getByText('Entry changed').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await row(page, /Foyer refresh/)
    .locator('[data-place$=":4"]')
    .focus();
  await page.keyboard.type('1');
  await page.keyboard.type('x');
  await page.keyboard.press('Enter');
  await expect(row(page, /Foyer refresh/).getByRole('alert')).toContainText('cannot be read');
});

test('what is missing is said for any range', async ({ page }) => {
  await open(page, '/week');
  const missing = page.getByRole('region', { name: 'What is missing' });
  await expect(missing).toContainText('EN-14 chapel roof');
  await expect(missing.getByRole('link', { name: /Thursday 12 November/ })).toBeVisible();
  await choose(missing.getByLabel('Period'), 'Last billing period');
  await expect(missing.getByLabel('From')).toHaveValue('1 Oct 2026');
  await expect(missing.getByRole('link', { name: /October/ }).first()).toBeVisible();
});

test('an empty week says what belongs there', async ({ page }) => {
  await startEmpty(page);
  await open(page, '/week');
  await expect(page.getByText('Nothing stands in this week yet.')).toBeVisible();
  await page.getByRole('button', { name: 'The week before' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Week 45');
});
