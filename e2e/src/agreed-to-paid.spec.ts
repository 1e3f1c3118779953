import { readFileSync } from 'node:fs';
import { simpleParser } from 'mailparser';
import { choose, expect, expectAxeClean, grid, open, pdfText, test } from './app';
import { connected, lettersIn, postSimulated } from './post';

test('a quote is given, changed, accepted in part, and becomes a project with what was agreed', async ({ page }) => {
  await open(page, '/billing/quotes');
  await expect(page.getByText('Nothing was offered yet.')).toBeVisible();
  await page.getByRole('button', { name: 'New quote' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Write it' }).click();
  await expect(dialog.getByText('This cannot be empty.')).toBeVisible();
  await dialog.getByLabel('What it is for').fill('Foyer chandelier, relit');
  await choose(dialog.getByLabel('Client'), 'Quayside Playhouse');
  await dialog.getByRole('button', { name: 'Write it' }).click();
  const line = page.getByRole('form', { name: 'Add a line' });
  const add = async (what: string, quantity: string, unit: string, price: string) => {
    await line.getByLabel('What', { exact: true }).fill(what);
    await line.getByLabel('Quantity').fill(quantity);
    await line.getByLabel('Unit').fill(unit);
    await line.getByLabel(/^Price, /).fill(price);
    await line.getByRole('button', { name: 'Add the line' }).click();
    await expect(grid(page, 'Lines of the quote')).toContainText(what);
  };
  await add('Survey and design', '1', '', '1450');
  await add('Programming on site', '12', 'h', '85');
  await add('Spare lamps', '40', 'piece', '6.50');
  await page.getByRole('checkbox', { name: 'Spare lamps is optional' }).click();
  const sheet = page.getByTestId('invoice-sheet');
  await expect(sheet).toContainText('£2,964.00');
  await expect(sheet).toContainText('You may add, and it is not in the total');
  await page.getByRole('button', { name: 'Give to the client' }).click();
  const course = page.getByRole('region', { name: 'What happened' });
  await expect(course).toContainText('Q-0001 given');
  await page.getByRole('gridcell', { name: '1,450.00', exact: true }).dblclick();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('1400');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Give it again as it is now' }).click();
  await expect(course).toContainText('Q-0001/2 given');
  await expectAxeClean(page);
  await page.getByRole('button', { name: 'Accepted…' }).click();
  await dialog.getByRole('button', { name: 'Record the acceptance' }).click();
  await expect(dialog.getByText('Say who accepted it.')).toBeVisible();
  await dialog.getByLabel('By', { exact: true }).fill('Robin Hale');
  await dialog.getByRole('checkbox', { name: 'Programming on site' }).click();
  await dialog.getByRole('checkbox', { name: /Spare lamps/ }).click();
  await expect(dialog.getByRole('status')).toContainText('£1,660.00');
  await dialog.getByRole('button', { name: 'Record the acceptance' }).click();
  await expect(page.getByText('accepted in part')).toBeVisible();
  await course
    .getByRole('link', { name: /Foyer chandelier/ })
    .or(page.getByRole('link', { name: /Foyer chandelier/ }))
    .first()
    .click();
  await expect(
    grid(page, 'Agreed amounts').or(page.getByRole('grid')).filter({ hasText: 'Survey and design' }).first(),
  ).toContainText('£1,400.00');
  await expect(page.getByText('Spare lamps')).toBeVisible();
  await expect(page.getByText('Programming on site')).toHaveCount(0);
});

test('an invoice goes out by mail in the client’s language, once; a reminder waits, fails in words, and goes', async ({
  page,
}) => {
  await connected(page);
  await open(page, '/clients');
  await page.getByRole('link', { name: 'Maison Clairval' }).first().click();
  await page.getByRole('link', { name: 'Invoice preferences' }).click();
  await choose(page.getByLabel('Language'), 'French');
  await postSimulated(page);
  await page.getByRole('button', { name: 'Send a test' }).click();
  await expect(page.getByText(/It was taken for/)).toBeVisible();
  await expectAxeClean(page);
  await open(page, '/billing?standing=overdue');
  await grid(page, 'Invoices')
    .getByRole('row', { name: /Maison Clairval/ })
    .first()
    .getByRole('link')
    .first()
    .click();
  await page.getByRole('button', { name: 'Send…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByLabel('Letter text')).toHaveValue(/Veuillez trouver ci-joint la facture SL-\d+/);
  const subject = await dialog.getByLabel('Subject').inputValue();
  await dialog.getByRole('button', { name: 'Send now' }).click();
  await expect(dialog).toHaveCount(0, { timeout: 60_000 });
  const course = page.getByRole('region', { name: 'What happened' });
  await expect(course).toContainText('Sent');
  const sent = await Promise.all(lettersIn().map((path) => simpleParser(readFileSync(path))));
  const mine = sent.filter((letter) => letter.subject === subject);
  expect(mine).toHaveLength(1);
  expect(mine[0]!.attachments.map(({ filename }) => filename)).toEqual([expect.stringMatching(/^SL-\d+\.pdf$/)]);
  expect(mine[0]!.attachments[0]!.content.subarray(0, 5).toString()).toBe('%PDF-');
  // As a file, any mail program opens it (RFC 5322: no line is longer than 998 signs).
  await page.getByRole('button', { name: 'Send…' }).click();
  await dialog.getByLabel('Letter text').fill('Grüße — “quoted” €\n.dot');
  const saved = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Save as a mail file' }).click();
  const eml = readFileSync(await (await saved).path());
  expect(
    Math.max(
      ...eml
        .toString('latin1')
        .split(/\r?\n/)
        .map((line) => line.length),
    ),
  ).toBeLessThan(998);
  expect([...eml].every((byte) => byte < 128)).toBe(true);
  const read = await simpleParser(eml);
  expect([read.text!.trim(), read.attachments.length]).toEqual(['Grüße — “quoted” €\n.dot', 1]);
  await expect(dialog).toHaveCount(0);
  // Somebody gave an address that there is not: the reminder stays, says why, and goes once it is put right.
  await open(page, '/billing/reminders');
  await expect(grid(page, 'To remind today')).toContainText('first reminder');
  await page.getByRole('button', { name: /^Write/ }).click();
  const waiting = grid(page, 'Letters that wait');
  await expect(waiting).toContainText('Maison Clairval');
  await expectAxeClean(page);
  await waiting
    .getByRole('row', { name: /Maison Clairval/ })
    .getByRole('button', { name: 'Open' })
    .click();
  await dialog.getByLabel('To', { exact: true }).fill('bounce@maison-clairval.example');
  await dialog.getByRole('button', { name: 'Leave it in the outbox' }).click();
  await expect(dialog).toHaveCount(0);
  const send = async () => page.getByRole('button', { name: /^Send (it|all)/ }).click();
  await send();
  await expect(waiting).toContainText('There is no mailbox bounce@maison-clairval.example', { timeout: 60_000 });
  await waiting
    .getByRole('row', { name: /bounce@/ })
    .getByRole('button', { name: 'Open' })
    .click();
  await dialog.getByLabel('To', { exact: true }).fill('atelier@maison-clairval.example');
  await dialog.getByRole('button', { name: 'Leave it in the outbox' }).click();
  await send();
  await expect(grid(page, 'Letters that were sent')).toContainText('rappel', { timeout: 60_000 });
  await open(page, '/billing/reminders');
  await expect(grid(page, 'Late, and not reminded today')).toContainText('not yet');
});

test('a report goes to its client by letter, as paper and spreadsheet; one of several clients says so first', async ({
  page,
}) => {
  await connected(page);
  await postSimulated(page);
  await open(page, '/reports');
  await page
    .getByRole('link', { name: /^Hours for a client/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Export…' }).click();
  await page.getByRole('menuitem', { name: 'By letter…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('not narrowed to one client');
  await choose(dialog.getByLabel('Client'), 'Fernhill Folk Museum');
  await dialog.getByRole('button', { name: 'Write the letter' }).click();
  await expect(dialog.getByLabel('Letter text')).toHaveValue(/our report Hours for a client/);
  const subject = await dialog.getByLabel('Subject').inputValue();
  await dialog.getByRole('checkbox', { name: 'Spreadsheet (XLSX)' }).click();
  await expectAxeClean(page);
  await dialog.getByRole('button', { name: 'Send now' }).click();
  await expect(dialog).toHaveCount(0, { timeout: 60_000 });
  const sent = await Promise.all(lettersIn().map((path) => simpleParser(readFileSync(path))));
  const [mine] = sent.filter((letter) => letter.subject === subject);
  expect(mine!.attachments.map(({ filename }) => filename)).toEqual([
    'Hours-for-a-client.pdf',
    'Hours-for-a-client.xlsx',
  ]);
  expect(mine!.attachments.map(({ content }) => content.subarray(0, 2).toString())).toEqual(['%P', 'PK']);
  await open(page, '/billing/outbox');
  await expect(grid(page, 'Letters that were sent')).toContainText('Hours for a client');
});

test('a statement is read once and matched, what is paid twice goes back, and a dispute stops reminders', async ({
  page,
}) => {
  await open(page, '/billing/money');
  await page.getByRole('button', { name: 'Ask the demo’s bank' }).click();
  await page.getByRole('button', { name: /^Import \d+ sums/ }).click();
  const waiting = grid(page, 'Sums that wait to be matched');
  await expect(waiting).toContainText('Interest for the quarter');
  await expectAxeClean(page);
  await page.getByRole('button', { name: /^Match the \d/ }).click();
  const done = grid(page, 'Sums that are matched or set aside');
  await expect(done).toContainText('€');
  // The same file again brings nothing.
  await page.getByRole('button', { name: 'Ask the demo’s bank' }).click();
  await expect(page.getByRole('button', { name: /^Import [1-9]/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Cancel' }).click();
  const dialog = page.getByRole('dialog');
  await waiting
    .getByRole('row', { name: /Interest/ })
    .getByRole('button', { name: 'Set aside' })
    .click();
  await dialog.getByRole('button', { name: 'Set aside' }).click();
  await expect(dialog.getByText('Say what it is.')).toBeVisible();
  await dialog.getByLabel('What it is').fill('Interest');
  await dialog.getByRole('button', { name: 'Set aside' }).click();
  await expect(done).toContainText('set aside: Interest');
  // Paid twice: kept as paid ahead, and paid back.
  const twice = waiting
    .getByRole('row')
    .filter({ hasText: /paid (already|by another)/ })
    .first();
  await expect(twice).toContainText('paid ahead by');
  const client = (await twice.innerText()).match(/paid ahead by (.+?) £/)![1]!;
  await twice.getByRole('button', { name: 'Otherwise' }).click();
  await expect(dialog.getByRole('checkbox')).toBeChecked();
  await dialog.getByRole('button', { name: 'Match' }).click();
  await expect(done).toContainText('paid ahead by');
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: client }).click();
  await page.getByRole('button', { name: 'Pay back' }).click();
  await dialog.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByText(/paid back/)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Pay back' })).toHaveCount(0);
});

test('what recurs is prepared on its day, and a run issues what it can and says what it cannot', async ({ page }) => {
  await open(page, '/billing/run');
  await page.getByRole('button', { name: 'Agree one' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('What it is for').fill('Care of the dimmers');
  await choose(dialog.getByLabel('Client'), 'Quayside Playhouse');
  await dialog.getByRole('button', { name: 'Agree it' }).click();
  await expect(dialog.getByRole('alert').first()).toBeVisible();
  await dialog.getByLabel(/^Sum before tax/).fill('180');
  await choose(dialog.getByLabel('When'), 'by another rule');
  await dialog.getByLabel('Rule (RFC 5545)').fill('each month');
  await dialog.getByRole('button', { name: 'Agree it' }).click();
  await expect(dialog.getByText(/is not a rule that comes by days/)).toBeVisible();
  await choose(dialog.getByLabel('When'), 'on the first of each month');
  await dialog.getByLabel('From').fill('2026-10-01');
  await page.keyboard.press('Tab');
  await expect(dialog.getByLabel('From')).toHaveValue('1 Oct 2026');
  await dialog.getByRole('button', { name: 'Agree it' }).click();
  const drafts = grid(page, 'Drafts to issue');
  await expect(drafts.getByRole('row', { name: /Quayside Playhouse/ })).toHaveCount(2);
  await expectAxeClean(page);
  await page.reload();
  await expect(drafts.getByRole('row', { name: /Quayside Playhouse/ })).toHaveCount(2);
  await page.getByRole('button', { name: /^Issue (it|these)/ }).click();
  await dialog.getByRole('button', { name: 'Issue now' }).click();
  const told = page.getByRole('region', { name: 'What came of it' });
  await expect(told.getByText('issued', { exact: true }).first()).toBeVisible();
  await told.getByRole('button', { name: /^Write/ }).click();
  await expect(grid(page, 'Letters that wait')).toContainText('Quayside Playhouse');
});

test('an invoice of a Swiss account has a page with the payment part, whose number is told if it wants other references', async ({
  page,
}) => {
  await open(page, '/setup/invoicing');
  const accounts = grid(page, 'Accounts to pay into');
  const number = accounts.getByRole('row', { name: /^EUR/ }).getByRole('gridcell').nth(2);
  const write = async (iban: string) => {
    await number.dblclick();
    await page.keyboard.press('ControlOrMeta+a');
    await page.keyboard.type(iban);
    await page.keyboard.press('Enter');
  };
  await write('CH44 3199 9123 0008 8901 2');
  await expect(page.getByText('this number is a QR-IBAN')).toBeVisible();
  await write('CH93 0076 2011 6238 5295 7');
  await expect(page.getByText('invoices get a page with the Swiss payment part')).toBeVisible();
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Maison Clairval' }).click();
  await page.getByRole('button', { name: /Put on invoice|Add to the draft/ }).click();
  await expect(grid(page, 'Lines of the draft')).toBeVisible();
  await page.getByRole('button', { name: /^Issue/ }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Issue/ })
    .click();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'PDF', exact: true }).click();
  const text = pdfText(await (await saved).path());
  for (const said of [/Payment part|Section paiement/, 'CH93 0076 2011 6238 5295 7', /RF\d\d/])
    expect(text).toMatch(said);
});
