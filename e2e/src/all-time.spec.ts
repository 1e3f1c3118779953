import { expect, grid, open, row, test, till, choose } from './app';

test('all time stands in one list, narrowed by words and standing, and can be changed there', async ({ page }) => {
  await open(page, '/reports');
  await page.getByRole('link', { name: 'All time' }).click();
  const list = grid(page, 'All time');
  await expect(list).toBeVisible();
  const count = async () => Number(/(\d+) entr/.exec(await page.locator('main header').innerText())![1]);
  await expect.poll(count).toBeGreaterThan(500);
  await choose(page.getByLabel('Standing'), 'to bill');
  const toBill = await count();
  expect(toBill).toBeGreaterThan(0);
  await page.getByLabel('Words in note, job or tag').fill('foyer lux');
  await expect.poll(count).toBeLessThan(toBill);
  await page.getByLabel('Words in note, job or tag').fill('foyer');
  // What is narrowed stands in the address.
  await page.reload();
  await expect(page.getByLabel('Words in note, job or tag')).toHaveValue('foyer');
  const first = list.locator('[data-place="0:1"]');
  await first.focus();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('Foyer, told again');
  await page.keyboard.press('Enter');
  await expect(row(page, /Foyer, told again/)).toBeVisible();
  // The bar over the Till acts on what is ticked, wherever the list is scrolled to.
  await list.getByRole('checkbox').nth(2).check();
  const bar = page.getByRole('toolbar', { name: 'With what is chosen' });
  await expect(bar).toContainText('This entry:');
  await bar.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('Entry deleted')).toBeVisible();
  await expect(row(page, /Foyer, told again/)).toBeVisible();
});

test('time is started, stopped and written down from a project and from a task', async ({ page }) => {
  await open(page, '/today');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/A client, project/).fill('call-outs');
  await expect(page.getByRole('option', { name: /Call-outs · .*Winter season rig/ })).toBeVisible();
  await page.getByPlaceholder(/A client, project/).fill('winter season rig');
  await page
    .getByRole('option', { name: /^Winter season rig/ })
    .first()
    .click();
  await page.getByRole('button', { name: 'Start the timer on Call-outs' }).click();
  await expect(till(page)).toContainText('Winter season rig');
  await page.getByRole('button', { name: 'Stop the timer on Call-outs' }).click();
  await expect(page.getByRole('button', { name: 'Start the timer on Call-outs' })).toBeVisible();
  await page.getByRole('button', { name: 'Write time down on Call-outs' }).click();
  const form = page.getByRole('form', { name: 'Add time' });
  await form.getByLabel('Length or from–to').fill('1:15');
  await form.getByLabel('What was done').fill('Dimmer swapped');
  // What is half written is still there when one comes back.
  await form.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Write time down on Call-outs' }).click();
  await expect(form.getByLabel('What was done')).toHaveValue('Dimmer swapped');
  await form.getByRole('button', { name: 'Add' }).click();
  await expect(page.getByText('Entry added')).toBeVisible();
  await row(page, /Call-outs/)
    .getByRole('link')
    .click();
  await expect(page.getByRole('heading', { level: 1, name: 'All time' })).toBeVisible();
  await expect(row(page, /Dimmer swapped/)).toContainText('1:15');
});

test('Find says plainly that nothing is called so', async ({ page }) => {
  await open(page, '/today');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/A client, project/).fill('zeppelin');
  await expect(page.getByRole('dialog').getByRole('status')).toContainText('Nothing is called “zeppelin”');
  await page.getByPlaceholder(/A client, project/).fill('timesheet');
  await expect(page.getByRole('option', { name: /Go to Week/ })).toBeVisible();
});

test('what is missing is told for everybody, with what was planned and not done', async ({ page }) => {
  await open(page, '/week?day=2026-11-02');
  const missing = page.getByRole('region', { name: 'What is missing' });
  await missing.getByLabel('Everybody').check();
  for (const name of ['Imogen Vale', 'Teodor Lund', 'Asha Quill']) {
    await expect(missing.getByRole('heading', { name: new RegExp(name) })).toBeVisible();
  }
  await expect(missing.getByText(/days? after the cut-off/).first()).toBeVisible();
});
