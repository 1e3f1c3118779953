import Fastify, { type FastifyInstance } from 'fastify';
import { appendFileSync, existsSync, mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { addActivity } from './activity';
import { ownPage, SECRET_HEAD } from './door';
import { lockFolder } from './spool';

const NINE = Date.parse('2026-11-12T09:00:00Z');
const SECRET = 'abcdefgh';
const ADDRESS = 'http://127.0.0.1:4399';
let folder: string;
let server: FastifyInstance;
let key: string;

const start = () => {
  server = Fastify();
  addActivity(server, folder, ownPage(SECRET, ADDRESS));
  key = readFileSync(join(folder, 'pairing-key'), 'utf8').trim();
};
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'half-penny-activity-'));
  start();
});

const activity = (number: number) => ({
  from: NINE + number * 1000,
  to: NINE + number * 1000 + 500,
  kind: 'window',
  title: `w ${number}`,
});
const send = (first: number, count: number, more: { device?: string; key?: string; body?: unknown } = {}) =>
  server.inject({
    method: 'POST',
    url: '/activity',
    headers: { authorization: `Bearer ${more.key ?? key}` },
    payload: (more.body ?? {
      device: more.device ?? 'laptop',
      first,
      activities: Array.from({ length: count }, (_, index) => activity(first + index)),
    }) as object,
  });
const own = { [SECRET_HEAD]: SECRET };
const waiting = async () =>
  (await server.inject({ url: '/activity/waiting', headers: own })).json<{
    waiting: { device: string; first: number; activities: { title: string }[] } | null;
  }>().waiting;
const collected = (upTo: number, device = 'laptop') =>
  server.inject({ method: 'POST', url: '/activity/collected', headers: own, payload: { device, upTo } });
/** Collects everything, as a browser would, and tells the titles in order. */
async function collectAll(): Promise<string[]> {
  const titles: string[] = [];
  for (let batch; (batch = await waiting());) {
    titles.push(...batch.activities.map((each) => each.title));
    await collected(batch.first + batch.activities.length - 1, batch.device);
  }
  return titles;
}
const titles = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, index) => `w ${from + index}`);

describe('activity on its way to the browser', () => {
  it('comes once and in order, however often it is sent', async () => {
    expect((await send(1, 5)).json()).toEqual({ upTo: 5 });
    expect((await send(1, 5)).json()).toEqual({ upTo: 5 });
    expect((await send(4, 4)).json()).toEqual({ upTo: 7 });
    expect(await collectAll()).toEqual(titles(1, 7));
    expect((await send(2, 3)).json()).toEqual({ upTo: 7 });
    expect(await collectAll()).toEqual([]);
    expect(statSync(join(folder, 'spool', 'laptop.jsonl')).size).toBe(0);
  });

  it('survives a restart at any moment, and a line that was cut off', async () => {
    await send(1, 3);
    await collected(2);
    start();
    await send(4, 2);
    appendFileSync(join(folder, 'spool', 'laptop.jsonl'), '{"device":"laptop","first":6,"activi');
    start();
    expect((await send(6, 1)).json()).toEqual({ upTo: 6 });
    expect(await collectAll()).toEqual(titles(3, 6));
    start();
    expect((await send(6, 2)).json()).toEqual({ upTo: 7 });
    expect(await collectAll()).toEqual(titles(7, 7));
  });

  it('is given out in parts, each until it is said to be kept', async () => {
    for (let first = 1; first < 5000; first += 1000) await send(first, 1000);
    expect((await waiting())!.activities).toHaveLength(2000);
    expect((await waiting())!.first).toBe(1);
    await collected(700);
    expect((await waiting())!.first).toBe(701);
    expect((await collectAll()).length).toBe(4300);
  });

  it('is of several devices, each with numbers of its own', async () => {
    await send(1, 2);
    await send(1, 3, { device: 'tablet' });
    expect((await collectAll()).length).toBe(5);
  });

  it('is refused whole where it is wrong, with the place', async () => {
    const wrong = await send(1, 0, {
      body: { device: 'laptop', first: 1, activities: [activity(1), { ...activity(2), to: NINE - 1 }] },
    });
    expect([wrong.statusCode, wrong.json()]).toEqual([
      400,
      { message: 'It ends before it begins.', path: 'activities/1/to' },
    ]);
    expect((await send(1, 0, { body: { device: '../x', first: 1, activities: [activity(1)] } })).statusCode).toBe(400);
    expect(await waiting()).toBeNull();
  });

  it('needs the key; a wrong one is answered slowly and seen', async () => {
    const warn = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
    const before = performance.now();
    const refused = await send(1, 1, { key: 'guess' });
    expect([refused.statusCode, refused.json<{ message: string }>().message]).toEqual([
      401,
      expect.stringContaining('pairing key'),
    ]);
    expect(performance.now() - before).toBeGreaterThan(200);
    expect(warn).toHaveBeenCalledOnce();
    warn.mockRestore();
    const next = (await server.inject({ method: 'POST', url: '/activity/key', headers: own })).json<{ key: string }>()
      .key;
    expect(next).not.toBe(key);
    expect((await send(1, 1, { key: next })).statusCode).toBe(200);
  });

  it('is given to the application alone', async () => {
    for (const url of ['/activity/waiting', '/activity/key'])
      expect((await server.inject({ url })).statusCode).toBe(401);
  });

  it('survives damaged lines, states and keys: each is put aside, and the rest is served', async () => {
    const warned = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
    await send(1, 2);
    const spool = join(folder, 'spool', 'laptop.jsonl');
    appendFileSync(spool, '{"device":"laptop","first":"three"}\nno line at all\n');
    start();
    await send(3, 1);
    writeFileSync(join(folder, 'spool', 'laptop.state'), '{"last":');
    writeFileSync(join(folder, 'pairing-key'), 'short\n');
    const before = key;
    start();
    expect(key).not.toBe(before);
    expect(await collectAll()).toEqual(titles(1, 3));
    expect(readFileSync(join(folder, 'spool', 'laptop.damaged'), 'utf8')).toContain('no line at all');
    expect(existsSync(join(folder, 'spool', 'laptop.state.damaged'))).toBe(true);
    expect(warned.mock.calls.map(([message]) => String(message)).join(' ')).toMatch(
      /2 damaged lines of laptop.*state of laptop.*pairing key cannot be read/s,
    );
    warned.mockRestore();
  });

  it('takes no more than there is room for, and again once it was collected', async () => {
    server = Fastify();
    addActivity(server, folder, ownPage(SECRET, ADDRESS), { mostBytes: 1000 });
    expect((await send(1, 5)).statusCode).toBe(200);
    const full = await send(6, 10);
    expect([full.statusCode, full.json<{ message: string }>().message]).toEqual([
      507,
      expect.stringContaining('wait to be collected'),
    ]);
    expect(await collectAll()).toEqual(titles(1, 5));
    expect((await send(6, 3)).json()).toEqual({ upTo: 8 });
  });

  it('puts nothing on top of what nobody has collected for three months', async () => {
    let now = Date.parse('2026-08-12T12:00:00Z');
    const build = () => {
      server = Fastify();
      addActivity(server, folder, ownPage(SECRET, ADDRESS), { now: () => now });
    };
    build();
    expect((await send(1, 2)).statusCode).toBe(200);
    now += 92 * 86_400_000;
    build();
    expect((await send(3, 1)).statusCode).toBe(200);
    now += 1;
    const old = await send(4, 1);
    expect([old.statusCode, old.json<{ message: string }>().message]).toEqual([
      507,
      'Activity has waited since 2026-08-12 to be collected, and no more is taken. Open Half Penny in the browser; it collects it.',
    ]);
    // The first batch alone was old.
    await collected(2);
    expect((await send(4, 1)).json()).toEqual({ upTo: 4 });
    expect(await collectAll()).toEqual(titles(3, 4));
  });

  it('never makes a path of what was sent, nor reads a file that is of no device', async () => {
    for (const device of ['../laptop', 'a/b', '..', 'x'.repeat(65), 'laptop.state']) {
      expect((await send(1, 1, { device })).statusCode).toBe(400);
      expect((await collected(1, device)).statusCode).toBe(400);
    }
    writeFileSync(join(folder, 'spool', 'odd name.jsonl'), 'x\n');
    start();
    expect(await waiting()).toBeNull();
    expect(readFileSync(join(folder, 'spool', 'odd name.jsonl'), 'utf8')).toBe('x\n');
    // A device that never sent anything has nothing that could be collected.
    expect((await collected(7, 'stranger')).statusCode).toBe(204);
    expect(existsSync(join(folder, 'spool', 'stranger.state'))).toBe(false);
  });

  it('is worked on by one server at a time', () => {
    const unlock = lockFolder(folder);
    writeFileSync(join(folder, 'in-use'), `${process.ppid}\n`);
    expect(() => lockFolder(folder)).toThrow(`Another Half Penny server (process ${process.ppid}) works on`);
    // One that was killed holds nothing.
    writeFileSync(join(folder, 'in-use'), '4194304\n');
    expect(() => lockFolder(folder)).not.toThrow();
    unlock();
    expect(existsSync(join(folder, 'in-use'))).toBe(false);
  });
});

describe('devices', () => {
  const welcome = {
    publicKey: btoa('a key'),
    recording: {
      paused: false,
      wipedAt: 0,
      neverPrograms: ['Chess'],
      neverSites: [],
      neverFolders: [],
      neverWords: [],
      ownAddresses: [],
      addressTo: 'path',
      rules: [],
    },
  };
  const about = { device: 'laptop', name: 'Agent on X11', sees: ['a'], lacks: [], paused: false, ended: false };
  const hello = (more: object = {}, pairing = key) =>
    server.inject({
      method: 'POST',
      url: '/activity/hello',
      headers: { authorization: `Bearer ${pairing}` },
      payload: { ...about, ...more },
    });
  const tell = (payload: object) =>
    server.inject({ method: 'POST', url: '/activity/recording', headers: own, payload });
  const devices = async () =>
    (await server.inject({ url: '/activity/devices', headers: own })).json<{
      devices: { device: string; heard: number; ended: boolean }[];
    }>().devices;

  it('are told what the browser said that they may record, after a restart too', async () => {
    expect((await hello()).json()).toEqual({ welcome: null });
    expect((await tell(welcome)).statusCode).toBe(204);
    expect((await hello()).json()).toEqual({ welcome });
    start();
    expect((await hello()).json()).toEqual({ welcome });
    expect(statSync(join(folder, 'devices/recording.json')).mode & 0o777).toBe(0o600);
  });

  it('are listed with when they were heard, until they are forgotten', async () => {
    await hello();
    await hello({ device: 'desk', ended: true });
    start();
    expect(new Map((await devices()).map((each) => [each.device, each.ended]))).toEqual(
      new Map([
        ['laptop', false],
        ['desk', true],
      ]),
    );
    const forget = {
      method: 'POST',
      url: '/activity/devices/forget',
      headers: own,
      payload: { device: 'desk' },
    } as const;
    expect((await server.inject(forget)).statusCode).toBe(204);
    expect((await devices()).map((each) => each.device)).toEqual(['laptop']);
  });

  it('are not more than a hundred: the one that was heard longest ago makes room', async () => {
    for (let number = 0; number < 101; number++) await hello({ device: `d${number}` });
    const names = (await devices()).map((each) => each.device);
    expect([names.length, names.includes('d100')]).toEqual([100, true]);
  });

  it('and what they are told are for who may know: a wrong key, another page, a wrong shape are refused', async () => {
    expect((await hello({}, 'wrong')).statusCode).toBe(401);
    expect((await server.inject({ url: '/activity/devices' })).statusCode).toBe(401);
    expect((await server.inject({ method: 'POST', url: '/activity/recording', payload: welcome })).statusCode).toBe(
      401,
    );
    expect((await hello({ name: '' })).json()).toMatchObject({ path: 'name' });
    expect((await tell({ ...welcome, recording: { ...welcome.recording, addressTo: 'all' } })).json()).toMatchObject({
      path: 'recording/addressTo',
    });
  });

  it('may seal what they send: it waits as it came, in order with the rest', async () => {
    const sealed = [btoa('one'), btoa('two')];
    expect((await send(1, 0, { body: { device: 'laptop', first: 1, sealed } })).json()).toEqual({ upTo: 2 });
    await send(3, 1);
    start();
    expect(await waiting()).toMatchObject({ first: 1, activities: [...sealed, { title: 'w 3' }] });
    expect((await send(1, 0, { body: { device: 'laptop', first: 4, sealed: ['not base64!'] } })).json()).toMatchObject({
      path: 'sealed/0',
    });
  });

  it('begin with nothing waiting once the trail was wiped, and go on with their numbers', async () => {
    await send(1, 5);
    expect((await server.inject({ method: 'POST', url: '/activity/wiped', headers: own })).statusCode).toBe(204);
    expect(await waiting()).toBeNull();
    expect(readFileSync(join(folder, 'spool/laptop.jsonl'), 'utf8')).toBe('');
    await send(4, 3);
    expect(await collectAll()).toEqual(['w 6']);
  });

  it('are asked again where what is kept of them is damaged', async () => {
    const warn = vi.spyOn(console, 'warn').mockReturnValue();
    await hello();
    await tell(welcome);
    writeFileSync(join(folder, 'devices/devices.json'), '[{');
    writeFileSync(join(folder, 'devices/recording.json'), '{}');
    start();
    expect([await devices(), (await hello()).json()]).toEqual([[], { welcome: null }]);
    expect(warn).toHaveBeenCalledTimes(2);
    warn.mockRestore();
  });
});
