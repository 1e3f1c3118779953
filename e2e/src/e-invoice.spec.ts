import { rulesBrokenBy } from '@half-penny/core/e-invoice';
import { readEInvoice } from '@half-penny/formats/e-invoice';
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expectAxeClean, expect, grid, open, test } from './app';

const forms = (page: Page) => page.getByRole('list', { name: 'Forms' });

test('an issued invoice goes out as an e-invoice once what it lacks is written where it says', async ({ page }) => {
  await open(page, '/billing');
  await grid(page, 'Invoices')
    .getByRole('row', { name: /SL-.*Quayside Playhouse/ })
    .getByRole('link')
    .first()
    .click();
  const number = (await page.getByRole('heading', { level: 1, name: /^SL-/ }).innerText()).trim();
  await page.getByRole('button', { name: 'E-invoice' }).click();
  const dialog = page.getByRole('dialog', { name: `${number} as an e-invoice` });
  await expect(forms(page).getByRole('listitem').filter({ hasText: 'XRechnung' })).toContainText('BT-52, BT-53');
  await expectAxeClean(page);
  await dialog
    .getByRole('region', { name: 'What is lacking' })
    .getByRole('listitem')
    .filter({ hasText: 'BT-52' })
    .getByRole('link')
    .click();
  await expect(page.getByLabel('Town')).toBeFocused();
  await page.getByLabel('Town').fill('Saltmere');
  await page.getByLabel('Post code').fill('SM1 1AA');
  // What is no electronic address is refused where it was written.
  await page.getByLabel('Electronic address').fill('somewhere');
  await page.getByLabel('Reference that it wants').click();
  await expect(page.getByText(/An electronic address is a mail address, or four figures/)).toBeVisible();
  await page.getByLabel('Electronic address').fill('9932:GB999999973');
  await page.getByLabel('Reference that it wants').fill('LW-7');
  await page.getByLabel('Reference that it wants').blur();
  await page.goBack();
  await page.getByRole('button', { name: 'E-invoice' }).click();
  await expect(forms(page).getByText('complete')).toHaveCount(3);
  const saved = async (form: string) => {
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: `Save ${form}` }).click();
    const file = await download;
    return { name: file.suggestedFilename(), path: await file.path() };
  };
  const ubl = await saved('Peppol');
  const hybrid = await saved('Factur-X');
  expect([ubl.name, hybrid.name]).toEqual([`${number}-peppol.xml`, `${number}-factur-x.pdf`]);
  // The same entry by entry, for clients who ask for that.
  const byTask = readFileSync((await saved('LEDES 1998B')).path, 'utf8').split('[]\r\n');
  expect([byTask[0], byTask[1]!.split('|').length]).toEqual(['LEDES1998B', 24]);
  expect(byTask[2]!.split('|').slice(1, 3)).toEqual([number, 'C01']);
  const inside = execFileSync('pdfdetach', ['-save', '1', '-o', `${hybrid.path}.xml`, hybrid.path]).toString();
  expect(inside).toBe('');
  for (const path of [ubl.path, `${hybrid.path}.xml`]) {
    const read = readEInvoice(new Uint8Array(readFileSync(path)), number);
    expect(rulesBrokenBy(read)).toEqual([]);
    expect(read).toMatchObject({ number, buyerReference: 'LW-7', buyer: { endpoint: { scheme: '9932' } } });
  }
});

test('a supplier’s e-invoice becomes a bill with its lines, once it was looked at; what does not hold is said', async ({
  page,
}, info) => {
  await open(page, '/billing');
  await grid(page, 'Invoices')
    .getByRole('row', { name: /SL-.*Maison Clairval/ })
    .getByRole('link')
    .first()
    .click();
  const number = (await page.getByRole('heading', { level: 1, name: /^SL-/ }).innerText()).trim();
  await page.getByRole('button', { name: 'E-invoice' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save Factur-X' }).click();
  const file = info.outputPath('from-supplier.pdf');
  await (await download).saveAs(file);
  await open(page, '/costs/e-invoice');
  const choose = page.locator('input[type=file]');
  await choose.setInputFiles({ name: 'note.xml', mimeType: 'application/xml', buffer: Buffer.from('<note/>') });
  await expect(page.getByRole('alert')).toContainText('note.xml is no electronic invoice');
  await choose.setInputFiles(file);
  const bill = page.getByRole('region', { name: `Saltmere Lighting, ${number}` });
  await expect(bill.getByRole('row').nth(1)).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
  await expectAxeClean(page);
  await bill.getByRole('button', { name: 'Add the bill' }).click();
  await expect(page).toHaveURL(/\/costs\/cost\//);
  await expect(page.getByRole('button', { name: /Show the receipt from-supplier\.pdf/ })).toBeVisible();
  // The same again is told from another, and a changed amount by the rule that it breaks.
  await open(page, '/costs/e-invoice');
  const data = `${file}.xml`;
  execFileSync('pdfdetach', ['-save', '1', '-o', data, file]);
  const wrong = readFileSync(data, 'utf8').replace(/<ram:DuePayableAmount>\d/, '<ram:DuePayableAmount>9');
  await choose.setInputFiles({ name: 'wrong.xml', mimeType: 'application/xml', buffer: Buffer.from(wrong) });
  await expect(page.getByText(`Their ${number} is here already`)).toBeVisible();
  await expect(page.getByText(/BR-CO-16: the amount due is 9/)).toBeVisible();
  await expect(bill.getByRole('button', { name: 'Add it all the same' })).toBeVisible();
});
