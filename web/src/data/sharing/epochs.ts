import {
  isRefused,
  NO_WRITERS,
  openLetter,
  sealLetter,
  workspaceKey,
  writersAfter,
  type BookTold,
  type RelayClient,
} from '@half-penny/formats/sealed-log';
import type { SharedBook } from '../database';
import type { Session } from '../session';
import { removeSnapshotsOf } from '../snapshots';
import { editBook, needBook } from './book';
import { fileForAll, goOnFrom, putSnapshot, type SnapshotTold } from './snapshot';

// The workspace's key is changed when a device was removed, and when somebody's data is deleted for good: a new epoch begins from a sealed
// workspace, and what was before it is dropped. Devices that stay are each sent the new key.

/** The newest key of a workspace. */
export function keyNow({ epochs }: SharedBook): { epoch: number; key: string } {
  const [epoch, key] = epochs.reduce((newest, each) => (each[0] > newest[0] ? each : newest));
  return { epoch, key };
}

/** Takes what other devices have written to this one alone. */
export async function takeLetters(client: RelayClient, { id, book, keys }: SharedBook): Promise<void> {
  const letters = await client.letters();
  if (letters.length === 0) return;
  const { may } = writersAfter(NO_WRITERS, await client.writers(book), book);
  for (const told of letters) {
    const opened = openLetter(await client.letter(told.id), keys);
    // Anybody can put something into a mailbox: only what a device of this workspace wrote counts.
    if (opened?.letter.kind !== 'epoch' || opened.letter.book !== book || !may.has(opened.signer)) continue;
    const { epoch, key, afresh } = opened.letter;
    await editBook(id, (row) => {
      if (!row.epochs.some(([known]) => known === epoch)) row.epochs.push([epoch, key]);
      if (afresh) row.afreshIn = epoch;
    });
    await client.removeLetter(told.id);
  }
}

/** The snapshot that a relay tells of, as devices know it. */
const snapshotOf = ({ snapshot }: BookTold): SnapshotTold | null =>
  snapshot && {
    id: snapshot.id,
    epoch: snapshot.epoch,
    pieces: snapshot.pieces,
    head: { number: snapshot.number, hash: snapshot.hash },
  };

/** Goes on from the workspace that an epoch began with, in place of the older one that is here. @throws Error in words where it cannot */
export async function goOnFromEpoch(
  client: RelayClient,
  session: Session,
  book: SharedBook,
  told: BookTold,
): Promise<void> {
  const snapshot = snapshotOf(told);
  const key = book.epochs.find(([epoch]) => epoch === snapshot?.epoch)?.[1];
  if (!snapshot || !key) throw new Error(NOT_TOLD);
  await goOnFrom(client, session, book, snapshot, key);
  // Copies from before hold what was deleted for good.
  if (book.afreshIn !== undefined) await removeSnapshotsOf(book.id);
  await editBook(book.id, (row) => delete row.afreshIn);
}

export const NOT_TOLD =
  'The key of this workspace was changed, and this device has not been told the new one. Open Half Penny on the device that changed it.';

/**
 * Changes the key: a new epoch begins from what everybody has.
 *
 * @param afresh the workspace file to begin from in place of what is here, made of that at `head`
 * @throws RelayRefusal with "head has moved" where others were first; nothing was changed then
 */
export async function changeKey(
  client: RelayClient,
  session: Session,
  told: Pick<BookTold, 'epoch'>,
  makeAfresh?: (file: Uint8Array) => Promise<Uint8Array>,
): Promise<void> {
  const { reader, entry } = session;
  const book = await needBook(entry.id);
  const epoch = told.epoch + 1;
  // A try that was broken off has told its key already.
  const key = book.epochs.find(([known]) => known === epoch)?.[1] ?? workspaceKey();
  await editBook(entry.id, (row) => {
    if (!row.epochs.some(([known]) => known === epoch)) row.epochs.push([epoch, key]);
  });
  const { head, file } = await fileForAll(session);
  const begun = makeAfresh ? await makeAfresh(file) : file;
  const snapshot = await putSnapshot(client, book, { epoch, key }, { head, file: begun });
  const afresh = makeAfresh !== undefined;
  for (const device of await reader.all('devices')) {
    if (device.left !== null || device.id === entry.device) continue;
    const letter = sealLetter({ kind: 'epoch', book: book.book, epoch, key, afresh }, device.keys.agreement, book.keys);
    await client.post(device.keys.signing, letter);
  }
  await client.beginEpoch(book.book, epoch, head, snapshot.id);
  await editBook(entry.id, (row) => {
    delete row.changesKey;
    if (afresh) row.afreshIn = epoch;
  });
}

/** Whether somebody else was first, so that it is tried again. */
export const isBehind = (thrown: unknown): boolean => isRefused(thrown, 'head has moved');
