import { readFileSync } from 'node:fs';
import { expect, expectAxeClean, grid, open, test, choose } from './app';

test('a client’s account adds up with what the register says, for any period, and goes out as file', async ({
  page,
}) => {
  test.setTimeout(90_000);
  await open(page, '/clients');
  await page.getByRole('link', { name: 'Fernhill Folk Museum' }).first().click();
  await page.getByRole('link', { name: 'Account', exact: true }).click();
  const account = grid(page, /^Account in/);
  await expect(account.getByRole('row').nth(1)).toBeVisible();
  await expectAxeClean(page);
  // The balance of each row is the one before it and what the row moved.
  const pence = (text: string) =>
    text === '' ? 0 : Number(text.replace(/[^\d.]/g, '')) * 100 * (/[−-]/.test(text) ? -1 : 1);
  const brought = pence((await page.getByText(/^Brought forward:/).innerText()).replace('Brought forward:', ''));
  const rows = await account
    .getByRole('row')
    .filter({ hasText: /Invoice|Credit note|Paid|Made void|Written off/ })
    .all();
  expect(rows.length).toBeGreaterThan(1);
  let balance = brought;
  for (const row of rows) {
    const [charged, received, after] = (await row.getByRole('gridcell').allInnerTexts()).slice(-3).map(pence);
    balance += charged! - received!;
    expect(Math.round(after!)).toBe(Math.round(balance));
  }
  // It ends with what is open.
  const open_ = grid(page, /^Open in/);
  if (await open_.isVisible()) {
    let owed = 0;
    for (const row of await open_.getByRole('row').filter({ hasText: /SL-/ }).all()) {
      const [held, due] = (await row.getByRole('gridcell').allInnerTexts()).slice(-2).map(pence);
      owed += held! + due!;
    }
    expect(Math.round(owed)).toBe(Math.round(balance));
  }
  const taken = async (name: string) => {
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name, exact: true }).click();
    const file = await waiting;
    return { name: file.suggestedFilename(), bytes: readFileSync(await file.path()) };
  };
  const pdf = await taken('PDF');
  expect(pdf.name).toMatch(/^statement-fernhill-folk-museum-.*\.pdf$/);
  expect(pdf.bytes.subarray(0, 5).toString('latin1')).toBe('%PDF-');
  expect((await taken('XLSX')).bytes.subarray(0, 2).toString('latin1')).toBe('PK');
  expect((await taken('Page')).bytes.toString('utf8')).toContain('<h1>Statement of account</h1>');
  // A period before anything.
  await choose(page.getByLabel('Period'), 'From one day to another');
  await page.goto(
    page
      .url()
      .replace(/from=[\d-]+/, 'from=2020-01-01')
      .replace(/to=[\d-]+/, 'to=2020-01-31'),
  );
  await expect(page.getByText('Nothing was invoiced or paid up to')).toBeVisible();
});
