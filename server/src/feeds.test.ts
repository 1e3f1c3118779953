import Fastify, { type FastifyInstance } from 'fastify';
import { createServer, type RequestListener, type Server } from 'node:http';
import { mkdtempSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ownPage, SECRET_HEAD } from './door';
import { addFeeds } from './feeds';

const CALENDAR = 'BEGIN:VCALENDAR\r\nVERSION:2.0\r\nEND:VCALENDAR\r\n';
const own = { [SECRET_HEAD]: 'abcdefgh' };
let folder: string;
let server: FastifyInstance;
let elsewhere: Server;
let answer: RequestListener;
let address: string;
let now: number;

const start = () => {
  server = Fastify();
  addFeeds(server, folder, ownPage('abcdefgh', 'http://127.0.0.1:4399'), () => now);
};
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'half-penny-feeds-'));
  now = Date.parse('2026-11-12T09:00:00Z');
  start();
  elsewhere = createServer((request, response) => answer(request, response));
  await new Promise<void>((done) => elsewhere.listen(0, '127.0.0.1', done));
  address = `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/private/calendar.ics`;
});
afterEach(async () => {
  elsewhere.close();
  await server.close();
});

interface Told {
  calendars: { id: string; version: number; fault: string | null; fetched: number }[];
  message?: string;
}
const ask = async (url: string, payload: object = {}) =>
  (await server.inject({ method: 'POST', url, headers: own, payload })).json<Told>();
const add = (to: string) => ask('/calendars', { address: to });

describe('a calendar by address', () => {
  it('is fetched, kept for its owner alone, and given to the page; unchanged it is not sent again', async () => {
    let sent = 0;
    answer = (request, response) => {
      if (request.headers['if-none-match'] === '"1"') return response.writeHead(304).end();
      sent++;
      return response.writeHead(200, { etag: '"1"' }).end(CALENDAR);
    };
    const [feed] = (await add(address)).calendars;
    expect(feed).toMatchObject({ version: 1, fault: null, fetched: now });
    expect((await server.inject({ url: `/calendars/${feed!.id}`, headers: own })).body).toBe(CALENDAR);
    await ask('/calendars/fetch');
    start();
    expect((await ask('/calendars/fetch')).calendars[0]).toMatchObject({ version: 1, fault: null });
    expect(sent).toBe(1);
    for (const name of readdirSync(folder)) expect(statSync(join(folder, name)).mode & 0o777).toBe(0o600);
    expect((await ask('/calendars/forget', { id: feed!.id })).calendars).toEqual([]);
    expect(readdirSync(folder)).toEqual(['feeds.json']);
  });

  it('that changes is given under another version, and an old one stays while it cannot be had', async () => {
    answer = (_, response) => response.end(CALENDAR);
    const [feed] = (await add(address)).calendars;
    answer = (_, response) => response.writeHead(500).end();
    expect((await ask('/calendars/fetch')).calendars[0]).toMatchObject({ version: 1, fault: 'It answers with 500.' });
    answer = (_, response) => response.end(CALENDAR.replace('2.0', '2.1'));
    expect((await ask('/calendars/fetch')).calendars[0]).toMatchObject({ version: 2, fault: null });
    expect((await server.inject({ url: `/calendars/${feed!.id}`, headers: own })).body).toContain('2.1');
  });

  it.each([
    ['leads on for ever', (_: string) => ({ location: '/again' }), 'It leads on more than three times.'],
    ['leads to a file', (_: string) => ({ location: 'file:///etc/passwd' }), 'It leads to something that is no page.'],
  ])('that %s is told', async (_, head, fault) => {
    answer = (request, response) => response.writeHead(302, head(request.url!)).end();
    expect((await add(address)).calendars[0]).toMatchObject({ version: 0, fault });
  });

  it('that is none, is too large, or is nowhere is told', async () => {
    answer = (_, response) => response.end('<html>Sign in</html>');
    expect((await add(address)).calendars[0]!.fault).toBe('There is no calendar there.');
    answer = (_, response) => response.end(`BEGIN:VCALENDAR\n${'x'.repeat(6 << 20)}`);
    expect((await ask('/calendars/fetch')).calendars[0]!.fault).toBe('It is larger than 5 MB.');
    elsewhere.close();
    elsewhere.closeAllConnections();
    expect((await ask('/calendars/fetch')).calendars[0]!.fault).toContain('Nobody answers there');
  });

  it('is refused in words where it cannot be followed', async () => {
    answer = (_, response) => response.end(CALENDAR);
    for (const none of ['file:///etc/passwd', 'calendar', 'ftp://a.example/b.ics'])
      expect((await add(none)).message).toContain('begins with https://');
    await add(address);
    expect((await add(address)).message).toBe('This calendar is followed already.');
    expect((await server.inject({ url: '/calendars' })).statusCode).toBe(401);
    expect((await server.inject({ url: '/calendars/..%2ffeeds', headers: own })).statusCode).toBe(404);
  });

  it('is asked for again where what is kept of them is damaged', async () => {
    const warn = vi.spyOn(console, 'warn').mockReturnValue();
    writeFileSync(join(folder, 'feeds.json'), '{');
    start();
    expect((await server.inject({ url: '/calendars', headers: own })).json()).toEqual({ calendars: [] });
    expect(warn).toHaveBeenCalledOnce();
    warn.mockRestore();
  });
});

describe('the made-up calendar', () => {
  it('changes by the hour, and is not sent again within it', async () => {
    const get = (etag = '') => server.inject({ url: '/simulated/calendar.ics', headers: { 'if-none-match': etag } });
    const first = await get();
    expect(first.body).toContain('SUMMARY:Rig check');
    expect((await get(String(first.headers.etag))).statusCode).toBe(304);
    now += 3_600_000;
    const second = await get(String(first.headers.etag));
    expect([second.statusCode, second.body === first.body]).toEqual([200, false]);
    expect([first.body, second.body].filter((each) => each.includes('CANCELLED'))).toHaveLength(1);
  });
});
