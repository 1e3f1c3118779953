import type { Page } from '@playwright/test';
import { readFileSync, writeFileSync } from 'node:fs';
import { addTime, elsewhere, expect, expectAxeClean, grid, handInWeek, open, row, test } from './app';

// The week of 16 November is over; nothing is recorded on it in the demo.
const MONDAY = new Date('2026-11-23T10:00:00Z');
const WEEK = '2026-11-16';

/** The file that a press saves. */
async function saved(page: Page, press: () => Promise<unknown>, as: string): Promise<string> {
  const waiting = page.waitForEvent('download');
  await press();
  const path = test.info().outputPath(as);
  await (await waiting).saveAs(path);
  return path;
}

const opened = (page: Page) => page.getByRole('list', { name: 'What was opened' });

async function openFile(page: Page, path: string): Promise<void> {
  await page.getByLabel('Sealed files').setInputFiles(path);
}

/** Saves what a button of the studio's list makes, and puts away what is said of it. */
async function made(page: Page, button: string, as: string): Promise<string> {
  await open(page, '/team/sealed');
  const path = await saved(page, () => page.getByRole('button', { name: button }).click(), as);
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  return path;
}

/** Invites somebody who is elsewhere, compares the codes and sets up their workspace. */
async function meet(studio: Page, member: Page, name: string): Promise<void> {
  const short = name.split(' ')[0]!.toLowerCase();
  const invitation = await made(studio, `Invite… for ${name}`, `${short}.half-penny.invitation`);
  await member.goto('/');
  await member.getByRole('button', { name: 'I was invited' }).click();
  const reply = await saved(member, () => openFile(member, invitation), `${short}-reply.half-penny.sealed`);
  await expect(opened(member)).toContainText('You are invited by Saltmere Lighting');
  const code = member.getByLabel('Short code');
  await expect(code).toHaveText(/^\d{5}( \d{5}){3}$/, { timeout: 30_000 });
  await expectAxeClean(member);

  await openFile(studio, reply);
  const dialog = studio.getByRole('dialog', { name: `Is it ${name}?` });
  await expect(dialog.getByLabel('Short code')).toHaveText(await code.innerText(), { timeout: 30_000 });
  await expectAxeClean(studio);
  await dialog.getByRole('button', { name: 'They are the same' }).click();
  await expect(row(grid(studio, 'Members and their files'), name)).toContainText('met,');

  const sheet = await made(studio, `Job sheet for ${name}`, `${short}-sheet.half-penny.sealed`);
  await openFile(member, sheet);
  await member.waitForURL('**/today');
  await expect(member.getByRole('navigation', { name: 'Screens' }).first()).toContainText('Sealed files');
}

/** Hands the week in and makes the file of it. */
async function handIn(member: Page, as: string): Promise<string> {
  await handInWeek(member, WEEK);
  await open(member, '/sealed');
  const path = await saved(
    member,
    () =>
      member
        .getByRole('button', { name: /^Make the file/ })
        .first()
        .click(),
    as,
  );
  await expect(member.getByRole('dialog')).toContainText('timesheet-2026-11-16.half-penny.sealed');
  await member.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  return path;
}

test('three people in browsers of their own: job sheets, a week, sent back and corrected, approved, closed and billed', async ({
  page,
}) => {
  test.setTimeout(300_000);
  await page.clock.setFixedTime(MONDAY);
  const [asha, teodor] = [await elsewhere(MONDAY), await elsewhere(MONDAY)];

  await open(page, '/team/sealed');
  await expectAxeClean(page);
  await page.getByRole('button', { name: 'Make the studio’s keys' }).click();
  await expect(grid(page, 'Members and their files')).toBeVisible();
  await expectAxeClean(page);
  await meet(page, asha.page, 'Asha Quill');
  await meet(page, teodor.page, 'Teodor Lund');

  // A week in each. What a member sees of the studio is their work, and no money.
  await addTime(page, '2:00', 'Quotes for the gallery', 'Museum gallery 3', '2026-11-17');
  await addTime(asha.page, '6:15', 'Focus, upper rig', 'Winter season rig', '2026-11-17');
  await addTime(asha.page, '3:30', 'Plot with the director', 'Winter season rig', '2026-11-18');
  await addTime(teodor.page, '7:00', 'Cabling', 'Museum gallery 3', '2026-11-19');
  for (const { page: own } of [asha, teodor]) {
    await expect(own.getByRole('navigation', { name: 'Screens' }).first()).not.toContainText('Billing');
    await expect(own.getByRole('main')).not.toContainText('From here to your first invoice');
  }
  // Teodor may see rates at the studio, and so here; Asha may not.
  await expect(asha.page.getByRole('main')).not.toContainText('£');
  await expect(teodor.page.getByRole('main')).toContainText('£546.00');
  const first = await handIn(asha.page, 'asha-1.half-penny.sealed');
  const second = await handIn(teodor.page, 'teodor-1.half-penny.sealed');
  await expectAxeClean(asha.page);

  // An altered file, one that is for somebody else, and a replay are refused in words.
  await open(page, '/team/sealed');
  const bytes = readFileSync(first);
  bytes[bytes.length - 40]! ^= 1;
  const altered = test.info().outputPath('altered.half-penny.sealed');
  writeFileSync(altered, bytes);
  await openFile(page, altered);
  await expect(opened(page)).toContainText('This file was altered or cut off since it was sealed');
  await open(teodor.page, '/sealed');
  await openFile(teodor.page, first);
  await expect(opened(teodor.page)).toContainText('sealed to somebody else’s keys');
  await page.getByLabel('Sealed files').setInputFiles([first, second]);
  await expect(opened(page)).toContainText('The timesheet of Asha Quill was taken: 2 entries, 0 expenses.');
  await expect(opened(page)).toContainText('The timesheet of Teodor Lund was taken: 1 entry, 0 expenses.');
  await openFile(page, first);
  await expect(opened(page)).toContainText('was taken on 23 Nov 2026 already. Nothing was changed.');

  // One entry is sent back, with the reason.
  await open(page, `/team?day=${WEEK}`);
  await row(grid(page, 'Members'), 'Asha Quill').getByRole('link', { name: 'Asha Quill' }).click();
  const lines = grid(page, /^Asha Quill, Week/);
  await expect(lines).toContainText('Focus, upper rig');
  await row(lines, /Focus, upper rig/)
    .getByRole('checkbox')
    .click();
  await page.getByRole('button', { name: 'Send 1 back…' }).click();
  await page.getByLabel('Why').fill('How long was the break?');
  await page.getByRole('dialog').getByRole('button', { name: 'Send back' }).click();
  await expect(lines).toContainText('“How long was the break?”');
  const back = await made(page, 'Answer for Asha Quill', 'asha-answer-1.half-penny.sealed');

  await open(asha.page, '/sealed');
  await openFile(asha.page, back);
  await expect(opened(asha.page)).toContainText('The answer was taken.');
  await open(asha.page, `/week?day=${WEEK}`);
  const checking = asha.page.getByRole('region', { name: 'Checking' });
  await expect(checking).toContainText('“How long was the break?”');
  await expectAxeClean(asha.page);
  await open(asha.page, '/today?day=2026-11-17');
  const entries = grid(asha.page, /^Entries of/);
  await row(entries, /Focus, upper rig/)
    .getByText('6:15')
    .dblclick();
  await asha.page.keyboard.press('Control+a');
  await asha.page.keyboard.type('5:45');
  await asha.page.keyboard.press('Enter');
  await expect(row(entries, /Focus, upper rig/)).toContainText('5:45');
  await open(page, '/team/sealed');
  await openFile(page, await handIn(asha.page, 'asha-2.half-penny.sealed'));
  await expect(opened(page)).toContainText('The timesheet of Asha Quill was taken');

  // Approved, closed, told, billed.
  await open(page, `/team?day=${WEEK}`);
  for (const name of ['Asha Quill', 'Teodor Lund']) {
    await row(grid(page, 'Members'), name).getByRole('link', { name }).click();
    await page.getByRole('button', { name: 'Approve all of it' }).click();
    await expect(page.getByText('approved by Imogen Vale, 23 Nov')).toBeVisible();
    await open(page, `/team?day=${WEEK}`);
  }
  await open(page, '/team/closed');
  await page.getByRole('button', { name: 'Close days…' }).click();
  const close = page.getByRole('dialog', { name: 'Close days' });
  for (const [label, day] of [
    ['From', WEEK],
    ['To', '2026-11-22'],
  ] as const) {
    await close.getByLabel(label).fill(day);
    await close.getByLabel(label).press('Tab');
  }
  await close.getByRole('combobox', { name: 'Whose' }).click();
  await page.getByRole('option', { name: 'Asha Quill' }).click();
  await close.getByRole('button', { name: 'Close them' }).click();
  await expect(grid(page, 'Closed days')).toContainText('16 Nov');
  const told = await made(page, 'Answer for Asha Quill', 'asha-answer-2.half-penny.sealed');
  await open(asha.page, '/sealed');
  await openFile(asha.page, told);
  await expect(grid(asha.page, 'What you handed in')).toContainText('closed');
  await open(asha.page, `/week?day=${WEEK}`);
  await expect(checking).toContainText('closed');
  await expect(grid(asha.page, 'The week')).toContainText('5:45');

  await open(page, '/billing');
  await page.getByRole('link', { name: 'Quayside Playhouse' }).first().click();
  await expect(page.getByRole('main')).toContainText('Focus, upper rig');

  await asha.leave();
  await teodor.leave();
});
