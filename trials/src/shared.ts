import { MemoryExecutor, type Executor } from '@half-penny/core/commands';
import { MemoryStore, recordsHash } from '@half-penny/core/engine';
import { Fault, type JournalRow } from '@half-penny/core/model';
import { LOG_START, type LogBody, type LogRow } from '@half-penny/core/shared-log';
import { MemoryDevice, setUp, TestContext, unsound, type Studio } from '@half-penny/core/testing';
import { makeKeys, publicKeysOf, randomBytes } from '@half-penny/formats/sealed-files';
import { grant, openRows, RelayClient, RelayUnreached, Sync, type LogReader } from '@half-penny/formats/sealed-log';
import { bytesToHex } from '@noble/hashes/utils.js';
import type { Chance } from './chance';
import { kinds, step } from './commands';

/** Whatever can be killed and comes back. */
export interface Mortal {
  die(): Promise<void>;
}

/** What came of devices that worked apart. */
export interface Shared {
  /** Accepted where they were made. */
  done: number;
  refused: number;
  kills: number;
  /** How often a device could not send or read: there was no relay, or it could not keep anything. */
  unreached: number;
  rows: number;
  /** Kept on the lists of what did not fit any more. */
  listed: number;
  wrong: string[];
}

interface Device {
  own: MemoryDevice;
  sync: Sync;
  client: RelayClient;
  syncing: Promise<void>;
}

const BOOK = '01a1cfaa-35a2-7000-9e89-000000000001';

/** Devices of one book on a relay that is there, each with keys of its own. */
async function devicesAt(address: string, count: number, test: TestContext, first: MemoryStore) {
  const key = bytesToHex(randomBytes(32));
  const keys = new Map([[1, key]]);
  const devices: Device[] = [];
  const writers = new Map<string, string>();
  const founder = makeKeys();
  for (let index = 0; index < count; index++) {
    const own = new MemoryDevice(index + 1, test.now + index * 20_000);
    own.memberId = test.memberId;
    own.begin(first, LOG_START, BOOK);
    const { signing } = index === 0 ? founder : makeKeys();
    const client = new RelayClient({ address, signing });
    const { signing: open } = publicKeysOf({ signing, agreement: signing });
    writers.set(own.device, open);
    const who = { book: BOOK, number: index + 1, device: own.device, key: open, may: true };
    if (index === 0) await client.found(grant(who, signing));
    else await devices[0]!.client.letIn(grant(who, founder.signing));
    const sync = new Sync(own.shared, own, client, { signing, epoch: 1, keys });
    devices.push({ own, sync, client, syncing: Promise.resolve() });
  }
  return { devices, reader: { book: BOOK, keys, writers } satisfies LogReader };
}

const executorOf = (own: MemoryDevice): Executor => {
  // What waits for its turn in the log has no row yet.
  const rowOf = async (done: Promise<{ row: JournalRow | null }>) => (await done).row as JournalRow;
  return {
    run: (name, input) => rowOf(own.run(name, input)),
    undo: (seq) => rowOf(own.undo(seq)),
    redo: () => rowOf(own.redo()),
    standing: () => {
      throw new Error('It is not asked here.');
    },
  };
};

/** A device reaches the relay when it does; what it cannot send waits. */
function syncs(device: Device, ran: Shared): void {
  device.syncing = device.syncing.then(() =>
    device.sync.run().catch((thrown: unknown) => {
      if (thrown instanceof RelayUnreached) ran.unreached++;
      else ran.wrong.push(`A device and the log: ${String(thrown)}`);
    }),
  );
}

/**
 * Lets devices do random things and meet the relay now and then, while it dies now and then; at the end everybody meets, and what they hold
 * is compared and checked.
 *
 * @param count things that are done, over all devices
 * @param mortals relays and databases, which come back by themselves
 */
export async function runShared(
  address: string,
  { devices: many, count, killEvery }: { devices: number; count: number; killEvery: number },
  chance: Chance,
  mortals: readonly Mortal[],
): Promise<Shared> {
  const test = new TestContext();
  const first = new MemoryStore();
  const at: Studio = await setUp(new MemoryExecutor(first, test.context), test);
  const { devices, reader } = await devicesAt(address, many, test, first);
  const ran: Shared = { done: 0, refused: 0, kills: 0, unreached: 0, rows: 0, listed: 0, wrong: [] };
  const wanted = new Set<string>();
  let dying: Promise<void> = Promise.resolve();
  while (ran.done + ran.refused < count) {
    const device = chance.one(devices);
    for (const { own } of devices) own.now += 30_000;
    if (chance.oneIn(3)) {
      syncs(device, ran);
      if (chance.oneIn(2)) await device.syncing;
      continue;
    }
    if (mortals.length > 0 && chance.oneIn(killEvery)) {
      await dying;
      dying = chance.one(mortals).die();
      ran.kills++;
    }
    const { own } = device;
    try {
      const before = own.store.standing!.waiting.length;
      const row = await step(chance.one(kinds), { executor: executorOf(own), reader: own.store }, at, chance);
      ran.done++;
      // What was not there before stands in nobody's way, so it has to arrive.
      const last = own.store.standing!.waiting.at(-1);
      if (row?.command === 'entry.add' && own.store.standing!.waiting.length >= before && last) wanted.add(last.op);
    } catch (thrown) {
      if (thrown instanceof Fault) ran.refused++;
      else ran.wrong.push(`A command: ${String(thrown)}`);
    }
  }
  await dying;
  for (const device of [...devices, ...devices]) {
    syncs(device, ran);
    await device.syncing;
  }
  await compare(devices, reader, wanted, ran);
  return ran;
}

async function compare(devices: readonly Device[], reader: LogReader, wanted: Set<string>, ran: Shared): Promise<void> {
  const [one] = devices;
  const hashOf = ({ own }: Device) => recordsHash((table) => own.store.rows(table));
  const historyOf = ({ own }: Device) => own.store.journal.map(({ hash }) => hash).join();
  for (const device of devices) {
    const { waiting, refused } = device.own.store.standing!;
    ran.listed += refused.length;
    if (waiting.length > 0) ran.wrong.push(`${waiting.length} wait still`);
    if (hashOf(device) !== hashOf(one!)) ran.wrong.push('Two devices hold different records');
    if (historyOf(device) !== historyOf(one!)) ran.wrong.push('Two devices hold different histories');
  }
  ran.wrong.push(...(await unsound(one!.own.store)));
  const rows: LogRow[] = [];
  for (;;) {
    const { rows: more } = await one!.client.rows(BOOK, rows.length);
    if (more.length === 0) break;
    rows.push(...more);
  }
  ran.rows = rows.length;
  const ops = (await openRows(LOG_START, rows, reader)).map(({ body }: { body: LogBody }) => body.op);
  const kept = new Set(ops);
  if (kept.size < ops.length) ran.wrong.push(`${ops.length - kept.size} are in the log twice`);
  const lost = [...wanted].filter((op) => !kept.has(op));
  if (lost.length > 0) ran.wrong.push(`${lost.length} of ${wanted.size} recorded are lost`);
}
