import type { LogHead } from '@half-penny/core/shared-log';
import { openSnapshot, sealSnapshot, type RelayClient } from '@half-penny/formats/sealed-log';
import { exportWorkspace, replaceWorkspace } from '../../workers/tasks';
import type { SharedBook } from '../database';
import type { Session } from '../session';
import { shareOf } from './book';

// A whole workspace on its way to a device that has none of it, or an older one.

/** So often it is tried to catch a moment in which nothing waits. */
const TRIES = 20;

/**
 * The workspace as everybody has it, as a file without receipts.
 *
 * @throws Error where something waits all the time
 */
export async function fileForAll({ database, entry }: Session): Promise<{ head: LogHead; file: Uint8Array }> {
  for (let tries = 0; tries < TRIES; tries++) {
    const before = await shareOf(database);
    if (before && before.waiting.length === 0) {
      const { blob } = await exportWorkspace(entry.database, true, () => undefined, false).result;
      const after = await shareOf(database);
      if (after?.waiting.length === 0 && after.head.hash === before.head.hash)
        return { head: before.head, file: new Uint8Array(await blob.arrayBuffer()) };
    }
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  throw new Error('Something waits to be sent all the time. Try again in a moment.');
}

/** Where a snapshot is, for whoever begins from it. */
export interface SnapshotTold {
  id: string;
  epoch: number;
  pieces: number;
  head: LogHead;
}

/** Puts a workspace file where other devices find it. */
export async function putSnapshot(
  client: RelayClient,
  { book }: SharedBook,
  { epoch, key }: { epoch: number; key: string },
  { head, file }: { head: LogHead; file: Uint8Array },
): Promise<SnapshotTold> {
  const pieces = sealSnapshot(file, { book, epoch, head }, key);
  return { id: await client.putSnapshot(book, { ...head, epoch }, pieces), epoch, pieces: pieces.length, head };
}

/** The workspace file that a snapshot holds. @throws LogFault where it is not what it says, RelayUnreached, RelayRefusal */
export async function getSnapshot(
  client: RelayClient,
  book: string,
  snapshot: SnapshotTold,
  key: string,
): Promise<Blob> {
  const { epoch, head } = snapshot;
  return new Blob([openSnapshot(await client.snapshot(book, snapshot), { book, epoch, head }, key)]);
}

/** Puts what a snapshot holds into the place of what is here; what waited here is done on it. */
export async function goOnFrom(
  client: RelayClient,
  { entry, memberId }: Session,
  { book }: SharedBook,
  snapshot: SnapshotTold,
  key: string,
): Promise<void> {
  const file = await getSnapshot(client, book, snapshot, key);
  await replaceWorkspace(file, entry.database, snapshot.head, memberId).result;
}
