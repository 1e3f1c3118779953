import {
  addClient,
  addTime,
  expect,
  expectAxeClean,
  grid,
  open,
  row,
  startEmpty,
  test,
  tick,
  till,
  choose,
} from './app';
import type { Page } from '@playwright/test';

const clientPage = async (page: Page, name: string, part = 'Work') => {
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link', { name }).click();
  await page.getByRole('navigation', { name: 'About this client' }).getByRole('link', { name: part }).click();
  await expect(page.getByText('Reading…')).toHaveCount(0);
};

test('projects nest and reorder by keyboard and by drag, with what their parts come to', async ({ page }) => {
  await clientPage(page, 'Quayside Playhouse');
  const tree = grid(page, 'Projects');
  const names = () => tree.getByRole('row').locator('a').allTextContents();
  await expect.poll(names).toEqual(['Winter season rig', 'Studio theatre', 'Foyer refresh']);
  const hours = async (name: RegExp) => {
    const cell = tree.getByRole('row', { name }).first().locator('[data-place$=":2"]');
    await expect(cell).toHaveText(/[1-9]\d*:\d\d/);
    return Number(/(\d+):\d\d/.exec(await cell.innerText())![1]);
  };
  const [rig, foyer] = [await hours(/Winter season rig/), await hours(/Foyer refresh/)];

  // Into the one above, which then counts it along; the focus stays with the row.
  await tree.locator('[data-place="2:0"]').focus();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(page.getByText('Project moved').first()).toBeVisible();
  await expect.poll(() => hours(/Winter season rig/)).toBeGreaterThanOrEqual(rig + foyer);
  await page.keyboard.press('Alt+ArrowUp');
  await expect.poll(names).toEqual(['Winter season rig', 'Foyer refresh', 'Studio theatre']);
  await expect(tree.locator('[data-place="1:0"]')).toBeFocused();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(names).toEqual(['Winter season rig', 'Studio theatre', 'Foyer refresh']);
  await expect.poll(() => hours(/Winter season rig/)).toBe(rig);

  const handle = async (name: RegExp) =>
    (await tree.getByRole('row', { name }).first().getByTitle('Drag to move').boundingBox())!;
  const from = await handle(/Foyer refresh/);
  const to = await handle(/Winter season rig/);
  await page.mouse.move(from.x + 5, from.y + 5);
  await page.mouse.down();
  await page.mouse.move(from.x + 5, from.y - 30, { steps: 4 });
  await page.mouse.move(to.x + 5, to.y - 4, { steps: 8 });
  await page.mouse.up();
  await expect.poll(names).toEqual(['Foyer refresh', 'Winter season rig', 'Studio theatre']);
});

test('a rate shows what it does to what is to bill before it is changed, and the past can stay', async ({ page }) => {
  await clientPage(page, 'Fernhill Folk Museum', 'Rates and markups');
  const rates = grid(page, 'Rates');
  await expect(rates.getByRole('row', { name: /principal/ })).toContainText(/\d+:\d\d h/);
  await rates.getByRole('button', { name: /Anyone: cost \+ 60 %/ }).click();
  const dialog = page.getByRole('dialog');
  const effect = dialog.getByRole('region', { name: /Effect on/ });
  await expect(effect).toContainText('Nothing to bill changes.');
  await dialog.getByLabel('Markup, %').fill('100');
  await expect(dialog.getByText('A margin of 50 %')).toBeVisible();
  await expect(effect).toContainText(/\d+ entries to bill change/);
  const all = Number(/(\d+) entries/.exec(await effect.innerText())![1]);
  await dialog.getByLabel('From', { exact: true }).fill('10 nov');
  await page.keyboard.press('Tab');
  await expect.poll(async () => Number(/(\d+) entr/.exec(await effect.innerText())?.[1] ?? 0)).toBeLessThan(all);
  await expectAxeClean(page);
  await dialog.getByRole('button', { name: 'Change the rate' }).click();
  await expect(rates.getByText('cost + 100 %')).toBeVisible();
  await expect(rates.getByText('cost + 60 %')).toBeVisible();

  // The slip of an entry says which rate won and what it is made of.
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Fernhill Folk Museum' }).click();
  await page.getByRole('group', { name: 'Kinds' }).getByRole('button', { name: /^Time/ }).click();
  await grid(page, /^To bill for/)
    .getByRole('button', { name: /working of/ })
    .first()
    .click();
  const slip = page.getByRole('dialog', { name: 'Working' });
  await expect(slip).toContainText('Cost');
  await expect(slip).toContainText(/\+ (60|62\.5) %/);
});

test('two rates from one date, a markup below nothing and a client with work are refused with the way out', async ({
  page,
}) => {
  await clientPage(page, 'Fernhill Folk Museum', 'Rates and markups');
  await page.getByRole('button', { name: 'Add a rate' }).click();
  const dialog = page.getByRole('dialog');
  await choose(dialog.getByLabel('It says'), 'a markup on cost');
  await dialog.getByLabel('Markup, %').fill('-150');
  await dialog.getByRole('button', { name: 'Add the rate' }).click();
  await expect(dialog.getByRole('alert')).toContainText('A markup of −150 % would make a price below nothing');
  await dialog.getByLabel('Markup, %').fill('20');
  await dialog.getByRole('button', { name: 'Add the rate' }).click();
  await expect(grid(page, 'Rates').getByText('cost + 20 %')).toBeVisible();
  await page.getByRole('button', { name: 'Add a rate' }).click();
  await choose(dialog.getByLabel('It says'), 'a markup on cost');
  await dialog.getByLabel('Markup, %').fill('30');
  await dialog.getByRole('button', { name: 'Add the rate' }).click();
  await expect(dialog.getByRole('alert')).toContainText('There is a rate for the same work from 1 Jan 2026 already');
  await page.keyboard.press('Escape');

  await open(page, '/clients');
  await grid(page, 'Clients').locator('[data-place="0:0"]').focus();
  await page.keyboard.press('Delete');
  await expect(page.getByText(/This client is still used by \d+ .*Archive it instead/).first()).toBeVisible();
});

test('finishing shows what is still to bill, leaves the pickers, and the picker says why', async ({ page }) => {
  await clientPage(page, 'Quayside Playhouse');
  await tick(grid(page, 'Projects').getByRole('checkbox', { name: 'Select Foyer refresh' }), true);
  await page.getByRole('button', { name: 'Finish 1' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Still to bill');
  await expect(dialog).toContainText(/Foyer refresh\s*£[\d,]+\.\d\d/);
  await dialog.getByRole('button', { name: 'Finish', exact: true }).click();
  await expect(dialog).toHaveCount(0);
  await expect(grid(page, 'Projects').getByText('Foyer refresh')).toHaveCount(0);
  await open(page, '/today?add=1');
  await page.getByRole('form', { name: 'Add time' }).getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('foyer');
  await expect(page.getByRole('option', { name: /Foyer refresh: finished\. Bring it back/ })).toBeVisible();
  await page.keyboard.press('Escape');

  // Clients go out and come back many at once.
  await open(page, '/clients');
  await tick(grid(page, 'Clients').getByRole('checkbox', { name: 'Select all rows' }), true);
  await page.getByRole('button', { name: 'Archive 6' }).click();
  await expect(page.getByRole('dialog').getByRole('listitem')).toHaveCount(6);
  await page.getByRole('dialog').getByRole('button', { name: 'Archive', exact: true }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByText('6 clients archived').first()).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(grid(page, 'Clients').getByRole('row')).toHaveCount(7);
});

test('a service that does not apply is not offered, and says why', async ({ page }) => {
  await open(page, '/setup/people');
  const programming = page.getByRole('group', { name: 'Imogen Vale' }).getByRole('checkbox', { name: 'Meetings' });
  await programming.click();
  await expect(programming).not.toBeChecked();
  await open(page, '/today?add=1');
  const service = page.getByRole('form', { name: 'Add time' }).getByLabel('Service');
  const refused = page.getByRole('listbox').getByRole('option', { disabled: true });
  await service.click();
  await expect(refused).toHaveText(['Meetings, hidden by Imogen Vale in Setup']);
  await page.keyboard.press('Escape');
  // Internal work has no site visits, says the service itself.
  await page.getByRole('form', { name: 'Add time' }).getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('studio internal');
  await page.keyboard.press('Enter');
  await service.click();
  await expect(refused).toContainText(['Site and focus, not for work of the kind “internal”']);
  await expect(page.getByRole('option', { name: 'Programming: in the venue' })).toBeEnabled();
});

test('a job is set up on the spot: client, project and task in one change', async ({ page }) => {
  await open(page, '/today?add=1');
  const form = page.getByRole('form', { name: 'Add time' });
  await form.getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('Pier illuminations');
  await page.getByRole('option', { name: /Set up “Pier illuminations”/ }).click();
  const adding = page.getByRole('form', { name: 'Add a job' });
  await choose(adding.getByLabel('Client', { exact: true }), 'A new client…');
  await adding.getByLabel('New client').fill('Harbour Trust');
  await adding.getByLabel('New task, if it needs one').fill('Survey');
  await expectAxeClean(page);
  await adding.getByRole('button', { name: 'Add and use it' }).click();
  await expect(form.getByRole('button', { name: /^Job: Survey/ })).toBeVisible();
  await expect(form.getByRole('alert')).toHaveCount(0);
  await form.getByLabel('Length or from–to').fill('1:15');
  await form.getByRole('button', { name: /^Add/ }).click();
  await expect(row(page, /Pier illuminations · Harbour Trust/)).toContainText('1:15');
});

test('clients and work come in from a list after a preview, contacts from cards, and go out again', async ({
  page,
}) => {
  await open(page, '/clients/in');
  const choose = (text: string, name: string) =>
    page
      .getByLabel('List of clients and work')
      .setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await choose('Client,Project,Kind,Task\nHarbour Trust,Pier,monthly,Survey\n', 'bad.csv');
  await expect(page.getByRole('alert')).toContainText('Row 2, column C: “monthly” is no kind of project');
  await expect(page.getByRole('button', { name: /^Import \d/ })).toBeDisabled();
  await choose(
    'Client,Project,Kind,Task\nHarbour Trust,Pier › Kiosks,hourly,Survey\nQuayside Playhouse,,,\n',
    'good.csv',
  );
  await expect(page.getByText('1 client, 2 projects, 1 task; 1 row names what is there already.')).toBeVisible();
  await expectAxeClean(page);
  await page.getByRole('button', { name: 'Import 4 rows' }).click();
  await expect(grid(page, 'Clients').getByRole('link', { name: 'Harbour Trust' })).toBeVisible();
  await page.getByPlaceholder(/Find a client, project/).fill('kiosks');
  await expect(grid(page, 'Clients').getByRole('link', { name: 'Pier › Kiosks' })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Export' }).click(),
  ]);
  expect(download.suggestedFilename()).toBe('clients-and-work.csv');

  await grid(page, 'Clients').getByRole('link', { name: 'Harbour Trust' }).click();
  await page.getByRole('link', { name: 'Details and contacts' }).click();
  const cards = (text: string) =>
    page
      .getByLabel('Contact cards (.vcf)')
      .setInputFiles({ name: 'cards.vcf', mimeType: 'text/vcard', buffer: Buffer.from(text) });
  await cards('BEGIN:VCARD\r\nVERSION:4.0\r\nTEL:1\r\nEND:VCARD\r\n');
  await expect(page.getByRole('alert')).toContainText('The card of line 1 has no name (FN). Nothing was imported.');
  await cards('BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Harbour master\r\nTITLE:Harbour master\r\nEND:VCARD\r\n');
  await expect(grid(page, 'Contacts').getByRole('row', { name: /Harbour master/ })).toBeVisible();
});

test('a budget is noticed in the Till and on the project, and a cap stops invoices', async ({ page }) => {
  await open(page, '/today');
  await till(page)
    .getByRole('link', { name: /The budget of Spring double bill is used to/ })
    .click();
  await expect(page.getByRole('heading', { level: 1, name: 'Spring double bill' })).toBeVisible();
  const budgets = grid(page, 'Budgets');
  await expect(budgets).toContainText(/9[0-3] % of \d+:00 h used/);
  await page.getByRole('button', { name: 'As a table' }).click();
  await expect(page.getByRole('columnheader', { name: 'At this pace' })).toBeVisible();

  await startEmpty(page);
  await addClient(page, 'Quayside Playhouse', 'Winter season rig', '85.00');
  await addTime(page, '2h', 'Plot sheet 4', 'winter');
  await open(page, '/clients');
  await grid(page, 'Clients').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await grid(page, 'Projects').getByRole('link', { name: 'Winter season rig' }).click();
  const add = page.getByRole('form', { name: 'Add a budget' });
  await add.getByLabel('Money, GBP').fill('100');
  await choose(add.getByLabel('May it be exceeded?'), 'No, invoices stop');
  await add.getByRole('button', { name: 'Add the budget' }).click();
  await expect(budgets.getByRole('row', { name: /Winter season rig/ })).toContainText('£70.00 beyond it');
  await open(page, '/billing');
  await grid(page, 'To bill by client').getByRole('link', { name: 'Quayside Playhouse' }).click();
  await page.getByRole('button', { name: /Put on invoice/ }).click();
  await page.getByRole('button', { name: /^Issue/ }).click();
  await page.getByRole('button', { name: 'Issue 0001' }).click();
  await expect(page.getByText(/Winter season rig is capped at £100\.00 .* would exceed it by £70\.00/)).toBeVisible();
});

test('other terms are tried on past work beside what it came to, and nothing is saved', async ({ page }) => {
  await clientPage(page, 'Otterbourne Town Council', 'What if');
  const outcome = page.getByRole('table', { name: 'What it would come to' });
  const money = async (name: string) =>
    Number(/£([\d,]+\.\d\d)(?! \/)/.exec(await outcome.getByRole('row', { name }).innerText())![1]!.replace(',', ''));
  const was = await money('As it is');
  expect(was).toBeGreaterThan(0);
  await choose(page.getByLabel('With'), 'a fixed price');
  await page.getByLabel('Amount, GBP').fill('5000');
  await expect.poll(() => money('As it would be')).toBe(5000);
  await choose(page.getByLabel('With'), 'one price for all hours');
  await page.getByLabel('Amount, GBP').fill('0.0');
  await expect.poll(() => money('As it would be')).toBe(0);
  expect(await money('As it is')).toBe(was);
  await page.getByLabel('Amount, GBP').fill('lots');
  await expect(page.getByRole('alert')).toContainText('is not a rate');
});

test('euro reference rates are read from their file, and a faulty one changes nothing', async ({ page }) => {
  await open(page, '/setup/rates');
  const rates = grid(page, 'Exchange rates');
  await expect(rates.getByRole('row')).toHaveCount(5);
  const choose = (text: string) =>
    page
      .getByLabel('File of euro reference rates')
      .setInputFiles({ name: 'eurofxref.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await choose('Date,USD,GBP\n2026-11-11,1.09,zero\n');
  await expect(page.getByRole('alert')).toContainText('eurofxref.csv, line 2, GBP: “zero” is not a rate');
  await expect(rates.getByRole('row')).toHaveCount(5);
  await choose('Date, USD, JPY, GBP, \n11 November 2026, 1.0921, 163.06, 0.85440, \n');
  await expect(page.getByRole('status').filter({ hasText: '2 rates' })).toBeVisible();
  await expect(rates.getByRole('row', { name: /11 Nov 2026/ })).toHaveCount(2);
});

test('figures and times are written and read the way the studio writes them', async ({ page }) => {
  await open(page, '/setup/looks');
  await choose(page.getByLabel('Figures are written'), '1.234,50');
  await expect(page.getByText('as you type them: £1.234,50')).toBeVisible();
  await choose(page.getByLabel('Times of day are written'), '2:05 pm');
  await expect(page.getByText('the day begins at 9:05 am')).toBeVisible();
  await clientPage(page, 'Quayside Playhouse', 'Rates and markups');
  await page.getByRole('button', { name: 'Add a rate' }).click();
  await page.getByRole('dialog').getByLabel('Rate, GBP').fill('1.250,125');
  await page.getByRole('button', { name: 'Add the rate' }).click();
  const added = grid(page, 'Rates').getByRole('button', { name: /1\.250,125 GBP \/h/ });
  await expect(added).toBeVisible();
  // What stands in the field to be changed is read as it is written.
  await added.click();
  await page.getByRole('dialog').getByLabel('From', { exact: true }).fill('2026-11-01');
  await page.getByRole('button', { name: 'Change the rate' }).click();
  await expect(grid(page, 'Rates').getByRole('button', { name: /1\.250,125 GBP \/h/ })).toHaveCount(2);
  await open(page, '/today');
  await expect(grid(page, /^Entries of/)).toContainText(/£\d+,\d\d/);
  await expect(grid(page, /^Entries of/)).toContainText(/\d:\d\d am–\d+:\d\d/);
});

test('a logo stands at the head of invoices; what is no picture is refused', async ({ page }) => {
  await open(page, '/setup/studio');
  const choose = (name: string, bytes: Buffer) =>
    page.getByLabel('Logo', { exact: true }).setInputFiles({ name, mimeType: 'image/png', buffer: bytes });
  await choose('notes.png', Buffer.from('not a picture'));
  await expect(page.getByRole('alert')).toContainText('notes.png is neither a PNG nor a JPEG picture.');
  await choose('large.png', Buffer.alloc(400_000));
  await expect(page.getByRole('alert')).toContainText('large.png has 400 kB; a logo has at most 300 kB');
  const pixel = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAAAAAA6fptVAAAACklEQVR4nGNoAAAAggCBd81ytgAAAABJRU5ErkJggg==';
  await choose('logo.png', Buffer.from(pixel, 'base64'));
  await expect(page.getByRole('img', { name: 'Logo of Saltmere Lighting' })).toBeVisible();
  await open(page, '/billing?standing=draft');
  await grid(page, 'Invoices').getByRole('link').first().click();
  await expect(page.getByTestId('invoice-sheet').locator('img')).toHaveAttribute(
    'src',
    `data:image/png;base64,${pixel}`,
  );
});
