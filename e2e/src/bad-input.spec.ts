import { addClient, addTime, expect, grid, open, startEmpty, test, choose } from './app';

test('lengths that cannot be read are answered at the field, and unusual ones are asked about', async ({ page }) => {
  await open(page, '/today?add=1');
  const form = page.getByRole('form', { name: 'Add time' });
  for (const [text, message] of [
    ['soon', /“soon” cannot be read as a length/],
    ['9-25', /cannot be read as from–to/],
    ['90', /90 what\? .* write 90m/],
    ['0', /A length of nothing/],
  ] as const) {
    await form.getByLabel('Length or from–to').fill(text);
    await page.keyboard.press('Enter');
    await expect(form.getByRole('alert')).toHaveText(message);
    await expect(form.getByLabel('Length or from–to')).toHaveValue(text);
  }
  // An end before its start is of the next day; that long it is asked about, and no answer changes nothing.
  await form.getByLabel('Length or from–to').fill('11-9:30');
  await page.keyboard.press('Enter');
  const question = page.getByRole('dialog', { name: 'Is that right?' });
  await expect(question).toContainText('22 h 30 min on 12 Nov 2026 is a long time for one entry');
  await expect(question.getByRole('button', { name: 'Record 22 h 30 min' })).toBeFocused();
  await question.getByRole('button', { name: 'Change it' }).click();
  await expect(form.getByRole('alert')).toContainText('Nothing was changed.');
  await expect(form.getByLabel('Length or from–to')).toHaveValue('11-9:30');
  const day = grid(page, /^Entries of/);
  const before = await day.innerText();
  await day.getByRole('row').nth(1).locator('[data-place="0:3"]').click();
  await page.keyboard.type('abc');
  await page.keyboard.press('Enter');
  await expect(day.getByRole('alert')).toHaveText(/cannot be read/);
  await page.keyboard.press('Escape');
  expect(await day.innerText()).toBe(before);
});

test('rates with five decimals or below zero, and missing names, change nothing', async ({ page }) => {
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link').first().click();
  await page.getByRole('link', { name: 'Rates and markups' }).click();
  const rates = grid(page, 'Rates');
  await expect(rates).toBeVisible();
  await page.getByRole('button', { name: 'Add a rate' }).click();
  const dialog = page.getByRole('dialog');
  for (const [text, message] of [
    ['85.12345', /at most four decimals/],
    ['-5', /cannot be negative/],
    ['lots', /is not a rate/],
    ['', /is not a rate/],
  ] as const) {
    await dialog.getByLabel('Rate, GBP').fill(text);
    await dialog.getByRole('button', { name: 'Add the rate' }).click();
    await expect(dialog.getByRole('alert')).toHaveText(message);
  }
  // What was typed is asked about before the window closes over it.
  await page.keyboard.press('Escape');
  await expect(dialog.getByText('What you typed here is not saved.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Close without saving' }).click();
  await expect(rates.getByText('85.1234')).toHaveCount(0);
  await page.getByRole('link', { name: 'Work', exact: true }).click();
  await page.getByRole('button', { name: 'Add the project' }).click();
  await expect(page.getByRole('form', { name: 'Add a project' }).getByRole('alert')).toHaveText(
    'This cannot be empty.',
  );
});

test('any text shows as text and breaks no layout', async ({ page }) => {
  test.setTimeout(120_000);
  await startEmpty(page);
  const texts = [
    '<img src=x onerror="document.title=1"><b>bold</b>',
    '👩🏽‍🎨🇬🇧 café',
    'שלום עולם, مرحبا بالعالم',
    'ab'.repeat(50_000),
  ];
  await addClient(page, '<i>Quay</i> & "Side"', texts[2]!, '85');
  for (const note of texts) await addTime(page, '15m', note, 'שלום');
  const day = grid(page, /^Entries of/);
  await expect(day.getByText(texts[0]!)).toBeVisible();
  await expect(day.getByText(texts[1]!)).toBeVisible();
  await expect(page.locator('img[src="x"]')).toHaveCount(0);
  const tallest = await day
    .getByRole('row')
    .evaluateAll((rows) => Math.max(...rows.map((each) => each.getBoundingClientRect().height)));
  expect(tallest).toBeLessThan(160);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(1280);

  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link').first().click();
  await page.getByRole('button', { name: /Put on invoice/ }).click();
  await choose(page.getByLabel('Condense', { exact: true }), 'Item by item');
  await expect(page.getByTestId('invoice-sheet')).toContainText(texts[0]!);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(1280);
});

test('an address that leads nowhere, or to what is gone, says so', async ({ page }) => {
  for (const [path, words] of [
    ['/nowhere', 'This address leads nowhere'],
    ['/billing/invoice/none', 'There is no such invoice'],
    ['/billing/client/none', 'This client is not there any more'],
    ['/clients/none', 'There is no such client'],
  ] as const) {
    await open(page, path);
    await expect(page.getByText(words)).toBeVisible();
  }
});
