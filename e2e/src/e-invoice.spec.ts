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
  const inside = execFileSync('pdfdetach', ['-save', '1', '-o', `${hybrid.path}.xml`, hybrid.path]).toString();
  expect(inside).toBe('');
  for (const path of [ubl.path, `${hybrid.path}.xml`]) {
    const read = readEInvoice(new Uint8Array(readFileSync(path)), number);
    expect(rulesBrokenBy(read)).toEqual([]);
    expect(read).toMatchObject({ number, buyerReference: 'LW-7', buyer: { endpoint: { scheme: '9932' } } });
  }
});
