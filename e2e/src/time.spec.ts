import { addTime, expect, grid, open, row, startEmpty, test, till, choose } from './app';

test('the line reads what one would write to a colleague', async ({ page }) => {
  await open(page, '/today');
  await page.keyboard.press('.');
  await page.keyboard.type('1:30 yesterday for foyer, plans, plot sheet 4, not billable');
  const understood = till(page).getByRole('list', { name: 'Understood as' });
  await expect(understood.getByRole('listitem')).toHaveText([
    'how long1 h 30 min',
    'day11 Nov 2026',
    'jobFoyer refresh / Quayside Playhouse',
    'servicePlans and sections',
    'noteplot sheet 4',
    'billablenot billable',
  ]);
  await page.keyboard.press('Enter');
  await expect(page.getByText('Entry added').first()).toBeVisible();
  await open(page, '/today?day=2026-11-11');
  const entry = row(page, /plot sheet 4/);
  await expect(entry).toContainText('Foyer refresh');
  await expect(entry).toContainText('1:30');
  await expect(entry.getByRole('button', { name: /^Not billable/ })).toBeVisible();

  // A job by the start of its name; Tab writes it out.
  await page.keyboard.press('.');
  await page.keyboard.type('museum');
  // A word that many jobs could have is only offered; two of them say it.
  await expect(till(page).getByRole('option').first()).toContainText('choose the job later');
  await expect(till(page).getByRole('option', { name: /Museum gallery 3/ })).toBeVisible();
  await page.keyboard.type(' gallery');
  await page.keyboard.press('Tab');
  await expect(till(page).getByRole('combobox')).toHaveValue('for Museum gallery 3 / Fernhill Folk Museum');
  await page.keyboard.type(' 12 minutes ago');
  await page.keyboard.press('Enter');
  await expect(till(page).getByRole('timer')).toHaveText(/00:12:0\d/);
  // Once more "." pauses.
  await page.keyboard.press('.');
  await page.keyboard.press('.');
  await expect(till(page).getByText('Nothing is running')).toBeVisible();
});

test('a timer goes on with an entry, and can be asked for what it needs', async ({ page }) => {
  await open(page, '/setup/recording');
  await page.getByLabel('a note').click();
  await expect(page.getByLabel('a note')).toBeChecked();
  await page.keyboard.press('.');
  await page.keyboard.type('foyer');
  await page.keyboard.press('Enter');
  await expect(till(page).getByRole('alert')).toContainText('Say a note first');
  await page.keyboard.type(', lamp order');
  await page.keyboard.press('Enter');
  await expect(till(page).getByRole('button', { name: /Running: lamp order/ })).toBeVisible();
  await page.clock.runFor('00:10:00');
  await till(page).getByRole('button', { name: 'Stop the timer' }).click();
  await expect(till(page).getByText('Nothing is running')).toBeVisible();
  await open(page, '/today');
  const entry = row(page, /lamp order/);
  await expect(entry).toContainText('0:10');
  await entry.locator('[data-place$=":1"]').focus();
  await page.keyboard.press('g');
  await expect(till(page).getByText(/continues, 0:10 so far/)).toBeVisible();
  await page.clock.runFor('00:05:00');
  await till(page).getByRole('button', { name: 'Stop the timer' }).click();
  await expect(row(page, /lamp order/)).toHaveCount(1);
  await expect(row(page, /lamp order/)).toContainText('0:15');
});

test('time that ran while the machine slept is asked about, never cut by itself', async ({ page }) => {
  await startEmpty(page);
  await page.keyboard.press('.');
  await page.keyboard.type('"Cue list"');
  await page.keyboard.press('Enter');
  await expect(till(page).getByRole('timer')).toBeVisible();
  await page.clock.runFor('00:20:00');
  await page.clock.fastForward('02:00:00');
  await page.clock.runFor('00:00:10');
  await expect(till(page).getByRole('link', { name: /2:00 since 15:30 while the machine slept/ })).toBeVisible();
  await expect(till(page).getByRole('timer')).toHaveText(/02:20:\d\d/);
  const doubt = page.getByRole('region', { name: 'Time in doubt' });
  await doubt.getByLabel('Work ended at').fill('15:45');
  await doubt.getByLabel('Work ended at').blur();
  await expect(doubt).toContainText('1:45');
  await doubt.getByRole('button', { name: 'Take it off' }).click();
  await expect(doubt).toHaveCount(0);
  await expect(row(page, /Cue list/)).toContainText(/0:3[45]/);
  await page.clock.runFor('00:05:00');
  await till(page).getByRole('button', { name: 'Stop the timer' }).click();
  // Two stretches of one entry, with the pause between them.
  await expect(row(page, /Cue list/)).toContainText(/15:10–15:45, 17:30–17:3\d/);
});

test('the day is split, joined, copied, moved and put right by keyboard', async ({ page }) => {
  await startEmpty(page);
  await addTime(page, '9-11', 'Plot sheet 4');
  await addTime(page, '12-13', 'Lux study');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  const day = grid(page, /^Entries of/);
  await expect(day.getByText('Not accounted for')).toBeVisible();
  await day.locator('[data-place="0:1"]').focus();
  await page.keyboard.press('s');
  await page.getByRole('dialog').getByRole('textbox').fill('9:45');
  await page.keyboard.press('Enter');
  await expect(day.getByText('09:00–09:45')).toBeVisible();
  await expect(day.getByText('09:45–11:00')).toBeVisible();
  // Both parts are chosen and joined again.
  await day.locator('[data-place="0:1"]').focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  await page.keyboard.press('j');
  await expect(day.getByText('09:00–11:00')).toBeVisible();
  await expect(row(page, /Plot sheet 4/)).toHaveCount(1);
  // What nothing covers becomes an entry by saying what it was.
  await day.locator('[data-place="1:1"]').focus();
  await page.keyboard.press('Enter');
  await page.keyboard.type('Phone');
  await page.keyboard.press('Enter');
  await expect(day.getByRole('textbox')).toHaveCount(0);
  await expect(row(page, /Phone/)).toContainText('11:00–12:00');
  await expect(day.getByText('Not accounted for')).toHaveCount(0);
  // Another day.
  await row(page, /Phone/).locator('[data-place$=":1"]').focus();
  await page.keyboard.press('m');
  await page.getByRole('dialog').getByLabel('To the day').fill('mon');
  await page.getByRole('dialog').getByLabel('To the day').press('Enter');
  await expect(page.getByRole('dialog').getByLabel('To the day')).toHaveValue('9 Nov 2026');
  await page.keyboard.press('Enter');
  await expect(row(page, /Phone/)).toHaveCount(0);
  await page
    .getByRole('navigation', { name: 'Days of the week' })
    .getByRole('button', { name: /Monday 9 November, 1:00/ })
    .click();
  await expect(row(page, /Phone/)).toContainText('11:00–12:00');
  await row(page, /Phone/).locator('[data-place$=":1"]').focus();
  await page.keyboard.press('d');
  await expect(row(page, /Phone/)).toHaveCount(2);
  await page.keyboard.press('Delete');
  await expect(row(page, /Phone/)).toHaveCount(1);
});

test('overlaps are allowed and shown, and what is ahead is marked', async ({ page }) => {
  await startEmpty(page);
  await addTime(page, '9-10', 'Plot sheet 4');
  await addTime(page, '9:30-11', 'Lux study');
  await addTime(page, '22:00-23:00', 'Night focus');
  await expect(page.getByRole('row').filter({ hasText: '09:30–11:00' })).toContainText(
    '30 min at the same time as “Plot sheet 4”',
  );
  await expect(page.getByText('2 entries overlap in time')).toBeVisible();
  await expect(row(page, /Night focus/)).toContainText('Still to come');
});

test('an entry across midnight is one entry, and part of both days', async ({ page }) => {
  await open(page, '/setup/people');
  await row(page, /Asha Quill/)
    .getByRole('button', { name: 'Work as' })
    .click();
  await open(page, '/today?day=2026-11-10');
  await expect(row(page, /Night focus/)).toContainText('1:50');
  await expect(row(page, /Night focus/)).toContainText('10 Nov to 11 Nov, 2 h 30 min in all');
  await open(page, '/today?day=2026-11-11');
  await expect(row(page, /Night focus/)).toContainText('0:40');
});

for (const [day, length] of [
  ['2026-03-29', '2:30'],
  ['2026-10-25', '4:30'],
] as const) {
  test(`the day on which the clocks change, ${day}, has the hours that passed`, async ({ page }) => {
    await startEmpty(page);
    await open(page, `/today?day=${day}&add=1`);
    const form = page.getByRole('form', { name: 'Add time' });
    await form.getByLabel('Length or from–to').fill('0:30-4:00');
    await form.getByLabel('What was done').fill('Night focus');
    await page.keyboard.press('Enter');
    await expect(row(page, /Night focus/)).toContainText('00:30–04:00');
    await expect(row(page, /Night focus/)).toContainText(length);
  });
}

test('a break by rule stands as a row of its own', async ({ page }) => {
  await startEmpty(page);
  await open(page, '/setup/recording');
  await choose(page.getByLabel('By itself'), 'A break by rule');
  await expect(page.getByText('after 6 h of work 30 min off')).toBeVisible();
  await addTime(page, '9-17', 'Fit-up');
  const day = grid(page, /^Entries of/);
  await expect(row(page, /Break, taken off by the studio/)).toContainText('−0:30');
  await expect(row(page, /Fit-up/)).toContainText('8:00');
  await expect(day.getByRole('row').last()).toContainText('7:30');
  await open(page, '/week');
  await expect(row(page, /Break, taken off by rule/)).toContainText('−0:30');
});

test('a job that is not set up is recorded in words and filed later', async ({ page }) => {
  await startEmpty(page);
  await page.keyboard.press('.');
  await page.keyboard.type('2h survey, job Hadley Hall');
  await page.keyboard.press('Enter');
  await expect(row(page, /survey/)).toContainText('not set up yet');
  await open(page, '/clients');
  await grid(page, 'Jobs that are not set up yet').getByRole('button', { name: 'File…' }).click();
  const dialog = page.getByRole('dialog');
  await choose(dialog.getByLabel('Onto'), 'A new project');
  await dialog.getByLabel('The new client’s name').fill('Hadley Hall');
  await dialog.getByLabel('Project').fill('Foyer');
  await dialog.getByRole('button', { name: 'File it' }).click();
  await expect(page.getByText('“Hadley Hall” filed').first()).toBeVisible();
  await expect(grid(page, 'Clients').getByText('Hadley Hall')).toBeVisible();
  await open(page, '/today');
  await expect(row(page, /survey/)).toContainText('Foyer');
  await page.keyboard.press('Control+z');
  await expect(row(page, /survey/)).toContainText('not set up yet');
});
