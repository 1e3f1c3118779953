import { expect, expectAxeClean, grid, NOW, open, row, test, choose } from './app';

// What was agreed with a client, and who answers for it there; tasks of no project; and two tabs at once.

test('a contract stands as one over all its projects, found by its name', async ({ page }) => {
  await open(page, '/today');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/A client, project/).fill('town lighting agreement');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name: 'Town lighting agreement' })).toBeVisible();
  const projects = grid(page, /^Projects under Town lighting/);
  await expect(projects.getByRole('row', { name: /Footbridge lighting/ })).toContainText('£');
  const slip = page.getByRole('complementary', { name: 'About this screen' });
  await expect(slip).toContainText('Left of the cap');
  const left = async () =>
    Number(/Left of the cap\s*([\d,.−-]+)/.exec(await slip.innerText())![1]!.replaceAll(',', ''));
  const before = await left();
  await page.getByLabel('Cap, GBP').fill('40000');
  await page.getByLabel('Cap, GBP').press('Enter');
  await expect.poll(left).toBe(before + 10_000);
  await expectAxeClean(page);
  // A second project comes under it, and brings its hours along.
  const hours = async () => (await projects.getByRole('row', { name: /as one/ }).innerText()).split('\n')[1];
  const alone = await hours();
  await page.getByRole('link', { name: 'Otterbourne Town Council' }).click();
  await page.getByLabel('New project').fill('Market square');
  await page.getByRole('button', { name: 'Add the project' }).click();
  await grid(page, 'Projects').getByRole('link', { name: 'Market square' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'Market square' })).toBeVisible();
  await choose(page.getByLabel('Contract', { exact: true }), 'Town lighting agreement');
  await page.getByRole('button', { name: 'Write time down on Market square' }).click();
  const form = page.getByRole('form', { name: 'Add time' });
  await form.getByLabel('Length or from–to').fill('2:00');
  await form.getByRole('button', { name: /^Add/ }).click();
  await expect(page.getByText('Entry added')).toBeVisible();
  await page
    .getByRole('navigation', { name: 'Part of' })
    .getByRole('link', { name: 'Otterbourne Town Council' })
    .click();
  await grid(page, 'Contracts').getByRole('link', { name: 'Town lighting agreement' }).click();
  await expect(projects.getByRole('row', { name: /Market square/ })).toContainText('2:00');
  await expect.poll(hours).not.toBe(alone);
});

test('a contact answers for a project, from both sides, and stands on its invoices', async ({ page }) => {
  await open(page, '/clients');
  await page.getByRole('link', { name: 'Fernhill Folk Museum' }).first().click();
  await page.getByRole('link', { name: 'Details and contacts' }).click();
  const first = grid(page, 'Contacts')
    .getByRole('button', { name: /^Projects that .* answers for: none/ })
    .first();
  const name = /Projects that (.*) answers for/.exec((await first.getAttribute('aria-label'))!)![1]!;
  await first.click();
  await page.getByRole('checkbox', { name: 'Museum gallery 3', exact: true }).check();
  await expectAxeClean(page);
  await page.keyboard.press('Escape');
  await expect(
    grid(page, 'Contacts').getByRole('button', { name: `Projects that ${name} answers for: Museum gallery 3` }),
  ).toBeVisible();
  await page.getByRole('link', { name: 'Work', exact: true }).click();
  await grid(page, 'Projects').getByRole('link', { name: 'Museum gallery 3' }).click();
  await expect(page.getByRole('button', { name: `Contacts of Museum gallery 3: ${name}` })).toBeVisible();
  await page.goto('/billing');
  await page
    .getByRole('link', { name: /Fernhill Folk Museum/ })
    .first()
    .click();
  await page
    .getByRole('button', { name: /^(Put on invoice|Add to the draft)/ })
    .first()
    .click();
  await expect(page.getByLabel('For the attention of')).toHaveValue(name);
  await expect(page.getByRole('region', { name: 'The client’s copy' })).toContainText(`For the attention of ${name}`);
  await page.getByLabel('For the attention of').fill('-');
  await page.getByLabel('For the attention of').press('Enter');
  await expect(page.getByRole('region', { name: 'The client’s copy' })).not.toContainText('For the attention of');
});

test('a task that stands by itself goes with every client’s project, in the line and in the pickers', async ({
  page,
}) => {
  await open(page, '/setup/services');
  const adding = page.getByRole('form', { name: 'Add a task that stands by itself' });
  await adding.getByLabel('New task').fill('Switchboard');
  await adding.getByRole('button').click();
  await expect(grid(page, 'Tasks that stand by themselves')).toContainText('Switchboard');
  await expectAxeClean(page);
  await open(page, '/today');
  await page.keyboard.press('.');
  // It was added a moment ago and is found at once.
  await page.keyboard.type('20m switchboard footbridge');
  await expect(page.getByRole('option', { name: /Switchboard, Footbridge lighting/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(row(page, /Switchboard/)).toContainText('Otterbourne Town Council');
  await open(page, '/today?add=1');
  await page.getByRole('form', { name: 'Add time' }).getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('switchboard foyer');
  await expect(page.getByRole('option', { name: /Switchboard/ })).toHaveCount(1);
  await page.keyboard.press('Enter');
  await expect(
    page.getByRole('form', { name: 'Add time' }).getByRole('button', { name: /^Job: Switchboard/ }),
  ).toBeVisible();
});

test('two tabs that edit one field: the later is told, and nothing is overwritten unseen', async ({
  page,
  context,
}) => {
  await open(page, '/setup/studio');
  const other = await context.newPage();
  await other.clock.install({ time: NOW });
  await open(other, '/setup/studio');
  const field = (tab: typeof page) => tab.getByLabel('E-mail', { exact: true });
  await field(page).fill('mine@saltmere-lighting.example');
  await field(other).fill('theirs@saltmere-lighting.example');
  await field(other).press('Enter');
  // What is being typed here stays, it is told at once, and leaving the field does not save it over the other's.
  await expect(page.getByRole('alert').filter({ hasText: 'Changed elsewhere meanwhile' })).toContainText('theirs@');
  await expect(field(page)).toHaveValue('mine@saltmere-lighting.example');
  await field(page).press('Tab');
  await expect(field(other)).toHaveValue('theirs@saltmere-lighting.example');
  await page.getByRole('button', { name: 'Save mine over it' }).click();
  await expect(field(other)).toHaveValue('mine@saltmere-lighting.example');
  await expect(page.getByRole('alert').filter({ hasText: 'Changed elsewhere' })).toHaveCount(0);
  // Untouched, a field follows.
  await field(other).fill('accounts@saltmere-lighting.example');
  await field(other).press('Enter');
  await expect(field(page)).toHaveValue('accounts@saltmere-lighting.example');
});

test('a press shortly before reloading is kept, or the page asks first', async ({ page }) => {
  await open(page, '/setup/recording');
  page.on('dialog', (dialog) => void dialog.dismiss());
  for (const box of ['a note', 'a service'] as const) {
    await page.getByLabel(box, { exact: true }).click();
    // The page reloads itself: what asks first is answered with staying, as somebody would who reads it.
    await page.evaluate(() => setTimeout(() => location.reload(), 50));
    await page.waitForEvent('load', { timeout: 3000 }).catch(() => undefined);
    await expect(page.getByLabel(box, { exact: true })).toBeChecked();
  }
});
