import { readFileSync, writeFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import type { Download, Locator, Page } from '@playwright/test';
import { choose, expect, expectAxeClean, grid, open, test } from './app';

/** The page as a file. */
async function asFile(page: Page): Promise<Download> {
  await page.getByRole('button', { name: 'Client’s page' }).click();
  const saved = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Save the file' }).click();
  const download = await saved;
  await page.keyboard.press('Escape');
  return download;
}

const firstOf = (page: Page, client: RegExp): Locator =>
  grid(page, 'Invoices').getByRole('row', { name: client }).first().getByRole('link').first();

async function givenQuote(page: Page, title: string): Promise<void> {
  await open(page, '/billing/quotes');
  await page.getByRole('button', { name: 'New quote' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('What it is for').fill(title);
  await choose(dialog.getByLabel('Client'), 'Quayside Playhouse');
  await dialog.getByRole('button', { name: 'Write it' }).click();
  const line = page.getByRole('form', { name: 'Add a line' });
  for (const [what, price] of [
    ['Survey', '400'],
    ['Rigging', '1250.50'],
  ]) {
    await line.getByLabel('What', { exact: true }).fill(what!);
    await line.getByLabel(/^Price, /).fill(price!);
    await line.getByRole('button', { name: 'Add the line' }).click();
    await expect(grid(page, 'Lines of the quote')).toContainText(what!);
  }
  await page.getByRole('button', { name: 'Give to the client' }).click();
}

test('a client’s page is one file that does its sums again, and says so when one was changed', async ({ page }) => {
  await open(page, '/billing?standing=overdue');
  await firstOf(page, /Maison Clairval/).click();
  const file = await (await asFile(page)).path();
  const html = readFileSync(file, 'utf8');
  const path = `${file}.html`;
  writeFileSync(path, html);
  const client = await page.context().newPage();
  const asked: string[] = [];
  client.on('request', (request) => asked.push(request.url()));
  const address = pathToFileURL(path).href;
  await client.goto(address);
  await expect(client.locator('#checked')).toContainText(/\d+ sums on this page were done again.*all are right/);
  expect(asked.filter((url) => !url.startsWith('data:'))).toEqual([address]);
  await client.locator('summary').first().click();
  await expect(client.locator('details[open] table')).toContainText(/Imogen Vale|Asha Quill|Teodor Lund/);
  // It is read in both themes, and at a phone's width.
  for (const [colorScheme, width] of [
    ['light', 1280],
    ['dark', 360],
  ] as const) {
    await client.emulateMedia({ colorScheme });
    await client.setViewportSize({ width, height: 800 });
    await expectAxeClean(client);
    expect(await client.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
  }
  // A figure that is shown and is not the one that was summed; then one that was summed and does not hold.
  const total = /data-of="payable">([^<]+)</.exec(html)![1]!;
  writeFileSync(path, html.replaceAll(`>${total}<`, `>${total.replace(/\d/, '9')}<`));
  await client.goto(address);
  await expect(client.locator('#wrong')).toBeVisible();
  writeFileSync(
    path,
    html.replace(/"net":(\d+)/, (_, net: string) => `"net":${Number(net) + 100}`),
  );
  await client.goto(address);
  await expect(client.locator('#wrong')).toBeVisible();
  await expect(client.locator('#checked')).toBeHidden();
});

test('a quote is accepted on its page from disk: the signed answer is read, and one that was altered is refused', async ({
  page,
}) => {
  await givenQuote(page, 'Orchestra pit, relit');
  const file = await (await asFile(page)).path();
  const path = `${file}.html`;
  writeFileSync(path, readFileSync(file, 'utf8'));
  const client = await page.context().newPage();
  await client.goto(pathToFileURL(path).href);
  await client.getByRole('button', { name: 'Accept' }).click();
  await expect(client.getByRole('alert').filter({ hasText: 'Please write your name.' })).toBeVisible();
  await client.getByLabel('Your name').fill('Robin Hale');
  await client.getByRole('checkbox', { name: 'Rigging' }).uncheck();
  await expect(client.locator('output')).toHaveText('£400.00');
  const saved = client.waitForEvent('download');
  await client.getByRole('button', { name: 'Accept' }).click();
  const download = await saved;
  expect(download.suggestedFilename()).toBe('answer-Q-0001.json');
  await expect(client.locator('#saved')).toBeVisible();
  const answer = readFileSync(await download.path(), 'utf8');
  await open(page, '/billing/quotes');
  const read = (text: string) =>
    page
      .locator('input[type=file]')
      .setInputFiles({ name: 'answer.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await read(answer.replace('Robin Hale', 'Robin Pale'));
  await expect(page.getByRole('alert')).toContainText('was changed after it was signed');
  await read('{"what": "else"}');
  await expect(page.getByRole('alert')).toContainText('This is no answer to a quote');
  await read(answer);
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Signed on the client’s page of Q-0001');
  await expect(dialog.getByLabel('By', { exact: true })).toHaveValue('Robin Hale');
  await expect(dialog.getByRole('checkbox', { name: 'Rigging' })).not.toBeChecked();
  await dialog.getByRole('button', { name: 'Record the acceptance' }).click();
  await expect(grid(page, 'Quotes')).toContainText('accepted in part');
  await read(answer);
  await expect(page.getByRole('alert')).toContainText('was accepted already');
});

test('a deposit is invoiced ahead, deducted from the work, and told on the invoice; cash ahead says what comes', async ({
  page,
}) => {
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await page.getByRole('button', { name: 'Deposit invoice' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: 'Draft it' }).click();
  await expect(dialog.getByText('Enter an amount').or(dialog.getByRole('alert')).first()).toBeVisible();
  await dialog.getByLabel(/^Before tax/).fill('300');
  await dialog.getByLabel('Hours that it stands for').fill('4');
  await dialog.getByRole('button', { name: 'Draft it' }).click();
  await page.getByRole('button', { name: /^Issue/ }).click();
  await dialog.getByRole('button', { name: /^Issue/ }).click();
  await expect(page.getByTestId('invoice-sheet')).toContainText('£360.00');
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await expect(grid(page, 'Invoiced ahead to Quayside Playhouse')).toContainText('4:00 h left');
  await expectAxeClean(page);
  await page.getByRole('button', { name: /Put on invoice/ }).click();
  await page.getByRole('button', { name: 'Deduct' }).click();
  await expect(grid(page, 'Lines of the draft')).toContainText('−£300.00');
  await page.getByRole('button', { name: /^Issue/ }).click();
  await dialog.getByRole('button', { name: /^Issue/ }).click();
  await expect(page.getByTestId('invoice-sheet')).toContainText(
    /invoiced ahead: £300.00; used so far £300.00, left £0.00 before tax. That is 0:00 h./,
  );
  await open(page, '/billing/ahead');
  await expect(page.getByText(/will likely have come in/)).toBeVisible();
  await expect(grid(page, 'What comes in, by week').getByRole('row')).toHaveCount(14);
  await expect(grid(page, 'What is to come')).toContainText('at the present pace');
  await expectAxeClean(page);
});
