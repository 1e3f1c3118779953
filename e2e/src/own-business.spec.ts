import { expect, expectAxeClean, grid, open, test } from './app';
import type { Page } from '@playwright/test';

// What the trail holds is the person's own business: what is shown of it, deleted from it, and how long it is kept.

const DAY = '/sift?day=2026-11-10';
const stretches = (page: Page) => grid(page, /^Stretches of/);
const rows = (page: Page) =>
  stretches(page)
    .getByRole('row')
    .filter({ hasText: /Choose a job…|Another job…/ });
const bar = (page: Page) => page.getByRole('group', { name: 'With what is selected' });

/** All that the trail holds, as one text, but who may tell it what. */
const trailText = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const opened = await new Promise<IDBDatabase>((resolve) => {
      const asked = indexedDB.open('half-penny.trail');
      asked.onsuccess = () => resolve(asked.result);
    });
    const tables = ['activities', 'placings'];
    const reading = opened.transaction(tables);
    const all = await Promise.all(
      tables.map(
        (name) =>
          new Promise((resolve) => {
            const asked = reading.objectStore(name).getAll();
            asked.onsuccess = () => resolve(asked.result);
          }),
      ),
    );
    opened.close();
    return JSON.stringify(all);
  });

test('a stretch is deleted from the trail, whole or a program alone, and what it held is nowhere', async ({ page }) => {
  await open(page, DAY);
  await expect(rows(page).first()).toBeVisible({ timeout: 30_000 });
  const count = await rows(page).count();
  // The bar stands below the row that was ticked.
  await rows(page).nth(1).getByRole('checkbox').click();
  await expect(bar(page)).toContainText('1 selected');
  const [row, place] = [await rows(page).nth(1).boundingBox(), await bar(page).boundingBox()];
  expect(Math.abs(place!.y - (row!.y + row!.height))).toBeLessThan(4);
  await expectAxeClean(page);
  await bar(page).getByRole('button', { name: 'Delete…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Delete from the trail' });
  await expect(dialog).toContainText('cannot be undone');
  await expectAxeClean(page);
  const program = dialog
    .getByRole('group', { name: /^Programs/ })
    .getByRole('checkbox')
    .first();
  await program.click();
  await expect(dialog.getByRole('button', { name: 'Delete what is ticked' })).toBeVisible();
  await program.click();
  await dialog.getByRole('button', { name: 'Delete everything of it' }).click();
  await expect(page.getByText('Stretch deleted from the trail')).toBeVisible();
  await expect(rows(page)).toHaveCount(count - 1);

  // By its key, a program alone, of all that is selected.
  const before = await trailText(page);
  expect(before).toContain('2026');
  await rows(page).first().getByRole('gridcell').nth(3).focus();
  await page.keyboard.press('Shift+D');
  const named = await dialog
    .getByRole('group', { name: /^Programs/ })
    .locator('label')
    .first()
    .innerText();
  await dialog
    .getByRole('group', { name: /^Programs/ })
    .getByRole('checkbox')
    .first()
    .click();
  await dialog.getByRole('button', { name: 'Delete what is ticked' }).click();
  await expect(page.getByText('Part of 1 stretch deleted from the trail')).toBeVisible();
  const times = (text: string) => text.split(`"program":"${named}"`).length;
  expect(times(await trailText(page))).toBeLessThan(times(before));
});

test('minutes stand as they were beside the summary, ticked with their stretch; one sentence goes to several', async ({
  page,
}) => {
  await open(page, DAY);
  await expect(rows(page).first()).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('figure', { name: /^The time by job: / })).toBeVisible();
  await page.getByRole('button', { name: 'Minute by minute' }).click();
  const minutes = grid(page, 'Minutes as they were');
  await expect(minutes.getByRole('row').nth(3)).toBeVisible();
  const tickable = minutes.getByRole('row').filter({ has: page.getByRole('checkbox') });
  await tickable.nth(1).getByRole('checkbox').click();
  await expect(stretches(page).getByRole('row', { selected: true })).toHaveCount(1);
  await rows(page).nth(2).getByRole('checkbox').click();
  await expect(bar(page)).toContainText('2 selected');
  expect(await minutes.getByRole('row', { selected: true }).count()).toBeGreaterThan(1);
  await expectAxeClean(page);
  await bar(page).getByRole('button', { name: 'Sentence…' }).click();
  await page.getByRole('dialog').getByLabel('Sentence').fill('Follow-spot positions, second look');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(stretches(page).getByText('Follow-spot positions, second look')).toHaveCount(2);
  await page.keyboard.press('Control+z');
  await expect(stretches(page).getByText('Follow-spot positions, second look')).toHaveCount(0);
});

test('how long it is kept is asked once; private deletes where chosen; wiping pauses first', async ({ page }) => {
  await open(page, '/sift/sources');
  await page.getByLabel('Days', { exact: true }).waitFor();
  await page.evaluate(async () => {
    const opened = await new Promise<IDBDatabase>((resolve) => {
      const asked = indexedDB.open('half-penny.trail');
      asked.onsuccess = () => resolve(asked.result);
    });
    const change = opened.transaction('settings', 'readwrite');
    change.objectStore('settings').delete('capture');
    await new Promise((resolve) => (change.oncomplete = resolve));
    opened.close();
  });
  await open(page, DAY);
  const question = page.getByRole('region', { name: 'How long activity is kept' });
  await expectAxeClean(page);
  await question.getByRole('button', { name: 'A year', exact: true }).click();
  await expect(question).toHaveCount(0);
  await open(page, '/sift/sources');
  await expect(page.getByLabel('Days', { exact: true })).toHaveValue('365');
  await page.getByRole('checkbox', { name: 'Private deletes it' }).click();
  await open(page, DAY);
  await expect(rows(page).first()).toBeVisible({ timeout: 30_000 });
  const count = await rows(page).count();
  await rows(page).first().getByRole('gridcell').nth(3).focus();
  await page.keyboard.press('v');
  await expect(page.getByText('Stretch deleted from the trail')).toBeVisible();
  await expect(rows(page)).toHaveCount(count - 1);

  await open(page, '/sift/sources');
  await page.getByRole('button', { name: 'Wipe the trail…' }).click();
  await expect(page.getByRole('checkbox', { name: /^Pause recording first/ })).toBeChecked();
  await page.getByRole('button', { name: 'Wipe it' }).click();
  await expect(page.getByText('Recording is paused')).toBeVisible();
  await expect(page.getByText(/(?<![\d,.])0 activities are kept/)).toBeVisible();
  expect(JSON.parse(await trailText(page))).toEqual([[], []]);
});
