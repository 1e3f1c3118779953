import type { Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { strFromU8, unzipSync } from 'fflate';
import Papa from 'papaparse';
import { expect, expectAxeClean, grid, open, pdfText, row, test, choose } from './app';

const sentence = (page: Page) => page.getByRole('group', { name: 'What this report asks' });
const report = (page: Page) => grid(page, 'Report');
const word = (page: Page, name: string | RegExp) => sentence(page).getByRole('button', { name });

async function answered(page: Page): Promise<void> {
  await expect(sentence(page)).toBeVisible();
  await expect(page.getByRole('progressbar', { name: 'Working it out' })).toHaveCount(0, { timeout: 30_000 });
}

/** The figure of a line, as it stands there. */
const figure = (page: Page, line: string | RegExp, measure: string) =>
  row(page, line)
    .first()
    .getByRole('button', { name: new RegExp(`^${measure} of`) });

async function takeOut(page: Page, item: string | RegExp): Promise<string> {
  await page.getByRole('button', { name: 'Export…' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('menuitem', { name: item }).click();
  return (await download).path();
}

/** Narrows a report to one client by the words of its sentence. */
async function only(page: Page, client: string): Promise<void> {
  await word(page, /^Add a condition/).click();
  await choose(page.getByLabel('Only some'), 'Client');
  await page.keyboard.press('Escape');
  await word(page, /^Condition on client/).click();
  await page.getByLabel('Find among client').fill(client.slice(0, 8));
  await page.getByLabel(client, { exact: true }).click();
  await page.keyboard.press('Escape');
  await expect(word(page, `Condition on client: ${client}`)).toBeVisible();
  await answered(page);
}

test('last month’s billable report for the museum is made, kept, taken out, and run again for this month', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await open(page, '/reports');
  await page.getByRole('link', { name: 'Hours for a client' }).click();
  await answered(page);
  await only(page, 'Fernhill Folk Museum');
  await expect(page.getByText('1 Oct 2026 – 31 Oct 2026')).toBeVisible();
  const worth = await figure(page, /Fernhill Folk Museum/, 'Worth').innerText();
  expect(worth).toMatch(/^£[\d,]+\.\d\d$/);
  // Kept, it is ready from the first of each month.
  await page.getByRole('button', { name: 'Keep…' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Museum, billable');
  await page.getByLabel('Words under the name').fill('With our thanks');
  await choose(page.getByLabel('Ready each month'), 'From day 1');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Museum, billable' })).toBeVisible();
  await answered(page);
  // The three formats say what the screen says.
  const csv = Papa.parse<Record<string, string>>(
    readFileSync(await takeOut(page, 'CSV, decimal hours'), 'utf8').replace('\ufeff', ''),
    { header: true, skipEmptyLines: true },
  );
  const sum = csv.data.reduce((total, line) => total + Math.round(Number(line.Worth) * 100), 0);
  expect(`£${(sum / 100).toLocaleString('en-GB', { minimumFractionDigits: 2 })}`).toBe(worth);
  const text = pdfText(await takeOut(page, /^PDF/));
  for (const said of ['Museum, billable', 'With our thanks', 'Saltmere Lighting', worth]) expect(text).toContain(said);
  const files = unzipSync(readFileSync(await takeOut(page, /^Spreadsheet/)));
  expect(strFromU8(files['xl/worksheets/sheet1.xml']!)).toContain('SUM(');
  expect(strFromU8(files['xl/worksheets/sheet2.xml']!)).toMatch(/ROUND\(ROUND\(G5\*86400,0\)\*ROUND\(I5\*10000,0\)/);
  const html = readFileSync(await takeOut(page, /^Web page/), 'utf8');
  expect(html).toContain(worth);
  // In one file with the invoice.
  await page.getByRole('button', { name: 'Export…' }).click();
  const download = page.waitForEvent('download');
  await page
    .getByRole('menuitem', { name: /Fernhill Folk Museum/ })
    .first()
    .click();
  const pack = pdfText(await (await download).path());
  expect(pack).toContain('VAT invoice');
  expect(pack).toContain('Museum, billable');
  // Again for this month: only the date is touched.
  await word(page, 'When: last month').click();
  await page.getByLabel('This month').click();
  await page.keyboard.press('Escape');
  await answered(page);
  await expect(page.getByText('1 Nov 2026 – 30 Nov 2026')).toBeVisible();
  await expect(figure(page, /Fernhill Folk Museum/, 'Worth')).not.toHaveText(worth);
  // What is kept stays as it was kept until that is said.
  await page.getByRole('link', { name: /^Reports/ }).click();
  await grid(page, 'Kept reports').getByRole('link', { name: 'Museum, billable' }).click();
  await answered(page);
  await expect(page.getByText('1 Oct 2026 – 31 Oct 2026')).toBeVisible();
});

test('a question is built by keyboard and by drag, lives in its address, and opens what is behind a figure', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await open(page, '/reports/ask/new');
  await answered(page);
  await word(page, /^Grouped by/).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Find among groups').fill('memb');
  await page.keyboard.press('Enter');
  const chosen = page.getByRole('list', { name: 'Groups chosen' });
  await expect(chosen.getByRole('listitem')).toHaveCount(3);
  await chosen.getByRole('button', { name: 'Move Member up' }).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await page.keyboard.press('Alt+ArrowUp');
  await expect(chosen.getByRole('listitem').first()).toHaveText('Member');
  const [client, project] = [chosen.getByRole('listitem').nth(1), chosen.getByRole('listitem').nth(2)];
  await project.locator('[title="Drag to move"]').hover();
  await page.mouse.down();
  const target = (await client.boundingBox())!;
  await page.mouse.move(target.x + 20, target.y + 8, { steps: 8 });
  await page.mouse.up();
  await expect(chosen.getByRole('listitem').nth(1)).toHaveText('Project');
  await page.keyboard.press('Escape');
  await word(page, /^What is measured/).click();
  await page.getByLabel('Find among measures').fill('to bill');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await choose(sentence(page).getByLabel('Columns'), 'with a column for each week');
  await choose(sentence(page).getByLabel('Compare'), 'against the period before');
  await choose(sentence(page).getByLabel('Order'), 'most recorded time first');
  await choose(sentence(page).getByLabel('Chart'), 'with bars');
  await answered(page);
  await expect(word(page, 'Grouped by: member, then project, then client')).toBeVisible();
  await expect(page.getByRole('figure')).toBeVisible();
  await expect(report(page).getByRole('columnheader', { name: /^All, recorded/ })).toBeVisible();
  // The address is all there is to it.
  const first = await figure(page, /Imogen Vale/, 'Recorded')
    .first()
    .innerText();
  await page.reload();
  await answered(page);
  await expect(figure(page, /Imogen Vale/, 'Recorded').first()).toHaveText(first);
  await choose(sentence(page).getByLabel('Columns'), 'no columns');
  await answered(page);
  await expectAxeClean(page);
  // A figure opens its sources, and from there the slip.
  await figure(page, /Imogen Vale/, 'Worth').click();
  const dialog = page.getByRole('dialog', { name: /^Worth: Imogen Vale/ });
  const behind = dialog.getByRole('grid', { name: 'What is behind it' });
  await expect(behind.getByRole('row').nth(1)).toBeVisible();
  await behind
    .getByRole('button', { name: /working of/ })
    .first()
    .click();
  await expect(page.getByRole('group', { name: /^Working/ })).toContainText('/h');
});

test('an open report follows a change made elsewhere', async ({ page, context }) => {
  await open(page, '/reports/ask/new');
  await answered(page);
  const recorded = figure(page, /Fernhill Folk Museum/, 'Recorded');
  const before = await recorded.innerText();
  const other = await context.newPage();
  await other.clock.install({ time: new Date('2026-11-12T15:10:00Z') });
  await open(other, '/today?add=1');
  const form = other.getByRole('form', { name: 'Add time' });
  await form.getByLabel('Length or from–to').fill('1:00');
  await form.getByLabel('What was done').fill('Case lighting');
  await form.getByRole('button', { name: /^Job/ }).click();
  await other.getByPlaceholder('Client or project…').fill('gallery');
  await other.keyboard.press('Enter');
  await form.getByRole('button', { name: /^Add/ }).click();
  const hours = (text: string) => Number(text.split(':')[0]);
  await expect.poll(async () => hours(await recorded.innerText())).toBe(hours(before) + 1);
});

test('every ready-made report shows figures of the demo', async ({ page }) => {
  test.setTimeout(180_000);
  await open(page, '/reports');
  await expectAxeClean(page);
  const links: string[] = [];
  for (const group of ['Money', 'Hours', 'Attention']) {
    const listed = page.getByRole('region', { name: group, exact: true }).getByRole('listitem');
    // Each has a picture of the studio's own figures, or says that there is nothing yet.
    for (const item of await listed.all())
      await expect(item.getByRole('img').or(item.getByText('nothing yet'))).toBeVisible();
    links.push(...(await listed.getByRole('link').evaluateAll((all) => all.map((each) => each.getAttribute('href')!))));
  }
  expect(links.length).toBeGreaterThanOrEqual(19);
  for (const path of links) {
    await open(page, path);
    const table = page.getByRole('grid').first();
    // Every entry there is, with its amount: more than fits into a small file.
    if (path.endsWith('/money')) {
      await expect(table.getByRole('row').nth(1)).toBeVisible();
      const files = unzipSync(readFileSync(await takeOut(page, /^Spreadsheet/)));
      expect(strFromU8(files['xl/worksheets/sheet2.xml']!).match(/<row /g)!.length).toBeGreaterThan(1000);
    }
    await expect(table.getByRole('row').nth(1), path).toContainText(/\d/, { timeout: 30_000 });
  }
});

test('what cannot be asked is said in words, and nothing is lost', async ({ page }) => {
  test.setTimeout(120_000);
  await open(
    page,
    `/reports/ask/new?ask=${encodeURIComponent('{"when":{"kind":"fixed","from":"2026-11-10","to":"2026-11-01"}}')}`,
  );
  await expect(page.getByRole('alert')).toHaveText('The period ends before it starts.');
  await open(page, '/reports/ask/new?ask=nonsense');
  await expect(page.getByRole('alert')).toHaveText('This is not a report of Half Penny.');
  await open(
    page,
    `/reports/ask/new?ask=${encodeURIComponent('{"rows":["client","moon phase"],"filters":[{"field":"client","keys":["gone"],"without":true}]}')}`,
  );
  await answered(page);
  await expect(page.getByRole('status').filter({ hasText: 'Left out' })).toContainText('the group “moon phase”');
  await expect(word(page, 'Condition on client: without what is no longer there')).toBeVisible();
  await expect(report(page).getByRole('row').nth(1)).toContainText(/\d:\d\d/);
  await open(page, '/reports/kept/nobody');
  await expect(page.getByText('There is no such report.')).toBeVisible();
  await open(page, '/reports/standing/nothing');
  await expect(page.getByText('There is no such report.')).toBeVisible();
  await open(page, '/reports');
  const give = (text: string) =>
    page
      .getByLabel('Open a report file…')
      .setInputFiles({ name: 'given.report.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await give('{"format":"something else"}');
  await expect(page.getByRole('alert')).toContainText('This is not a report of Half Penny.');
  await give(
    '{"format":"half-penny report","version":1,"name":"Owed hours","note":"","definition":{"rows":["member"],"measures":["owed"]}}',
  );
  await expect(page.getByRole('heading', { level: 1, name: 'Owed hours' })).toBeVisible();
  await answered(page);
  await expect(figure(page, /Imogen Vale/, 'Owed')).toContainText(':');
});

test('a report that is set for a day of the month waits as ready until it is looked at', async ({ page }) => {
  await open(page, '/reports/made/team');
  await answered(page);
  await page.getByRole('button', { name: 'Keep…' }).click();
  await choose(page.getByLabel('Ready each month'), 'From day 10');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await page.waitForURL('**/reports/kept/**');
  await answered(page);
  await open(page, '/reports');
  const line = row(page, /^Team by week/);
  await expect(line).toContainText('From day 10');
  // A month later its day has come again.
  await page.clock.setFixedTime(new Date('2026-12-11T09:00:00Z'));
  await open(page, '/today');
  // With the one that the demo has looked at each month.
  await expect(page.getByRole('link', { name: /^Reports\s*2 ready/ })).toBeVisible();
  await open(page, '/reports');
  await expect(row(page, /^Team by week/)).toContainText('Ready');
  await row(page, /^Team by week/)
    .getByRole('link')
    .click();
  await expect(figure(page, /Imogen Vale/, 'Recorded')).toContainText(':');
  await page.getByRole('link', { name: /^Reports/ }).click();
  await expect(row(page, /^Team by week/)).toContainText('From day 10');
  await row(page, /^Team by week/)
    .getByRole('button', { name: 'Remove' })
    .click();
  await expect(row(page, /^Team by week/)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(row(page, /^Team by week/)).toBeVisible();
});
