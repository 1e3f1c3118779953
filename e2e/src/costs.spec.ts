import { readFileSync } from 'node:fs';
import { expect, expectAxeClean, grid, open, pdfText, row, test, tick, choose } from './app';
import { secretOf, serverFolder } from './address';
import type { Locator, Page } from '@playwright/test';

const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);
const part = (page: Page, name: RegExp | string): Locator =>
  page.getByRole('navigation', { name: 'Parts of Costs' }).getByRole('link', { name });
const toBill = (page: Page): Locator => grid(page, /^To bill for/);

/** What is to bill for a client. */
async function bill(page: Page, client: string): Promise<void> {
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: client }).click();
  await expect(toBill(page)).toBeVisible();
}

test('the gallery’s month is billed at cost plus, condensed, with its receipts, in at most 40 presses', async ({
  page,
}) => {
  test.setTimeout(240_000);
  let presses = 0;
  const press = async (target: Locator) => {
    presses++;
    await target.click();
  };
  const pick = async (target: Locator, text: string) => {
    presses += 2;
    await choose(target, text);
  };
  await open(page, '/billing');
  await press(grid(page, 'To bill by client').getByRole('link', { name: 'Fernhill Folk Museum' }));
  const kinds = page.getByRole('group', { name: 'Kinds' });
  const countOf = async (name: string) =>
    Number(/ (\d+) ·/.exec(await kinds.getByRole('button', { name }).innerText())![1]);
  const costs = (await countOf('Supplier bills')) + (await countOf('Expenses')) + (await countOf('Ledger lines'));
  expect(costs).toBeGreaterThanOrEqual(40);
  expect(await countOf('Time')).toBeGreaterThanOrEqual(90);
  // Marked up in one go, for this invoice: travel has no markup of its own.
  await press(kinds.getByRole('button', { name: /^Expenses/ }));
  await press(page.getByRole('button', { name: 'Mark up…' }));
  await page.getByLabel('Markup in percent').fill('10');
  presses += 3;
  await press(page.getByRole('dialog').getByRole('button', { name: /^Mark up/ }));
  await expect(toBill(page)).toContainText('+ 10 %');
  await press(kinds.getByRole('button', { name: /^All/ }));
  await press(page.getByRole('button', { name: /Put on invoice/ }));
  const lines = grid(page, 'Lines of the draft');
  await expect(lines).toContainText('Lamps, gel and cable');
  await pick(page.getByLabel('Condense', { exact: true }), 'By cost code');
  await pick(page.getByLabel('How Agreed amounts is condensed'), 'By cost code');
  await expect(page.getByTestId('invoice-sheet')).toContainText(/\d+ receipts follow/);
  await press(page.getByRole('button', { name: /^Issue/ }));
  await press(page.getByRole('dialog').getByRole('button', { name: /^Issue/ }));
  await expect(page.getByRole('button', { name: 'Record a payment' })).toBeVisible();
  const waiting = page.waitForEvent('download');
  await press(page.getByRole('button', { name: 'PDF', exact: true }));
  const path = await (await waiting).path();
  expect(presses).toBeLessThanOrEqual(40);
  const text = pdfText(path);
  expect(text).toContain('Lamps, gel and cable');
  expect(text).toMatch(/Receipt for line \d/);
  expect(text).toContain('Tollgate Rigging');
  // All of it is off the list.
  await bill(page, 'Bramble Street Dance');
  await open(page, '/billing');
  await expect(grid(page, 'To bill by client').getByRole('link', { name: 'Fernhill Folk Museum' })).toHaveCount(0);
});

test('an expense is written down with its receipt, marked up, and never billed twice', async ({ page }) => {
  await open(page, '/costs');
  await page.keyboard.press('e');
  const form = page.getByRole('form', { name: 'New expense' });
  await form.getByLabel('Where').fill('Saltmere Hardware');
  await form.getByLabel('What was bought').fill('Clamps for bar 6');
  await form.getByLabel(/^Amount/).fill('4 x 12.50');
  await form.getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('winter season');
  await page.keyboard.press('Enter');
  await choose(form.getByLabel('Cost code'), '30 Lamps, gel and cable');
  await form.getByLabel('Add a receipt').setInputFiles({ name: 'clamps.png', mimeType: 'image/png', buffer: PNG });
  await expect(form.getByRole('button', { name: 'Show the receipt clamps.png' })).toBeVisible();
  await form.getByRole('button', { name: 'Add the expense' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Saltmere Hardware' })).toBeVisible();
  await expect(grid(page, 'Lines of the cost')).toContainText('50.00');
  await page.getByRole('button', { name: 'Show the receipt clamps.png' }).click();
  await expect(page.getByRole('img', { name: 'clamps.png' })).toBeVisible();
  await expectAxeClean(page);
  await bill(page, 'Quayside Playhouse');
  // 15 % on materials: 57.50.
  await expect(row(page, /Clamps for bar 6/)).toContainText('£57.50');
  await page
    .getByRole('group', { name: 'Kinds' })
    .getByRole('button', { name: /^Expenses/ })
    .click();
  await page.getByRole('button', { name: /Put on invoice/ }).click();
  await expect(grid(page, 'Lines of the draft')).toContainText('£57.50');
  await bill(page, 'Quayside Playhouse');
  await expect(toBill(page).getByText('Clamps for bar 6')).toHaveCount(0);
  await page.goBack();
  await open(page, '/billing?standing=draft');
  await row(page, /Draft Quayside/)
    .getByRole('link')
    .click();
  await page.getByRole('button', { name: 'Discard the draft' }).click();
  await expect(row(page, /Clamps for bar 6/)).toBeVisible();
});

test('a part is billed, some is written down, left for later and brought back', async ({ page }) => {
  await bill(page, 'Quayside Playhouse');
  await page
    .getByRole('group', { name: 'Kinds' })
    .getByRole('button', { name: /^Supplier bills/ })
    .click();
  const first = toBill(page).getByRole('row').nth(1);
  const name = (await first.getByRole('gridcell').nth(2).locator('span').first().innerText()).trim();
  await tick(toBill(page).getByLabel('Select all rows'), false);
  await tick(first.getByRole('checkbox'), true);
  await page.getByRole('button', { name: 'Write down…' }).click();
  await page.getByLabel(/^How much of the cost/).fill('10.00');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByRole('dialog').getByRole('alert')).toContainText('Say why');
  await page.getByLabel('Why').fill('One lamp was broken');
  await page.getByRole('button', { name: 'Write it down' }).click();
  const aside = grid(page, /^Set aside/);
  await expect(aside).toContainText('One lamp was broken');
  await expect(aside).toContainText('£10.00');
  await tick(first.getByRole('checkbox'), true);
  await page.getByRole('button', { name: 'Leave for later…' }).click();
  await page.getByRole('button', { name: 'Leave it for later' }).click();
  await expect(toBill(page).getByText(name)).toHaveCount(0);
  await aside.getByRole('row', { name: /later/ }).getByRole('button', { name: 'To bill again' }).click();
  await expect(toBill(page).getByText(name)).toBeVisible();
  await tick(first.getByRole('checkbox'), true);
  await page.getByRole('button', { name: 'Bill a part…' }).click();
  await page.getByRole('dialog').getByRole('textbox').fill('5');
  await page.getByRole('button', { name: 'Put the part on an invoice' }).click();
  await expect(grid(page, 'Lines of the draft')).toContainText('5.00');
});

test('a markup typed as a share is asked about', async ({ page }) => {
  await bill(page, 'Fernhill Folk Museum');
  await page
    .getByRole('group', { name: 'Kinds' })
    .getByRole('button', { name: /^Ledger lines/ })
    .click();
  await page.getByRole('button', { name: 'Mark up…' }).click();
  await page.getByLabel('Markup in percent').fill('0.28');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('Is 28 % meant, or 0.28 %?');
  await page.getByRole('button', { name: '28 %', exact: true }).click();
  await expect(toBill(page).getByRole('row').nth(1)).toContainText('+ 28 %');
});

test('lines of a draft are written, headed, moved, discounted and added by hand; deposits and retention come off', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await bill(page, 'Otterbourne Town Council');
  const deposit = page.getByRole('form', { name: 'Add a deposit' });
  await deposit.getByLabel(/^Amount/).fill('50');
  await deposit.getByRole('button', { name: 'Add the deposit' }).click();
  await expect(grid(page, /^Paid ahead/)).toContainText('£50.00');
  await page.getByRole('button', { name: /Add to the draft|Put on invoice/ }).click();
  const lines = grid(page, 'Lines of the draft');
  const hand = page.getByRole('form', { name: 'Add a line by hand' });
  await hand.getByLabel('New line').fill('Sundries');
  await hand.getByLabel('Quantity').fill('2.5');
  await hand.getByLabel('Unit').fill('h');
  await hand.getByLabel(/^Price/).fill('40');
  await hand.getByRole('button', { name: 'Add the line' }).click();
  await expect(lines.getByRole('row', { name: /Sundries/ })).toContainText('£100.00');
  await lines
    .getByRole('row', { name: /Sundries/ })
    .locator('[data-place$=":0"]')
    .focus();
  await page.keyboard.press('Alt+ArrowUp');
  const place = async () =>
    (await lines.getByRole('row').allInnerTexts()).findIndex((text) => text.includes('Sundries'));
  await expect.poll(place).toBe((await lines.getByRole('row').count()) - 3);
  await page.keyboard.press('h');
  await expect(lines.getByText('Heading above')).toBeVisible();
  await expect(page.getByTestId('invoice-sheet')).toContainText('Total');
  await lines
    .getByRole('row', { name: /Sundries/ })
    .locator('[data-place$=":7"]')
    .click();
  await page.keyboard.type('10');
  await page.keyboard.press('Enter');
  await expect(lines.getByRole('row', { name: /Sundries/ })).toContainText('£90.00');
  await page.getByLabel(/^Discount, %/).fill('5 %');
  await page.getByLabel(/^Discount, %/).press('Enter');
  await page.getByLabel(/^Retention, %/).fill('5');
  await page.getByLabel(/^Retention, %/).press('Enter');
  await page.getByLabel(/^Paid ahead/).fill('50');
  await page.getByLabel(/^Paid ahead/).press('Enter');
  const sheet = page.getByTestId('invoice-sheet');
  await expect(sheet).toContainText('Retention, 5 %');
  await expect(sheet).toContainText('Discount, 5 %');
  await expect(sheet).toContainText('Paid ahead');
  await page.getByLabel(/^Paid ahead/).fill('51');
  await page.getByLabel(/^Paid ahead/).press('Enter');
  await expect(page.getByText('More of this deposit would be deducted than was paid ahead.')).toBeVisible();
  await page.getByLabel('What lines say').fill('{wrong}');
  await page.getByLabel('What lines say').press('Enter');
  await expect(page.getByText(/“{wrong}” means nothing/)).toBeVisible();
  await expectAxeClean(page);
});

test('an invoice is credited in part, written off, and the journal balances', async ({ page }) => {
  await open(page, '/billing?standing=paid');
  await grid(page, 'Invoices').getByRole('link').first().click();
  await page.getByRole('button', { name: 'Credit', exact: true }).click();
  const dialog = page.getByRole('dialog');
  const amounts = dialog.getByLabel(/^To credit of/);
  for (let index = 1; index < (await amounts.count()); index++) await amounts.nth(index).fill('');
  await amounts.first().fill('999999');
  await dialog.getByLabel('Why').fill('Two hours too many');
  await dialog.getByRole('button', { name: 'Issue the credit note' }).click();
  await expect(dialog.getByRole('alert')).toContainText('is left to credit');
  await amounts.first().fill('10');
  await dialog.getByRole('button', { name: 'Issue the credit note' }).click();
  await expect(page.getByText('Two hours too many')).toBeVisible();
  await expect(page.getByTestId('invoice-sheet')).toContainText('Credit note');
  await page.getByRole('region', { name: 'Payments' }).getByRole('link').first().click();
  await expect(page.getByText(/Credit note SL-/)).toBeVisible();
  await page.getByRole('button', { name: 'Record a payment' }).click();
  await dialog.getByLabel(/^Amount/).fill('EUR 20');
  await dialog.getByRole('button', { name: 'Record it' }).click();
  await expect(dialog.getByRole('alert')).toContainText('write what arrived in');
  await dialog.getByLabel(/^Amount/).fill('20');
  await choose(dialog.getByLabel('What it is'), 'Written off: it will never come');
  await dialog.getByLabel('Note').fill('Bank charges');
  await dialog.getByRole('button', { name: 'Record it' }).click();
  await expect(dialog.getByRole('alert')).toContainText('0.00 is owed');
  await dialog.getByRole('button', { name: 'Record it all the same' }).click();
  await expect(page.getByRole('region', { name: 'Payments' }).getByText('Bank charges')).toBeVisible();
  await expect(page.getByRole('region', { name: 'What happened' }).getByText('Bank charges')).toBeVisible();
  await open(page, '/setup/bookkeeping');
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Journal as CSV' }).click();
  const csv = readFileSync(await (await waiting).path(), 'utf8');
  const sums = new Map<string, number>();
  for (const line of csv.trim().split('\r\n').slice(1)) {
    const cells = line.split(/,(?=(?:[^"]*"[^"]*")*[^"]*$)/);
    const cents = (text: string) => Math.round(Number(text || 0) * 100);
    // In its own currency, and in the studio's.
    const [own, home] = [`${cells[0]} ${cells[9]}`, `${cells[0]} at home`];
    sums.set(own, (sums.get(own) ?? 0) + cents(cells[7]!) - cents(cells[8]!));
    sums.set(home, (sums.get(home) ?? 0) + cents(cells[11]!) - cents(cells[12]!));
  }
  expect(sums.size).toBeGreaterThan(10);
  expect([...sums.values()].every((sum) => sum === 0)).toBe(true);
});

test('the bookkeeping is read once, through its faults, and what no rule knows is placed', async ({ page }) => {
  await open(page, '/costs/place');
  const address = new URL(page.url()).origin;
  const fault = (kind: string) =>
    page.request.put(`${address}/bookkeeping/fault`, {
      headers: { 'x-half-penny': secretOf(serverFolder()) },
      data: { kind, times: 1 },
    });
  const read = page.getByRole('button', { name: 'Read the bookkeeping' });
  await fault('error');
  await read.click();
  await expect(page.getByRole('alert')).toContainText('could not answer (500)');
  await fault('malformed');
  await read.click();
  await expect(page.getByRole('alert')).toContainText(/cannot be read|is not an amount/);
  await fault('duplicate');
  await read.click();
  await expect(page.getByText(/lines? read from the bookkeeping/).first()).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  const count = async () =>
    await page.evaluate(async () => {
      const open = (name: string) =>
        new Promise<IDBDatabase>((resolve) => {
          const asked = indexedDB.open(name);
          asked.onsuccess = () => resolve(asked.result);
        });
      const names = (await indexedDB.databases())
        .map((each) => each.name!)
        .filter((name) => name.startsWith('half-penny-'));
      const store = (await open(names[0]!)).transaction('costs').objectStore('costs');
      return new Promise<number>((resolve) => {
        const asked = store.count();
        asked.onsuccess = () => resolve(asked.result);
      });
    });
  const before = await count();
  await read.click();
  await expect(read).toBeEnabled();
  expect(await count()).toBe(before);
  const list = grid(page, 'Lines to place');
  const rows = await list.getByRole('row').count();
  await tick(list.getByRole('checkbox').nth(1), true);
  const form = page.getByRole('form', { name: 'Place the picked lines' });
  await form.getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('footbridge');
  await page.keyboard.press('Enter');
  await form.getByRole('button', { name: 'Place', exact: true }).click();
  await expect(list.getByRole('row')).toHaveCount(rows - 1);
});

test('a statement comes in from OFX after a preview, once, and a broken one is refused with its place', async ({
  page,
}) => {
  await open(page, '/costs/in');
  const ofx = (body: string) =>
    `<?xml version="1.0" encoding="UTF-8"?><OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>GBP</CURDEF><BANKACCTFROM><ACCTID>9988</ACCTID></BANKACCTFROM><BANKTRANLIST>${body}</BANKTRANLIST></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>`;
  const line =
    '<STMTTRN><DTPOSTED>20261104</DTPOSTED><TRNAMT>-12.40</TRNAMT><FITID>7</FITID><NAME>Gel Shop</NAME></STMTTRN>';
  const give = (name: string, text: string) =>
    page.getByLabel('Choose a file').setInputFiles({ name, mimeType: 'text/xml', buffer: Buffer.from(text) });
  await give('broken.ofx', ofx('<STMTTRN>'));
  await expect(page.getByRole('alert')).toContainText('broken.ofx, line 1');
  await give('bank.ofx', ofx(line));
  await expect(grid(page, 'Lines of the statement')).toContainText('Gel Shop');
  await page.getByRole('button', { name: 'Import 1 line' }).click();
  await expect(grid(page, 'Lines to place')).toContainText('Gel Shop');
  await open(page, '/costs/in');
  await give('bank.ofx', ofx(line));
  await expect(page.getByText('1 are here already and are left out.')).toBeVisible();
});

test('receipts that cannot be kept are refused in words, and a list shows what lacks one', async ({ page }) => {
  await open(page, '/costs');
  await part(page, /^Receipts/).click();
  await expect(grid(page, 'Costs without a receipt').getByRole('row').nth(1)).toBeVisible();
  const add = page.getByLabel('Add a receipt', { exact: true });
  await add.setInputFiles({ name: 'diary.png', mimeType: 'image/png', buffer: Buffer.from('Dear diary') });
  await expect(page.getByRole('alert')).toContainText('“diary.png” is no picture and no PDF');
  await add.setInputFiles({ name: 'film.pdf', mimeType: 'application/pdf', buffer: Buffer.alloc(50_000_001) });
  await expect(page.getByRole('alert')).toContainText('a receipt has at most 50 MB');
  const rows = await grid(page, 'Costs without a receipt').getByRole('row').count();
  await page
    .getByLabel(/^Add the receipt of/)
    .first()
    .setInputFiles({ name: 'gel.png', mimeType: 'image/png', buffer: PNG });
  await expect(grid(page, 'Costs without a receipt').getByRole('row')).toHaveCount(rows - 1);
});

test('a project’s money stands in three groups, with its agreed amounts and orders', async ({ page }) => {
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link', { name: 'Fernhill Folk Museum' }).click();
  await grid(page, 'Projects').getByRole('link', { name: 'Museum gallery 3' }).click();
  await page.getByRole('link', { name: 'Money', exact: true }).click();
  const money = grid(page, 'Money by cost code');
  await expect(money.getByRole('row', { name: /Lamps, gel and cable/ })).toContainText('9,000.00');
  await money.getByRole('button', { name: /working of Spent, Riggers/ }).click();
  await expect(page.getByRole('dialog', { name: 'Working' })).toContainText('riggers, ceiling track');
  await page.keyboard.press('Escape');
  const agreed = grid(page, 'Agreed amounts');
  await agreed.getByLabel('Evening opening scenes is agreed').click();
  await expect(agreed.getByRole('row', { name: /Evening opening/ })).toContainText('agreed 12 Nov');
  const order = page.getByRole('form', { name: 'Add an order' });
  await order.getByLabel('Supplier').fill('Beamline Hire');
  await order.getByLabel(/^Amount/).fill('300');
  await order.getByRole('button', { name: 'Add the order' }).click();
  await expect(grid(page, 'Orders to suppliers')).toContainText('£300.00');
  await expectAxeClean(page);
  await bill(page, 'Fernhill Folk Museum');
  await page
    .getByRole('group', { name: 'Kinds' })
    .getByRole('button', { name: /^Extras/ })
    .click();
  await expect(toBill(page).getByText('Evening opening scenes')).toBeVisible();
});

test('costs live in the workspace file with their receipts, and come back', async ({ page }) => {
  test.setTimeout(180_000);
  await open(page, '/setup/data');
  const waiting = page.waitForEvent('download');
  await page
    .getByRole('button', { name: /^Export/ })
    .first()
    .click();
  const path = await (await waiting).path();
  const zip = readFileSync(path).toString('latin1');
  expect(zip).toMatch(/files\/[0-9a-f]{64}/);
  await page.locator('input[type=file]').first().setInputFiles(path);
  await page.waitForURL('**/today', { timeout: 60_000 });
  await open(page, '/costs?kind=bill');
  await grid(page, 'Costs').getByRole('link').first().click();
  await page
    .getByRole('button', { name: /^Show the receipt/ })
    .first()
    .click();
  await expect(page.locator('iframe, img[alt$=".pdf"]')).toBeVisible();
});
