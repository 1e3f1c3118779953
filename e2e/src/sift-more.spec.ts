import type { Locator, Page } from '@playwright/test';
import { expect, expectAxeClean, grid, open, ready, startEmpty, test, tick, choose } from './app';

const stretches = (page: Page): Locator => grid(page, /^Stretches of/);
const loose = (page: Page): Locator =>
  stretches(page)
    .getByRole('row')
    .filter({ hasText: /Choose a job…|Another job…/ });

async function sift(page: Page, day = '2026-11-10'): Promise<void> {
  await open(page, `/sift?day=${day}`);
  await expect(stretches(page).getByRole('row').nth(1)).toBeVisible({ timeout: 30_000 });
}

/** Writes a rule that places on the museum’s gallery. */
async function writeRule(page: Page, sentence: string, posts: boolean): Promise<void> {
  await open(page, '/sift/rules');
  await page.getByRole('button', { name: 'Write a rule' }).click();
  const form = page.getByRole('form', { name: 'Rule' });
  await form.getByLabel('Where…').fill(sentence);
  await expect(form).toContainText(/would have matched [1-9]/);
  await form.getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('museum gallery');
  await page.keyboard.press('Enter');
  if (posts) await tick(form.getByLabel(/^Post what it places by itself/), true);
  await form.getByRole('button', { name: 'Make the rule' }).click();
  await expect(form).toHaveCount(0);
}

test('a rule that says so posts by itself, on whatever screen, and what was taken back stays back', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await writeRule(page, 'where folder begins with “/work/fernhill”', true);
  // No screen of Sift is open from here on.
  await page.getByRole('link', { name: 'Today' }).click();
  await expect(page.getByText(/entr(y|ies) posted$/).last()).toBeVisible({ timeout: 30_000 });
  await page.getByRole('link', { name: 'Sift' }).click();
  await sift(page);
  await expect(stretches(page).getByText('posted', { exact: true }).first()).toBeVisible();
  // One undo takes the entries back, and they are not made again.
  await page.keyboard.press('Control+z');
  await expect(stretches(page).getByText('posted', { exact: true })).toHaveCount(0);
  await page.reload();
  await ready(page);
  await expect(stretches(page).getByRole('row').nth(1)).toBeVisible({ timeout: 30_000 });
  await page.clock.runFor('00:02:00');
  await expect(stretches(page).getByText('posted', { exact: true })).toHaveCount(0);
});

test('a rule that does not say so posts nothing', async ({ page }) => {
  await writeRule(page, 'where folder begins with “/work/fernhill”', false);
  await sift(page);
  await expect(stretches(page).getByText('by a rule').first()).toBeVisible();
  await page.clock.runFor('00:02:00');
  await expect(stretches(page).getByText('posted', { exact: true })).toHaveCount(0);
});

test('programs are given to a job in bulk, this once and without a rule', async ({ page }) => {
  await open(page, '/sift/back?period=week');
  await choose(page.getByLabel('Time by', { exact: true }), 'Folder');
  const table = grid(page, 'Time by folder');
  const rows = table.getByRole('row').filter({ has: page.getByRole('checkbox') });
  await expect(rows.nth(1)).toBeVisible({ timeout: 30_000 });
  await tick(rows.nth(1).getByRole('checkbox'), true);
  await tick(rows.nth(2).getByRole('checkbox'), true);
  await page.getByRole('button', { name: 'Job of what is selected, this once' }).click();
  await page.getByPlaceholder('Client or project…').fill('footbridge');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/[sS]tretch(es)? placed$/).last()).toBeVisible();
  await choose(page.getByLabel('Time by', { exact: true }), 'Job');
  await expect(grid(page, 'Time by job')).toContainText('Footbridge lighting');
  await open(page, '/sift/rules');
  await expect(page.getByText('by a rule')).toHaveCount(0);
  // The two that the demo has, under their head.
  await expect(grid(page, 'Rules').getByRole('row')).toHaveCount(3);
});

test('sweeping over the hour page selects what lies under it', async ({ page }) => {
  await sift(page);
  const parts = page.getByRole('figure', { name: 'The day, hour by hour' }).getByRole('button');
  const boxes = await Promise.all([0, 1, 2, 3].map((index) => parts.nth(index).boundingBox()));
  const middle = (box: { x: number; y: number; width: number; height: number }) =>
    [box.x + box.width / 2, box.y + box.height / 2] as const;
  await page.mouse.move(...middle(boxes[0]!));
  await page.mouse.down();
  for (const box of boxes.slice(1)) await page.mouse.move(...middle(box!), { steps: 6 });
  await page.mouse.up();
  const selected = stretches(page).getByRole('row', { selected: true });
  await expect.poll(() => selected.count()).toBeGreaterThan(1);
  const count = await selected.count();
  const isPrivate = (within: Locator) => within.getByText('Private', { exact: true });
  const others = (await isPrivate(stretches(page)).count()) - (await isPrivate(selected).count());
  await page.getByRole('group', { name: 'With what is selected' }).getByRole('button', { name: 'Private' }).click();
  await expect(isPrivate(stretches(page))).toHaveCount(others + count);
});

test('a stretch is given to another workspace, and is offered there', async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  await sift(page);
  await tick(loose(page).first().getByRole('checkbox'), true);
  const when = await loose(page).first().getByRole('gridcell').nth(1).innerText();
  const given = stretches(page).getByRole('row').filter({ hasText: 'another studio' });
  await choose(page.getByLabel('Hand to another studio'), 0);
  await expect(given).toHaveCount(1);
  await expect(given).toContainText(when);
  await expectAxeClean(page);
  // In the workspace it was given to it waits for its job.
  await open(page, '/setup/data');
  await page.getByRole('button', { name: /^Open/ }).first().click();
  await page.waitForURL('**/today');
  await ready(page);
  await sift(page);
  const offered = loose(page).filter({ hasText: when });
  await expect(offered).toHaveCount(1);
  await expect(stretches(page)).not.toContainText('another studio');
});

test('a calendar and a single mail come in as activity, and what they cannot tell is named', async ({ page }) => {
  await open(page, '/sift/sources');
  const give = (name: string, text: string) =>
    page.getByLabel('Import a file').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  const calendar = [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Saltmere Lighting//Diary//EN',
    'BEGIN:VEVENT',
    'UID:notes@saltmere-lighting.example',
    'DTSTAMP:20261111T080000Z',
    'DTSTART:20261108T130000Z',
    'DTEND:20261108T140000Z',
    'SUMMARY:Zebra notes with the director',
    'ATTENDEE:mailto:maud@quayside-playhouse.example',
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ].join('\r\n');
  await give('diary.ics', calendar);
  await expect(page.getByText('1 activities imported from diary.ics.')).toBeVisible();
  await give(
    'one.eml',
    'From: Maud <maud@quayside-playhouse.example>\r\nTo: accounts@saltmere-lighting.example\r\nSubject: Quagga hire\r\nDate: Sun, 08 Nov 2026 13:05:00 +0000\r\n\r\nNobody reads this.\r\n',
  );
  await expect(page.getByText('1 activities imported from one.eml.')).toBeVisible();
  await give(
    'broken.ics',
    'BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nDTSTART:soon\r\nSUMMARY:x\r\nEND:VEVENT\r\nEND:VCALENDAR\r\n',
  );
  await expect(page.getByRole('alert')).toContainText(/Line \d|DTSTART|start/i);
  await sift(page, '2026-11-08');
  const meeting = stretches(page).getByRole('row').filter({ hasText: 'Zebra notes with the director' });
  await expect(meeting).toHaveCount(1);
  await expect(meeting).toContainText(/1:00|60/);
  // The mail that came meanwhile is evidence of it: it is of the same person.
  await meeting.getByRole('gridcell').nth(3).click();
  await expect(page.getByRole('region', { name: 'What was seen' })).toContainText('Zebra notes');
});
