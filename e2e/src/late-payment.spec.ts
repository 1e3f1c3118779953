import { choose, expect, expectAxeClean, grid, open, test, written } from './app';

test('a late invoice tells what the law lets one claim, by base rates kept in Setup; of a private person nothing', async ({
  page,
}) => {
  await open(page, '/setup/invoicing');
  const rates = grid(page, 'Base rates');
  await expect(rates).toContainText('1 Jan 2020');
  const add = page.getByRole('form', { name: 'Add a base rate' });
  await add.getByLabel('In force from').fill('30 June');
  await add.getByLabel('Per cent a year').fill('5');
  await add.getByRole('button', { name: 'Add the base rate' }).click();
  await expect(add.getByText('“30 June” is not a day. Write it as 2026-02-05.')).toBeVisible();
  await add.getByLabel('In force from').fill('2026-06-30');
  await add.getByRole('button', { name: 'Add the base rate' }).click();
  await expect(rates).toContainText('30 Jun 2026');
  await open(page, '/billing?standing=overdue');
  await grid(page, 'Invoices').getByRole('link', { name: /^SL-/ }).first().click();
  const late = page.getByRole('region', { name: 'Late payment' });
  await expect(late.getByRole('heading')).toHaveText(/^\d+ days? late$/);
  await expect(late).toContainText('13 % a year');
  await late.getByRole('button').first().click();
  await expect(page.getByText(/days? to 12 Nov 2026, 13 % a year/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expectAxeClean(page);
  // By the other law and without a rate for it, it says what is missing.
  const address = page.url();
  await open(page, '/setup/invoicing');
  await choose(page.getByLabel('Interest by law'), 'EU: directive 2011/7');
  await written(page);
  for (const rate of [/30 Jun 2026|5/, /1 Jan 2020|4/]) {
    await rates.getByRole('row', { name: rate }).last().click();
    await page.keyboard.press('Delete');
  }
  await expect(page.getByText('No base rate yet')).toBeVisible();
  await page.goto(address);
  await expect(late).toContainText('No base rate is known for 1 Jul 2026');
  await late.getByRole('link', { name: 'To Late payment' }).click();
  await expect(page.getByLabel('Interest by law')).toBeFocused();
  await page.goto(address);
  const client = (await page.locator('header, main').getByText(/ · /).first().innerText()).split(' · ')[0]!;
  await open(page, '/clients');
  await page.getByRole('link', { name: client }).first().click();
  await page.getByRole('link', { name: 'Details and contacts' }).click();
  await choose(page.getByLabel('Pays as'), 'A private person');
  await page.goto(address);
  await expect(page.getByRole('region', { name: 'Payments' })).toBeVisible();
  await expect(late).toHaveCount(0);
});
