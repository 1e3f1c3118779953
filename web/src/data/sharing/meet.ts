import type { Id } from '@half-penny/core/model';
import { beginning } from '@half-penny/core/shared-log';
import { makeKeys, publicKeysOf, type PrivateKeys } from '@half-penny/formats/sealed-files';
import {
  mailboxOf,
  meetingOf,
  openHello,
  openLetter,
  RelayClient,
  sealHello,
  sealLetter,
  type DeviceLetter,
  type DeviceTold,
  type Meeting,
} from '@half-penny/formats/sealed-log';
import { importWorkspace, type CancellableTask } from '../../workers/tasks';
import { WorkspaceDatabase, type WorkspaceEntry } from '../database';
import { newId, registry } from '../registry';
import type { Changes, Session } from '../session';
import { entryFor, intoNewWorkspace } from '../workspaces';
import { needBook } from './book';
import { clientOf } from './client';
import { keyNow } from './epochs';
import { later } from './later';
import { nextGrant } from './share';
import { fileForAll, getSnapshot, putSnapshot } from './snapshot';

// Two devices meet by way of the relay: each puts a word on who it is into the other's mailbox, people compare what both make of it, and
// only then the workspace's keys go to the one that comes.

const OFTEN = 800;

/** The only one who answered. @throws Error where it was more than one: somebody else has seen the words */
async function whoAnswers(client: RelayClient, meeting: Meeting, signal: AbortSignal): Promise<DeviceTold> {
  for (;;) {
    const told = new Map<string, DeviceTold>();
    for (const { id } of await client.letters()) {
      const device = openHello(await client.letter(id), meeting);
      if (device) told.set(device.keys.signing, device);
    }
    if (told.size > 1)
      throw new Error('More than one device has answered to these words. Begin again, and show them to nobody else.');
    const [device] = told.values();
    if (device) return device;
    await later(OFTEN, signal);
  }
}

/** Waits until a device answers to a secret, and tells it who this is. @throws RelayUnreached, RelayRefusal, Error in words */
export async function waitForDevice(session: Session, secret: string, signal: AbortSignal): Promise<DeviceTold> {
  const book = await needBook(session.entry.id);
  const meeting = meetingOf(secret);
  const client = new RelayClient({ address: book.relay, signing: meeting.host });
  const guest = await whoAnswers(client, meeting, signal);
  const own = await session.reader.get('devices', session.entry.device);
  const hello = { id: session.entry.device, name: own?.name ?? 'A device', keys: publicKeysOf(book.keys) };
  await client.post(mailboxOf(meeting.guest), sealHello(hello, meeting));
  return guest;
}

/** Gives a device that was met the workspace. @throws RelayUnreached, RelayRefusal, Error in words */
export async function letDeviceIn(
  session: Session,
  changes: Pick<Changes, 'run'>,
  { id, name, keys }: DeviceTold,
): Promise<void> {
  const book = await needBook(session.entry.id);
  const client = clientOf(book);
  await nextGrant(client, book, { device: id, key: keys.signing, may: true });
  await changes.run('device.meet', { id, name, keys });
  const snapshot = await putSnapshot(client, book, keyNow(book), await fileForAll(session));
  const welcome: DeviceLetter = {
    kind: 'welcome',
    book: book.book,
    name: session.entry.name,
    epoch: keyNow(book).epoch,
    keys: book.epochs,
    snapshot,
    memberId: session.memberId,
    demo: session.entry.demo,
  };
  await client.post(keys.signing, sealLetter(welcome, keys.agreement, book.keys));
}

/** A device that comes to a workspace, once it and the one that shares it know of each other. */
export interface Arriving {
  host: DeviceTold;
  own: DeviceTold;
  /** Waits until it is let in, and makes the workspace here. */
  arrive(onProgress: (share: number) => void): CancellableTask<WorkspaceEntry>;
}

/** Tells the device that shows the words who this is, and waits for it. @throws RelayUnreached, Error in words */
export async function answerWords(
  { secret, relay, name }: { secret: string; relay: string; name: string },
  signal: AbortSignal,
): Promise<Arriving> {
  const meeting = meetingOf(secret);
  const keys = makeKeys();
  const own: DeviceTold = { id: newId(), name, keys: publicKeysOf(keys) };
  const client = new RelayClient({ address: relay, signing: meeting.guest });
  await client.post(mailboxOf(meeting.host), sealHello(own, meeting));
  const host = await whoAnswers(client, meeting, signal);
  return { host, own, arrive: (onProgress) => arrive({ relay, keys, host, own }, onProgress) };
}

type Welcome = Extract<DeviceLetter, { kind: 'welcome' }>;

interface Coming {
  relay: string;
  keys: PrivateKeys;
  host: DeviceTold;
  own: DeviceTold;
}

async function welcomeOf({ relay, keys, host }: Coming, signal: AbortSignal): Promise<Welcome> {
  const client = clientOf({ relay, keys });
  for (;;) {
    for (const { id } of await client.letters()) {
      const opened = openLetter(await client.letter(id), keys);
      if (opened?.signer !== host.keys.signing || opened.letter.kind !== 'welcome') continue;
      await client.removeLetter(id);
      return opened.letter;
    }
    await later(OFTEN, signal);
  }
}

function arrive(coming: Coming, onProgress: (share: number) => void): CancellableTask<WorkspaceEntry> {
  const { relay, keys, own } = coming;
  const id = newId();
  let taking: CancellableTask<unknown> | null = null;
  const stopped = new AbortController();
  return intoNewWorkspace(
    (database) => ({
      stop: () => {
        stopped.abort(new Error('Stopped.'));
        taking?.stop();
      },
      result: (async () => {
        const welcome = await welcomeOf(coming, stopped.signal);
        const { snapshot } = welcome;
        const key = welcome.keys.find(([epoch]) => epoch === snapshot.epoch)![1];
        const file = await getSnapshot(clientOf({ relay, keys }), welcome.book, snapshot, key);
        const work = importWorkspace(file, database, true, onProgress);
        taking = work;
        const reading = await work.result;
        if (!reading.ok) throw new Error(`The workspace that came is not sound: ${reading.faults[0]?.message ?? ''}`);
        await shareFromHere(database, id, coming, welcome);
        return welcome;
      })(),
    }),
    (workspaceId, { name, memberId, demo }) => ({ ...entryFor(workspaceId, name, memberId, demo), device: own.id }),
    id,
  );
}

/** The workspace that came is shared before anybody can change it here. */
async function shareFromHere(name: string, id: Id, { relay, keys, own }: Coming, welcome: Welcome): Promise<void> {
  const database = new WorkspaceDatabase(name);
  try {
    await database.share.put(beginning(welcome.book, own.id, welcome.snapshot.head));
  } finally {
    database.close();
  }
  await registry.shared.put({
    ...{ id, relay, keys },
    book: welcome.book,
    epochs: welcome.keys.map(([epoch, key]) => [epoch, key]),
    standing: { kind: 'together', at: Date.now() },
    receipts: 'when looked at',
  });
}
