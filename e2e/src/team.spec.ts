import { expect, expectAxeClean, grid, handInWeek, open, row, test, workAs } from './app';

test('a week is handed in, sent back, put right, approved, closed and billed', async ({ page }) => {
  await workAs(page, 'Teodor Lund');
  await open(page, '/week');
  await page.getByRole('button', { name: 'The week before' }).click();
  const checking = page.getByRole('region', { name: 'Checking' });
  await expect(checking).toContainText('open');
  await checking.getByRole('button', { name: 'Hand in…' }).click();
  const dialog = page.getByRole('dialog', { name: /^Hand in Week/ });
  await expect(dialog).toContainText('It goes to Imogen Vale');
  await expectAxeClean(page);
  await dialog.getByRole('button', { name: /^Hand in/ }).click();
  await expect(checking).toContainText('handed in by Teodor Lund');
  // What is handed in stays as it is.
  const day = new URL(page.url()).searchParams.get('day')!;
  const cell = grid(page, 'The week').getByRole('gridcell', { name: /./ }).nth(1);
  await cell.click();
  await page.keyboard.type('9');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/is handed in and lies with Imogen Vale/)).toBeVisible();

  await workAs(page, 'Imogen Vale');
  await open(page, `/team?day=${day}`);
  const members = grid(page, 'Members');
  await expect(row(members, 'Teodor Lund')).toContainText('handed in');
  await row(members, 'Teodor Lund').getByRole('link', { name: 'Teodor Lund' }).click();
  const lines = grid(page, /^Teodor Lund, Week/);
  await lines.getByRole('row').nth(1).getByRole('checkbox').click();
  await page.getByRole('button', { name: 'Send 1 back…' }).click();
  const back = page.getByRole('dialog', { name: 'Send back' });
  await back.getByRole('button', { name: 'Send back' }).click();
  await expect(back).toContainText('Say why, in a few words.');
  await back.getByLabel('Why').fill('Which room was it?');
  await back.getByRole('button', { name: 'Send back' }).click();
  await expect(lines).toContainText('“Which room was it?”');

  await workAs(page, 'Teodor Lund');
  await open(page, `/week?day=${day}`);
  await expect(checking).toContainText('sent back');
  await expect(checking).toContainText('“Which room was it?”');
  await expectAxeClean(page);
  await checking.getByRole('listitem').first().getByRole('link').click();
  await expect(page).toHaveURL(/entry=/);
  await handInWeek(page, day);

  await workAs(page, 'Imogen Vale');
  await open(page, `/team?day=${day}`);
  await row(members, 'Teodor Lund').getByRole('link', { name: 'Teodor Lund' }).click();
  // A figure is put right by the checker, and the member is told.
  const first = lines.getByRole('row').nth(1);
  await first.getByRole('gridcell').nth(4).dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('0:15');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Changed while it was checked' })).toContainText('0:15');
  await page.getByRole('button', { name: 'Say why…' }).click();
  await page.getByRole('textbox', { name: 'Why' }).fill('Lunch was in it');
  await page.getByRole('button', { name: 'Save the reason' }).click();
  await expect(page.getByRole('region', { name: 'Changed while it was checked' })).toContainText('“Lunch was in it”');
  await page.getByRole('button', { name: 'Approve all of it' }).click();
  await expect(page.getByText('approved by Imogen Vale, 12 Nov 2026')).toBeVisible();

  await open(page, '/team/closed');
  await page.getByRole('button', { name: 'Close days…' }).click();
  const close = page.getByRole('dialog', { name: 'Close days' });
  await close.getByLabel('From').fill(day);
  await close.getByLabel('From').press('Tab');
  await close.getByLabel('To').fill(day);
  await close.getByLabel('To').press('Tab');
  await close.getByRole('combobox', { name: 'Whose' }).click();
  await page.getByRole('option', { name: 'Teodor Lund' }).click();
  await close.getByRole('button', { name: 'Close them' }).click();
  const closed = grid(page, 'Closed days');
  await expect(row(closed, 'Teodor Lund')).toBeVisible();

  // Closed for the checker as well, until it is opened again with a reason.
  await open(page, `/team?day=${day}`);
  await row(members, 'Teodor Lund').getByRole('link', { name: 'Teodor Lund' }).click();
  await first.getByRole('gridcell').nth(4).dblclick();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('0:20');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/was closed by Imogen Vale/)).toBeVisible();
  await page.keyboard.press('Escape');
  await open(page, '/team/closed');
  await row(closed, 'Teodor Lund').getByRole('button', { name: 'Reopen…' }).click();
  await page.getByLabel('Why').fill('A late slip came');
  await page.getByRole('button', { name: 'Reopen them' }).click();
  await expect(row(closed, 'Teodor Lund')).toContainText('“A late slip came”');
});

test('everything of a client is approved at once, and only that goes on its invoice', async ({ page }) => {
  await open(page, '/setup/people');
  await page.getByRole('combobox', { name: 'Time on invoices' }).click();
  await page.getByRole('option', { name: 'Approved only' }).click();
  await open(page, '/billing');
  const toBill = grid(page, 'To bill by client');
  await expect(toBill).toContainText('waits to be approved');
  await open(page, '/team/check');
  const list = grid(page, 'To check');
  const all = await list.getByRole('row').count();
  await page.getByRole('combobox', { name: 'Client' }).click();
  await page.getByRole('option', { name: 'Quayside Playhouse' }).click();
  await expect.poll(() => list.getByRole('row').count()).toBeLessThan(all);
  const some = (await list.getByRole('row').count()) - 2;
  await page.getByRole('button', { name: `Approve ${some},` }).click();
  await expect(page.getByText('Nothing matches.')).toBeVisible();
  await page.getByRole('combobox', { name: 'Client' }).click();
  await page.getByRole('option', { name: 'Every client' }).click();
  await expect.poll(async () => (await list.getByRole('row').count()) - 2).toBe(all - 2 - some);
  await open(page, '/billing');
  await row(toBill, 'Quayside Playhouse').getByRole('link').click();
  await expect(page.getByText(/wait to be approved:/)).toBeVisible();
  await page.getByRole('button', { name: /Put on invoice|Add to the draft/ }).click();
  await expect(page.getByTestId('invoice-sheet')).toBeVisible();
});

test('planned time is moved to another week and member, by dragging and with keys', async ({ page }) => {
  await open(page, '/team/ahead');
  const table = page.getByRole('table', { name: 'Planned and owed, by member and week' });
  const mine = table.getByRole('row', { name: /^Imogen Vale/ });
  const block = mine.getByRole('button').first();
  const name = (await block.getAttribute('aria-label'))!.split(',')[0]!;
  const cells = mine.getByRole('cell');
  const from = (await block.boundingBox())!;
  const to = (await cells.nth(3).boundingBox())!;
  await page.mouse.move(from.x + 8, from.y + 6);
  await page.mouse.down();
  await page.mouse.move(from.x + 40, from.y + 12);
  await page.mouse.move(to.x + 20, to.y + 20, { steps: 6 });
  await page.mouse.up();
  await expect(cells.nth(3).getByRole('button', { name })).toBeVisible();
  await cells.nth(3).getByRole('button', { name }).focus();
  await page.keyboard.press('Alt+ArrowDown');
  const teodor = table
    .getByRole('row', { name: /^Teodor Lund/ })
    .getByRole('cell')
    .nth(3);
  await expect(teodor.getByRole('button', { name })).toBeVisible();
});
