import { readFileSync } from 'node:fs';
import { secretOf, serverFolder } from './address';
import { addTime, expect, expectAxeClean, grid, open, row, startEmpty, test } from './app';
import type { Page } from '@playwright/test';

// There is one tracker for all of them: one test at a time puts it back to its beginning.
test.describe.configure({ mode: 'default' });

/** Every test stands before the tracker as it is at first. */
test.beforeEach(async ({ request, baseURL }) => {
  await request.put(`${baseURL}/tracker/begin`, { headers: { 'x-half-penny': secretOf(serverFolder()) } });
});

const part = (page: Page, name: string) => page.getByRole('region', { name, exact: true });

async function follow(page: Page, name: string, kind = 'tasks', via = 'the simulated tracker of the local server') {
  // The page knows the server by its letters.
  await open(page, `/today#${secretOf(serverFolder())}`);
  await open(page, '/setup/elsewhere');
  const form = page.getByRole('form', { name: 'Follow a list' });
  await form.getByLabel('What it is called').fill(name);
  await form.getByRole('combobox', { name: 'It lists' }).click();
  await page.getByRole('option', { name: kind, exact: true }).click();
  await form.getByRole('combobox', { name: 'It comes from' }).click();
  await page.getByRole('option', { name: via }).click();
  await form.getByRole('button', { name: 'Follow the list' }).click();
  await expect(part(page, name)).toBeVisible();
}

async function map(page: Page, there: string, here: string) {
  await page.getByRole('button', { name: `Project for ${there}` }).click();
  await page.getByPlaceholder('Client or project…').fill(here);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: `Project for ${there}: ${here}` })).toBeVisible();
}

test('tasks of a tracker are recorded on, followed and closed, and their hours go back once', async ({
  page,
  context,
  baseURL,
}) => {
  await follow(page, 'Technical office');
  const list = part(page, 'Technical office');
  await list.getByRole('button', { name: 'Read now' }).click();
  await expect(list).toContainText(/13 tasks were told\.|Nothing changed since\./);
  await map(page, 'Winter season rig', 'Winter season rig');
  const tasks = grid(page, 'Tasks of Technical office');
  await expect(row(tasks, 'WSR-21 Refocus')).toContainText('Winter season rig');
  await expect(row(tasks, 'GAL-21 Lux')).toContainText('its project is not said yet');
  await expectAxeClean(page);

  await list.getByRole('combobox', { name: 'Hours on these tasks' }).click();
  await page.getByRole('option', { name: 'go back when I say so' }).click();
  await addTime(page, '1:15', 'Bridge refocused', 'WSR-21');
  await open(page, '/setup/elsewhere');
  const due = grid(page, 'Hours due to Technical office');
  await expect(row(due, /Refocus the front of house bridge/)).toContainText('1:15');

  // The answer is lost: it was taken there, and nobody heard of it.
  const keeper = await context.newPage();
  await keeper.goto(`${baseURL}/tracker`);
  const fault = async (kind: string) => {
    await keeper.goto(`${baseURL}/tracker`);
    await keeper.getByLabel('The next answer is').selectOption(kind);
    await keeper.getByRole('button', { name: 'Set' }).click();
  };
  await fault('lost');
  await list.getByRole('button', { name: 'Send one entry' }).click();
  await expect(list.getByRole('alert')).toContainText('The answer was lost.');
  await list.getByRole('button', { name: 'Send one entry' }).click();
  await expect(list).toContainText('Hours of one entry were sent.');
  await expect(list).toContainText('No hours on these tasks are waiting');
  await keeper.reload();
  await expect(keeper.getByText('1:15 on board-wsr-21')).toHaveCount(1);
  await open(page, '/time');
  await expect(row(grid(page, 'All time'), /Bridge refocused/)).toContainText('sent to Technical office');
  await open(page, '/setup/elsewhere');

  // The task is called otherwise and closed there; here it is no longer offered.
  const form = keeper.locator('form[action="/tracker/tasks/board-wsr-21"]');
  await form.getByLabel('Title').fill('Bridge, done over');
  await form.getByLabel('State').selectOption('Done');
  await form.getByRole('button', { name: 'Change' }).click();
  await list.getByRole('button', { name: 'Read now' }).click();
  await expect(list).toContainText(/1 task was told\.|Nothing changed since\./);
  await expect(row(tasks, 'WSR-21')).toHaveCount(0);
  await list.getByText('closed ones too').click();
  await expect(row(tasks, 'WSR-21 Bridge, done over')).toContainText('Winter season rig · finished');
  await open(page, '/today?add=1');
  await page.getByRole('form', { name: 'Add time' }).getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('WSR-2');
  await expect(page.getByRole('option', { name: /WSR-22/ })).toBeVisible();
  // It stands there with the reason, and cannot be chosen.
  await expect(page.getByRole('option', { name: /WSR-21/ })).toBeDisabled();

  // What was sent and changed since goes as a correction; a tracker that talks nonsense changes nothing.
  await open(page, '/today');
  await row(grid(page, /^Entries of/), /Bridge refocused/)
    .locator('[data-place$=":1"]')
    .focus();
  await page.keyboard.press('Delete');
  await expect(row(grid(page, /^Entries of/), /Bridge refocused/)).toHaveCount(0);
  await open(page, '/setup/elsewhere');
  await expect(row(due, /Bridge, done over/)).toContainText('1:15, taken back');
  await fault('malformed');
  await list.getByRole('button', { name: 'Read now' }).click();
  await expect(list.getByRole('alert')).toContainText('The tracker answered something that cannot be read');
  await list.getByRole('button', { name: 'Send one entry' }).click();
  await expect(list).toContainText('No hours on these tasks are waiting');
  await keeper.reload();
  await expect(keeper.getByText('None yet.')).toBeVisible();
});

test('what was touched of a task in the trail is offered on it', async ({ page }) => {
  await follow(page, 'Technical office');
  await part(page, 'Technical office').getByRole('button', { name: 'Read now' }).click();
  await map(page, 'Gallery 3', 'Museum gallery 3');
  await open(page, '/sift/sources');
  const from = Date.parse('2026-11-08T10:00:00Z');
  const activity = {
    ...{
      kind: 'window',
      from,
      to: from + 25 * 60_000,
      program: 'Browser',
      title: 'Textile case: what the loggers say',
    },
    address: 'https://board.saltmere-lighting.example/gal/21?tab=notes',
  };
  await page
    .getByLabel('Import a file')
    .setInputFiles({ name: 'own.jsonl', mimeType: 'text/plain', buffer: Buffer.from(`${JSON.stringify(activity)}\n`) });
  await expect(page.getByText('1 activities imported from own.jsonl.')).toBeVisible();
  await open(page, '/sift?day=2026-11-08');
  const offered = row(page, /10:00–10:25/);
  await expect(offered).toContainText('GAL-21 Lux readings for the textile case', { timeout: 20_000 });
});

test('tasks and clients of files are followed, and hours go back as a file', async ({ page }) => {
  await startEmpty(page);
  await follow(page, 'Museum list', 'tasks', 'files (VTODO, CSV, XLSX)');
  const list = part(page, 'Museum list');
  const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  const upload = list.getByLabel('A file of Museum list');
  await upload.setInputFiles(file('tasks.csv', 'Id,Project,Title,Estimate\n1,Gallery,Lamps,two\n'));
  await expect(list.getByRole('alert')).toContainText('Row 2, column D: “two” is not a number of hours');
  const todo = (uid: string, ...lines: string[]) => ['BEGIN:VTODO', `UID:${uid}`, ...lines, 'END:VTODO'];
  const calendar = (...lines: string[][]) =>
    ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//a//b//EN', ...lines.flat(), 'END:VCALENDAR', ''].join('\r\n');
  const lamps = todo('a', 'SUMMARY:[MU-4] Lamps', 'CATEGORIES:Gallery', 'DURATION:PT2H');
  await upload.setInputFiles(
    file('tasks.ics', calendar(lamps, todo('b', 'SUMMARY:Gel', 'CATEGORIES:Gallery', 'STATUS:IN-PROCESS'))),
  );
  await expect(list).toContainText('tasks.ics was read.');
  const tasks = grid(page, 'Tasks of Museum list');
  await expect(row(tasks, 'MU-4 Lamps')).toContainText('2:00');

  // A client from elsewhere, a project for it, and the tasks on it.
  await follow(page, 'Addresses', 'clients', 'files (VTODO, CSV, XLSX)');
  const addresses = part(page, 'Addresses');
  await addresses
    .getByLabel('A file of Addresses')
    .setInputFiles(file('clients.csv', 'Id,Name,E-mail\n7,Fernhill Folk Museum,estates@fernhill-museum.example\n'));
  await expect(row(grid(page, 'Clients of Addresses'), 'Fernhill Folk Museum')).toContainText('listed');
  await expectAxeClean(page);
  await grid(page, 'Clients of Addresses').getByRole('link', { name: 'Fernhill Folk Museum' }).click();
  await page.getByLabel('New project').fill('Gallery 3');
  await page.getByRole('button', { name: 'Add the project' }).click();
  await expect(grid(page, 'Projects').getByText('Gallery 3')).toBeVisible();
  await open(page, '/setup/elsewhere');
  await map(page, 'Gallery', 'Gallery 3');
  await list.getByRole('combobox', { name: 'Hours on these tasks' }).click();
  await page.getByRole('option', { name: 'go back when I say so' }).click();
  await addTime(page, '0:45', 'Lamps changed', 'MU-4');
  await open(page, '/setup/elsewhere');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    list.getByRole('button', { name: 'Save as a file' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('hours-museum-list-2026-11-12.csv');
  const saved = readFileSync(await download.path(), 'utf8');
  expect(saved).toMatch(/,a,MU-4 Lamps,2026-11-12,2700,0\.7500,Imogen Vale,Lamps changed\r\n/);
  await expect(list).toContainText('Hours of one entry are in the file, and count as sent.');
  await expect(list).toContainText('No hours on these tasks are waiting');

  // A later file without one of the tasks: that is over. Undo brings it back.
  await upload.setInputFiles(file('tasks.ics', calendar(lamps)));
  await expect(row(tasks, 'Gel')).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).last().click();
  await expect(row(tasks, 'Gel')).toBeVisible();
});
