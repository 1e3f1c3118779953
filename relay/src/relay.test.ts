import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { request as httpRequest } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { hashOfRow, LOG_START, type LogHead, type LogRow } from '@half-penny/core/shared-log';
import type { FastifyInstance } from 'fastify';
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { makeRelay, type RelayOptions } from './app';
import { moveAll } from './move';
import { openDatabase, type Database } from './sql';
import { TestDevice } from './testing/device';
import { scratchPostgres, type ScratchPostgres } from './testing/postgres';

let postgres: ScratchPostgres;
let folder: string;
const relays: FastifyInstance[] = [];

// Beginning one takes seconds, so the tests share it, each with books of its own.
let pglite: Database;

beforeAll(async () => {
  postgres = await scratchPostgres();
  pglite = await openDatabase({ folder: undefined });
  folder = mkdtempSync(join(tmpdir(), 'half-penny-relay-'));
});
afterAll(async () => {
  await Promise.all([postgres.stop(), pglite.close()]);
  rmSync(folder, { recursive: true, force: true });
});
afterEach(async () => {
  await Promise.all(relays.splice(0).map((relay) => relay.close()));
});

const open = {
  PGlite: (options?: RelayOptions) => begin({ ...pglite, close: () => Promise.resolve() }, options),
  PostgreSQL: async (options?: RelayOptions) => begin(await openDatabase({ address: postgres.url }), options),
};

async function begin(database: Database, options?: RelayOptions): Promise<FastifyInstance> {
  const relay = await makeRelay(database, { patience: 60_000, ...options });
  relays.push(relay);
  return relay;
}

const headOf = (rows: readonly LogRow[]): LogHead => ({ number: rows.at(-1)!.number, hash: hashOfRow(rows.at(-1)!) });

describe.each(['PGlite', 'PostgreSQL'] as const)('on %s', (kind) => {
  let relay: FastifyInstance;
  let laptop: TestDevice;
  let phone: TestDevice;
  let book: string;
  let path: string;

  beforeEach(async () => {
    relay = await open[kind]();
    laptop = new TestDevice(relay);
    phone = new TestDevice(relay);
    book = await laptop.found();
    path = `/books/${book}`;
  });

  const letIn = () => laptop.ask('POST', `${path}/writers`, laptop.says(book, 2, phone));

  it('keeps rows in one order: who comes second hears what came in between', async () => {
    await letIn();
    const first = laptop.rows(book, LOG_START, 'one', 'two');
    expect(await laptop.append(book, LOG_START, first)).toMatchObject({ status: 200, body: { head: headOf(first) } });
    const late = phone.rows(book, LOG_START, 'three');
    expect(await phone.append(book, LOG_START, late)).toMatchObject({
      status: 409,
      body: { code: 'head has moved', head: headOf(first), rows: first },
    });
    const third = phone.rows(book, headOf(first), 'three');
    expect((await phone.append(book, headOf(first), third)).status).toBe(200);
    const read = await laptop.ask('GET', `${path}/rows?after=1`);
    expect(read.body).toEqual({ head: headOf(third), rows: [first[1], third[0]] });
    expect((await laptop.ask('GET', path)).body).toMatchObject({
      epoch: 1,
      base: 0,
      head: headOf(third),
      snapshot: null,
    });
  });

  it('puts each of many rows at once into its place, whoever else does', async () => {
    await letIn();
    let taken = 0;
    const run = async (device: TestDevice) => {
      let head = LOG_START;
      for (let done = 0; done < 15;) {
        const rows = device.rows(book, head, `${done}`);
        const answer = await device.append(book, head, rows);
        if (answer.status === 200) {
          done++;
          taken++;
          head = headOf(rows);
        } else head = answer.body.head as LogHead;
      }
    };
    await Promise.all([run(laptop), run(phone)]);
    const { body } = await laptop.ask('GET', `${path}/rows`);
    expect((body.rows as LogRow[]).map(({ number }) => number)).toEqual(Array.from({ length: taken }, (_, i) => i + 1));
    expect(taken).toBe(30);
  });

  it.each<[string, (rows: LogRow[]) => LogRow[]]>([
    ['numbered otherwise', ([a, b]) => [a!, { ...b!, number: 4 }]],
    ['not bound to each other', ([a, b]) => [a!, { ...b!, previous: 'ab'.repeat(32) }]],
    ['another device’s', ([a]) => [{ ...a!, writer: 'ab'.repeat(32) }]],
    ['of two epochs', ([a, b]) => [a!, { ...b!, epoch: 2 }]],
    ['of an epoch that has not begun', ([a]) => [{ ...a!, epoch: 2 }]],
  ])('refuses rows that are %s', async (_what, change) => {
    const rows = change(laptop.rows(book, LOG_START, 'one', 'two'));
    expect(await laptop.append(book, LOG_START, rows)).toMatchObject({
      status: 400,
      body: { code: 'does not follow' },
    });
    expect((await laptop.ask('GET', `${path}/rows`)).body).toEqual({ head: LOG_START, rows: [] });
  });

  it('lets nobody write, read or wait whom no writer let in, and nobody whom one removed', async () => {
    const refused = { status: 403, body: { code: 'not let in' } };
    for (const [method, at] of [
      ['GET', path],
      ['GET', `${path}/rows`],
      ['GET', `${path}/wait`],
      ['GET', `${path}/writers`],
      ['GET', path.replace(/.$/, (last) => (last === '0' ? '1' : '0'))],
    ] as const)
      expect(await phone.ask(method, at)).toMatchObject(refused);
    expect(await phone.append(book, LOG_START, phone.rows(book, LOG_START, 'one'))).toMatchObject(refused);
    expect(await phone.ask('POST', `${path}/writers`, phone.says(book, 2, phone))).toMatchObject(refused);
    expect(await phone.ask('POST', '/books', phone.says(book, 1, phone))).toMatchObject(refused);
    expect((await letIn()).status).toBe(201);
    // It was let in lately: that does not help it once it is removed.
    const first = laptop.rows(book, LOG_START, 'none');
    expect((await laptop.append(book, { number: 9, hash: '' }, first)).status).toBe(400);
    expect((await phone.ask('GET', path)).status).toBe(200);
    expect((await phone.ask('POST', `${path}/writers`, phone.says(book, 3, laptop, false))).status).toBe(201);
    expect(await laptop.ask('GET', path)).toMatchObject(refused);
    expect(await laptop.append(book, LOG_START, laptop.rows(book, LOG_START, 'one'))).toMatchObject(refused);
    const { writers } = (await phone.ask('GET', `${path}/writers`)).body as { writers: object[] };
    expect(writers).toHaveLength(3);
  });

  it('refuses what is not signed, signed by another, old, or here before', async () => {
    const plain = await relay.inject({ method: 'GET', url: path });
    expect([plain.statusCode, plain.json()]).toMatchObject([401, { code: 'not signed' }]);
    const other = await laptop.signed('GET', `${path}/rows`, new Uint8Array());
    expect(await laptop.ask('GET', path, undefined, other)).toMatchObject({
      status: 401,
      body: { code: 'wrong signature' },
    });
    const early = new TestDevice(relay, () => Date.now() - 6 * 60_000);
    expect(await early.ask('GET', '/mailbox')).toMatchObject({ status: 401, body: { code: 'wrong time' } });
    const caught = await laptop.signed('GET', path, new Uint8Array());
    expect((await laptop.ask('GET', path, undefined, caught)).status).toBe(200);
    expect(await laptop.ask('GET', path, undefined, caught)).toMatchObject({
      status: 409,
      body: { code: 'seen before' },
    });

    const rows = laptop.rows(book, LOG_START, 'one');
    const content = { after: LOG_START, rows };
    const bytes = new TextEncoder().encode(JSON.stringify(content));
    const once = await laptop.signed('POST', `${path}/rows`, bytes);
    expect((await laptop.ask('POST', `${path}/rows`, content, once)).status).toBe(200);
    expect(await laptop.ask('POST', `${path}/rows`, content, once)).toMatchObject({ body: { code: 'seen before' } });
  });

  it.each([
    ['no JSON', new TextEncoder().encode('{')],
    ['no rows', { after: LOG_START, rows: [] }],
    ['a row with more', { after: LOG_START, rows: [{ text: 'x' }] }],
    ['a head that is none', { after: { number: -1, hash: '' }, rows: [] }],
  ])('says what it cannot read: %s', async (_what, content) => {
    expect(await laptop.ask('POST', `${path}/rows`, content)).toMatchObject({
      status: 400,
      body: { code: 'unreadable' },
    });
  });

  it('gives a book no more room than it may have, and one device no more turns', async () => {
    await relay.close();
    relay = await open[kind]({ quota: 2000, requestsAMinute: 8 });
    const small = new TestDevice(relay);
    const own = await small.found();
    const rows = small.rows(own, LOG_START, 'x'.repeat(1000));
    expect((await small.append(own, LOG_START, rows)).status).toBe(200);
    const more = small.rows(own, headOf(rows), 'x'.repeat(1000));
    expect(await small.append(own, headOf(rows), more)).toMatchObject({
      status: 507,
      body: { code: 'no room', quota: 2000 },
    });
    const bytes = new Uint8Array(1500);
    const hash = createHash('sha256').update(bytes).digest('hex');
    expect(await small.ask('PUT', `/books/${own}/blobs/${hash}`, bytes)).toMatchObject({ body: { code: 'no room' } });
    let last = 200;
    for (let turn = 0; turn < 8; turn++) last = (await small.ask('GET', `/books/${own}`)).status;
    expect(last).toBe(429);
    expect((await new TestDevice(relay).ask('GET', '/mailbox')).status).toBe(200);
    expect((await relay.inject('/health')).json()).toEqual({ status: 'ok' });
  });

  it('keeps sealed receipts by what their device calls them, and what is there stays', async () => {
    const bytes = new TextEncoder().encode('sealed receipt');
    const hash = createHash('sha256').update(bytes).digest('hex');
    expect((await laptop.ask('PUT', `${path}/blobs/${hash}`, bytes)).status).toBe(204);
    expect((await laptop.ask('PUT', `${path}/blobs/${hash}`, bytes)).status).toBe(204);
    expect((await laptop.ask('GET', path)).body.bytes).toBe(bytes.length);
    expect((await laptop.ask('GET', `${path}/blobs/${hash}`)).bytes.toString()).toBe('sealed receipt');
    const other = 'ab'.repeat(32);
    expect((await laptop.ask('PUT', `${path}/blobs/${hash}`, new TextEncoder().encode('another'))).status).toBe(204);
    expect((await laptop.ask('GET', `${path}/blobs/${hash}`)).bytes.toString()).toBe('sealed receipt');
    expect(await laptop.ask('GET', `${path}/blobs/${other}`)).toMatchObject({ status: 404 });
  });

  const snapshotOf = async (at: LogHead, epoch: number, pieces: readonly string[]) => {
    const begun = await laptop.ask('POST', `${path}/snapshots`, { ...at, epoch, pieces: pieces.length });
    const id = begun.body.id as string;
    for (const [piece, text] of pieces.entries())
      await laptop.ask('PUT', `${path}/snapshots/${id}/pieces/${piece}`, new TextEncoder().encode(text));
    return id;
  };

  it('gives a device that is new the newest whole workspace, in pieces', async () => {
    const first = laptop.rows(book, LOG_START, 'one');
    await laptop.append(book, LOG_START, first);
    const half = await snapshotOf(LOG_START, 1, ['a']);
    await laptop.ask('POST', `${path}/snapshots`, { ...headOf(first), epoch: 1, pieces: 2 });
    expect((await laptop.ask('GET', path)).body.snapshot).toBeNull();
    expect((await laptop.ask('POST', `${path}/snapshots/${half}/finish`)).status).toBe(204);
    const whole = await snapshotOf(headOf(first), 1, ['lamp', 'lantern']);
    expect((await laptop.ask('POST', `${path}/snapshots/${whole}/finish`)).status).toBe(204);
    expect((await laptop.ask('GET', path)).body.snapshot).toMatchObject({
      id: whole,
      ...headOf(first),
      pieces: 2,
      writer: laptop.key,
    });
    const piece = await laptop.ask('GET', `${path}/snapshots/${whole}/pieces/1`);
    expect(piece.bytes.toString()).toBe('lantern');
    expect((await laptop.ask('GET', `${path}/snapshots/${half}/pieces/0`)).status).toBe(404);
    const missing = await laptop.ask('POST', `${path}/snapshots`, { ...headOf(first), epoch: 1, pieces: 2 });
    expect(await laptop.ask('POST', `${path}/snapshots/${missing.body.id as string}/finish`)).toMatchObject({
      status: 400,
      body: { message: '2 of 2 pieces are missing.' },
    });
  });

  it('drops what was before an epoch, and takes rows of the new one alone', async () => {
    const first = laptop.rows(book, LOG_START, 'one', 'forgotten');
    await laptop.append(book, LOG_START, first);
    const at = headOf(first);
    const id = await snapshotOf(at, 2, ['without whom is forgotten']);
    const wanted = { epoch: 2, at, snapshot: id };
    expect((await laptop.ask('POST', `${path}/epochs`, wanted)).status).toBe(400);
    await laptop.ask('POST', `${path}/snapshots/${id}/finish`);
    expect(await laptop.ask('POST', `${path}/epochs`, { ...wanted, at: LOG_START })).toMatchObject({ status: 400 });
    expect((await laptop.ask('POST', `${path}/epochs`, wanted)).status).toBe(204);
    expect(await laptop.ask('POST', `${path}/epochs`, wanted)).toMatchObject({ status: 409 });
    expect(await laptop.ask('GET', `${path}/rows?after=1`)).toMatchObject({ status: 404, body: { base: 2 } });
    expect((await laptop.ask('GET', path)).body).toMatchObject({ epoch: 2, base: 2, bytes: 25 });
    expect(await laptop.append(book, at, laptop.rows(book, at, 'old'))).toMatchObject({
      status: 400,
      body: { epoch: 2 },
    });
    laptop.epoch = 2;
    const next = laptop.rows(book, at, 'new');
    expect((await laptop.append(book, at, next)).status).toBe(200);
    expect((await laptop.ask('GET', `${path}/rows?after=2`)).body.rows).toEqual(next);
  });

  it('keeps letters for whoever holds a key, and for nobody else', async () => {
    const bytes = new TextEncoder().encode('a sealed timesheet');
    const put = await phone.ask('POST', `/mailboxes/${laptop.key}`, bytes);
    expect(put.status).toBe(201);
    const id = put.body.id as string;
    expect((await phone.ask('GET', '/mailbox')).body).toEqual({ letters: [] });
    expect((await phone.ask('GET', `/mailbox/${id}`)).status).toBe(404);
    await phone.ask('DELETE', `/mailbox/${id}`);
    const { letters } = (await laptop.ask('GET', '/mailbox')).body as {
      letters: { id: string; bytes: number; at: number }[];
    };
    expect(letters).toMatchObject([{ id, bytes: bytes.length }]);
    expect(Math.abs(letters[0]!.at - Date.now())).toBeLessThan(60_000);
    expect((await laptop.ask('GET', `/mailbox/${id}`)).bytes.toString()).toBe('a sealed timesheet');
    await laptop.ask('DELETE', `/mailbox/${id}`);
    expect((await laptop.ask('GET', '/mailbox')).body).toEqual({ letters: [] });
  });

  it('counts what it does, and nothing of whom', async () => {
    await laptop.append(book, LOG_START, laptop.rows(book, LOG_START, 'one'));
    const { payload } = await relay.inject('/metrics');
    expect(payload).toContain('relay_rows_appended 1');
    expect(payload).toContain('route="/books/:book/rows",status="200"');
    expect(payload).not.toContain(book);
  });
});

it('moves from PGlite to PostgreSQL whole, and never onto something', async () => {
  const from = await open.PGlite();
  const laptop = new TestDevice(from);
  const book = await laptop.found();
  const rows = laptop.rows(book, LOG_START, 'one', 'two');
  await laptop.append(book, LOG_START, rows);
  const bytes = new TextEncoder().encode('sealed');
  await laptop.ask('PUT', `/books/${book}/blobs/${createHash('sha256').update(bytes).digest('hex')}`, bytes);
  await laptop.ask('POST', `/mailboxes/${laptop.key}`, bytes);
  const admin = await openDatabase({ address: postgres.url });
  await admin.query('CREATE DATABASE moved');
  await admin.close();
  const address = postgres.url.replace(/postgres$/, 'moved');
  const to = await openDatabase({ address });
  expect(await moveAll(pglite, to)).toBeGreaterThanOrEqual(7);
  await expect(moveAll(pglite, to)).rejects.toThrow('Something is kept there already.');
  Object.assign(laptop, { relay: await begin(to) });
  expect((await laptop.ask('GET', `/books/${book}/rows`)).body.rows).toEqual(rows);
  expect((await laptop.ask('GET', `/books/${book}`)).body.bytes).toBe(
    rows.reduce((sum, { sealed }) => sum + sealed.length / 2, bytes.length),
  );
  const { letters } = (await laptop.ask('GET', '/mailbox')).body as { letters: object[] };
  expect(letters).toHaveLength(1);
  const next = laptop.rows(book, headOf(rows), 'three');
  expect((await laptop.append(book, headOf(rows), next)).status).toBe(200);
});

describe('over the wire', () => {
  const listening = async (relay: FastifyInstance) => {
    await relay.listen({ host: '127.0.0.1', port: 0 });
    return (relay.server.address() as AddressInfo).port;
  };

  /** Waits for a book at a relay; resolves once it was told that it has grown. */
  const wait = async (device: TestDevice, port: number, book: string) => {
    const path = `/books/${book}/wait`;
    const headers = await device.signed('GET', path, new Uint8Array());
    const answer = await fetch(`http://127.0.0.1:${port}${path}`, { headers });
    expect(answer.headers.get('content-type')).toBe('text/event-stream');
    const reader = answer.body!.pipeThrough(new TextDecoderStream()).getReader();
    await reader.read();
    const told = async () => {
      for (let text = ''; ;) {
        const { value, done } = await reader.read();
        if (done) return 'ended';
        text += value;
        if (text.includes('data: grown')) return 'grown';
      }
    };
    return { told, leave: () => reader.cancel() };
  };

  it.each(['PGlite', 'PostgreSQL'] as const)('wakes whoever waits on %s', async (kind) => {
    const relay = await open[kind]();
    const port = await listening(relay);
    const laptop = new TestDevice(relay);
    const book = await laptop.found();
    const waiting = await wait(laptop, port, book);
    await laptop.append(book, LOG_START, laptop.rows(book, LOG_START, 'one'));
    expect(await waiting.told()).toBe('grown');
    expect((await relay.inject('/metrics')).payload).toContain('relay_waiting 1');
    const ended = waiting.told();
    await relay.close();
    relays.splice(relays.indexOf(relay), 1);
    expect(await ended).toBe('ended');
  });

  it('wakes whoever waits at another process on the same PostgreSQL, also after that was restarted', async () => {
    const [one, two] = [await open.PostgreSQL(), await open.PostgreSQL()];
    const port = await listening(two);
    const laptop = new TestDevice(one);
    const book = await laptop.found();
    const first = laptop.rows(book, LOG_START, 'one');
    const waiting = await wait(laptop, port, book);
    await laptop.append(book, LOG_START, first);
    expect(await waiting.told()).toBe('grown');

    await postgres.kill();
    const refused = await laptop.append(book, headOf(first), laptop.rows(book, headOf(first), 'two'));
    expect(refused).toMatchObject({ status: 503, body: { code: 'not now' } });
    const again = waiting.told();
    await postgres.start();
    // Whatever was told meanwhile was not heard, so whoever waits looks by itself.
    expect(await again).toBe('grown');
    const read = await laptop.ask('GET', `/books/${book}/rows`);
    expect(read.body).toEqual({ head: headOf(first), rows: first });
    const next = laptop.rows(book, headOf(first), 'two');
    expect((await laptop.append(book, headOf(first), next)).status).toBe(200);
    expect(await waiting.told()).toBe('grown');
    await waiting.leave();
  });

  it('refuses a body of a gigabyte by its size, and one that never ends by its time', async () => {
    const relay = await open.PGlite({ patience: 300 });
    const port = await listening(relay);
    const laptop = new TestDevice(relay);
    const book = await laptop.found();
    const path = `/books/${book}/rows`;
    const headers = await laptop.signed('POST', path, new Uint8Array());
    const large = await new Promise<number>((resolve, reject) => {
      const asked = httpRequest(
        {
          port,
          host: '127.0.0.1',
          path,
          method: 'POST',
          headers: { ...headers, 'content-type': 'application/json', 'content-length': 1e9 },
        },
        (answer) => resolve(answer.statusCode!),
      );
      asked.on('error', reject);
      asked.write('{');
    });
    expect(large).toBe(413);
    const signed = await laptop.signed('POST', path, new Uint8Array());
    const slow = await new Promise<string>((resolve, reject) => {
      const socket = connect(port, '127.0.0.1', () => {
        const lines = Object.entries(signed).map(([name, value]) => `${name}: ${value}`);
        socket.write(
          [
            `POST ${path} HTTP/1.1`,
            'host: relay',
            'content-type: application/json',
            'content-length: 1000',
            ...lines,
            '',
            '{',
          ].join('\r\n'),
        );
      });
      let text = '';
      socket.on('data', (bytes: Buffer) => (text += bytes.toString()));
      socket.on('close', () => resolve(text));
      socket.on('error', reject);
    });
    expect(slow).toMatch(/^HTTP\/1.1 408/);
  });

  it('has what it took in its folder after it was begun again, and nothing that can be read there', async () => {
    const at = { folder: join(folder, 'kept') };
    const lines: string[] = [];
    const log = { write: (line: string) => void lines.push(line) };
    const relay = await begin(await openDatabase(at), { log });
    const laptop = new TestDevice(relay);
    const book = await laptop.found();
    const rows = laptop.rows(book, LOG_START, 'Quayside Playhouse', 'Winter season rig');
    await laptop.append(book, LOG_START, rows);
    await relay.close();
    const second = await begin(await openDatabase(at));
    Object.assign(laptop, { relay: second });
    expect((await laptop.ask('GET', `/books/${book}/rows`)).body.rows).toEqual(rows);
    await second.close();
    const files = readdirSync(at.folder, { recursive: true, withFileTypes: true }).filter((file) => file.isFile());
    const kept = Buffer.concat(files.map((file) => readFileSync(join(file.parentPath, file.name))));
    expect(kept.includes(Buffer.from(rows[0]!.sealed, 'hex').subarray(0, 60))).toBe(true);
    expect(lines.length).toBeGreaterThan(1);
    for (const word of ['Quayside', 'Winter season', 'client.edit']) {
      expect(kept.includes(word)).toBe(false);
      expect(lines.join('')).not.toContain(word);
    }
    expect(lines.join('')).not.toContain(book);
  });
});
