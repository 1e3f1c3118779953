import { MemoryExecutor } from '@half-penny/core/commands';
import { MemoryStore } from '@half-penny/core/engine';
import { byTable } from '@half-penny/core/model';
import { hashOfRow, LOG_START, type LogHead } from '@half-penny/core/shared-log';
import { addDays } from '@half-penny/core/time';
import { DAY, MemoryDevice, setUp, TestContext, work, type Studio } from '@half-penny/core/testing';
import { makeKeys, publicKeysOf, type PrivateKeys } from '@half-penny/formats/sealed-files';
import { grant, RelayClient, sealRows, signRequest, Sync } from '@half-penny/formats/sealed-log';
import { readWorkspace, sourceOf, writeWorkspace } from '@half-penny/formats/workspace';
import { randomBytes } from 'node:crypto';
import { Agent, request } from 'node:http';
import pg from 'pg';
import { freePort, scratchPostgres } from '../../relay/src/testing/postgres';
import { RelayProcess } from '../../trials/src/relay-process';
import { compare, count, median, note, report } from './measure';

const APPENDS = count(2000, 20);
const WRITERS = 8;
const ROWS = count(100_000, 200);
const LISTENERS = count(2000, 20);
const PRESSES = count(60, 3);

const bookOf = (index: number): string => `01a1cfaa-35a2-7000-9e89-${String(index).padStart(12, '0')}`;
const KEY = randomBytes(32).toString('hex');

interface Writer {
  book: string;
  keys: PrivateKeys;
  client: RelayClient;
  own: MemoryDevice;
}

async function writerOn(address: string, index: number, studio: MemoryStore, member: string): Promise<Writer> {
  const keys = makeKeys();
  const client = new RelayClient({ address, signing: keys.signing });
  const own = new MemoryDevice(index, Date.now());
  own.memberId = member;
  const book = bookOf(index);
  own.begin(studio, LOG_START, book);
  const first = { book, number: 1, device: own.device, key: publicKeysOf(keys).signing, may: true };
  await client.found(grant(first, keys.signing));
  return { book, keys, client, own };
}

const syncOf = ({ own, client, keys }: Writer) =>
  new Sync(own.shared, own, client, { signing: keys.signing, epoch: 1, keys: new Map([[1, KEY]]) });

/** What is put into a log, against the same rows put bare into a table of the same PostgreSQL. */
async function appends(
  addresses: readonly string[],
  pool: pg.Pool,
  writers: readonly Writer[],
  heads: LogHead[],
  atOnce: number,
  body: (writer: Writer) => Parameters<typeof sealRows>[1][number],
): Promise<void> {
  // Made and signed before the clock runs: what is measured is the relay.
  const prepare = (writer: Writer, at: number) => {
    const { book, keys } = writer;
    const requests = Array.from({ length: Math.ceil(APPENDS / WRITERS / atOnce) }, async () => {
      const after = heads[at]!;
      const bodies = Array.from({ length: atOnce }, () => body(writer));
      const rows = sealRows(after, bodies, { book, epoch: 1, key: KEY, signing: keys.signing });
      const last = rows.at(-1)!;
      heads[at] = { number: last.number, hash: hashOfRow(last) };
      const path = `/books/${book}/rows`;
      const bytes = Buffer.from(JSON.stringify({ after, rows }));
      const headers = await signRequest({ method: 'POST', path, body: bytes }, keys.signing, Date.now());
      return { path, bytes, headers, rows };
    });
    return Promise.all(requests);
  };
  const prepared = await Promise.all(writers.map(prepare));
  const agent = new Agent({ keepAlive: true });
  const send = (address: string, { path, bytes, headers }: (typeof prepared)[number][number]) =>
    new Promise<void>((resolve, reject) => {
      const to = new URL(path, address);
      const length = { 'content-type': 'application/json', 'content-length': bytes.length };
      const asked = request(to, { method: 'POST', agent, headers: { ...headers, ...length } }, (answer) => {
        answer.resume();
        if (answer.statusCode === 200) answer.on('end', resolve);
        else reject(new Error(`An append was answered ${answer.statusCode}.`));
      });
      asked.on('error', reject);
      asked.end(bytes);
    });
  const time = async (task: (all: (typeof prepared)[number], at: number) => Promise<void>) => {
    const start = performance.now();
    await Promise.all(prepared.map(task));
    return prepared.flat().flatMap(({ rows }) => rows).length / ((performance.now() - start) / 1000);
  };
  const bare = await time(async (all) => {
    for (const row of all.flatMap(({ rows }) => rows))
      await pool.query(
        'INSERT INTO bare (book, number, epoch, previous, writer, sealed) VALUES ($1, $2, $3, $4, $5, $6)',
        [row.book, row.number, row.epoch, row.previous, row.writer, Buffer.from(row.sealed, 'hex')],
      );
  });
  const own = await time(async (all, at) => {
    for (const each of all) await send(addresses[at % addresses.length]!, each);
  });
  agent.destroy();
  const a = (value: number) => `${Math.round(value).toLocaleString('en-GB')} a second`;
  compare({
    what: `Rows through ${addresses.length} relay process${addresses.length > 1 ? 'es' : ''}, ${WRITERS} writers, ${atOnce} at once`,
    ...{ own: a(own), peer: 'bare INSERTs into the same PostgreSQL', other: a(bare) },
    ...{ ratio: own / bare, aim: 0.5, atLeast: true },
  });
}

/** All rows of a log read, opened and applied, against reading the workspace file of the same. */
async function catchUp(address: string, studio: MemoryStore, at: Studio): Promise<void> {
  const writer = await writerOn(address, 101, studio, at.member);
  const sync = syncOf(writer);
  for (let done = 0; done < ROWS; done++) {
    writer.own.now += 1000;
    // Some on each day, as people record them.
    const day = addDays(DAY, -(done % 2000));
    await writer.own.run('entry.add', work(done % 2 ? at.rig : at.gallery, 60 + (done % 900), { day }));
    if (done % 200 === 199) await sync.run();
  }
  await sync.run();
  const { store } = writer.own;
  const late = new MemoryDevice(102, writer.own.now);
  late.begin(studio, LOG_START, writer.book);
  const start = performance.now();
  await new Sync(late.shared, late, writer.client, {
    ...{ signing: writer.keys.signing, epoch: 1, keys: new Map([[1, KEY]]) },
  }).run();
  const own = performance.now() - start;
  if (late.store.rows('entries').length !== store.rows('entries').length) throw new Error('Not everything arrived.');
  const pieces: Uint8Array<ArrayBuffer>[] = [];
  const sorted = byTable((table) => store.rows(table));
  await writeWorkspace(
    sourceOf(
      (table) => sorted[table],
      store.journal,
      () => [],
    ),
    (bytes) => pieces.push(bytes as Uint8Array<ArrayBuffer>),
  );
  const file = new Blob(pieces);
  const from = performance.now();
  await readWorkspace(file);
  const what = `Catching up ${ROWS.toLocaleString('en-GB')} rows`;
  report(what, own, 'reading the workspace file of the same', performance.now() - from, 2);
}

const rssOf = async (address: string): Promise<number> => {
  const text = await (await fetch(`${address}/metrics`)).text();
  return Number(/^process_resident_memory_bytes (\S+)$/m.exec(text)![1]) / 1e6;
};

async function listeners(address: string, { client, book }: Writer): Promise<void> {
  const before = await rssOf(address);
  const leave = Array.from({ length: LISTENERS }, () => new AbortController());
  const all = leave.map(({ signal }) => client.wait(book, () => undefined, signal));
  const waiting = async () => /^relay_waiting (\d+)$/m.exec(await (await fetch(`${address}/metrics`)).text())![1];
  while (Number(await waiting()) < LISTENERS) await new Promise((resolve) => setTimeout(resolve, 100));
  const after = await rssOf(address);
  note(`${LISTENERS} devices wait at one process: ${Math.round(before)} MB before, ${Math.round(after)} MB with them`);
  for (const each of leave) each.abort();
  await Promise.allSettled(all);
}

/** From a press on one device until another shows it, against a bare request and its answer. */
async function press(address: string, studio: MemoryStore, at: Studio): Promise<void> {
  const writer = await writerOn(address, 103, studio, at.member);
  const sync = syncOf(writer);
  const other = new MemoryDevice(104, Date.now());
  other.begin(studio, LOG_START, writer.book);
  const heard = new Sync(other.shared, other, writer.client, {
    ...{ signing: writer.keys.signing, epoch: 1, keys: new Map([[1, KEY]]) },
  });
  let told: () => void = () => undefined;
  const leave = new AbortController();
  const waiting = writer.client.wait(writer.book, () => told(), leave.signal);
  // It waits once it was told of something.
  await new Promise((resolve) => setTimeout(resolve, 500));
  const own = await median(PRESSES, async () => {
    const shown = new Promise<void>((resolve, reject) => {
      told = () => void heard.run().then(resolve, reject);
    });
    await writer.own.run('entry.add', work(at.rig, 600));
    await sync.run();
    await shown;
  });
  const bare = await median(PRESSES, async () => (await fetch(`${address}/health`)).text());
  leave.abort();
  await waiting;
  report('A press until the other device shows it', own, 'a bare round trip', bare, 10);
}

/** The relay: what it does in a second, and what it costs to be behind it. */
export async function benchRelay(): Promise<void> {
  const postgres = await scratchPostgres();
  const relays = [
    new RelayProcess(await freePort(), { RELAY_DATABASE_URL: postgres.url }),
    new RelayProcess(await freePort(), { RELAY_DATABASE_URL: postgres.url }),
  ];
  const pool = new pg.Pool({ connectionString: postgres.url, max: WRITERS });
  try {
    for (const relay of relays) await relay.start();
    const addresses = relays.map(({ address }) => address);
    const test = new TestContext();
    const studio = new MemoryStore();
    const at = await setUp(new MemoryExecutor(studio, test.context), test);
    await pool.query(
      'CREATE TABLE bare (book uuid, number int, epoch int, previous text, writer text, sealed bytea, PRIMARY KEY (book, number))',
    );
    const writers: Writer[] = [];
    for (let index = 1; index <= WRITERS; index++)
      writers.push(await writerOn(addresses[0]!, index, studio, at.member));
    const one = writers[0]!.own;
    const made = await one.run('entry.add', work(at.rig, 600));
    const op = () => one.newId();
    const body = () => ({ op: op(), version: 1, row: made.row! });
    const heads = writers.map(() => LOG_START);
    for (const atOnce of [1, 25])
      for (const many of [1, 2]) await appends(addresses.slice(0, many), pool, writers, heads, atOnce, body);
    await press(addresses[0]!, studio, at);
    await listeners(addresses[0]!, writers[1]!);
    await catchUp(addresses[0]!, studio, at);
  } finally {
    await pool.end();
    for (const relay of relays) await relay.end('SIGTERM');
    await postgres.stop();
  }
}
