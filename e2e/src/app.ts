import { AxeBuilder } from '@axe-core/playwright';
import { chromium, expect, test as base, type Locator, type Page } from '@playwright/test';
import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { launch } from './chromium';

/** A weekday afternoon, so that the demo's day has something in it. */
export const NOW = new Date('2026-11-12T15:10:00Z');

/** Chooses from a list by what stands there, or by its place. */
export async function choose(field: Locator, choice: string | number): Promise<void> {
  await field.click();
  const options = field.page().getByRole('listbox').getByRole('option');
  await (
    typeof choice === 'number'
      ? options.nth(choice)
      : options.and(field.page().getByRole('option', { name: choice, exact: true }))
  ).click();
}

/** How a browser of the tests is set, whatever profile it stands on. */
interface Set {
  readonly baseURL: string | undefined;
  readonly viewport: { width: number; height: number } | null;
  readonly timezoneId: string | undefined;
  readonly locale: string | undefined;
  readonly serviceWorkers: 'allow' | 'block';
}

const start = (profile: string, { baseURL, timezoneId, locale, ...set }: Set) =>
  chromium.launchPersistentContext(profile, {
    ...launch,
    ...set,
    ...(baseURL ? { baseURL } : {}),
    ...(timezoneId ? { timezoneId } : {}),
    ...(locale ? { locale } : {}),
    acceptDownloads: true,
  });

/**
 * Each test has a browser of its own with the demo in it, at a fixed moment, and must leave no error behind. The demo
 * is made once for all tests of a process; each works on a copy of the profile that holds it.
 */
export const test = base.extend<object, { readonly demo: string }>({
  demo: [
    // The first argument must be taken apart for the runner to know what is needed: nothing.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use, { project }) => {
      const profile = mkdtempSync(join(tmpdir(), 'half-penny-demo-'));
      const { baseURL, viewport, timezoneId, locale } = project.use;
      const set = { baseURL, viewport: viewport ?? null, timezoneId, locale, serviceWorkers: 'block' } as const;
      const context = await start(profile, set);
      const page = await context.newPage();
      await page.clock.install({ time: NOW });
      // Sift's screen is there once the trail is made as well.
      await page.goto('/sift?day=2026-11-10');
      await lookAround(page);
      await expect(page.getByRole('grid').first()).toBeVisible({ timeout: 60_000 });
      await context.close();
      await use(profile);
      rmSync(profile, { recursive: true, force: true });
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  context: async ({ demo, baseURL, viewport, timezoneId, locale, serviceWorkers }, use) => {
    const profile = mkdtempSync(join(tmpdir(), 'half-penny-profile-'));
    cpSync(demo, profile, { recursive: true });
    const context = await start(profile, { baseURL, viewport, timezoneId, locale, serviceWorkers });
    await use(context);
    await context.close();
    rmSync(profile, { recursive: true, force: true });
  },
  page: async ({ page }, use) => {
    const errors: string[] = [];
    page.on('pageerror', (error) => errors.push(error.message));
    await page.clock.install({ time: NOW });
    // Whoever presses and leaves at once would be asked first: the tests leave once it is written.
    const [goTo, reload] = [page.goto.bind(page), page.reload.bind(page)];
    page.goto = async (...to) => {
      await written(page);
      return goTo(...to);
    };
    page.reload = async (...how) => {
      await written(page);
      return reload(...how);
    };
    await use(page);
    expect(errors).toEqual([]);
  },
});

/** Somebody else, in a browser of their own that nobody used before. */
export interface Elsewhere {
  page: Page;
  /** Closes it; nothing may have gone wrong in it. */
  leave(): Promise<void>;
}

export async function elsewhere(now: Date): Promise<Elsewhere> {
  const profile = mkdtempSync(join(tmpdir(), 'half-penny-elsewhere-'));
  const { baseURL, viewport, timezoneId, locale } = test.info().project.use;
  const context = await start(profile, {
    ...{ baseURL, timezoneId, locale },
    viewport: viewport ?? null,
    serviceWorkers: 'block',
  });
  const page = context.pages()[0] ?? (await context.newPage());
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  await page.clock.install({ time: now });
  return {
    page,
    async leave() {
      await context.close();
      rmSync(profile, { recursive: true, force: true });
      expect(errors).toEqual([]);
    },
  };
}

export { expect };

/** Waits until what was pressed is written: what is shown at once may not be yet, and leaving the page would ask. */
export const written = (page: Page) =>
  page.waitForFunction(() => !document.documentElement.hasAttribute('data-writing'));

/** Chooses the demo on a first visit, and puts away what is said of it. */
export async function lookAround(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Look around' }).click();
  await page.getByRole('button', { name: 'Put this line away' }).click({ timeout: 60_000 });
  await ready(page);
}

/** Opens a screen, in front, and waits until it is read. */
export async function open(page: Page, path: string): Promise<void> {
  // A tab behind another draws a frame a second.
  await page.bringToFront();
  await page.goto(path);
  await ready(page);
}

export async function ready(page: Page): Promise<void> {
  // Looked for on every frame: an expectation looks ever more seldom, up to a second too late.
  await page.waitForFunction(
    () => {
      const title = document.querySelector('main h1');
      return title && title.textContent !== 'Half Penny' && !document.body.textContent.includes('Reading…');
    },
    undefined,
    { timeout: 60_000 },
  );
}

export const till = (page: Page): Locator => page.getByRole('contentinfo', { name: 'Till' });
export const grid = (page: Page, name: string | RegExp): Locator => page.getByRole('grid', { name });
export const row = (page: Page | Locator, name: string | RegExp): Locator => page.getByRole('row', { name });

/** Sets up an empty studio of our own through Setup. */
export async function startEmpty(page: Page): Promise<void> {
  await open(page, '/start');
  await page.getByLabel('Your name').fill('Imogen Vale');
  await page.getByLabel('Name on your invoices').fill('Saltmere Lighting');
  await page.getByRole('button', { name: 'Start', exact: true }).click();
  await page.waitForURL('**/today');
  await ready(page);
  await page.getByRole('button', { name: 'Do not show this again' }).click();
}

/** Adds a client and a project with an hourly rate, and leaves their page open. */
export async function addClient(page: Page, name: string, project: string, rate: string): Promise<void> {
  await open(page, '/clients?add=1');
  await page.getByLabel('Name', { exact: true }).fill(name);
  await page.getByRole('button', { name: 'Add the client' }).click();
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
  await page.getByLabel('New project').fill(project);
  await page.getByLabel('Its rate, GBP an hour').fill(rate);
  await page.getByRole('button', { name: 'Add the project' }).click();
  await expect(grid(page, 'Projects').getByText(project)).toBeVisible();
}

/** Adds time by hand on Today, or on another day. */
export async function addTime(page: Page, length: string, note: string, project?: string, day?: string): Promise<void> {
  await open(page, `/today?add=1${day ? `&day=${day}` : ''}`);
  const form = page.getByRole('form', { name: 'Add time' });
  await form.getByLabel('Length or from–to').fill(length);
  await form.getByLabel('What was done').fill(note);
  if (project) {
    await form.getByRole('button', { name: /^Job/ }).click();
    await page.getByPlaceholder('Client or project…').fill(project);
    await page.keyboard.press('Enter');
  }
  await form.getByRole('button', { name: /^Add/ }).click();
  // The form is empty again at once: for the next one.
  await expect(form.getByLabel('Length or from–to')).toHaveValue('');
  await written(page);
}

/** Hands in what is recorded of a week. */
export async function handInWeek(page: Page, day: string): Promise<void> {
  await open(page, `/week?day=${day}`);
  const checking = page.getByRole('region', { name: 'Checking' });
  await checking.getByRole('button', { name: 'Hand in…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Hand in/ })
    .click();
  await expect(checking).toContainText('handed in by');
}

/** Nothing that assistive technology would stumble over, by all rules or by some. */
export async function expectAxeClean(page: Page, rules?: string[]): Promise<void> {
  // The rows of a long table are alike: those far down are left to the first ones, as each costs the rules time.
  // No screen has frames: the rules run in the page itself, which takes half the time, and tell only what is wrong.
  const axe = new AxeBuilder({ page })
    .options({ resultTypes: ['violations'] })
    .setLegacyMode()
    .exclude('[role="row"]:nth-child(n + 14)')
    .exclude('tr:nth-child(n + 14)');
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  expect(
    violations.map(
      (each) =>
        `${each.id}: ${each.nodes
          .map((node) => node.target.join(' '))
          .slice(0, 3)
          .join(', ')}`,
    ),
  ).toEqual([]);
}

/** The text of a PDF, as pdftotext (poppler-utils) reads it. */
export const pdfText = (path: string): string =>
  execFileSync('pdftotext', ['-layout', path, '-'], { encoding: 'utf8' }).replace(/ +/g, ' ');

/** Ticks or clears a box; it shows what is kept, which comes a moment after the press. */
export async function tick(box: Locator, on: boolean): Promise<void> {
  if ((await box.isChecked()) !== on) await box.click();
  await expect(box).toBeChecked({ checked: on });
}

/** Whoever works in this browser from then on. */
export async function workAs(page: Page, name: string): Promise<void> {
  await open(page, '/setup/people');
  const line = row(grid(page, 'Members'), name);
  const press = line.getByRole('button', { name: 'Work as' });
  if ((await press.count()) > 0) await press.click();
  await expect(line.getByText('works here')).toBeVisible();
}
