import Fastify, { type FastifyInstance } from 'fastify';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { ownPage, SECRET_HEAD } from './door';
import { addTracker } from './tracker';

const SECRET = 'abcdefgh';
const ADDRESS = 'http://127.0.0.1:4399';
let folder: string;
let server: FastifyInstance;

const start = () => {
  server = Fastify();
  addTracker(server, ownPage(SECRET, ADDRESS), { folder: join(folder, 'tracker'), address: ADDRESS });
};
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'tracker-'));
  start();
});
afterEach(async () => {
  await server.close();
  rmSync(folder, { recursive: true });
});

interface Answer {
  tasks: { id: string; number: string; title: string; state: string; closed: boolean }[];
  cursor: string;
  more: boolean;
}
const read = async (after = '', limit = 200) =>
  (await server.inject(`/tracker/tasks?after=${after}&limit=${limit}`)).json<Answer>();
const ask = (method: 'PUT' | 'POST', url: string, payload: object, headers: object = { [SECRET_HEAD]: SECRET }) =>
  server.inject({ method, url, payload, headers: headers as Record<string, string> });
const post = (url: string, fields: Record<string, string>, headers: Record<string, string> = {}) =>
  server.inject({
    method: 'POST',
    url,
    headers: { 'content-type': 'application/x-www-form-urlencoded', ...headers },
    payload: new URLSearchParams(fields).toString(),
  });

describe('the simulated tracker', () => {
  it('tells everything page by page, and then what changed', async () => {
    const all = await read();
    expect(all.tasks.length).toBeGreaterThan(10);
    const paged: Answer['tasks'] = [];
    for (let cursor = ''; ;) {
      const page = await read(cursor, 4);
      paged.push(...page.tasks);
      cursor = page.cursor;
      if (!page.more) break;
    }
    expect(paged).toEqual(all.tasks);
    expect(await read(all.cursor)).toMatchObject({ tasks: [], cursor: all.cursor, more: false });
    const [first] = all.tasks;
    expect((await ask('PUT', `/tracker/tasks/${first!.id}`, { closed: true, state: 'Done' })).statusCode).toBe(204);
    const changed = await read(all.cursor);
    expect(changed.tasks).toEqual([{ ...first, closed: true, state: 'Done' }]);
    expect((await server.inject('/tracker/clients')).json()).toMatchObject({ more: false });
    expect((await server.inject('/tracker/tasks?after=x')).statusCode).toBe(400);
  });

  it('keeps what it was told over a restart', async () => {
    const { cursor, tasks } = await read();
    await ask('PUT', `/tracker/tasks/${tasks[0]!.id}`, { title: 'Something else' });
    await server.close();
    start();
    expect((await read(cursor)).tasks).toMatchObject([{ title: 'Something else' }]);
    expect((await ask('PUT', '/tracker/begin', {})).statusCode).toBe(204);
    expect((await read()).tasks).toEqual(tasks);
  });

  it('takes hours by revision, however often they come, and refuses those of no task', async () => {
    const { tasks } = await read();
    const hours = (revision: number, seconds: number, task = tasks[0]!.id) => ({
      hours: [{ id: 'entry', revision, task, day: '2026-11-12', seconds, member: 'Asha Quill', note: 'Bridge' }],
    });
    const tell = async (...of: Parameters<typeof hours>) =>
      (await ask('POST', '/tracker/hours', hours(...of))).json<unknown>();
    expect(await tell(1, 600)).toEqual({ taken: ['entry'], refused: [] });
    await tell(2, 900);
    await tell(1, 600);
    const page = async () => (await server.inject('/tracker')).body;
    expect(await page()).toMatch(/2026-11-12, Asha Quill: 0:15 on/);
    expect(await tell(3, 60, 'none')).toEqual({ taken: [], refused: [{ id: 'entry', why: 'There is no task none.' }] });
    await tell(4, 0);
    expect(await page()).toContain('None yet.');
    expect((await ask('POST', '/tracker/hours', hours(0, 600))).json()).toMatchObject({
      message: expect.stringMatching(/^hours\/0\/revision: /) as string,
    });
    expect((await ask('POST', '/tracker/hours', hours(1, 600), {})).statusCode).toBe(401);
  });

  it('has each of its faults as often as asked', async () => {
    const set = (kind: string) => ask('PUT', '/tracker/fault', { kind });
    await set('error');
    expect((await server.inject('/tracker/tasks')).statusCode).toBe(500);
    expect((await server.inject('/tracker/tasks')).statusCode).toBe(200);
    await set('duplicate');
    const { tasks } = await read('', 5);
    expect(tasks.map(({ id }) => id)).toHaveLength(8);
    await set('malformed');
    expect((await read()).tasks[0]!.id).toBeNull();
    await set('lost');
    const { tasks: all } = await read();
    expect(all[0]!.id).not.toBeNull();
    expect((await set('loud')).statusCode).toBe(400);
  });

  it('is changed by forms of its own page alone', async () => {
    const { tasks, cursor } = await read();
    const { id } = tasks[0]!;
    const fields = { title: 'New words', state: 'Done', hours: '2.5' };
    expect((await post(`/tracker/tasks/${id}`, fields, { 'sec-fetch-site': 'cross-site' })).statusCode).toBe(403);
    expect((await read(cursor)).tasks).toEqual([]);
    expect((await post(`/tracker/tasks/${id}`, fields)).statusCode).toBe(303);
    expect((await read(cursor)).tasks).toMatchObject([{ title: 'New words', closed: true, estimate: 9000 }]);
    expect((await post(`/tracker/tasks/${id}`, { ...fields, hours: 'two' })).statusCode).toBe(400);
    await post('/tracker/tasks', { project: 'board-wsr', title: '<b>Bold</b>' });
    const later = await read(cursor);
    expect(later.tasks.at(-1)).toMatchObject({ number: 'WSR-27', title: '<b>Bold</b>', closed: false });
    expect((await server.inject('/tracker')).body).not.toContain('<b>Bold');
    await post('/tracker/clients/board-c3', { gone: 'yes' });
    expect((await server.inject('/tracker/clients')).json<{ clients: object[] }>().clients.at(-1)).toMatchObject({
      id: 'board-c3',
      gone: true,
    });
  });
});
