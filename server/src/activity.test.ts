import Fastify, { type FastifyInstance } from 'fastify';
import { appendFileSync, mkdtempSync, readFileSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { addActivity } from './activity';

const NINE = Date.parse('2026-11-12T09:00:00Z');
let folder: string;
let server: FastifyInstance;
let key: string;

const start = () => {
  server = Fastify();
  addActivity(server, folder);
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
const own = { 'x-half-penny': 'application' };
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
      expect((await server.inject({ url })).statusCode).toBe(403);
  });
});
