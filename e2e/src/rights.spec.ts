import { expect, expectAxeClean, grid, open, row, test, till, workAs } from './app';

test('a member sees their own time and no money, and is told what is not for them', async ({ page }) => {
  await open(page, '/setup/people');
  const closes = page.getByRole('checkbox', { name: 'Finance reader may close days and reopen them' });
  await closes.click();
  await expect(page.getByText('Rights changed')).toBeVisible();
  await workAs(page, 'Asha Quill');
  const index = page.getByRole('navigation', { name: 'Screens' }).first();
  await expect(index.getByRole('link', { name: 'Billing' })).toHaveCount(0);
  await expect(index.getByRole('link', { name: 'Today', exact: true })).toBeVisible();

  await open(page, '/today');
  await expect(grid(page, /^Entries of/)).toBeVisible();
  await expect(grid(page, /^Entries of/)).not.toContainText('£');
  await expect(till(page)).not.toContainText('Worth');
  // What part is billed is seen, and said by others.
  await expect(page.getByRole('button', { name: /illable.*Change/ })).toHaveCount(0);

  await open(page, '/billing');
  await expect(page.getByRole('main')).toContainText('Asha Quill has the rights “Member”, which leave that out');
  await expectAxeClean(page);

  await open(page, '/week');
  await expect(page.getByRole('combobox', { name: 'Whose week' })).toHaveCount(0);

  await open(page, '/costs');
  await expect(page.getByRole('navigation', { name: 'Parts of Costs' })).not.toContainText('To pay');
  await expect(grid(page, 'Costs')).toContainText('Asha Quill');
  await expect(grid(page, 'Costs')).not.toContainText('Teodor Lund');

  // A kept report shows each what their rights allow.
  await open(page, '/reports');
  await page.getByRole('link', { name: 'Who worked on what' }).click();
  await expect(page.getByRole('main')).toContainText('only what you recorded yourself');
  await expect(page.getByRole('treegrid').or(page.getByRole('grid')).first()).not.toContainText('£');

  // By the keyboard alone nothing happens either; and what another did is not taken back.
  await page.keyboard.press('Control+z');
  await expect(
    page.getByText(/Asha Quill may not change how the studio is set up: .* under Setup → People/),
  ).toBeVisible();
});

test('rights are changed by a press, hold for named work, and are taken back', async ({ page }) => {
  await open(page, '/setup/people');
  const rights = page.getByRole('region', { name: 'Rights' });
  const work = 'change clients, projects and tasks';
  await rights.getByRole('checkbox', { name: `Member may ${work}` }).click();
  await rights.getByRole('button', { name: `For which work Member may ${work}: all work` }).click();
  const dialog = page.getByRole('dialog', { name: 'Member: for which work' });
  await expectAxeClean(page);
  await dialog.getByRole('checkbox', { name: 'Quayside Playhouse' }).click();
  await dialog.getByRole('button', { name: 'Only for this' }).click();
  await expect(
    rights.getByRole('button', { name: `For which work Member may ${work}: Quayside Playhouse` }),
  ).toBeVisible();
  await expectAxeClean(page);

  await workAs(page, 'Asha Quill');
  await open(page, '/clients');
  await row(grid(page, 'Clients'), 'Fernhill Folk Museum').getByRole('link').first().click();
  await page.getByRole('button', { name: 'Archive' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Archive/ })
    .click();
  await expect(
    page.getByText(/Asha Quill may change clients, projects and tasks only for Quayside Playhouse/).first(),
  ).toBeVisible();

  await workAs(page, 'Imogen Vale');
  await page.keyboard.press('Control+z');
  await expect(rights.getByRole('button', { name: `For which work Member may ${work}: all work` })).toBeVisible();
});
