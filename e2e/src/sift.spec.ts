import { test as plain } from '@playwright/test';
import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { documentName, type Activity } from '@half-penny/core/capture';
import { momentOn } from '@half-penny/core/entries';
import { dayOf, minuteOf, readClock, showMinute } from '@half-penny/core/time';
import { watchedDay, workingDaysBefore, type Watched } from '@half-penny/demo';
import { strFromU8, unzipSync } from 'fflate';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { secretOf } from './address';
import { expect, expectAxeClean, grid, lookAround, open, ready, test, tick, choose } from './app';
import type { Locator, Page } from '@playwright/test';

const ZONE = 'Europe/London';
const root = fileURLToPath(new URL('../..', import.meta.url));
const stretches = (page: Page): Locator => grid(page, /^Stretches of/);
/** Lines of the day that nothing was said of yet. */
const loose = (page: Page): Locator =>
  stretches(page)
    .getByRole('row')
    .filter({ hasText: /Choose a job…|Another job…/ });

async function sift(page: Page, address = '/sift?day=2026-11-10'): Promise<void> {
  await open(page, address);
  await expect(stretches(page).getByRole('row').nth(1)).toBeVisible({ timeout: 30_000 });
}

/** What of the trail this browser keeps: how many activities of a device, of how many numbers, and how many of them differ. */
const kept = (page: Page, device: string): Promise<{ count: number; numbers: number; facts: number; last: number }> =>
  page.evaluate(async (device) => {
    const opened = await new Promise<IDBDatabase>((resolve) => {
      const asked = indexedDB.open('half-penny.trail');
      asked.onsuccess = () => resolve(asked.result);
    });
    const rows = await new Promise<{ device: string; seq: number }[]>((resolve) => {
      const asked = opened.transaction('activities').objectStore('activities').getAll();
      asked.onsuccess = () => resolve(asked.result as { device: string; seq: number }[]);
    });
    opened.close();
    const own = rows.filter((row) => row.device.startsWith(device));
    const numbers = new Set(own.map((row) => row.seq));
    const facts = new Set(own.map(({ device: _, seq: __, ...fact }) => JSON.stringify(fact)));
    return { count: own.length, numbers: numbers.size, facts: facts.size, last: Math.max(0, ...numbers) };
  }, device);

test('a stretch is accepted, worded, split, joined, set aside and posted by keyboard, and each is undone', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await sift(page);
  const before = await loose(page).count();
  expect(before).toBeGreaterThan(4);
  const first = loose(page).first();
  await first.getByRole('gridcell').nth(3).focus();
  await page.keyboard.press('a');
  await expect(loose(page)).toHaveCount(before - 1);
  await page.keyboard.press('Control+z');
  await expect(loose(page)).toHaveCount(before);
  // The sentence for the client.
  await loose(page).first().getByRole('gridcell').nth(2).dblclick();
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('Cue positions for act two');
  await page.keyboard.press('Enter');
  const own = stretches(page).getByRole('row').filter({ hasText: 'Cue positions for act two' });
  await expect(own).toHaveCount(1);
  // Join it with the next one.
  await tick(own.getByRole('checkbox'), true);
  await tick(loose(page).nth(1).getByRole('checkbox'), true);
  await page.getByRole('button', { name: 'Join' }).click();
  await expect(loose(page)).toHaveCount(before - 1);
  // Split at a moment; one that lies outside is answered.
  const [, hour, minute] = /(\d\d):(\d\d)/.exec(await own.innerText())!;
  await own.getByRole('gridcell').nth(3).focus();
  await page.keyboard.press('s');
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('At').fill('3:00');
  await page.keyboard.press('Enter');
  await expect(dialog).toContainText('not within the stretch');
  const inside = Number(hour) * 60 + Number(minute) + 2;
  await dialog.getByLabel('At').fill(`${Math.floor(inside / 60)}:${String(inside % 60).padStart(2, '0')}`);
  await page.keyboard.press('Enter');
  await expect(own).toHaveCount(2);
  // Private, and not work.
  await own.first().getByRole('gridcell').nth(3).focus();
  await page.keyboard.press('v');
  await expect(own.filter({ hasText: 'Private' })).toHaveCount(1);
  await own.last().getByRole('gridcell').nth(3).focus();
  await page.keyboard.press('x');
  await expect(own.filter({ hasText: 'Not work' })).toHaveCount(1);
  // All the rest as offered, and posted at once: what is being placed is waited for. One undo takes the entries back.
  await page.keyboard.press('Shift+A');
  await page.keyboard.press('p');
  await expect(stretches(page).getByText('posted').first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Post 0 entries' })).toBeVisible();
  const posted = await stretches(page).getByText('posted', { exact: true }).count();
  expect(posted).toBeGreaterThan(3);
  await open(page, '/today?day=2026-11-10');
  await expect(grid(page, /^Entries of/).getByRole('row')).toHaveCount(await rowsAtLeast(page, posted));
  await sift(page);
  await expect(stretches(page).getByText('posted', { exact: true })).toHaveCount(posted);
  await page.keyboard.press('Control+z');
  await expect(stretches(page).getByText('posted', { exact: true })).toHaveCount(0);
  await expectAxeClean(page);
});

/** The rows that the day shows, which are at least so many. */
async function rowsAtLeast(page: Page, least: number): Promise<number> {
  const count = await grid(page, /^Entries of/)
    .getByRole('row')
    .count();
  expect(count).toBeGreaterThan(least);
  return count;
}

test('“Always here” makes a rule, which tells what it would have matched and what it takes from others', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await sift(page);
  await loose(page).first().getByRole('gridcell').nth(3).click();
  await page.getByRole('button', { name: /^Always here/ }).click();
  const form = page.getByRole('form', { name: 'Rule' });
  const sentence = form.getByLabel('Where…');
  await expect(sentence).toHaveValue(/^where (folder|people|site|title) /);
  await expect(form).toContainText(/In the last 90 days it would have matched \d/);
  await sentence.fill('where title has');
  await expect(form).toContainText('The words to look for are missing');
  await sentence.fill('where title is like *');
  await expect(form).toContainText('catches everything');
  await sentence.fill('where folder begins with “/work/fernhill” unless weekday is Sat, Sun');
  await expect(form).toContainText(/would have matched [1-9]/);
  await form.getByRole('button', { name: /^Job/ }).click();
  await page.getByPlaceholder('Client or project…').fill('museum gallery');
  await page.keyboard.press('Enter');
  await form.getByRole('button', { name: 'Make the rule' }).click();
  await expect(stretches(page).getByText('by a rule').first()).toBeVisible();
  await open(page, '/sift/rules');
  const rules = grid(page, 'Rules');
  await expect(rules).toContainText('where folder begins with “/work/fernhill” unless weekday is Sat, Sun');
  await expectAxeClean(page);
  await page.getByRole('button', { name: 'Write a rule' }).click();
  await sentence.fill('where file ends with “.lgp”');
  await expect(form).toContainText(/would have matched [1-9]/);
  await choose(form.getByLabel('…then'), 'it is not work');
  await form.getByRole('button', { name: 'Make the rule' }).click();
  // Behind the two that the demo has, under their head.
  await expect(rules.getByRole('row')).toHaveCount(5);
  // The second comes first: now it decides, and says what it takes.
  await rules.getByRole('row').nth(4).getByRole('button', { name: 'Earlier' }).click();
  await expect(rules.getByRole('row').nth(3)).toContainText('.lgp');
  await rules.getByRole('row').nth(3).getByRole('button', { name: 'Change' }).click();
  await expect(form).toContainText(/of it would otherwise go by: where folder begins/);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await expect(rules.getByRole('row').nth(3)).toContainText('/work/fernhill');
});

test('documents have their times and clocks, and looking back tells where the time went', async ({ page }) => {
  test.setTimeout(120_000);
  await open(page, '/sift/documents?period=week');
  const documents = grid(page, 'Documents');
  await expect(documents.getByRole('row').nth(1)).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText(/documents? belongs? nowhere yet/)).toBeVisible();
  await page.getByLabel('New entry of the list').fill('Drawing');
  await page.getByRole('button', { name: 'Add it to the list' }).click();
  await choose(documents.getByLabel(/^Opened for,/).first(), 'Drawing');
  await tick(documents.getByRole('checkbox').nth(1), true);
  await page.getByRole('button', { name: /^Job of their folders/ }).click();
  await page.getByPlaceholder('Client or project…').fill('winter season');
  await page.keyboard.press('Enter');
  await expect(documents.getByRole('row').nth(1)).toContainText('Winter season rig');
  const clock = async () =>
    (await documents.getByRole('row').nth(1).getByRole('gridcell').last().innerText()).replace(/\D+/g, '');
  const front = await clock();
  await choose(page.getByLabel('A document’s clock counts'), 'from opening to closing');
  await expect.poll(clock).not.toBe(front);
  await expectAxeClean(page);
  await open(page, '/sift/back?period=week');
  for (const by of ['Program', 'Site', 'Document', 'Folder', 'Person', 'Word in titles', 'Job']) {
    await choose(page.getByLabel('Time by', { exact: true }), by);
    await expect(
      grid(page, /^Time by/)
        .getByRole('row')
        .nth(1),
    ).toBeVisible({ timeout: 30_000 });
  }
  await page.getByText('Weight groups', { exact: true }).click();
  await page.getByLabel('New weight group').fill('Drawing boards');
  await page.getByRole('button', { name: 'Add the weight group' }).click();
  await page.getByRole('button', { name: /^A job of Drawing boards/ }).click();
  await page.getByPlaceholder('Client or project…').fill('winter season');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/100 % weighted share/)).toBeVisible();
  await expectAxeClean(page);
});

test('files come in once; what is never to be recorded stays out; the trail is in no workspace file, and wiped for good', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await open(page, '/sift/sources');
  await page.getByLabel('Sites').fill('secret.example');
  await page.getByLabel('Sites').blur();
  const give = (name: string, text: string) =>
    page.getByLabel('Import a file').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  const at = Date.parse('2026-11-12T14:00:00Z');
  const line = (from: number, more: string) =>
    `{"from":${at + from},"to":${at + from + 600000},"kind":"window",${more}}\n`;
  await give(
    'own.jsonl',
    `${line(0, '"title":"Zebra plan"')}${line(700000, '"title":"Hidden","address":"https://www.secret.example/a"')}{"kind":"dream"}\n`,
  );
  await expect(page.getByText('2 activities imported from own.jsonl.')).toBeVisible();
  await expect(page.getByRole('alert')).toContainText('Line 3');
  expect((await kept(page, 'file-own')).count).toBe(1);
  await give('own.jsonl', line(0, '"title":"Zebra plan"'));
  await expect(page.getByText('1 activities imported from own.jsonl.')).toBeVisible();
  expect((await kept(page, 'file-own')).count).toBe(1);
  await give(
    'post.mbox',
    'From a@b.example Thu Nov 12 09:00:00 2026\r\nFrom: Maud <maud@quayside-playhouse.example>\r\nTo: accounts@saltmere-lighting.example\r\nSubject: Bar 6\r\nDate: Thu, 12 Nov 2026 14:02:00 +0000\r\n\r\nNobody reads this.\r\n',
  );
  await expect(page.getByText('1 activities imported from post.mbox.')).toBeVisible();
  await give('calls.csv', 'Date,Time,Duration,Number\n12/11/2026,13:10,0:05:00,01632 960141\n');
  await page.getByRole('button', { name: 'Import 1 call' }).click();
  await expect(page.getByText('1 activities imported from calls.csv.')).toBeVisible();
  await give('diary.mbox', 'Dear diary');
  await expect(page.getByRole('alert')).toContainText('neither an e-mail nor a mailbox');
  await expectAxeClean(page);
  await page.getByRole('button', { name: 'Pause recording' }).click();
  await expect(page.getByText('Recording is paused')).toBeVisible();
  await page.getByRole('button', { name: 'Record again' }).click();
  await open(page, '/setup/data');
  const waiting = page.waitForEvent('download');
  await page
    .getByRole('button', { name: /^Export/ })
    .first()
    .click();
  const file = (await (await waiting).createReadStream()).setEncoding('latin1');
  let text = '';
  for await (const part of file) text += part as string;
  expect(text).not.toContain('Zebra');
  expect(text).not.toContain('placings');
  await open(page, '/sift/sources');
  await page.getByRole('button', { name: 'Wipe the trail…' }).click();
  await page.getByRole('button', { name: 'Wipe it' }).click();
  await expect(page.getByText(/(?<![\d,.])0 activities are kept/)).toBeVisible();
  await open(page, '/sift');
  await expect(page.getByText('Nothing was noticed on this day')).toBeVisible();
});

test('of two files that fit a title the person says which, a document is one under all its names, and a project is known by words', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await open(page, '/sift/sources');
  const at = Date.parse('2026-11-07T14:00:00Z');
  const line = (from: number, fields: object) =>
    JSON.stringify({
      from: at + from * 60_000,
      to: at + (from + 10) * 60_000,
      kind: 'window',
      program: 'Pad',
      ...fields,
    });
  await page.getByLabel('Import a file').setInputFiles({
    name: 'own.jsonl',
    mimeType: 'text/plain',
    buffer: Buffer.from(
      [
        line(0, { title: 'zebra-plan.txt – Pad', file: '/work/zebra/zebra-plan.txt' }),
        line(10, { title: 'zebra-plan v2.txt – Pad', file: '/work/zebra/zebra-plan v2.txt' }),
        line(20, { title: 'zebra-plan.txt – Pad', file: '/work/other/zebra-plan.txt' }),
        line(30, { title: 'zebra-plan – Pad' }),
      ].join('\n'),
    ),
  });
  await expect(page.getByText('4 activities imported from own.jsonl.')).toBeVisible();
  await open(page, '/sift/documents?period=own&from=2026-11-07&to=2026-11-07');
  const documents = grid(page, 'Documents');
  const named = (name: string) => documents.getByRole('row').filter({ hasText: name });
  // The version and its first name are one document; the file in another folder is another.
  await expect(named('/work/zebra/zebra-plan v2.txt')).toContainText('also under another name');
  await expect(named('/work/other/zebra-plan.txt')).toContainText('0:10');
  await choose(page.getByLabel('File of zebra-plan – Pad'), '/work/other/zebra-plan.txt');
  await expect(named('/work/other/zebra-plan.txt')).toContainText('0:20');
  await expectAxeClean(page);
  await page.keyboard.press('Control+z');
  await expect(named('/work/other/zebra-plan.txt')).toContainText('0:10');
  // A word of a project places what has it.
  await open(page, '/clients');
  await page.getByRole('link', { name: 'Quayside Playhouse' }).first().click();
  await page.getByRole('link', { name: 'Winter season rig' }).first().click();
  const form = page.getByRole('form', { name: 'Known by' });
  await form.getByLabel('Words').fill('ze');
  await form.getByRole('button', { name: 'Place these here' }).click();
  await expect(form.getByRole('alert')).toContainText('too short');
  await form.getByLabel('Words').fill('zebra');
  await expect(form).toContainText('it would have matched 0:40');
  await expect(form.getByRole('list', { name: 'What it would have matched' })).toContainText('zebra-plan v2.txt');
  await expectAxeClean(page);
  await form.getByRole('button', { name: 'Place these here' }).click();
  await expect(form.getByRole('button', { name: 'Place these here' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(form.getByLabel('Words')).toHaveValue('');
  await form.getByLabel('Words').fill('zebra');
  await form.getByRole('button', { name: 'Place these here' }).click();
  await expect(form.getByRole('button', { name: 'Place these here' })).toHaveCount(0);
  await open(page, '/sift?day=2026-11-07');
  const zebra = stretches(page).getByRole('row').filter({ hasText: 'Zebra plan' });
  await expect(zebra.first()).toContainText('Winter season rig');
});

/** What one presses to give a row its true job: the mark of what is private, or the list, a few letters and Enter. */
async function correct(page: Page, row: Locator, truth: string): Promise<number> {
  const cell = row.getByRole('gridcell').nth(3);
  if (truth === 'private') {
    await cell.focus();
    await page.keyboard.press('v');
    await expect(row).toContainText('Private');
    return 2;
  }
  const letters = truth.slice(0, 6).toLowerCase();
  await row
    .getByRole('button', { name: /^Job\b|Choose a job|Another job/ })
    .last()
    .click();
  const search = page.getByPlaceholder('Client or project…');
  await search.fill(letters);
  await page.getByRole('option', { name: truth }).first().waitFor();
  await page.keyboard.press('Enter');
  await expect(row).toContainText(truth);
  return 2 + letters.length + 1;
}

/** Waits until what was written has been looked at again: the list stays as it is for as long as one look takes. */
async function settled(page: Page): Promise<void> {
  const text = () => stretches(page).innerText();
  let before = '';
  await expect
    .poll(
      async () => {
        const last = before;
        before = await text();
        return last === before;
      },
      { intervals: [400] },
    )
    .toBe(true);
}

/** The made-up week with what it truly was. */
function labelledWeek(now: number): Watched[] {
  const today = dayOf(now, ZONE);
  return workingDaysBefore(today, 5).flatMap((day, index) => watchedDay(day, 10 + index));
}

/** What most of some time truly was; null where nothing was going on. */
function truthOf(labels: readonly Watched[], spans: readonly { start: number; end: number }[]): string | null {
  const sums = new Map<string, number>();
  for (const { activity, truth } of labels) {
    if (truth === 'away') continue;
    for (const span of spans) {
      const time = Math.min(span.end, activity.to) - Math.max(span.start, activity.from);
      if (time > 0) sums.set(truth, (sums.get(truth) ?? 0) + time);
    }
  }
  return [...sums].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}

/** The times of a row that nobody placed, from its first to its last moment. */
function spanOf(row: string, address: string): { start: number; end: number }[] {
  const day = new URL(address).searchParams.get('day')!;
  const [, from, to] = /(\d\d:\d\d)–(\d\d:\d\d)/.exec(row)!;
  return [{ start: momentOn(day, readClock(from!)!, ZONE), end: momentOn(day, readClock(to!)!, ZONE) }];
}

/** What was placed by hand, by its first and last moment as a row shows them. */
async function placedSpans(page: Page): Promise<Map<string, { start: number; end: number }[]>> {
  const day = new URL(page.url()).searchParams.get('day')!;
  const placings = (await rowsOf(page, 'placings')) as { day: string; spans: { start: number; end: number }[] }[];
  const shown = (moment: number) => showMinute(minuteOf(Math.ceil(moment / 1000) * 1000, ZONE));
  return new Map(
    placings
      .filter((each) => each.day === day)
      .map(({ spans }) => [`${shown(spans[0]!.start)}–${shown(spans.at(-1)!.end)}`, spans]),
  );
}

/** All rows of a table of the trail. */
const rowsOf = (page: Page, table: string): Promise<unknown[]> =>
  page.evaluate(async (table) => {
    const opened = await new Promise<IDBDatabase>((resolve) => {
      const asked = indexedDB.open('half-penny.trail');
      asked.onsuccess = () => resolve(asked.result);
    });
    const rows = await new Promise<unknown[]>((resolve) => {
      const asked = opened.transaction(table).objectStore(table).getAll();
      asked.onsuccess = () => resolve(asked.result as unknown[]);
    });
    opened.close();
    return rows;
  }, table);

/** Everything that a workspace file holds, as text. */
async function exported(page: Page): Promise<string> {
  await page.goto('/setup/data');
  await ready(page);
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Export everything/ }).click();
  const files = unzipSync(readFileSync(await (await waiting).path()));
  return Object.entries(files)
    .map(([name, bytes]) => `${name}\n${strFromU8(bytes)}`)
    .join('\n');
}

plain(
  'the agent’s week arrives once and in order whatever is killed, and is sifted to the truth in at most 125 presses; of its titles none goes out',
  async ({ browser }) => {
    plain.setTimeout(300_000);
    const port = 4383;
    const data = mkdtempSync(join(tmpdir(), 'half-penny-sift-'));
    const env = { ...process.env, PORT: String(port), HALF_PENNY_DATA: data };
    const running: ChildProcess[] = [];
    const begin = (args: string[]): ChildProcess => {
      const child = spawn(join(root, 'node_modules/.bin/tsx'), args, {
        cwd: root,
        env,
        stdio: 'ignore',
        detached: true,
      });
      running.push(child);
      return child;
    };
    // The whole group: the loader starts a process of its own.
    const kill = (child: ChildProcess) => {
      try {
        process.kill(-child.pid!, 'SIGKILL');
      } catch {
        // It has ended by itself.
      }
    };
    const answers = async () => {
      await expect
        .poll(
          () =>
            fetch(`http://127.0.0.1:${port}/`).then(
              (response) => response.ok,
              () => false,
            ),
          { timeout: 30_000 },
        )
        .toBe(true);
    };
    const server = () => begin(['server/src/main.ts']);
    const agent = (...more: string[]) =>
      begin(['agent/src/main.ts', '--simulate', '--server', `http://127.0.0.1:${port}`, ...more]);
    const context = await browser.newContext({ baseURL: `http://127.0.0.1:${port}`, serviceWorkers: 'block' });
    try {
      let serving = server();
      await answers();
      const page = await context.newPage();
      await page.goto(`/#${secretOf(join(data, String(port)))}`);
      await lookAround(page);
      await page.goto('/sift');
      await ready(page);
      // The demo has had the same week already; it comes from the agent here.
      await page.evaluate(async () => {
        const opened = await new Promise<IDBDatabase>((resolve) => {
          const asked = indexedDB.open('half-penny.trail');
          asked.onsuccess = () => resolve(asked.result);
        });
        const cleared = opened.transaction('activities', 'readwrite');
        cleared.objectStore('activities').clear();
        await new Promise((resolve) => (cleared.oncomplete = resolve));
        opened.close();
      });
      // All at once, and each is killed while it is under way.
      const first = agent('--once');
      await expect.poll(async () => (await kept(page, 'made-up-')).count, { timeout: 60_000 }).toBeGreaterThan(0);
      kill(serving);
      kill(first);
      await page.goto('about:blank');
      serving = server();
      await answers();
      const second = agent('--once');
      await page.goto('/sift');
      await ready(page);
      await new Promise((done) => second.once('exit', done));
      // All has come once two looks some seconds apart find the same.
      let last = 0;
      await expect
        .poll(
          async () => {
            const before = last;
            last = (await kept(page, 'made-up-')).count;
            return last > 500 && last === before;
          },
          { timeout: 90_000, intervals: [4000] },
        )
        .toBe(true);
      const week = await kept(page, 'made-up-');
      // One row for each number; the week that was played again is the same week.
      expect(week.numbers).toBe(week.count);
      expect(week.facts).toBe(week.count);
      expect(week.last).toBeGreaterThanOrEqual(week.count);

      let presses = 0;
      const press = async (key: string) => {
        presses++;
        await page.keyboard.press(key);
      };
      const before = await exported(page);
      await page.goto('/sift');
      await ready(page);
      const labels = labelledWeek(Date.now());
      let days = 0;
      let wrong = 0;
      for (let back = 0; days < 5 && back < 9; back++) {
        const heading = page.getByRole('heading', { level: 1 });
        const day = await heading.innerText();
        await press('[');
        await expect(heading).not.toHaveText(day);
        await expect(stretches(page).or(page.getByText('Nothing was noticed on this day')).first()).toBeVisible({
          timeout: 30_000,
        });
        if ((await loose(page).count()) === 0) continue;
        days++;
        // What was learned from them may part the rest again, and offers that too.
        const offered = page.getByRole('button', { name: /^Place as offered/ });
        while ((await offered.count()) > 0) {
          await press('Shift+A');
          await settled(page);
        }
        // Every row gets the job that most of its time truly was; only what truly was no work is set aside.
        const rows = stretches(page)
          .getByRole('row')
          .filter({ hasText: /\d\d:\d\d–\d\d:\d\d/ })
          .filter({ hasNotText: 'Away. What was it?' });
        const placed = await placedSpans(page);
        for (let at = 0; at < (await rows.count()); at++) {
          const row = rows.nth(at);
          const text = (await row.textContent())!;
          const spans = placed.get(/\d\d:\d\d–\d\d:\d\d/.exec(text)?.[0] ?? '');
          const truth = truthOf(labels, spans ?? spanOf(text, page.url()));
          if (truth === null || text.includes(truth === 'private' ? 'Private' : truth)) continue;
          wrong++;
          presses += await correct(page, row, truth);
        }
        await press('p');
        await expect(stretches(page).getByText('posted', { exact: true }).first()).toBeVisible({ timeout: 30_000 });
        await expect(page.getByRole('button', { name: 'Post 0 entries' })).toBeVisible({ timeout: 30_000 });
      }
      expect(days).toBe(5);
      console.log(`five days sifted in ${presses} presses, ${wrong} rows put right`);
      expect(presses).toBeLessThanOrEqual(125);
      // Of what the windows, pages and mails of the week were called nothing goes out with the work.
      const text = await exported(page);
      const activities = (await rowsOf(page, 'activities')) as Activity[];
      const documents = [...new Set(activities.flatMap(({ file }) => (file ? [documentName(file)] : [])))];
      const titles = new Set(activities.flatMap(({ kind, title }) => (kind !== 'meeting' && title ? [title] : [])));
      const addresses = new Set(activities.flatMap(({ address }) => address || []));
      expect(titles.size).toBeGreaterThan(50);
      // Sentences are made of documents; and what the studio had written down itself before is its own.
      const goesOut = (each: string) => {
        const written = JSON.stringify(each).slice(1, -1);
        return text.includes(written) && !before.includes(written) && !documents.some((name) => name.includes(each));
      };
      expect([...titles, ...addresses].filter(goesOut)).toEqual([]);
    } finally {
      running.forEach(kill);
      await context.close();
    }
  },
);
