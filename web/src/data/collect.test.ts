import 'fake-indexeddb/auto';
import type { Activity } from '@half-penny/core/capture';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { collectActivity, pairingKey } from './collect';
import { connect } from './server';
import { trail } from './trail';

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
  waiting: { seq: number; activity: Activity }[] = [];
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

beforeEach(() => {
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
  await trail.activities.clear();
});

/** Lets everything happen that happens within some seconds. */
async function pass(seconds: number): Promise<void> {
  for (let step = 0; step < seconds * 4; step++) {
    await vi.advanceTimersByTimeAsync(250);
    for (let turn = 0; turn < 8; turn++) await new Promise((resolve) => setImmediate(resolve));
  }
}
const kept = async () => (await trail.activities.toArray()).map((each) => each.seq).sort((a, b) => a - b);

describe('collecting', () => {
  it('takes all that waits, in order and once, and says so only when it is kept', async () => {
    server.waiting = [1, 2, 3, 4, 5, 6, 7].map((seq) => ({ seq, activity: activity(seq) }));
    const stop = collectActivity();
    await pass(2);
    expect(await kept()).toEqual([1, 2, 3, 4, 5, 6, 7]);
    expect(server.waiting).toEqual([]);
    server.waiting = [{ seq: 8, activity: activity(8) }];
    await pass(4);
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
    expect(server.asked).toHaveLength(2);
    await pass(110);
    expect(await kept()).toEqual([1]);
    stop();
  });

  it('is done by one tab for all', async () => {
    const stops = [collectActivity(), collectActivity(), collectActivity()];
    await pass(1);
    expect(server.asked).toEqual(['GET /activity/waiting']);
    stops.forEach((stop) => stop());
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
