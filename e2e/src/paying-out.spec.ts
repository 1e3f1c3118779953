import { readFileSync } from 'node:fs';
import { expect, grid, open, row, test } from './app';
import type { Locator, Page } from '@playwright/test';

const owed = (page: Page): Locator => grid(page, 'Owed to suppliers and members');
const countOf = async (list: Locator): Promise<number> => (await list.getByRole('row').count()) - 1;
const money = (text: string): number => Math.round(Number(text.replace(/[^\d.]/g, '')) * 100);

test('bills and members are paid by a payment file, and the statement that tells of it settles them', async ({
  page,
}) => {
  await open(page, '/costs/pay');
  await expect(owed(page)).toBeVisible();
  // All that can go, and some that cannot: two members have accounts, one has none.
  for (const who of ['Imogen Vale', 'Asha Quill', 'Teodor Lund'])
    for (const each of await row(owed(page), who).all()) await each.getByRole('checkbox').click();
  await row(owed(page), 'Brightwater Supplies').first().getByRole('checkbox').click();
  await page.getByRole('button', { name: 'Payment file…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Payment file' });
  await expect(dialog.getByRole('list', { name: 'Stays out of the file' })).toContainText(
    'Teodor Lund, GBP, no account is written down',
  );
  const inFile = await dialog.getByRole('list', { name: 'In the file' }).getByRole('listitem').allInnerTexts();
  const sum = inFile.reduce((total, text) => total + money(/£[\d,.]+/.exec(text)![0]), 0);
  const download = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Save the payment file' }).click();
  const xml = readFileSync(await (await download).path(), 'utf8');
  // A transfer each for two members and a supplier, which add up to what was shown.
  expect(xml.match(/<CdtTrfTxInf>/g)).toHaveLength(3);
  expect(money(/<CtrlSum>([\d.]+)</.exec(xml)![1]!)).toBe(sum);
  expect(xml).toContain('<IBAN>GB42SALT00000012345678</IBAN>');
  const asked = grid(page, 'Asked of the bank');
  await expect(asked).toContainText('Asha Quill');
  for (const each of await row(owed(page), 'Imogen Vale').all()) await expect(each).toHaveCount(0);
  const before = await countOf(grid(page, 'Paid'));

  await open(page, '/costs/in');
  await page.getByRole('button', { name: 'Ask the demo’s bank' }).click();
  const lines = grid(page, 'Lines of the statement');
  await expect(row(lines, 'IMOGEN VALE')).toContainText('asked of the bank by a payment file');
  await expect(row(lines, 'SALTMERE HARDWARE')).toContainText('a cost');
  await expect(row(lines, 'HIGHMOOR ACCESS')).toContainText('of Highmoor Access');
  await page.getByRole('button', { name: /^Import \d+ lines/ }).click();
  await expect(grid(page, 'Lines to place')).toContainText('SALTMERE HARDWARE');
  await open(page, '/costs/in');
  await page.getByRole('button', { name: 'Ask the demo’s bank' }).click();
  await expect(page.getByText(/are here already and are left out/)).toBeVisible();

  await open(page, '/costs/pay');
  await expect(page.getByRole('heading', { name: 'Asked of the bank' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Show all' }).click();
  expect(await countOf(grid(page, 'Paid'))).toBeGreaterThan(before);
  await expect(row(grid(page, 'Paid'), 'Highmoor Access').first()).toContainText('told by a statement');
});

test('a bill is paid in part, never more than it comes to, and the payment is taken back', async ({ page }) => {
  await open(page, '/costs/pay');
  const bill = row(owed(page), 'Highmoor Access').first();
  const left = money((await bill.getByRole('gridcell').last().innerText()).trim());
  await bill.getByRole('checkbox').click();
  await page.getByRole('button', { name: 'Paid…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Paid to Highmoor Access' });
  const amount = dialog.getByLabel('Amount, GBP');
  await amount.fill(((left + 1) / 100).toFixed(2));
  await dialog.getByRole('button', { name: 'Record the payment' }).click();
  await expect(dialog.getByRole('alert')).toContainText('would be paid of it');
  await amount.fill('64.90');
  await dialog.getByRole('button', { name: 'Record the payment' }).click();
  await expect(dialog).toHaveCount(0);
  // The notice takes its place below the sheet.
  await expect(page.getByText('Payment recorded')).toBeVisible();
  await expect(bill).toContainText('£64.90');
  expect(money((await bill.getByRole('gridcell').last().innerText()).trim())).toBe(left - 6_490);
  await bill.getByRole('link', { name: 'Highmoor Access' }).click();
  const payments = page.getByRole('list', { name: 'Payments' });
  await expect(payments).toContainText('£64.90');
  await expect(payments).toContainText('Left to pay Highmoor Access');
  await payments.getByRole('button', { name: 'Take back' }).click();
  await expect(payments).not.toContainText('£64.90');
});

test('a bill is paid in full on a day that was typed last', async ({ page }) => {
  await open(page, '/costs/pay');
  const bills = row(owed(page), 'Highmoor Access');
  const before = await bills.count();
  await bills.first().getByRole('checkbox').click();
  await page.getByRole('button', { name: 'Paid…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Paid to Highmoor Access' });
  await dialog.getByLabel('It left the account on').fill('5 nov');
  await dialog.getByRole('button', { name: 'Record the payment' }).click();
  await expect(dialog).toHaveCount(0);
  await expect(bills).toHaveCount(before - 1);
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(row(grid(page, 'Paid'), 'Highmoor Access')).toContainText('5 Nov');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(bills).toHaveCount(before);
});

test('an account is written down where it is missing; a number whose check digits do not fit is refused', async ({
  page,
}) => {
  await open(page, '/costs/pay');
  await row(owed(page), 'Highmoor Access').first().getByRole('button', { name: 'Write the account down' }).click();
  const dialog = page.getByRole('dialog', { name: 'Account of Highmoor Access' });
  const number = dialog.getByLabel('IBAN, or sort code and number');
  const keep = dialog.getByRole('button', { name: 'Keep the account' });
  await keep.click();
  await expect(dialog.getByRole('alert')).toHaveText('Write the number of the account.');
  await number.fill('GB34 SALT 0000 0001 1122 33');
  await keep.click();
  await expect(dialog.getByRole('alert')).toContainText('its check digits do not fit');
  await number.fill('00-00-77 11223344');
  await keep.click();
  await expect(dialog).toHaveCount(0);
  await expect(row(owed(page), 'Highmoor Access').first()).toContainText('00-00-77 11223344');
  await expect(grid(page, 'Accounts of suppliers and members')).toContainText('Highmoor Access');
});

test('a line that came in as a cost is said to pay a bill afterwards', async ({ page }) => {
  await open(page, '/costs/pay');
  const bill = row(owed(page), 'Highmoor Access').first();
  const left = money((await bill.getByRole('gridcell').last().innerText()).trim());
  await open(page, '/costs/in');
  const line = `2026-11-11,Cash desk,Part of the scaffold,-${((left - 100) / 100).toFixed(2)}`;
  await page.getByLabel('Choose a file').setInputFiles({
    name: 'card.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`Date,Payee,Details,Amount\r\n${line}\r\n`),
  });
  await expect(row(grid(page, 'Lines of the statement'), 'Cash desk')).toContainText('a cost');
  await page.getByRole('button', { name: 'Import 1 line' }).click();
  await grid(page, 'Lines to place').getByText('Cash desk').first().waitFor();
  await open(page, '/costs?find=cash+desk');
  await grid(page, 'Costs')
    .getByRole('link', { name: /Cash desk/ })
    .click();
  await page.getByLabel('This line of the statement pays').click();
  await page
    .getByRole('option', { name: /^It pays Highmoor Access/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Take it as paid' }).click();
  await expect(page.getByRole('list', { name: 'Payments' })).toContainText('Cash desk: Part of the scaffold');
  await open(page, '/costs?find=cash+desk');
  await expect(page.getByText('Nothing matches.')).toBeVisible();
});
