import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, grid, open, row, test } from './app';

const folder = mkdtempSync(join(tmpdir(), 'half-penny-hours-'));
const file = (name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};

const TABLE = `Date;Client;Project;Start;End;Duration;Description
09.11.2026;Quayside Playhouse;Winter season rig;;;1:30;Plot sheet 4
10.11.2026;Hadley Hall;Foyer;;;2:15;Survey
`;

test('hours come in from a table, once, and with one undo they go', async ({ page }) => {
  await open(page, '/hours/in');
  const input = page.getByLabel('File with hours');
  await input.setInputFiles(file('broken.csv', `${TABLE}11.11.2026;;;;;long;Call\n`));
  await expect(page.getByRole('alert')).toContainText('Row 4, column F');
  await expect(page.getByRole('button', { name: /^Import \d/ })).toBeDisabled();
  await input.setInputFiles(file('hours.csv', TABLE));
  await expect(row(page, /Survey/)).toContainText('Hadley Hall / Foyer');
  await page.getByRole('button', { name: 'Import 2 rows' }).click();
  await expect(page).toHaveURL(/\/week/);
  await expect(row(page, /Hadley Hall/)).toContainText('2:15');
  // The same file again: its columns are remembered, its rows known.
  await open(page, '/hours/in');
  await input.setInputFiles(file('hours.csv', TABLE));
  await expect(page.getByText('as last time')).toBeVisible();
  await expect(page.getByText('2 were imported before')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Import \d/ })).toBeDisabled();
  await open(page, '/week');
  await page.keyboard.press('Control+z');
  await expect(row(page, /Hadley Hall/)).toHaveCount(0);
});

test('a file that is no table is named with row and column', async ({ page }) => {
  await open(page, '/hours/in');
  await page.getByLabel('File with hours').setInputFiles(file('quotes.csv', 'Date,Note\n2026-11-12,"never closed\n'));
  await expect(page.getByRole('alert')).toContainText('Row 2, column B');
});

const event = (uid: string, ...lines: string[]) =>
  `BEGIN:VEVENT\r\nUID:${uid}\r\n${lines.join('\r\n')}\r\nEND:VEVENT\r\n`;
const calendar = (...events: string[]) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${events.join('')}END:VCALENDAR\r\n`;

test('a calendar stands on its days as planned, and one key makes an entry', async ({ page }) => {
  await open(page, '/hours/in');
  const text = calendar(
    event(
      'a',
      'DTSTART;TZID=America/New_York:20261112T113000',
      'DURATION:PT45M',
      'SUMMARY:Notes',
      'ATTENDEE:mailto:production@quayside-playhouse.example',
    ),
    event('b', 'DTSTART:nonsense', 'SUMMARY:Lost'),
  );
  await page.getByLabel('File with hours').setInputFiles(file('calendar.ics', text));
  await expect(page.getByRole('alert')).toContainText('Line 12, column 9: “nonsense” is not a date or time');
  await expect(row(page, /Notes/)).toContainText('16:30–17:15');
  await expect(row(page, /Notes/)).toContainText('production@quayside-playhouse.example is of Quayside Playhouse');
  await page.getByRole('button', { name: 'Plan one event' }).click();
  await page.waitForURL('**/week**');
  await open(page, '/today');
  const notes = row(page, /Notes/);
  await expect(notes).toContainText('planned');
  await notes.locator('[data-place$=":1"]').focus();
  await page.keyboard.press('r');
  await expect(page.getByText('Planned time recorded').first()).toBeVisible();
  await expect(row(page, /Notes/)).toContainText('£');
});

test('a calendar of 50 MB shows how far it is and can be stopped', async ({ page }) => {
  test.setTimeout(120_000);
  const one = (index: number) =>
    event(`e${index}`, 'DTSTART:20261112T100000Z', 'DURATION:PT1H', 'SUMMARY:Notes', `DESCRIPTION:${'x'.repeat(900)}`);
  const path = file('long.ics', calendar(...Array.from({ length: 50_000 }, (_, index) => one(index))));
  expect(readFileSync(path).length).toBeGreaterThan(48_000_000);
  await open(page, '/hours/in');
  await page.getByLabel('File with hours').setInputFiles(path);
  const progress = page.getByRole('dialog', { name: 'Reading the calendar' });
  await expect(progress.getByRole('status')).toHaveText(/^[1-9]\d? %$/, { timeout: 60_000 });
  await progress.getByRole('button', { name: 'Stop' }).click();
  await expect(progress).toHaveCount(0);
  await expect(page.getByRole('grid', { name: 'Events' })).toHaveCount(0);
});

test('hours go out and come back as they were', async ({ page }) => {
  await open(page, '/hours/out?from=2026-11-01&to=2026-11-12');
  for (const [name, start] of [
    ['CSV', 'Day,From,To,Length'],
    ['XLSX', 'PK'],
    ['iCalendar', 'BEGIN:VCALENDAR'],
  ] as const) {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name, exact: true }).click();
    const path = join(folder, (await download).suggestedFilename());
    await (await download).saveAs(path);
    expect(readFileSync(path, 'utf8').replace('\ufeff', '').startsWith(start)).toBe(true);
  }
  await open(page, '/hours/in');
  await page.getByLabel('File with hours').setInputFiles(join(folder, 'hours-2026-11-01-2026-11-12.xlsx'));
  await expect(page.getByRole('button', { name: /^Import \d+ rows/ })).toBeEnabled();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expect(grid(page, 'Rows to import').getByRole('row').nth(3)).toBeVisible();
});
