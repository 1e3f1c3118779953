import { chromium, type BrowserContext, type Page } from '@playwright/test';
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { copyFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Chance } from './chance';

const root = fileURLToPath(new URL('../..', import.meta.url));
const tsx = join(root, 'node_modules/.bin/tsx');

/** What an afternoon with a browser, a server and an agent came to. */
export interface Afternoon {
  kills: { browser: number; server: number; agent: number };
  /** Other things that were done to it: a full disk, a clock that jumped, a network that was gone. */
  troubles: { full: number; clock: number; offline: number };
  presses: number;
  /** Rows of history at the end. */
  commands: number;
  /** Entries and activities that were shown as kept. */
  acknowledged: number;
  activities: number;
  lost: string[];
  doubled: string[];
  wrong: string[];
}

/** Words of engines and libraries, which nobody should read. */
const RAW =
  /Cannot read prop|is not a function|undefined|DexieError|QuotaExceeded|InvalidState|TransactionInactive|\bNaN\b|\[object /;

const KEYS = [
  ...[
    'Tab',
    'Tab',
    'Enter',
    'Escape',
    'Escape',
    'ArrowDown',
    'ArrowUp',
    'ArrowLeft',
    'ArrowRight',
    'Space',
    'Home',
    'End',
  ],
  ...['a', 'd', 'e', 't', 'x', '.', '[', ']', '?', '/', 'Delete', 'Backspace', 'F2', 'Control+z', 'Control+Shift+z'],
  ...['Control+k', 'g', 't', 'w', 'b', 'c', 's', '1', '2', 'Shift+Tab', 'Shift+ArrowDown', 'PageDown'],
];
const SCREENS = [
  ...[
    '/today',
    '/today',
    '/week',
    '/time',
    '/sift?day=2026-11-11',
    '/costs',
    '/billing',
    '/reports',
    '/clients',
    '/setup',
  ],
  ...['/setup/data', '/setup/rates', '/costs/place', '/hours/in'],
];

class Campaign {
  readonly #chance: Chance;
  readonly #port: number;
  readonly #data = mkdtempSync(join(tmpdir(), 'half-penny-torture-'));
  readonly #profile = mkdtempSync(join(tmpdir(), 'half-penny-torture-profile-'));
  #server: ChildProcess | null = null;
  #agent: ChildProcess | null = null;
  #context!: BrowserContext;
  #pages: Page[] = [];
  #shift = 0;
  #number = 0;
  readonly #acknowledged = new Set<string>();
  readonly told: Afternoon = {
    kills: { browser: 0, server: 0, agent: 0 },
    troubles: { full: 0, clock: 0, offline: 0 },
    presses: 0,
    commands: 0,
    acknowledged: 0,
    activities: 0,
    lost: [],
    doubled: [],
    wrong: [],
  };

  constructor(chance: Chance, port: number) {
    this.#chance = chance;
    this.#port = port;
  }

  get #address(): string {
    return `http://127.0.0.1:${this.#port}`;
  }

  #start(args: string[]): ChildProcess {
    const env = { ...process.env, PORT: String(this.#port), HALF_PENNY_DATA: this.#data };
    return spawn(tsx, args, { cwd: root, env, stdio: 'ignore', detached: true });
  }

  /** @returns once it has ended: what comes next works in the same folder */
  async #kill(child: ChildProcess | null): Promise<void> {
    if (child?.pid === undefined || child.exitCode !== null || child.signalCode !== null) return;
    const ended = once(child, 'exit');
    try {
      // The whole group: the loader starts a process of its own.
      process.kill(-child.pid, 'SIGKILL');
    } catch {
      // It has ended by itself.
      return;
    }
    await ended;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }

  async serve(): Promise<void> {
    this.#server = this.#start(['server/src/main.ts']);
    for (let tries = 0; tries < 150; tries++) {
      const there = await fetch(this.#address).then(
        (answer) => answer.ok,
        () => false,
      );
      if (there) return;
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
    throw new Error('The server did not start.');
  }

  notice(): void {
    this.#agent = this.#start(['agent/src/main.ts', '--simulate', '--once', '--server', this.#address]);
  }

  async browse(): Promise<void> {
    this.#context = await chromium.launchPersistentContext(this.#profile, {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
      viewport: { width: 1280, height: 800 },
      timezoneId: 'Europe/London',
      locale: 'en-GB',
    });
    // The loader that runs this file names functions by a helper, which the page does not have.
    await this.#context.addInitScript({ content: 'globalThis.__name = (named) => named;' });
    await this.#context.addInitScript((shift: number) => {
      const now = Date.now.bind(Date);
      Date.now = () => now() + shift;
    }, this.#shift);
    this.#pages = [];
    const tabs = 1 + this.#chance.below(3);
    for (let tab = 0; tab < tabs; tab++) await this.#tab();
  }

  async #tab(): Promise<void> {
    const page = await this.#context.newPage();
    page.setDefaultTimeout(8000);
    page.on('pageerror', (error) => {
      // A part that was being fetched while the network or the server was taken away is said on the page.
      if (!/dynamically imported module|Failed to fetch|NetworkError/.test(error.message))
        this.told.wrong.push(`A fault on the page: ${error.message.slice(0, 300)}`);
    });
    page.on('dialog', (dialog) => void dialog.accept().catch(() => undefined));
    this.#pages.push(page);
    const secret = readFileSync(join(this.#data, String(this.#port), 'page-secret'), 'utf8').trim();
    await page.goto(`${this.#address}/${this.#number === 0 ? '' : 'today'}#${secret}`);
    const screens = page.locator('nav[aria-label=Screens]');
    const door = page.getByRole('button', { name: 'Look around' });
    await screens.or(door).first().waitFor({ timeout: 60_000 });
    if (await door.isVisible()) await door.click();
    await screens.waitFor({ timeout: 60_000 });
  }

  /** Writes down time with a note of its own; it counts as acknowledged once the page shows it as kept. */
  async #write(page: Page): Promise<void> {
    const note = `Torture ${++this.#number} of ${this.#port}`;
    await page.goto(`${this.#address}/today?add=1`);
    const form = page.getByRole('form', { name: 'Add time' });
    await form.getByLabel('Length or from–to').fill(`${1 + this.#chance.below(30)}m`);
    await form.getByLabel('What was done').fill(note);
    // Killed at any moment of it, now and then.
    if (this.#chance.oneIn(6)) {
      void form
        .getByRole('button', { name: /^Add/ })
        .click()
        .catch(() => undefined);
      await new Promise((resolve) => setTimeout(resolve, this.#chance.below(120)));
      return this.#killBrowser();
    }
    await form.getByRole('button', { name: /^Add/ }).click();
    await page.getByText(note).first().waitFor({ timeout: 4000 });
    await page.waitForFunction(() => !document.documentElement.hasAttribute('data-writing'));
    this.#acknowledged.add(note);
    if (this.#chance.oneIn(4)) await this.#killBrowser();
  }

  async #killBrowser(): Promise<void> {
    this.told.kills.browser++;
    try {
      execFileSync('pkill', ['-9', '-f', this.#profile]);
    } catch {
      // None was running.
    }
    await this.#context.close().catch(() => undefined);
    rmSync(join(this.#profile, 'SingletonLock'), { force: true });
    await this.browse();
  }

  async #fill(page: Page): Promise<void> {
    this.told.troubles.full++;
    const devtools = await this.#context.newCDPSession(page);
    const { usage } = await page.evaluate(() => navigator.storage.estimate());
    await devtools.send('Storage.overrideQuotaForOrigin', { origin: this.#address, quotaSize: (usage ?? 0) + 1000 });
    await this.#press(page, 15);
    await this.#write(page).catch(() => undefined);
    await devtools.send('Storage.overrideQuotaForOrigin', { origin: this.#address }).catch(() => undefined);
    await devtools.detach().catch(() => undefined);
  }

  async #press(page: Page, times: number): Promise<void> {
    for (let each = 0; each < times; each++) {
      await page.keyboard.press(this.#chance.one(KEYS));
      this.told.presses++;
    }
    const text = await page.locator('[role=alert], [role=status], h1').allInnerTexts();
    for (const each of text) if (RAW.test(each)) this.told.wrong.push(`On the page: ${each.slice(0, 300)}`);
  }

  /** One thing that happens. */
  async turn(): Promise<void> {
    const { told } = this;
    const page = this.#chance.one(this.#pages);
    try {
      const what = this.#chance.below(100);
      if (what < 35) await this.#write(page);
      else if (what < 70) await this.#press(page, 10 + this.#chance.below(20));
      else if (what < 80) await page.goto(this.#address + this.#chance.one(SCREENS));
      else if (what < 84) await this.#killBrowser();
      else if (what < 87) {
        told.kills.server++;
        await this.#kill(this.#server);
        await this.#press(page, 10).catch(() => undefined);
        await this.serve();
      } else if (what < 91) {
        told.kills.agent++;
        await this.#kill(this.#agent);
        this.notice();
      } else if (what < 94) await this.#fill(page);
      else if (what < 97) {
        told.troubles.offline++;
        await this.#context.setOffline(true);
        await this.#press(page, 15);
        await this.#context.setOffline(false);
      } else {
        told.troubles.clock++;
        this.#shift = this.#chance.one([0, 0, 3_600_000, -3_600_000, 86_400_000, -7 * 86_400_000]);
        await this.#killBrowser();
      }
    } catch (thrown) {
      const message = thrown instanceof Error ? thrown.message : String(thrown);
      // What was pressed at random may cover what was to be pressed next: the tab begins again.
      if (/Timeout|closed|crashed|ERR_|Navigation|interrupted|detached/i.test(message)) {
        await this.#context.setOffline(false).catch(() => undefined);
        await this.#again().catch(() => this.#killBrowser());
      } else told.wrong.push(message.slice(0, 300));
    }
  }

  async #again(): Promise<void> {
    for (const page of this.#pages) await page.close({ runBeforeUnload: false }).catch(() => undefined);
    this.#pages = [];
    await this.#tab();
  }

  /** The end: everything is taken out as a file, checked, and compared with what had been shown as kept. */
  async settle(): Promise<void> {
    const { told } = this;
    this.#shift = 0;
    await this.#killBrowser();
    const page = this.#pages[0]!;
    // The demo is the workspace that was open first; others may have been begun by random presses.
    const notes = await page.evaluate(async () => {
      const added: string[] = [];
      const activities: string[] = [];
      const rowsOf = (database: IDBDatabase, store: string) =>
        new Promise<Record<string, unknown>[]>((resolve, reject) => {
          const asked = database.transaction(store).objectStore(store).getAll();
          asked.onsuccess = () => resolve(asked.result as Record<string, unknown>[]);
          asked.onerror = () => reject(new Error('It could not be read.'));
        });
      let journal = 0;
      for (const { name } of await indexedDB.databases()) {
        if (!name || (!name.startsWith('half-penny-') && name !== 'half-penny.trail')) continue;
        const database = await new Promise<IDBDatabase>((resolve, reject) => {
          const asked = indexedDB.open(name);
          asked.onsuccess = () => resolve(asked.result);
          asked.onerror = () => reject(new Error('It could not be opened.'));
        });
        if (name === 'half-penny.trail') {
          for (const row of await rowsOf(database, 'activities'))
            if (String(row.device).startsWith('agent-')) activities.push(`${String(row.device)} ${String(row.seq)}`);
        } else {
          const rows = await rowsOf(database, 'journal');
          journal += rows.length;
          for (const row of rows)
            for (const change of row.changes as { table: string; before: unknown; after: { note?: string } | null }[])
              if (change.table === 'entries' && change.before === null && change.after?.note?.startsWith('Torture '))
                added.push(`${String(row.command)} ${change.after.note}`);
        }
        database.close();
      }
      return { added, activities, journal };
    });
    told.commands = notes.journal;
    told.acknowledged = this.#acknowledged.size;
    told.activities = notes.activities.length;
    // An undo that is redone adds the same entry again, and says so by its name.
    const first = notes.added.filter((each) => each.startsWith('entry.add ')).map((each) => each.slice(10));
    const count = new Map<string, number>();
    for (const note of first) count.set(note, (count.get(note) ?? 0) + 1);
    for (const note of this.#acknowledged) if (!count.has(note)) told.lost.push(note);
    for (const [note, times] of count) if (times > 1) told.doubled.push(`${note}: ${times} times`);
    if (new Set(notes.activities).size !== notes.activities.length) told.doubled.push('an activity, by its number');
    await this.#check(page);
    await this.#context.close();
  }

  async #check(page: Page): Promise<void> {
    await page.goto(`${this.#address}/setup/data`);
    const [file] = await Promise.all([
      page.waitForEvent('download', { timeout: 60_000 }),
      page.getByRole('button', { name: 'Export everything' }).click(),
    ]);
    const path = join(this.#data, 'workspace.zip');
    await file.saveAs(path);
    try {
      execFileSync(tsx, ['cli/src/main.ts', 'check', path], { cwd: root, encoding: 'utf8', stdio: 'pipe' });
    } catch (thrown) {
      // Kept, to be looked at.
      const kept = join(tmpdir(), `half-penny-torture-${Date.now()}.zip`);
      copyFileSync(path, kept);
      this.told.wrong.push(`check of ${kept}: ${String((thrown as { stderr?: string }).stderr).slice(0, 1500)}`);
    }
  }

  async end(): Promise<void> {
    await this.#kill(this.#server);
    await this.#kill(this.#agent);
    try {
      execFileSync('pkill', ['-9', '-f', this.#profile]);
    } catch {
      // It has ended already.
    }
    for (const folder of [this.#data, this.#profile]) rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
  }
}

/** Uses the built application in a browser for so long while what it stands on is killed and taken away. */
export async function afternoon(
  chance: Chance,
  until: (told: Afternoon) => boolean,
  port = 4391,
  say: (told: Afternoon) => void = () => undefined,
): Promise<Afternoon> {
  const campaign = new Campaign(chance, port);
  try {
    await campaign.serve();
    await campaign.browse();
    campaign.notice();
    for (let turn = 1; !until(campaign.told); turn++) {
      await campaign.turn();
      if (turn % 50 === 0) say(campaign.told);
    }
    await campaign.settle();
    return campaign.told;
  } finally {
    await campaign.end();
  }
}
