import { PDFDocument } from '@cantoo/pdf-lib';
import { readFileSync } from 'node:fs';
import { expect, grid, open, row, test, choose } from './app';
import type { Locator, Page } from '@playwright/test';

const PNG = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

/** Drops or pastes a file as the browser would hand it over. */
async function hand(page: Page, how: 'drop' | 'paste', name: string, type: string, base64: string): Promise<void> {
  const transfer = await page.evaluateHandle(
    ({ name, type, base64 }) => {
      const bytes = Uint8Array.from(atob(base64), (char) => char.charCodeAt(0));
      const transfer = new DataTransfer();
      transfer.items.add(new File([bytes], name, { type }));
      return transfer;
    },
    { name, type, base64 },
  );
  if (how === 'drop') return page.getByRole('form').dispatchEvent('drop', { dataTransfer: transfer });
  await page.evaluate(
    (clipboardData) => window.dispatchEvent(new ClipboardEvent('paste', { clipboardData, cancelable: true })),
    transfer,
  );
}

/** Puts some of a client's time or costs on a draft. */
async function draftOf(page: Page, client: string, kind: RegExp): Promise<Locator> {
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: client }).click();
  await page.getByRole('group', { name: 'Kinds' }).getByRole('button', { name: kind }).click();
  await page.getByRole('button', { name: /Put on invoice|Add to the draft/ }).click();
  const lines = grid(page, 'Lines of the draft');
  await expect(lines).toBeVisible();
  return lines;
}

/** Ticked or not once it is kept. */
async function tick(page: Page, label: string, ticked = true): Promise<void> {
  const box = page.getByLabel(label);
  await box.click();
  await expect(box).toBeChecked({ checked: ticked });
}

const totalOf = async (page: Page): Promise<string> =>
  (await page.getByTestId('invoice-sheet').innerText()).match(/(?:To pay|Total)[^£]*£([\d,.]+)\s*$/m)?.[1] ?? '';

test('receipts are dropped and pasted, and a locked or broken PDF is answered', async ({ page }) => {
  await open(page, '/costs/new/bill');
  await hand(page, 'drop', 'dropped.png', 'image/png', PNG);
  await expect(page.getByRole('button', { name: 'Show the receipt dropped.png' })).toBeVisible();
  const pdf = await PDFDocument.create();
  pdf.addPage();
  await hand(page, 'paste', 'pasted.pdf', 'application/pdf', Buffer.from(await pdf.save()).toString('base64'));
  await expect(page.getByRole('button', { name: 'Show the receipt pasted.pdf' })).toBeVisible();
  pdf.encrypt({ userPassword: 'gel', ownerPassword: 'gel' });
  const locked = Buffer.from(await pdf.save()).toString('base64');
  await hand(page, 'drop', 'locked.pdf', 'application/pdf', locked);
  await expect(page.getByRole('alert')).toContainText('“locked.pdf” is locked with a password');
  await hand(page, 'drop', 'broken.pdf', 'application/pdf', Buffer.from('%PDF-1.7\n1 0 obj\n<<').toString('base64'));
  await expect(page.getByRole('alert')).toContainText('“broken.pdf” is a broken PDF');
  await expect(page.getByRole('button', { name: /^Show the receipt/ })).toHaveCount(2);
});

test('a bill’s due day follows a milestone and moves with it', async ({ page }) => {
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link', { name: 'Fernhill Folk Museum' }).click();
  await grid(page, 'Projects').getByRole('link', { name: 'Museum gallery 3' }).click();
  const project = page.url();
  const add = page.getByRole('form', { name: 'Add a milestone' });
  await add.getByLabel('New milestone').fill('Opening');
  await add.getByLabel('Day').fill('2026-12-04');
  await add.getByRole('button', { name: 'Add the milestone' }).click();
  await expect(grid(page, 'Milestones')).toContainText('Opening');
  await open(page, '/costs?kind=bill');
  await row(page, /Museum gallery 3/)
    .first()
    .getByRole('link')
    .first()
    .click();
  const bill = page.url();
  await choose(page.getByRole('combobox', { name: 'Due', exact: true }), 'with the milestone Opening, 4 Dec 2026');
  await expect(page.getByText('Due 4 Dec 2026, and moves with the milestone')).toBeVisible();
  await page.goto(project);
  await grid(page, 'Milestones').getByText('4 Dec').click();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('2026-12-11');
  await page.keyboard.press('Enter');
  await expect(grid(page, 'Milestones')).toContainText('11 Dec');
  await page.goto(bill);
  await expect(page.getByText('Due 11 Dec 2026, and moves with the milestone')).toBeVisible();
});

test('statements come in as CSV with a mapping and as camt.053', async ({ page }) => {
  await open(page, '/costs/in');
  const give = (name: string, text: string) =>
    page
      .getByLabel('Choose a file')
      .setInputFiles({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(text) });
  await give('card.csv', 'Date,Payee,Details,Amount\r\n3/11/2026,Gel Shop,"Two rolls, amber",-18.00\r\n');
  const lines = grid(page, 'Lines of the statement');
  await expect(lines).toContainText('Gel Shop');
  await expect(lines).toContainText('£18.00');
  await expect(lines).toContainText('3 Nov');
  await choose(page.getByLabel('Days are written'), '3/12 is 12 March');
  await expect(lines).toContainText('11 Mar');
  await choose(page.getByLabel('Days are written'), '3/12 is 3 December');
  await page.getByRole('button', { name: 'Import 1 line' }).click();
  await expect(grid(page, 'Lines to place')).toContainText('Gel Shop');
  await open(page, '/costs/in');
  await give('card.csv', 'Date,Payee,Details,Amount\r\n3/11/2026,Gel Shop,Rolls,12.345\r\n');
  await expect(page.getByRole('alert')).toContainText('12.345');
  const entry =
    '<Ntry><Amt Ccy="GBP">44.10</Amt><CdtDbtInd>DBIT</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>2026-11-05</Dt></BookgDt><AcctSvcrRef>A-77</AcctSvcrRef><NtryDtls><TxDtls><RltdPties><Cdtr><Nm>Cable Yard</Nm></Cdtr></RltdPties><RmtInf><Ustrd>Tape and ties</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry>';
  await give(
    'bank.xml',
    `<?xml version="1.0" encoding="UTF-8"?><Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.02"><BkToCstmrStmt><Stmt><Id>S1</Id><Acct><Id><IBAN>GB33BUKB20201555555555</IBAN></Id><Ccy>GBP</Ccy></Acct>${entry}</Stmt></BkToCstmrStmt></Document>`,
  );
  await expect(lines).toContainText('Cable Yard');
  await page.getByRole('button', { name: 'Import 1 line' }).click();
  await expect(grid(page, 'Lines to place')).toContainText('Cable Yard');
});

test('prices with the tax in them, open book, sums and one price for the hours change the sheet as they say', async ({
  page,
}) => {
  test.setTimeout(120_000);
  const lines = await draftOf(page, 'Quayside Playhouse', /^Supplier bills/);
  const sheet = page.getByTestId('invoice-sheet');
  const before = await totalOf(page);
  expect(before).toMatch(/\d/);
  await page.getByLabel('Prices include tax').click();
  await page.getByRole('button', { name: 'The prices stay' }).click();
  await expect.poll(() => totalOf(page)).not.toBe(before);
  await expect(sheet).toContainText(/VAT 20 %/);
  await tick(page, 'Prices include tax', false);
  await expect.poll(() => totalOf(page)).toBe(before);
  await page.getByLabel('Prices include tax').click();
  await page.getByRole('button', { name: 'What is earned stays' }).click();
  await expect(page.getByLabel('Prices include tax')).toBeChecked();
  await expect.poll(() => totalOf(page)).toBe(before);
  await tick(page, 'Prices include tax', false);
  await expect.poll(() => totalOf(page)).toBe(before);
  await tick(page, 'The client sees cost and markup');
  await expect(sheet).toContainText('Markup');
  await tick(page, 'The client sees cost and markup', false);
  await expect(sheet).not.toContainText('Markup');
  await page.getByRole('button', { name: 'Discard the draft' }).click();
  await draftOf(page, 'Quayside Playhouse', /^Time/);
  await choose(page.getByLabel('Condense', { exact: true }), 'By service');
  await lines.getByRole('row').nth(1).getByRole('gridcell').first().click();
  await page.getByRole('button', { name: /^One price/ }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Sum, GBP').fill('1000');
  await expect(dialog.getByRole('status')).toContainText(/at their own rates, £1,000\.00 at this price/);
  await dialog.getByRole('button').last().click();
  await expect(sheet).toContainText('£1,000.00');
});

test('new time goes onto a draft that collects it', async ({ page }) => {
  await draftOf(page, 'Quayside Playhouse', /^Time/);
  await tick(page, 'Add new time as it is recorded');
  const address = page.url();
  await open(page, '/today?add=1');
  const form = page.getByRole('form', { name: 'Add time' });
  await form.getByLabel('Length or from–to').fill('0:30');
  await form.getByLabel('What was done').fill('Collected at once');
  await form.getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('winter season');
  await page.keyboard.press('Enter');
  await form.getByRole('button', { name: /^Add/ }).click();
  await expect(form.getByLabel('Length or from–to')).toHaveValue('');
  await page.goto(address);
  await expect(page.getByTestId('invoice-sheet')).toContainText('Winter season rig0:30 h');
});

test('what is held back falls due later, and the register goes out as CSV and XLSX', async ({ page }) => {
  await draftOf(page, 'Quayside Playhouse', /^Supplier bills/);
  await page.getByLabel(/^Retention, %/).fill('5');
  await page.getByLabel(/^Retention, %/).press('Enter');
  await expect(page.getByTestId('invoice-sheet')).toContainText('Retention, 5 %');
  await page.getByRole('button', { name: /^Issue/ }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Issue/ })
    .click();
  await page.getByRole('button', { name: 'Retention is due', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Retention is not due yet' })).toBeVisible();
  await open(page, '/billing?standing=issued');
  await expect(row(page, /Quayside/).first()).toBeVisible();
  const take = async (name: string) => {
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name, exact: true }).click();
    return readFileSync(await (await waiting).path());
  };
  const csv = (await take('CSV')).toString('utf8');
  expect(csv).toContain('Quayside Playhouse');
  expect(csv.trim().split('\r\n').length).toBe((await grid(page, 'Invoices').getByRole('row').count()) - 1);
  expect((await take('XLSX')).subarray(0, 2).toString()).toBe('PK');
});
