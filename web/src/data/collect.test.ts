import 'fake-indexeddb/auto';
import { writeLine, type Activity, type Heard, type Welcome } from '@half-penny/core/capture';
import { LineSealer, makeLineKeys, publicLineKey } from '@half-penny/formats/sealed-lines';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { collectActivity, pairingKey } from './collect';
import { connect } from './server';
import { lineKeys, saveSettings, trail, wipeTrail } from './trail';

const SECRET = 'abcdefgh';
const stored = new Map<string, string>();
const NINE = Date.parse('2026-11-12T09:00:00Z');
const activity = (number: number): Activity => ({
  kind: 'window',
  from: NINE + number * 1000,
  to: NINE + number * 1000 + 500,
  title: `w ${number}`,
});

/** A server that has activities waiting, hands on three at a time, and forgets only what was said to be collected. */
class Server {
  waiting: { seq: number; activity: Activity | string }[] = [];
  /** What it was told that devices may record, and devices that it heard. */
  welcome: Welcome | null = null;
  devices: Heard[] = [];
  /** What was asked of it, in order. */
  readonly asked: string[] = [];
  /** Answers to come that fail. */
  failing = 0;

  readonly fetch = async (path: string, init: RequestInit = {}): Promise<Response> => {
    this.asked.push(`${init.method ?? 'GET'} ${path}`);
    if (this.failing > 0) {
      this.failing--;
      throw new TypeError('Failed to fetch');
    }
    if (new Headers(init.headers).get('x-half-penny') !== SECRET) return new Response('', { status: 401 });
    if (path === '/activity/recording') {
      this.welcome = JSON.parse(init.body as string) as Welcome;
      return new Response(null, { status: 204 });
    }
    if (path === '/activity/wiped') {
      this.waiting = [];
      return new Response(null, { status: 204 });
    }
    if (path === '/activity/devices') return Response.json({ devices: this.devices });
    if (path === '/calendars') return Response.json({ calendars: [] });
    if (path === '/activity/key') return Response.json({ key: init.method === 'POST' ? 'new' : 'old' });
    if (path === '/activity/collected') {
      const { upTo } = JSON.parse(init.body as string) as { upTo: number };
      // Kept before it is said to be.
      expect(await trail.activities.count()).toBeGreaterThanOrEqual(upTo);
      this.waiting = this.waiting.filter((each) => each.seq > upTo);
      return Response.json({});
    }
    const next = this.waiting.slice(0, 3);
    const [first] = next;
    const batch = first && { device: 'd', first: first.seq, activities: next.map((each) => each.activity) };
    return Response.json({ waiting: batch ?? null });
  };
}

let server: Server;
const held = new Set<string>();

beforeEach(async () => {
  // Making keys takes a time that no clock of a test moves.
  await lineKeys();
  server = new Server();
  held.clear();
  vi.useFakeTimers({ toFake: ['setTimeout', 'Date'], now: NINE });
  stored.set('half-penny.server', SECRET);
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => void stored.set(key, value),
    removeItem: (key: string) => void stored.delete(key),
  });
  vi.stubGlobal('fetch', server.fetch);
  vi.stubGlobal('navigator', {
    locks: {
      request: async (name: string, _options: object, run: () => Promise<void>) => {
        if (held.has(name)) return new Promise(() => undefined);
        held.add(name);
        await run();
        held.delete(name);
      },
    },
  });
});
afterEach(async () => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
  for (const table of trail.tables) await table.clear();
});

const realTimeout = globalThis.setTimeout;
/** Lets everything happen that happens within some seconds. */
async function pass(seconds: number): Promise<void> {
  for (let step = 0; step < seconds * 4; step++) {
    await vi.advanceTimersByTimeAsync(250);
    // Keys are worked out beside, in a time of their own.
    await new Promise((resolve) => realTimeout(resolve, 4));
    for (let turn = 0; turn < 8; turn++) await new Promise((resolve) => setImmediate(resolve));
  }
}
/** The same until so much is kept, however busy the machine is. */
async function passUntil(count: number): Promise<void> {
  for (let tries = 0; tries < 20 && (await kept()).length < count; tries++) await pass(2);
  await pass(1);
}
const kept = async () => (await trail.activities.toArray()).map((each) => each.seq).sort((a, b) => a - b);

describe('collecting', () => {
  it('takes all that waits, in order and once, and says so only when it is kept', async () => {
    server.waiting = [1, 2, 3, 4, 5, 6, 7].map((seq) => ({ seq, activity: activity(seq) }));
    const stop = collectActivity();
    await passUntil(7);
    expect(await kept()).toEqual([1, 2, 3, 4, 5, 6, 7]);
    expect(server.waiting).toEqual([]);
    server.waiting = [{ seq: 8, activity: activity(8) }];
    await passUntil(8);
    expect(await kept()).toHaveLength(8);
    stop();
    server.waiting = [{ seq: 9, activity: activity(9) }];
    await pass(70);
    expect(await kept()).toHaveLength(8);
  });

  it('goes on after the server was away, ever more seldom and then as often as before', async () => {
    server.failing = 4;
    server.waiting = [{ seq: 1, activity: activity(1) }];
    const stop = collectActivity();
    await pass(10);
    // At once, and after 6 seconds; the next would be 12 seconds later.
    expect(server.asked).toEqual(['POST /activity/recording', 'POST /activity/recording']);
    await pass(110);
    expect(await kept()).toEqual([1]);
    stop();
  });

  it('is done by one tab for all', async () => {
    const stops = [collectActivity(), collectActivity(), collectActivity()];
    await pass(1);
    expect(server.asked).toEqual([
      'POST /activity/recording',
      'GET /activity/waiting',
      'GET /activity/devices',
      'GET /calendars',
    ]);
    stops.forEach((stop) => stop());
  });
});

describe('what devices are told', () => {
  it('is what may be recorded, again as soon as it changes, and not otherwise', async () => {
    const stop = collectActivity();
    await pass(1);
    expect(server.welcome!.recording).toMatchObject({ paused: false, neverWords: [], wipedAt: 0 });
    await saveSettings({ neverWords: ['bank'], paused: true });
    await pass(4);
    expect(server.welcome!.recording).toMatchObject({ paused: true, neverWords: ['bank'] });
    await pass(10);
    expect(server.asked.filter((each) => each.endsWith('/recording'))).toHaveLength(2);
    stop();
  });

  it('is the key that they seal for: what is sealed by it is kept, and for another one told of', async () => {
    const stop = collectActivity();
    await pass(1);
    const sealer = new LineSealer(server.welcome!.publicKey);
    const other = new LineSealer(await publicLineKey(await makeLineKeys()));
    server.waiting = [
      { seq: 1, activity: await sealer.seal(writeLine(activity(1))) },
      { seq: 2, activity: await other.seal(writeLine(activity(2))) },
      { seq: 3, activity: await sealer.seal('no activity') },
      { seq: 4, activity: await sealer.seal(writeLine(activity(4))) },
    ];
    vi.spyOn(trail.activities, 'count').mockResolvedValue(99);
    await pass(8);
    vi.restoreAllMocks();
    expect((await trail.activities.orderBy('from').toArray()).map((each) => each.title)).toEqual(['w 1', 'w 4']);
    expect(server.waiting).toEqual([]);
    stop();
  });

  it('is that the trail was wiped: what waits is thrown away, and nothing from before comes in later', async () => {
    const stop = collectActivity();
    await pass(1);
    vi.setSystemTime(NINE + 60_000);
    await wipeTrail(true);
    server.waiting = [{ seq: 1, activity: activity(1) }];
    await pass(4);
    expect(server.asked).toContain('POST /activity/wiped');
    server.waiting = [
      { seq: 2, activity: activity(30) },
      { seq: 3, activity: activity(200) },
    ];
    vi.spyOn(trail.activities, 'count').mockResolvedValue(99);
    await pass(4);
    vi.restoreAllMocks();
    expect((await trail.activities.toArray()).map((each) => each.title)).toEqual(['w 200']);
    stop();
  });

  it('comes back as which of them were heard', async () => {
    const heard: Heard = { device: 'a', name: 'Agent', sees: [], lacks: [], paused: false, ended: false, heard: NINE };
    server.devices = [heard];
    const stop = collectActivity();
    await pass(1);
    expect(await trail.devices.toArray()).toEqual([heard]);
    server.devices = [];
    await pass(20);
    expect(await trail.devices.count()).toBe(0);
    stop();
  });
});

describe('the pairing key', () => {
  it('is shown, made again, and told to need a server where there is none', async () => {
    expect([await pairingKey(), await pairingKey(true)]).toEqual(['old', 'new']);
    server.failing = 1;
    await expect(pairingKey()).rejects.toThrow('The local server does not answer; start it with npm start.');
    vi.stubGlobal('fetch', async () => new Response('', { status: 503 }));
    await expect(pairingKey()).rejects.toThrow('The local server answered with 503.');
  });

  it('is given to no page that does not know the server’s secret, which says how to connect', async () => {
    stored.clear();
    server.asked.length = 0;
    await expect(pairingKey()).rejects.toThrow(/not connected with the local server.*eight letters/);
    expect(server.asked).toEqual([]);
    await expect(connect('no letters')).rejects.toThrow('eight letters after the #');
    await expect(connect('bbbbbbbb')).rejects.toThrow('not the letters of this server');
    await expect(pairingKey()).rejects.toThrow(/not connected/);
    await connect(` http://127.0.0.1:4350/#${SECRET} `);
    expect(await pairingKey()).toBe('old');
    // Wrong letters later take nothing away.
    await expect(connect('bbbbbbbb')).rejects.toThrow('not the letters of this server');
    expect(await pairingKey()).toBe('old');
  });
});
