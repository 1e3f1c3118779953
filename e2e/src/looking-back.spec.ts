import type { Locator, Page } from '@playwright/test';
import { choose, expect, grid, open, test } from './app';

const days = (page: Page): Locator => page.getByRole('list', { name: 'Days in small' });
const minutes = (text: string): number => {
  const [hours, rest] = text.split(':').map(Number);
  return hours! * 60 + rest!;
};

async function drag(page: Page, from: Locator, to: Locator): Promise<void> {
  const start = (await from.boundingBox())!;
  await page.mouse.move(start.x + start.width / 2, start.y + start.height / 2);
  await page.mouse.down();
  await page.mouse.move(start.x + start.width / 2, start.y + 20, { steps: 4 });
  // Where it is by now: rows above it may have come meanwhile.
  const end = (await to.boundingBox())!;
  await page.mouse.move(end.x + end.width / 2, end.y + end.height / 2, { steps: 12 });
  await page.mouse.up();
}

test('a week stands as seven days in small, against the week before; a loose piece and a row are dragged onto a job', async ({
  page,
}) => {
  await open(page, '/sift/back?period=last-week');
  await expect(days(page).getByRole('listitem')).toHaveCount(7, { timeout: 30_000 });
  await expect(page.getByText(/Seen in all .* (more|less) than 26 Oct 2026 – 1 Nov 2026/)).toBeVisible();
  const jobs = grid(page, 'Time by job');
  const seen = (name: string) => jobs.getByRole('row', { name }).getByRole('gridcell').last();
  const loose = async () => minutes(await seen('Not placed yet').innerText());
  const before = await loose();
  const target = page
    .getByRole('region', { name: 'Jobs to drop on' })
    .getByRole('listitem')
    .filter({ hasText: 'Foyer refresh' });
  await drag(page, days(page).getByTitle('Not placed yet').first(), target);
  await expect(page.getByText('Stretch placed')).toBeVisible();
  await expect.poll(loose).toBeLessThan(before);
  await expect(jobs).toContainText('Foyer refresh');
  // Everything that is mostly of a folder, by its row.
  const left = await loose();
  await choose(page.getByLabel('Time by', { exact: true }), 'Folder');
  const folders = grid(page, 'Time by folder');
  await drag(page, folders.getByTitle('Drag onto a job').first(), target);
  await expect(page.getByText(/[sS]tretch(es)? placed|placed already/).last()).toBeVisible();
  await choose(page.getByLabel('Time by', { exact: true }), 'Job');
  await expect.poll(loose).toBeLessThanOrEqual(left);
});

test('a list is narrowed to a project that has something in it, and a row opens what is behind it', async ({
  page,
}) => {
  await open(page, '/sift/back?period=last-week');
  const jobs = grid(page, 'Time by job');
  await expect(jobs.getByRole('row', { name: 'Museum gallery 3' })).toBeVisible({ timeout: 30_000 });
  const whole = await jobs.getByRole('row', { name: 'Museum gallery 3' }).getByRole('gridcell').last().innerText();
  await choose(page.getByLabel('Only'), 'Museum gallery 3');
  await expect(jobs.getByRole('row')).toHaveCount(2);
  await expect(jobs.getByRole('row').nth(1).getByRole('gridcell').last()).toHaveText(whole);
  await jobs.getByRole('row').nth(1).getByRole('button', { name: 'Museum gallery 3' }).click();
  const behind = page.getByRole('dialog', { name: 'Museum gallery 3' });
  const figures = behind.locator('tbody td:last-child');
  await expect(figures.first()).toBeVisible();
  const lengths = await figures.allInnerTexts();
  const sum = lengths.reduce((all, text) => all + minutes(text), 0);
  // Each is rounded to the minute by itself.
  expect(Math.abs(sum - minutes(whole))).toBeLessThanOrEqual(lengths.length);
  await behind.getByRole('link').first().click();
  await expect(page).toHaveURL(/\/sift\/day\?day=2026-11-0/);
});

test('the picture of a day is walked and swept by keys', async ({ page }) => {
  await open(page, '/sift/day?day=2026-11-10');
  const picture = page.getByRole('figure', { name: 'The day, hour by hour' });
  await picture.locator('button[tabindex="0"]').focus({ timeout: 30_000 });
  await page.keyboard.press('ArrowRight');
  const selected = grid(page, /^Stretches of/).getByRole('row', { selected: true });
  await expect(selected).toHaveCount(0);
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(() => selected.count()).toBeGreaterThan(1);
  await expect(page.getByRole('group', { name: 'With what is selected' })).toBeVisible();
});
