import { beginning, LOG_START } from '@half-penny/core/shared-log';
import { Fault, type Id } from '@half-penny/core/model';
import { makeKeys, publicKeysOf } from '@half-penny/formats/sealed-files';
import { grant, workspaceKey, type Grant, type RelayClient } from '@half-penny/formats/sealed-log';
import type { SharedBook } from '../database';
import { newId, registry } from '../registry';
import type { Changes, Session } from '../session';
import { editBook, needBook } from './book';
import { clientOf } from './client';

/** Where a relay is by what was typed. @throws Fault in words */
export function relayAddress(typed: string): string {
  const text = typed.trim().replace(/\/+$/, '');
  const address = urlOf(/^[a-z]+:\/\//i.test(text) ? text : `https://${text}`);
  // Browsers take a space for part of a name.
  if (!address || !/^([a-z\d.-]+|\[[a-f\d:.]+\])$/i.test(address.hostname))
    throw new Fault('invalid', 'Write the address of the relay as https://relay.your-studio.example.', 'relay');
  const isHere = ['127.0.0.1', 'localhost'].includes(address.hostname);
  if (address.protocol !== 'https:' && !(address.protocol === 'http:' && isHere))
    throw new Fault('invalid', 'A relay elsewhere is reached by https:// alone.', 'relay');
  return address.origin + address.pathname.replace(/\/+$/, '');
}

function urlOf(text: string): URL | null {
  try {
    return new URL(text);
  } catch {
    return null;
  }
}

/** Lets other devices have this workspace too: a log of it begins at the relay. @throws RelayUnreached, RelayRefusal */
export async function beginSharing(
  { entry, database, reader }: Session,
  changes: Pick<Changes, 'run'>,
  { relay, name }: { relay: string; name: string },
): Promise<void> {
  const keys = makeKeys();
  const told: SharedBook = {
    id: entry.id,
    book: newId(),
    relay,
    keys,
    epochs: [[1, workspaceKey()]],
    standing: { kind: 'together', at: Date.now() },
    receipts: 'all',
  };
  const { signing } = publicKeysOf(keys);
  await clientOf(told).found(
    grant({ book: told.book, number: 1, device: entry.device, key: signing, may: true }, keys.signing),
  );
  // Of an earlier sharing.
  for (const device of await reader.all('devices'))
    if (device.left === null && device.id !== entry.device) await changes.run('device.remove', { id: device.id });
  await changes.run('device.meet', { id: entry.device, name, keys: publicKeysOf(keys) });
  await database.transaction('rw', database.share, database.journal, async () => {
    // Places in an earlier log say nothing of this one.
    await database.journal
      .filter(({ place }) => place !== undefined)
      .modify((row) => {
        delete row.place;
      });
    await database.share.put(beginning(told.book, entry.device, LOG_START));
  });
  await registry.shared.put(told);
}

/** The next word on who may write. */
export async function nextGrant(
  client: RelayClient,
  { book, keys }: SharedBook,
  of: Pick<Grant, 'device' | 'key' | 'may'>,
): Promise<void> {
  const number = (await client.writers(book)).length + 1;
  await client.letIn(grant({ book, number, ...of }, keys.signing));
}

/** Removes a device: it is not let in any more, and the key is changed as soon as everything here is sent. @throws Fault, RelayUnreached, RelayRefusal */
export async function removeDevice({ entry, reader }: Session, changes: Pick<Changes, 'run'>, id: Id): Promise<void> {
  const book = await needBook(entry.id);
  const device = await reader.get('devices', id);
  if (!device) throw new Fault('gone', 'This device is not here any more.');
  await nextGrant(clientOf(book), book, { device: id, key: device.keys.signing, may: false });
  await changes.run('device.remove', { id });
  await editBook(entry.id, (row) => (row.changesKey = true));
}

/** Goes on alone: what is here stays, what waited here counts here only. */
export async function endSharing({ entry, database }: Session): Promise<void> {
  await database.transaction('rw', database.share, database.carried, async () => {
    await database.share.clear();
    await database.carried.clear();
  });
  await registry.shared.delete(entry.id);
}
