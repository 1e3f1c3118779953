import { addClient, addTime, expect, grid, open, pdfText, row, startEmpty, test, till } from './app';

test('from an empty studio to a paid invoice', async ({ page }) => {
  await startEmpty(page);
  await expect(page.getByText('Nothing is recorded on this day yet')).toBeVisible();
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85.00');

  // A timer from the Till, seen on every screen and in the tab's title. The field for the next project has the focus: leave it.
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('.');
  await page.keyboard.type('winter');
  await page.keyboard.press('Enter');
  await expect(till(page).getByRole('timer')).toBeVisible();
  await page.clock.runFor('01:00:00');
  for (const screen of ['Today', 'Billing', 'Clients', 'Setup']) {
    await page.getByRole('navigation', { name: 'Screens' }).getByRole('link', { name: screen, exact: true }).click();
    await expect(till(page).getByRole('timer')).toHaveText(/01:00:\d\d/);
    await expect(page).toHaveTitle(/^1:00 .*Half Penny$/);
  }
  await till(page).getByRole('button', { name: 'Stop the timer' }).click();
  await expect(till(page).getByText('Nothing is running')).toBeVisible();

  // Another hour by hand.
  await addTime(page, '9-10', 'Focus notes', 'winter');
  const day = grid(page, /^Entries of/);
  await expect(day.getByRole('row', { name: /Focus notes/ })).toContainText('£85.00');
  // Two entries between head and foot, and the time between them that nothing covers.
  await expect(day.getByRole('row')).toHaveCount(5);

  // What is to bill goes onto an invoice.
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Quayside Playhouse' })).toBeVisible();
  await page.getByRole('button', { name: /Put on invoice/ }).click();
  const sheet = page.getByTestId('invoice-sheet');
  await expect(sheet).toContainText('Saltmere Lighting');
  await expect(sheet).toContainText('Winter season rig');
  await page.getByRole('button', { name: /^Issue/ }).click();
  await page.getByRole('button', { name: 'Issue 0001' }).click();
  await expect(page.getByRole('heading', { level: 1, name: '0001' })).toBeVisible();
  await expect(page.getByRole('button', { name: /^Issue/ })).toHaveCount(0);

  // The timer ran an hour and a few seconds of the test; the paper says what the screen says.
  const total = (await sheet
    .getByText(/^£\d+\.\d\d$/)
    .last()
    .textContent())!;
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'PDF' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('0001.pdf');
  const text = pdfText(await download.path());
  expect(text).toContain(total);
  expect(text).toContain('Winter season rig');
  expect(text).toMatch(/page 1 of 1/);

  await page.getByRole('button', { name: 'Record a payment' }).click();
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(page.getByRole('region', { name: 'Payments' })).toContainText('Still owed£0.00');
  await open(page, '/billing');
  await expect(row(page, /0001/)).toContainText('paid');
  await expect(page.getByText('Nothing is to bill.')).toBeVisible();
});

test('the slip says how an amount came about', async ({ page }) => {
  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85');
  await addTime(page, '0:10', 'Plot sheet 4', 'winter');
  await grid(page, /^Entries of/)
    .getByRole('button', { name: /working of Plot sheet 4/ })
    .click();
  const slip = page.getByRole('dialog', { name: 'Working' });
  // Ten minutes at 85.00 an hour, rounded once.
  await expect(slip).toContainText('10 min × 85.00 ÷ 1 h');
  await expect(slip).toContainText('Winter season rig card');
  await expect(slip).toContainText('14.17');
});

test('part of an entry is billable, by the coin', async ({ page }) => {
  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85');
  await addTime(page, '3h', 'Focus', 'winter');
  const day = grid(page, /^Entries of/);
  await day.getByRole('button', { name: 'Billable. Change' }).click();
  const coin = page.getByRole('dialog', { name: 'How much is billable' });
  await coin.getByLabel('Only this much').fill('4h');
  await coin.getByRole('button', { name: 'Set' }).click();
  await expect(coin.getByRole('alert')).toHaveText(/longer than what was worked/);
  await coin.getByLabel('Only this much').fill('2h');
  await coin.getByRole('button', { name: 'Set' }).click();
  await expect(day.getByRole('button', { name: '2:00 of 3:00 billable. Change' })).toBeVisible();
  await expect(day.getByRole('row', { name: /Focus/ })).toContainText('£170.00');
});

test('a void invoice keeps its number and frees what was on it', async ({ page }) => {
  await open(page, '/billing?standing=issued');
  await grid(page, 'Invoices').getByRole('link').first().click();
  const heading = page.getByRole('heading', { level: 1, name: /^SL-/ });
  await expect(heading).toBeVisible();
  const number = (await heading.textContent())!;
  await page.getByRole('button', { name: 'Void', exact: true }).click();
  await page.getByRole('button', { name: `Void ${number}` }).click();
  await expect(page.getByRole('alert')).toHaveText('This cannot be empty.');
  await page.getByLabel('Reason').fill('Wrong month');
  await page.getByRole('button', { name: `Void ${number}` }).click();
  await expect(page.getByText(/Void since .* Wrong month/)).toBeVisible();
  await open(page, '/billing?standing=void');
  await expect(row(page, new RegExp(number))).toContainText('void');
});
