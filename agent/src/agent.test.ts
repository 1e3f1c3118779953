import type { Activity } from '@half-penny/core/capture';
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { createServer, type IncomingMessage, type Server } from 'node:http';
import { appendFileSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { makeLineKeys, openLine, publicLineKey, type LineKeys } from '@half-penny/formats/sealed-lines';
import { watchFolders } from './folders';
import { readOptions } from './options';
import { x11 } from './desk/x11';
import { answers } from './desk/ask';
import { Screen } from './screen';
import { Sender } from './sender';
import { playWeek, watchedWeek } from './simulate';
import { Spool } from './spool';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const activity = (number: number): Activity => ({
  kind: 'window',
  from: NINE + number * 1000,
  to: NINE + number * 1000 + 500,
  title: `w ${number}`,
});
const many = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, index) => activity(from + index));
const folder = () => mkdtempSync(join(tmpdir(), 'half-penny-agent-'));

interface Sent {
  first: number;
  sealed: string[];
}
let keys: LineKeys;
let publicKey: string;
beforeAll(async () => {
  keys = await makeLineKeys();
  publicKey = await publicLineKey(keys);
});
/** A spool that knows for whom it seals. */
function paired(place: string): Spool {
  const spool = new Spool(place);
  spool.sealFor(publicKey);
  return spool;
}
const titlesOf = (sealed: readonly string[]) =>
  Promise.all(sealed.map(async (each) => (JSON.parse((await openLine(keys, each))!) as Activity).title));
let listening: Server | null = null;
afterEach(() => listening?.close());

/** A server that answers as told. */
async function listen(
  answer: (batch: Sent) => [status: number, body: unknown],
): Promise<{ address: string; sent: Sent[] }> {
  const sent: Sent[] = [];
  listening = createServer((request: IncomingMessage, response) => {
    let text = '';
    request.on('data', (part: Buffer) => (text += part.toString()));
    request.on('end', () => {
      const batch = JSON.parse(text) as Sent;
      const [status, body] = answer(batch);
      if (status === 200) sent.push(batch);
      response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
    });
  });
  await new Promise<void>((done) => listening!.listen(0, '127.0.0.1', done));
  return { address: `http://127.0.0.1:${(listening.address() as AddressInfo).port}`, sent };
}
const upTo = (batch: Sent) => batch.first + batch.sealed.length - 1;
const senderTo = (spool: Spool, server: string, say: (text: string) => void = () => undefined) =>
  new Sender(spool, { server, key: () => 'key', say });

describe('what was noticed', () => {
  it('is kept on disk with its numbers until it was sent, through restarts', async () => {
    const place = folder();
    const before = paired(place);
    before.add(many(1, 3));
    await before.settled();
    appendFileSync(join(place, 'spool.jsonl'), '{"from":17');
    const spool = paired(place);
    spool.add(many(4, 2500));
    const { address, sent } = await listen((batch) => [200, { upTo: upTo(batch) }]);
    expect(await senderTo(spool, address).flush()).toBe(true);
    expect(sent.map((each) => [each.first, each.sealed.length])).toEqual([
      [1, 1000],
      [1001, 1000],
      [2001, 500],
    ]);
    expect(await titlesOf(sent[0]!.sealed.slice(0, 4))).toEqual(['w 1', 'w 2', 'w 3', 'w 4']);
    const again = paired(place);
    expect(again.device).toBe(spool.device);
    expect(again.next(10)).toBeNull();
    again.add(many(2501, 2501));
    await again.settled();
    expect(again.next(10)).toMatchObject({ first: 2501 });
  });

  it('waits while nobody listens or the key is wrong, which is said once', async () => {
    const spool = paired(folder());
    spool.add(many(1, 2));
    const said: string[] = [];
    const nobody = senderTo(spool, 'http://127.0.0.1:9', (text) => said.push(text));
    expect([await nobody.flush(), await nobody.flush()]).toEqual([false, false]);
    const { address } = await listen(() => [401, {}]);
    expect(await senderTo(spool, address, (text) => said.push(text)).flush()).toBe(false);
    expect(said).toEqual([expect.stringContaining('Nobody answers'), expect.stringContaining('pairing key is wrong')]);
    expect(spool.next(10)).toMatchObject({ first: 1, count: 2 });
  });

  it('that is refused is put aside, and the rest goes on', async () => {
    const place = folder();
    const spool = paired(place);
    spool.add(many(1, 1500));
    const { address, sent } = await listen((batch) =>
      batch.first === 1
        ? [400, { message: 'It ends before it begins.', path: 'activities/3/to' }]
        : [200, { upTo: upTo(batch) }],
    );
    const said: string[] = [];
    expect(await senderTo(spool, address, (text) => said.push(text)).flush()).toBe(true);
    expect(sent.map((each) => each.first)).toEqual([1001]);
    expect(said[0]).toContain('activities/3/to');
    expect(readFileSync(join(place, 'refused.jsonl'), 'utf8').trim().split('\n')).toHaveLength(2000);
  });
});

describe('the made-up week', () => {
  it('is five days and today so far, the same whenever it is played', () => {
    const noon = NINE + 3 * 3_600_000;
    const week = watchedWeek(noon);
    expect(watchedWeek(noon)).toEqual(week);
    expect(new Set(week.map((each) => new Date(each.from).toISOString().slice(0, 10)))).toEqual(
      new Set(['2026-11-05', '2026-11-06', '2026-11-09', '2026-11-10', '2026-11-11', '2026-11-12']),
    );
    expect(week.every((each) => each.to <= noon && each.from <= each.to)).toBe(true);
    for (const kind of ['window', 'kept', 'opened', 'mail', 'message', 'call', 'meeting', 'away'] as const)
      expect(week.some((each) => each.kind === kind)).toBe(true);
  });

  it('is played as fast as is asked for, nights not waited for', async () => {
    const played: Activity[] = [];
    let waited = 0;
    await playWeek({
      record: (list) => played.push(...list),
      speed: 600,
      now: () => NINE,
      sleep: async (ms) => void (waited += ms),
    });
    expect(played).toHaveLength(watchedWeek(NINE).length);
    expect(waited).toBeGreaterThan((30 * 3_600_000) / 600);
    expect(waited).toBeLessThan((60 * 3_600_000) / 600);
  });
});

describe('watched folders', () => {
  it('tell what is saved in them', async () => {
    const place = folder();
    writeFileSync(join(place, 'plot.lgp'), 'one');
    const seen: Activity[] = [];
    const files = new Set<string>();
    const watcher = await watchFolders([place], files, (list) => seen.push(...list));
    expect([...files]).toEqual([join(place, 'plot.lgp')]);
    writeFileSync(join(place, 'plot.lgp'), 'two and more');
    writeFileSync(join(place, '.hidden'), 'x');
    await expect.poll(() => seen.length, { timeout: 30_000 }).toBe(1);
    expect(seen[0]).toMatchObject({ kind: 'kept', file: join(place, 'plot.lgp') });
    await watcher.close();
  });
});

describe('what may be asked for', () => {
  it('is answered in words where it cannot be', () => {
    expect(readOptions(['--simulate', '--speed', '600']).speed).toBe(600);
    expect(() => readOptions(['--speed', '0'])).toThrow('--speed is a number');
    expect(() => readOptions(['--server', 'here'])).toThrow('no address');
    expect(() => readOptions(['--dream'])).toThrow('dream');
  });
});

describe('the window in front', () => {
  const children: ChildProcess[] = [];
  afterEach(() => children.splice(0).forEach((each) => each.kill()));
  const begin = (command: string, args: string[], env = process.env) => {
    const child = spawn(command, args, { env, stdio: 'ignore' });
    children.push(child);
    return child;
  };

  it('is told with its title, program and the file it names, on a real display', async () => {
    const display = `:${90 + (process.pid % 400)}`;
    begin('Xvfb', [display, '-screen', '0', '640x480x24', '-nolisten', 'tcp']);
    const before = process.env.DISPLAY;
    process.env.DISPLAY = display;
    try {
      await expect.poll(() => answers(x11.front), { timeout: 45_000 }).toBe(true);
      begin('xmessage', ['-title', 'plot-4.lgp', 'A drawing'], { ...process.env, DISPLAY: display });
      const ask = (...args: string[]) => execFileSync('xprop', args, { encoding: 'utf8' });
      // No window manager is here to say which window has the front: the tree is asked, and it is said by hand.
      let id = '';
      await expect
        .poll(
          () => {
            try {
              const tree = execFileSync('xwininfo', ['-root', '-tree'], { encoding: 'utf8', stdio: 'pipe' });
              id = /(0x[0-9a-f]+) [^\n]*"Xmessage"/.exec(tree)?.[1] ?? '';
            } catch {
              id = '';
            }
            return id;
          },
          { timeout: 45_000 },
        )
        .not.toBe('');
      ask('-root', '-f', '_NET_ACTIVE_WINDOW', '32x', '-set', '_NET_ACTIVE_WINDOW', id);
      // As programs of today say their titles, beyond ASCII.
      const title = 'plot-4.lgp – “Quayside” \\ é';
      ask('-id', id, '-f', '_NET_WM_NAME', '8u', '-set', '_NET_WM_NAME', title);
      expect(await x11.front()).toMatchObject({ title, program: 'Xmessage' });
      const seen: Activity[] = [];
      let now = NINE;
      const screen = new Screen({
        record: (list) => seen.push(...list),
        files: new Set(['/work/quayside/plot-4.lgp']),
        folders: ['/work/quayside'],
        desk: { name: x11.name, front: x11.front },
        now: () => now,
      });
      await screen.look();
      now += 30_000;
      await screen.look();
      now += 5000;
      screen.end();
      expect(seen.map((each) => [each.kind, each.to - each.from, each.file])).toEqual([
        ['opened', 0, '/work/quayside/plot-4.lgp'],
        ['window', 35_000, '/work/quayside/plot-4.lgp'],
      ]);
    } finally {
      process.env.DISPLAY = before;
    }
  });
});

describe('time away', () => {
  // Stand-ins for the two programs that are asked, as their manual pages have it: milliseconds on one line, properties one a line.
  const home = mkdtempSync(join(tmpdir(), 'half-penny-idle-'));
  const idle = (milliseconds: number | 'gone') => {
    const program = milliseconds === 'gone' ? 'exit 1' : `echo ${milliseconds}`;
    writeFileSync(join(home, 'xprintidle'), `#!/bin/sh\n${program}\n`, { mode: 0o755 });
  };
  const before = process.env.PATH;
  beforeEach(() => {
    writeFileSync(
      join(home, 'xprop'),
      `#!/bin/sh\nif [ "$1" = -root ]; then echo '_NET_ACTIVE_WINDOW(WINDOW): window id # 0x60000a'; else printf '_NET_WM_NAME(UTF8_STRING) = "plot-4.lgp"\\nWM_CLASS(STRING) = "board", "Plotting desk"\\n'; fi\n`,
      { mode: 0o755 },
    );
    process.env.PATH = `${home}:${before}`;
  });
  afterEach(() => {
    process.env.PATH = before;
  });

  /** A screen that is looked at after so many milliseconds, with nothing touched for so many. */
  const watched = () => {
    const seen: Activity[] = [];
    let now = NINE;
    const screen = new Screen({
      record: (list) => seen.push(...list),
      files: new Set(),
      folders: [],
      desk: x11,
      now: () => now,
    });
    const look = async (after: number, untouched: number) => {
      now += after;
      idle(untouched);
      await screen.look();
    };
    const end = (after: number) => {
      now += after;
      screen.end();
    };
    return { seen, look, end };
  };

  it('is told from the last touch to the first, with the hands on of the rest', async () => {
    const { seen, look, end } = watched();
    await look(0, 0);
    // Touched within the last ten seconds, twice; then for two minutes and a half not at all.
    await look(10_000, 2000);
    await look(10_000, 500);
    await look(50_000, 50_500);
    await look(100_000, 150_500);
    await look(10_000, 1000);
    end(0);
    expect(seen.filter((each) => each.kind === 'away')).toEqual([
      { kind: 'away', from: NINE + 19_500, to: NINE + 179_000 },
    ]);
    const windows = seen.filter((each) => each.kind === 'window');
    expect(windows.every((each) => each.program === 'Plotting desk' && each.title === 'plot-4.lgp')).toBe(true);
    expect(windows.reduce((sum, each) => sum + each.to - each.from, 0)).toBe(180_000);
    expect(windows.reduce((sum, each) => sum + each.hands!, 0)).toBe(30_000);
  });

  it('that is not over when the agent ends is told up to then', async () => {
    const { seen, look, end } = watched();
    await look(0, 0);
    await look(300_000, 300_000);
    end(5000);
    expect(seen.filter((each) => each.kind === 'away')).toEqual([{ kind: 'away', from: NINE, to: NINE + 305_000 }]);
  });

  it('cannot be told where nothing answers', async () => {
    idle('gone');
    expect(await answers(x11.idle!)).toBe(false);
    idle(12);
    expect(await answers(x11.idle!)).toBe(true);
    expect(await x11.idle!()).toBe(12);
  });
});
