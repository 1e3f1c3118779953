import { test as plain, type Browser, type Locator, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { ADDRESS } from './address';
import { expect, expectAxeClean, grid, NOW, open, ready, till } from './app';

/** A browser with nothing in it. */
async function fresh(browser: Browser, viewport = { width: 1280, height: 800 }): Promise<Page> {
  const context = await browser.newContext({
    baseURL: ADDRESS,
    serviceWorkers: 'block',
    viewport,
    locale: 'en-GB',
    timezoneId: 'Europe/London',
  });
  const page = await context.newPage();
  await page.clock.install({ time: NOW });
  await page.goto('/');
  return page;
}

/**
 * Somebody who never saw it: what each step takes, in seconds. The figures are practice, no source: a press 1.2, a letter 0.2, to find
 * one's way on a screen or in a window 3, a word that has to be read 0.25.
 */
class Newcomer {
  readonly #parts: [what: string, seconds: number][] = [];
  clicks = 0;

  #count(what: string, seconds: number): void {
    this.#parts.push([what, seconds]);
  }

  /** Comes to a screen or window and reads what has to be read there to go on. */
  async meets(name: string, ...read: Locator[]): Promise<void> {
    await Promise.all(read.map((each) => each.first().waitFor({ timeout: 60_000 })));
    const words = (await Promise.all(read.map((each) => each.first().innerText())))
      .join(' ')
      .split(/\s+/)
      .filter(Boolean);
    this.#count(`${name}: finds the way, reads ${words.length} words`, 3 + 0.25 * words.length);
  }

  /** Presses what is there to be seen, and leads on: a link or a main action. */
  async presses(target: Locator): Promise<void> {
    await expect(target).toBeInViewport({ ratio: 1 });
    const name = await target.innerText();
    const leads = () => target.evaluate((node) => node.tagName === 'A' || node.hasAttribute('data-main'));
    await expect.poll(leads, `“${name}” is a link or the main action`).toBe(true);
    this.clicks++;
    this.#count(`presses ${name.replaceAll('\n', ' ')}`, 1.2);
    await target.click();
  }

  async types(field: Locator, text: string): Promise<void> {
    await expect(field).toBeInViewport({ ratio: 1 });
    // One press to get there.
    this.#count(`types “${text}”`, 1.2 + 0.2 * text.length);
    await field.fill(text);
  }

  get seconds(): number {
    return this.#parts.reduce((sum, [, seconds]) => sum + seconds, 0);
  }

  report(): void {
    for (const [what, seconds] of this.#parts) console.log(`${seconds.toFixed(1).padStart(6)} s  ${what}`);
    console.log(`${this.seconds.toFixed(1).padStart(6)} s  from a fresh profile to a PDF, ${this.clicks} clicks`);
  }
}

plain('a newcomer has the first invoice as a PDF within three minutes and twelve clicks', async ({ browser }) => {
  const page = await fresh(browser);
  const newcomer = new Newcomer();
  const button = (name: string | RegExp) => page.getByRole('button', { name });

  await newcomer.meets('The first page', page.getByRole('main'));
  await newcomer.presses(button('Start your own'));
  const form = page.getByRole('form', { name: 'Start your own' });
  await newcomer.meets('The form', form);
  await newcomer.types(form.getByLabel('Your name'), 'Imogen Vale');
  await newcomer.types(form.getByLabel('What you charge an hour, GBP'), '78');
  await newcomer.types(form.getByLabel('Your first client'), 'Quayside Playhouse');
  await newcomer.presses(form.getByRole('button', { name: 'Start', exact: true }));

  const steps = page.getByRole('region', { name: 'First steps' });
  await newcomer.meets('Today', steps);
  await expect(steps.getByRole('listitem').first()).toContainText('Done');
  await newcomer.presses(steps.getByRole('link', { name: 'Write time down' }));
  const time = page.getByRole('form', { name: 'Add time' });
  await newcomer.meets('The line to add time', time);
  await newcomer.types(time.getByLabel('Length or from–to'), '2:30');
  await newcomer.types(time.getByLabel('What was done'), 'Plot sheets');
  await newcomer.presses(time.getByRole('button', { name: /^Add/ }));
  await newcomer.presses(steps.getByRole('button', { name: 'Make the draft' }));

  const found = page.getByRole('region', { name: 'Before it is issued' });
  await newcomer.meets('The draft', found, page.getByRole('region', { name: 'Lines' }));
  // 2.5 h at 78.00 and 20 % of it: 195.00 and 39.00.
  await expect(page.getByText('£234.00').first()).toBeAttached();
  await newcomer.presses(button(/^Issue…/));
  const dialog = page.getByRole('dialog');
  await newcomer.meets('The window', dialog);
  await newcomer.presses(dialog.getByRole('button', { name: 'Issue 0001' }));
  await newcomer.meets('The invoice', page.locator('main header'));
  const downloading = page.waitForEvent('download');
  await newcomer.presses(button('PDF'));
  const file = await downloading;
  expect(
    readFileSync(await file.path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');

  newcomer.report();
  expect(newcomer.clicks).toBeLessThanOrEqual(12);
  expect(newcomer.seconds).toBeLessThanOrEqual(180);
  await page.context().close();
});

plain('each first step is ticked by doing it, and a copy ends them', async ({ browser }) => {
  const page = await fresh(browser);
  await page.getByRole('button', { name: 'Start your own' }).click();
  await page.getByLabel('Your name').fill('Teodor Lund');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  const steps = page.getByRole('region', { name: 'First steps' });
  const ticked = async (count: number) =>
    expect(steps.getByRole('listitem').filter({ hasText: /^Done/ })).toHaveCount(count);
  await ticked(0);
  // Nothing is owed before the first day, a Thursday: two days of the week are left.
  await expect(page.getByRole('complementary')).toContainText(/0:00\s*of\s*15:00/);
  await steps.getByRole('link', { name: 'Add a client' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Fernhill Museum');
  await page.getByRole('button', { name: 'Add the client' }).click();
  // The next thing to do has the focus already.
  await expect(page.getByLabel('New project')).toBeFocused();
  await page.keyboard.type('Gallery 2');
  await page.keyboard.press('Tab');
  await page.keyboard.type('64.50');
  await page.keyboard.press('Enter');
  await expect(grid(page, 'Projects').getByRole('row', { name: /Gallery 2/ })).toContainText('64.50 /h');
  await open(page, '/today');
  await ticked(1);
  await page.keyboard.press('.');
  await page.keyboard.type('1:20 for gallery 2, lux readings');
  await page.keyboard.press('Enter');
  await ticked(2);
  await steps.getByRole('button', { name: 'Make the draft' }).click();
  // What is missing leads to where it is put right, and back.
  await page.getByRole('link', { name: 'Open the client' }).click();
  await page.getByLabel('Address, as on the invoice').fill('2 Fern Lane');
  await page.getByLabel('Address, as on the invoice').blur();
  await page.getByRole('link', { name: 'Back to the draft for Fernhill Museum' }).click();
  await expect(page.getByText('Fernhill Museum has no address.')).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'Open the studio' })).toBeVisible();
  await open(page, '/today');
  await ticked(3);
  const downloading = page.waitForEvent('download');
  await steps.getByRole('button', { name: 'Export everything' }).click();
  expect((await downloading).suggestedFilename()).toBe('teodor-lund-2026-11-12.half-penny.zip');
  await expect(steps).toHaveCount(0);
  await page.reload();
  await ready(page);
  await expect(till(page)).toBeVisible();
  await expect(steps).toHaveCount(0);
  // Nothing was noticed here yet, and no rule stands.
  await open(page, '/sift/rules');
  await expect(page.getByText('No rules yet')).toBeVisible();
  await expectAxeClean(page);
  await page.context().close();
});

plain(
  'a country brings its money, tax, paper and terms, figures are read its way, and faults stand at their fields',
  async ({ browser }) => {
    const page = await fresh(browser);
    await page.getByRole('button', { name: 'Start your own' }).click();
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    const alert = page.getByRole('alert');
    await expect(alert).toHaveCount(1);
    await expect(page.getByLabel('Your name')).toBeFocused();
    await page.getByLabel('Your name').fill('Asha Quill');
    await page.getByLabel('Country').click();
    await page.getByRole('option', { name: 'Germany' }).click();
    await expect(page.getByLabel('Tax on your invoices')).toHaveText('USt. 19 %');
    await page.getByLabel('What you charge an hour, EUR').fill('abc');
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    await expect(page.getByLabel('What you charge an hour, EUR')).toHaveAttribute('aria-invalid', 'true');
    await page.getByLabel('What you charge an hour, EUR').fill('85,50');
    await page.getByLabel('Your first client').fill('Brücke & Söhne');
    await page.getByText(/change it, or see where it comes from/).click();
    await expect(page.getByRole('table')).toContainText('Directive 2011/7/EU, Article 3(3)(b)');
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    await expect(till(page)).toBeVisible();
    await open(page, '/clients');
    await page.getByRole('link', { name: 'Brücke & Söhne' }).click();
    await expect(grid(page, 'Projects')).toContainText('85,50 /h');
    await open(page, '/today?add=1');
    const form = page.getByRole('form', { name: 'Add time' });
    await form.getByLabel('Length or from–to').fill('2:00');
    await form.getByRole('button', { name: /^Add/ }).click();
    await page.getByRole('button', { name: 'Make the draft' }).click();
    const copy = page.getByRole('region', { name: 'The client’s copy' });
    await expect(copy).toContainText('12. November 2026');
    // 171,00 and 19 % of it, 32,49.
    await expect(copy).toContainText('203,49');
    await page.context().close();
  },
);

plain('the demo says what it is until that is put away, and two tabs make one', async ({ browser }) => {
  const page = await fresh(browser);
  const second = await page.context().newPage();
  await second.goto('/');
  await second.getByRole('button', { name: 'Look around' }).waitFor();
  await page.getByRole('button', { name: 'Look around' }).click();
  const line = page.getByRole('region', { name: 'This is the demo' });
  await expect(line).toContainText('Saltmere Lighting is made up', { timeout: 60_000 });
  await second.getByRole('button', { name: 'Look around' }).click();
  await expect(second.getByRole('region', { name: 'This is the demo' })).toBeVisible({ timeout: 60_000 });
  await open(page, '/setup/data');
  await expect(grid(page, 'Workspaces').getByRole('row')).toHaveCount(2);
  await expectAxeClean(page);
  await line.getByRole('link', { name: 'Start your own' }).click();
  await expect(page.getByRole('heading', { name: 'Start your own' })).toBeVisible();
  await expectAxeClean(page);
  await open(page, '/today');
  await line.getByRole('button', { name: 'Put this line away' }).click();
  await expect(line).toHaveCount(0);
  await page.reload();
  await ready(page);
  await expect(line).toHaveCount(0);
  await page.context().close();
});

for (const width of [360, 1280])
  plain(`the first pages hold at ${width}, light and dark`, async ({ browser }) => {
    const page = await fresh(browser, { width, height: 800 });
    const fits = async () => {
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
      for (const colorScheme of ['light', 'dark'] as const) {
        await page.emulateMedia({ colorScheme });
        await expectAxeClean(page);
      }
    };
    await page.getByRole('button', { name: 'Start your own' }).waitFor();
    await fits();
    await page.getByRole('button', { name: 'Start your own' }).click();
    await page.getByText(/change it, or see where it comes from/).click();
    await fits();
    await page.getByLabel('Your name').fill('Imogen Vale');
    await page.getByRole('button', { name: 'Start', exact: true }).click();
    await page.getByRole('region', { name: 'First steps' }).waitFor();
    await fits();
    await page.context().close();
  });
