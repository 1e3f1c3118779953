import { settings, setupGroups } from '../../web/src/screens/setup/settings';
import { expect, open, test } from './app';

test('everything that can be looked for in Setup stands where it is said to stand', async ({ page }) => {
  for (const part of setupGroups.flatMap(({ parts }) => parts)) {
    await open(page, `/setup/${part}`);
    const named = page.locator('main :is(label, legend, h2, h3)');
    const wanted = settings.filter((setting) => setting.part === part).map(({ name }) => name);
    const missing = async () => {
      const there = new Set((await named.allTextContents()).map((text) => text.trim()));
      return wanted.filter((name) => !there.has(name));
    };
    await expect.poll(missing, `what ${part} does not have`).toEqual([]);
  }
});

test('a setting is found by a word, and has the focus where it stands', async ({ page }) => {
  await open(page, '/setup');
  const parts = page.getByRole('navigation', { name: 'Parts of Setup' });
  await expect(parts.getByRole('link', { name: 'Invoicing' })).toHaveAccessibleDescription(
    /^SL-\d{4} next, 30 days, A4/,
  );
  const search = page.getByRole('search', { name: 'Settings' }).getByLabel('Find a setting');
  await search.fill('no such thing');
  await expect(page.getByText('Nothing is called like that here.')).toBeVisible();
  await search.fill('bank');
  await page
    .getByRole('list', { name: 'Found' })
    .getByRole('link', { name: /^How to pay/ })
    .click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Studio');
  await expect(page.getByLabel('How to pay')).toBeFocused();
  // The first that is found, by Enter; within the same part as well.
  await search.fill('time zone');
  await search.press('Enter');
  await expect(page.getByLabel('Time zone')).toBeFocused();
  await search.fill('theme');
  await search.press('Enter');
  await expect(page.getByLabel('Theme')).toBeFocused();
});
