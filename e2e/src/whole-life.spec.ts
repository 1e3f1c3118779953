import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { simpleParser } from 'mailparser';
import { addTime, choose, expect, expectAxeClean, grid, open, test } from './app';
import { asClient, connected, forgetTold, lettersIn, payingSimulated, postSimulated } from './post';

/** The demo's clients, in what language each is written to, what goes with its invoices beside the PDF, and the file that this is. */
const clients = [
  {
    name: 'Quayside Playhouse',
    language: 'English',
    subject: /^Invoice SL-\d+ from/,
    with: 'Page for the browser',
    file: /\.html$/,
  },
  {
    name: 'Fernhill Folk Museum',
    language: 'German',
    subject: /^Rechnung SL-\d+/,
    with: 'Receipts, each by itself',
    file: /^1-.*\.(pdf|png|jpe?g)$/,
  },
  {
    name: 'Bramble Street Dance',
    language: 'Spanish',
    subject: /^Factura SL-\d+/,
    with: 'Page for the browser',
    file: /\.html$/,
  },
  {
    name: 'Otterbourne Town Council',
    language: 'Dutch',
    subject: /^Factuur SL-\d+/,
    with: 'E-invoice, Factur-X',
    file: /factur-x\.pdf$/,
  },
  {
    name: 'Maison Clairval',
    language: 'French',
    subject: /^Facture SL-\d+/,
    with: 'E-invoice, Peppol',
    file: /peppol\.xml$/,
  },
  { name: 'Pinecrest Amphitheater', language: 'Italian', subject: /^Fattura SL-\d+/, with: null, file: null },
] as const;

// Both have the same invoices on the same server.
test.describe.configure({ mode: 'serial' });
test.beforeEach(forgetTold);
test.afterAll(forgetTold);

test('an invoice is paid online: declined, paid, paid twice, and one of them goes back', async ({ page }) => {
  await connected(page);
  await payingSimulated(page);
  await expectAxeClean(page);
  await open(page, '/billing?standing=issued');
  await grid(page, 'Invoices')
    .getByRole('row', { name: /Quayside Playhouse/ })
    .first()
    .getByRole('link')
    .first()
    .click();
  const client = await asClient(page);
  await expect(client.locator('#checked')).toContainText('all are right');
  const [pay] = await Promise.all([
    page.context().waitForEvent('page'),
    client.getByRole('link', { name: /^Pay £/ }).click(),
  ]);
  await pay.getByRole('button', { name: 'declined' }).click();
  await expect(pay.getByRole('status')).toContainText('Nothing was paid');
  await pay.getByRole('button', { name: 'Pay with a good card' }).click();
  await expect(pay.getByRole('status')).toContainText('Paid. Thank you.');
  await expectAxeClean(pay);
  const course = page.getByRole('region', { name: 'What happened' });
  await expect(course).toContainText('Paid');
  await expect(course).toContainText('Page opened on this machine');
  await expect(page.getByRole('region', { name: 'Payments' })).toContainText('Still owed£0.00');
  await pay.getByRole('button', { name: 'once more' }).click();
  await expect(pay.getByRole('status')).toContainText('Paid. Thank you.');
  await open(page, '/billing/money');
  const done = grid(page, 'Sums that are matched or set aside');
  await expect(done).toContainText('paid ahead by Quayside Playhouse');
  await expectAxeClean(page);
  await done
    .getByRole('row', { name: /paid ahead/ })
    .getByRole('button', { name: 'Pay it back' })
    .click();
  await page.getByRole('dialog').getByRole('button', { name: 'Pay it back' }).click();
  await expect(done).toContainText('went back');
  await expect(done.getByRole('button', { name: 'Pay it back' })).toHaveCount(1);
  await pay.goto('/pay');
  await expect(pay.getByText('refunded')).toBeVisible();
});

test('from a quote to a balanced ledger: agreed, worked, run, sent, paid, reminded, paid twice and paid back', async ({
  page,
}) => {
  test.setTimeout(600_000);
  page.setDefaultTimeout(30_000);
  await connected(page);
  const dialog = page.getByRole('dialog');

  // Two stand-ins: letters go to a box on this machine, and payments online are simulated.
  await postSimulated(page);
  await choose(page.getByLabel('Letter', { exact: true }), 'First reminder');
  await choose(page.getByLabel('In', { exact: true }).first(), 'French');
  const text = page.getByLabel('Letter text');
  await expect(text).toHaveValue(/^Bonjour/);
  await text.fill('{number}: {owed}.\n{claim}');
  await text.blur();
  // It is the studio's own once it is kept: the page is left after that.
  await expect(page.getByRole('button', { name: 'As it comes with Half Penny' })).toBeVisible();
  await payingSimulated(page);
  for (const { name, language } of clients) {
    await open(page, '/clients');
    await page.getByRole('link', { name, exact: true }).first().click();
    await page.getByRole('link', { name: 'Invoice preferences' }).click();
    await choose(page.getByLabel('Language'), language);
  }

  // A quote is given, and accepted on its page.
  await open(page, '/billing/quotes');
  await page.getByRole('button', { name: 'New quote' }).click();
  await dialog.getByLabel('What it is for').fill('Stage door lanterns');
  await choose(dialog.getByLabel('Client'), 'Quayside Playhouse');
  await dialog.getByRole('button', { name: 'Write it' }).click();
  const line = page.getByRole('form', { name: 'Add a line' });
  await line.getByLabel('What', { exact: true }).fill('Programming');
  await line.getByLabel('Quantity').fill('10');
  await line.getByLabel('Unit').fill('h');
  await line.getByLabel(/^Price, /).fill('85');
  await choose(line.getByLabel('Price is'), 'as worked');
  await line.getByRole('button', { name: 'Add the line' }).click();
  await page.getByRole('button', { name: 'Give to the client' }).click();
  const quotePage = await asClient(page);
  await quotePage.getByLabel('Your name').fill('Maud Ferrier');
  await quotePage.getByRole('button', { name: 'Accept' }).click();
  await expect(quotePage.locator('#answered')).toBeVisible();
  await open(page, '/billing/quotes');
  await page.getByRole('button', { name: 'Q-0001: Maud Ferrier answered' }).click();
  await dialog.getByRole('button', { name: 'Record the acceptance' }).click();
  await expect(grid(page, 'Quotes')).toContainText('accepted');

  // Hours are worked on what it became.
  await addTime(page, '3:00', 'First cues', 'Stage door lanterns');

  // The month is run: whatever was worked for each client, prepared, issued one by one, and a letter for each.
  await open(page, '/billing/run');
  for (const { name } of clients) {
    await page.getByRole('button', { name: 'Agree one' }).click();
    await dialog.getByLabel('What it is for').fill(`${name}, monthly`);
    await choose(dialog.getByLabel('Client'), name);
    await choose(dialog.getByLabel('It has'), 'what was worked and spent');
    await choose(dialog.getByLabel('When'), 'every week');
    await dialog.getByRole('button', { name: 'Agree it' }).click();
    await expect(dialog).toHaveCount(0);
  }
  const drafts = grid(page, 'Drafts to issue');
  for (const { name } of clients)
    await expect(drafts.getByRole('row', { name: new RegExp(name) }).first()).toBeVisible();
  await page.getByRole('button', { name: /^Issue (it|these)/ }).click();
  await dialog.getByRole('button', { name: 'Issue now' }).click();
  const told = page.getByRole('region', { name: 'What came of it' });
  for (const { name } of clients) await expect(told).toContainText(name, { timeout: 60_000 });
  await told.getByRole('button', { name: /^Write/ }).click();
  const waiting = grid(page, 'Letters that wait');
  for (const { name, with: also } of clients) {
    await expect(waiting.getByRole('row', { name: new RegExp(name) }).first()).toBeVisible();
    if (!also) continue;
    await waiting
      .getByRole('row', { name: new RegExp(name) })
      .first()
      .getByRole('button', { name: 'Open' })
      .click();
    await dialog.getByRole('checkbox', { name: also }).click();
    await dialog.getByRole('button', { name: 'Leave it in the outbox' }).click();
    await expect(dialog).toHaveCount(0);
  }
  const before = lettersIn().length;
  await page.getByRole('button', { name: /^Send (it|all)/ }).click();
  await expect.poll(() => lettersIn().length - before, { timeout: 90_000 }).toBeGreaterThanOrEqual(clients.length);
  await expect(grid(page, 'Letters that were sent')).toBeVisible({ timeout: 60_000 });
  await expect(waiting).toHaveCount(0);
  const letters = await Promise.all(
    lettersIn()
      .slice(before)
      .map((path) => simpleParser(readFileSync(path))),
  );
  for (const { subject, file } of clients) {
    // One had a draft besides; that went as a letter of its own.
    const mine = letters.filter((letter) => subject.test(letter.subject ?? ''));
    expect(mine.length, String(subject)).toBeGreaterThanOrEqual(1);
    const names = mine.map(({ attachments }) => attachments.map(({ filename }) => filename!));
    expect(names.every(([first]) => /^SL-\d+\.pdf$/.test(first!))).toBe(true);
    if (file) expect(names.some((own) => own.slice(1).some((name) => file.test(name)))).toBe(true);
    else expect(names).toContainEqual([expect.any(String)]);
  }

  expect(new Set(letters.map((letter) => letter.subject)).size).toBe(letters.length);

  // One is late: it is reminded, with what the law lets one claim.
  await open(page, '/billing/reminders');
  await page.getByRole('button', { name: /^Write/ }).click();
  const late = waiting.getByRole('row', { name: /Maison Clairval/ }).first();
  await late.getByRole('button', { name: 'Open' }).click();
  await expect(dialog.getByLabel('Letter text')).toHaveValue(/SL-\d+: [^]*La loi nous autorise/);
  await dialog.getByRole('button', { name: 'Send now' }).click();
  await expect(dialog).toHaveCount(0, { timeout: 60_000 });

  // One pays twice by card, and one of the two goes back.
  await open(page, '/billing?standing=issued');
  await grid(page, 'Invoices')
    .getByRole('row', { name: /Fernhill/ })
    .first()
    .getByRole('link')
    .first()
    .click();
  const client = await asClient(page);
  await expect(client.locator('#checked')).toContainText(/Summen .* alle stimmen/);
  const [pay] = await Promise.all([
    page.context().waitForEvent('page'),
    client.getByRole('link', { name: /zahlen$/ }).click(),
  ]);
  await pay.getByRole('button', { name: 'good card' }).click();
  await pay.getByRole('button', { name: 'once more' }).click();
  await expect(page.getByRole('region', { name: 'What happened' })).toContainText('Paid');
  await open(page, '/billing/money');
  const done = grid(page, 'Sums that are matched or set aside');
  const twice = done.getByRole('row', { name: /paid ahead by Fernhill/ });
  await twice.getByRole('button', { name: 'Pay it back' }).click();
  await dialog.getByRole('button', { name: 'Pay it back' }).click();
  await expect(twice).toContainText('went back');

  // The bank's statement is read, and what is sure is matched.
  await open(page, '/billing/money');
  await page.getByRole('button', { name: 'Ask the demo’s bank' }).click();
  await page.getByRole('button', { name: /^Import \d+ sums/ }).click();
  await page.getByRole('button', { name: /^Match the \d/ }).click();
  await expect(done.getByRole('row')).not.toHaveCount(3);

  // All that is held in the browser is sound, and every posting balances.
  await open(page, '/setup/data');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export everything' }).click();
  const file = await (await saved).path();
  const root = join(import.meta.dirname, '../..');
  const said = execFileSync(join(root, 'node_modules/.bin/tsx'), ['cli/src/main.ts', 'check', file], {
    cwd: root,
    encoding: 'utf8',
  });
  expect(said).toMatch(/Records, invariants and hash chains hold, .* \d+ postings balance/);
});
