import { captureDefaults, recordingOf, type Activity } from '@half-penny/core/capture';
import { makeLineKeys, openLine, publicLineKey } from '@half-penny/formats/sealed-lines';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { follow, followAway, NOTHING, titleOf, type FollowerState, type Page } from './follower';
import { allowed, isOut, seal } from './keeping';
import { greet, send } from './sending';
import { emptyShelf, type Shelf } from './shelf';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const page = (title: string): Page => ({ title, address: `https://hire.example/${title}` });
const shelf = (change: Partial<Shelf> = {}): Shelf => ({
  ...emptyShelf('pages-1'),
  server: 'http://127.0.0.1:9',
  key: 'key',
  ...change,
});
const seen = (title: string, address = `https://hire.example/${title}`): Activity => ({
  kind: 'window',
  from: NINE,
  to: NINE + 1000,
  program: 'Chromium',
  title,
  address,
});

/** Looks at pages at seconds, and tells what was told. */
function watch(looks: readonly (readonly [second: number, title: string | null])[]) {
  let state: FollowerState = NOTHING;
  return looks.flatMap(([second, title]) => {
    const next = follow(state, title === null ? null : page(title), NINE + second * 1000, 'Chromium');
    state = next.state;
    return next.told.map((each) => [each.title, (each.from - NINE) / 1000, (each.to - NINE) / 1000]);
  });
}

describe('the page in front', () => {
  it('is told when another comes, or none', () => {
    const looks = [
      [0, 'a'],
      [10, 'a'],
      [20, 'b'],
      [25, null],
      [30, null],
      [40, 'c'],
      [41, null],
    ] as const;
    expect(watch(looks)).toEqual([['a', 0, 20], ['b', 20, 25], ['c', 40, 41]]); // prettier-ignore
  });

  it('is told at least each minute, and no longer than it was looked at', () => {
    const looks = [
      [0, 'a'],
      [30, 'a'],
      [60, 'a'],
      [90, 'a'],
      [3600, 'a'],
      [3610, null],
    ] as const;
    expect(watch(looks)).toEqual([['a', 0, 60], ['a', 60, 90], ['a', 3600, 3610]]); // prettier-ignore
  });
});

describe('what a page is called', () => {
  it('is its title, and nothing while that is its address', () => {
    const address = 'https://www.hire.example/Gel%20swatches%20%26%20more?customer=%C3%A9&x=%E0%A4';
    expect(titleOf('Gel swatches: hire', address)).toBe('Gel swatches: hire');
    expect(titleOf('hire', address)).toBe('hire');
    for (const title of [
      '',
      'hire.example',
      'hire.example/Gel swatches & more?customer=é',
      'www.hire.example/Gel%20swatches',
      address,
    ])
      expect(titleOf(title, address)).toBe('');
  });
});

describe('time away', () => {
  it('is told from the last touch to the first', () => {
    const gone = followAway(NOTHING, false, NINE);
    const locked = followAway(gone.state, false, NINE + 60_000);
    const back = followAway(locked.state, true, NINE + 300_000);
    expect([gone.told, locked.told, back.told]).toEqual([[], [], [{ kind: 'away', from: NINE, to: NINE + 300_000 }]]);
    expect(followAway(back.state, true, NINE + 400_000).told).toEqual([]);
  });
});

describe('what is kept', () => {
  it('is nothing of sites that were put out here, for a time or for ever, nor of what Half Penny leaves out', () => {
    const sites = { 'news.example': 'never', 'hire.example': NINE + 1000 } as const;
    const by = shelf({
      sites,
      welcome: {
        publicKey: '',
        recording: recordingOf({ ...captureDefaults, neverWords: ['bank'], addressTo: 'site' }, 0, []),
      },
    });
    const all = [
      seen('a'),
      seen('b', 'https://sport.news.example/'),
      seen('My bank', 'https://c.example/'),
      seen('d', 'https://d.example/x?y'),
    ];
    expect(allowed(by, all, NINE).map((each) => each.address)).toEqual(['https://d.example/']);
    expect(allowed(by, all, NINE + 2000).map((each) => each.title)).toEqual(['a', 'd']);
    expect(allowed({ ...by, paused: true }, all, NINE)).toEqual([]);
    expect(isOut(sites, 'goodnews.example', NINE)).toBe(false);
  });

  it('is sealed as soon as it is known for whom, the oldest making room for the newest in the end', async () => {
    const keys = await makeLineKeys();
    const memory = { ...NOTHING, unsealed: [seen('a')] };
    expect(await seal(shelf(), memory, NINE)).toEqual({ shelf: shelf(), memory });
    const welcome = { publicKey: await publicLineKey(keys), recording: recordingOf(captureDefaults, 0, []) };
    const full = shelf({ welcome, lines: Array.from({ length: 50_000 }, () => 'old'), first: 7 });
    const sealed = await seal(full, memory, NINE);
    expect([sealed.memory.unsealed, sealed.shelf.first, sealed.shelf.lines.length]).toEqual([[], 8, 50_000]);
    expect(JSON.parse((await openLine(keys, sealed.shelf.lines.at(-1)!))!)).toEqual(seen('a'));
    expect(JSON.stringify(sealed.shelf)).not.toContain('hire.example');
  });
});

describe('what is sent', () => {
  let listening: Server | null = null;
  afterEach(() => listening?.close());
  /** A server that answers as told, and what it was sent. */
  async function listen(answer: (path: string, body: { first: number; sealed: string[] }) => [number, unknown]) {
    listening = createServer((request, response) => {
      let text = '';
      request.on('data', (part: Buffer) => (text += part.toString()));
      request.on('end', () => {
        const [status, body] = answer(request.url!, JSON.parse(text) as { first: number; sealed: string[] });
        response.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
      });
    });
    await new Promise<void>((done) => listening!.listen(0, '127.0.0.1', done));
    return `http://127.0.0.1:${(listening.address() as AddressInfo).port}`;
  }

  it('goes in batches, each once, and stays where nobody takes it', async () => {
    const lines = Array.from({ length: 1200 }, (_, at) => `line ${at + 1}`);
    const taken: number[] = [];
    const server = await listen((_, { first, sealed }) => {
      if (first > 900) return [507, {}];
      taken.push(first, sealed.length);
      return [200, { upTo: first + sealed.length - 1 }];
    });
    const left = await send(shelf({ server, lines, first: 1 }));
    expect(taken).toEqual([1, 500, 501, 500]);
    expect([left.first, left.lines.length, left.lines[0]]).toEqual([1001, 200, 'line 1001']);
    expect(await send(shelf({ lines }))).toMatchObject({ first: 1, lines });
  });

  it('is given up where it is refused for good, and goes on behind it', async () => {
    const server = await listen((_, { first, sealed }) =>
      first === 1 ? [400, {}] : [200, { upTo: first + sealed.length - 1 }],
    );
    const left = await send(shelf({ server, lines: Array.from({ length: 600 }, () => 'x') }));
    expect([left.first, left.lines]).toEqual([601, []]);
  });

  it('follows what Half Penny says, and throws away what waits after a wiping', async () => {
    const recording = recordingOf(captureDefaults, 5, []);
    let welcome: object | null = null;
    const server = await listen(() => [200, { welcome }]);
    expect((await greet(shelf({ server }), 'Chromium')).trouble).toContain('has not been opened');
    welcome = { publicKey: btoa('key'), recording };
    const heard = await greet(shelf({ server, lines: ['a', 'b'], first: 3 }), 'Chromium');
    expect(heard).toMatchObject({ welcome, lines: [], first: 5, trouble: '' });
    const again = await greet({ ...heard, lines: ['c'] }, 'Chromium');
    expect(again).toMatchObject({ lines: ['c'], first: 5 });
  });

  it('says in words what is wrong', async () => {
    expect((await greet(shelf({ key: '' }), 'Chromium')).trouble).toContain('Not paired yet');
    expect((await greet(shelf(), 'Chromium')).trouble).toContain('Nobody answers at http://127.0.0.1:9');
    const server = await listen((path) => [path === '/activity/hello' ? 401 : 200, {}]);
    expect((await greet(shelf({ server }), 'Chromium')).trouble).toContain('pairing key is wrong');
  });
});
