import type { Page } from '@playwright/test';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { makeKeys } from '@half-penny/formats/sealed-files';
import { RelayClient } from '@half-penny/formats/sealed-log';
import { freePort } from '../../relay/src/testing/postgres';
import { RelayProcess } from '../../trials/src/relay-process';
import { addTime, elsewhere, expect, expectAxeClean, grid, handInWeek, open, row, test, tick } from './app';

// The week of 16 November is over; nothing is recorded on it in the demo.
const MONDAY = new Date('2026-11-23T10:00:00Z');
const WEEK = '2026-11-16';

const part = (page: Page) => page.getByRole('region', { name: 'By a relay' });
const travelled = (page: Page) => page.getByRole('list', { name: 'Went and came' });
const lookNow = (page: Page) => part(page).getByRole('button', { name: 'Look now' }).click();

test('after an invitation sealed files go and come by a relay without a hand, whatever dies meanwhile', async ({
  page,
}) => {
  test.setTimeout(400_000);
  const folder = mkdtempSync(join(tmpdir(), 'half-penny-relay-'));
  const relay = new RelayProcess(await freePort(), { RELAY_DATA: folder });
  await relay.start();
  const asha = await elsewhere(MONDAY);
  await page.clock.setSystemTime(MONDAY);

  await open(page, '/team/sealed');
  await page.getByRole('button', { name: 'Make the studio’s keys' }).click();
  await part(page).getByLabel('Relay').fill('relay of ours');
  await part(page).getByRole('button', { name: 'Use this relay' }).click();
  await expect(part(page)).toContainText('Write the address of the relay as');
  await part(page).getByLabel('Relay').fill(relay.address);
  await part(page).getByRole('button', { name: 'Use this relay' }).click();
  await expect(part(page)).toContainText('Looked into 23 Nov 2026');
  await expect(travelled(page)).toContainText('Nothing went or came yet.');
  await expectAxeClean(page);

  // The invitation alone goes by hand.
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Invite… for Asha Quill' }).click();
  const invitation = test.info().outputPath('asha.half-penny.invitation');
  await (await waiting).saveAs(invitation);
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  await asha.page.goto('/');
  await asha.page.getByRole('button', { name: 'I was invited' }).click();
  await asha.page.getByLabel('Sealed files').setInputFiles(invitation);
  await expect(asha.page.getByRole('list', { name: 'What was opened' })).toContainText(
    'Your reply went to them by their relay.',
  );
  const code = asha.page.getByLabel('Short code');
  await expect(code).toHaveText(/^\d{5}( \d{5}){3}$/);
  await expectAxeClean(asha.page);

  await lookNow(page);
  await expect(travelled(page)).toContainText('Asha Quill has answered the invitation.');
  await page.getByRole('button', { name: 'Compare the codes… for Asha Quill' }).click();
  const compared = page.getByRole('dialog', { name: 'Is it Asha Quill?' });
  await expect(compared.getByLabel('Short code')).toHaveText(await code.innerText());
  await compared.getByRole('button', { name: 'They are the same' }).click();
  await expect(travelled(page)).toContainText('A job sheet for Asha Quill went to its mailbox.');
  await asha.page.waitForURL('**/today', { timeout: 60_000 });
  await expect(asha.page.getByRole('navigation', { name: 'Screens' }).first()).toContainText('Sealed files');

  // Handed in while nothing is at the relay's address, it goes when there is.
  await addTime(asha.page, '6:15', 'Focus, upper rig', 'Winter season rig', '2026-11-17');
  await relay.end('SIGKILL');
  await handInWeek(asha.page, WEEK);
  await open(asha.page, '/sealed');
  await expect(part(asha.page)).toContainText('Off line since');
  await expect(grid(asha.page, 'What you handed in')).toContainText('not yet');
  await expectAxeClean(asha.page);
  await relay.start();
  await lookNow(asha.page);
  await expect(travelled(asha.page)).toContainText('The timesheet of 16 Nov 2026 – 22 Nov 2026 went to its mailbox.');
  await expect(part(asha.page)).toContainText('Looked into');

  // Whoever knows an address of a mailbox can put anything there: it is refused in words, and stops nothing.
  const stranger = new RelayClient({ address: relay.address, signing: makeKeys().signing });
  const studio = await page.evaluate(
    () =>
      new Promise<string>((resolve) => {
        const asked = indexedDB.open('half-penny');
        asked.onsuccess = () => {
          const read = asked.result.transaction('mailboxes').objectStore('mailboxes').getAllKeys();
          read.onsuccess = () => resolve(String(read.result[0]));
        };
      }),
  );
  await stranger.post(studio, new TextEncoder().encode('half a sandwich'));
  await lookNow(page);
  await expect(travelled(page)).toContainText('neither a sealed file of Half Penny nor an invitation');
  await expect(travelled(page)).toContainText('The timesheet of Asha Quill was taken: 1 entry, 0 expenses.');
  await expect(travelled(page)).not.toContainText('taken already');
  // One with what the studio knew of her before, one now that hers was taken.
  const answers = travelled(page).getByText('An answer for Asha Quill went to its mailbox.');
  await expect(answers).toHaveCount(2);

  // What is decided goes back, once.
  await open(page, `/team?day=${WEEK}`);
  await row(grid(page, 'Members'), 'Asha Quill').getByRole('link', { name: 'Asha Quill' }).click();
  await row(grid(page, /^Asha Quill, Week/), /Focus, upper rig/)
    .getByRole('checkbox')
    .click();
  await page.getByRole('button', { name: 'Send 1 back…' }).click();
  await page.getByLabel('Why').fill('How long was the break?');
  await page.getByRole('dialog').getByRole('button', { name: 'Send back' }).click();
  await open(page, '/team/sealed');
  await expect(answers).toHaveCount(3);
  await lookNow(asha.page);
  await expect(travelled(asha.page)).toContainText('The answer was taken.');
  await open(asha.page, `/week?day=${WEEK}`);
  await expect(asha.page.getByRole('region', { name: 'Checking' })).toContainText('“How long was the break?”');
  await lookNow(page);
  await page.clock.fastForward('00:45');
  await expect(part(page)).toContainText('Looked into 23 Nov 2026');
  await expect(answers).toHaveCount(3);

  // What members can record on goes to them once nobody changes it any more.
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await page.getByRole('navigation', { name: 'About this client' }).getByRole('link', { name: 'Work' }).click();
  await tick(grid(page, 'Projects').getByRole('checkbox', { name: 'Select Foyer refresh' }), true);
  await page.getByRole('button', { name: 'Finish 1' }).click();
  const finishing = page.getByRole('dialog');
  await finishing.getByRole('button', { name: 'Finish', exact: true }).click();
  await expect(finishing).toHaveCount(0);
  await open(page, '/team/sealed');
  const sheets = travelled(page).getByText('A job sheet for Asha Quill went to its mailbox.');
  const sent = await sheets.count();
  await page.clock.fastForward('01:10');
  await page.clock.fastForward('01:10');
  await expect(sheets).toHaveCount(sent + 1);
  await open(asha.page, '/sealed');
  await lookNow(asha.page);
  await expect(travelled(asha.page)).toContainText('The job sheet was taken');

  await part(asha.page).getByRole('button', { name: 'Files by hand alone' }).click();
  await expect(part(asha.page).getByLabel('Relay')).toBeVisible();
  await asha.leave();
  await relay.end('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});
