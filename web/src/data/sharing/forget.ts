import type { Forgotten, Whose } from '@half-penny/core/engine';
import { liveQuery } from 'dexie';
import { forgetInFile } from '../../workers/tasks';
import { registry } from '../registry';
import type { Session } from '../session';
import { needBook } from './book';
import { clientOf } from './client';
import { changeKey, isBehind } from './epochs';

/** So often it is tried where others are at work meanwhile. */
const TRIES = 5;

/**
 * Deletes a person's data for good on every device: the log begins afresh from a workspace without them, what was before it is dropped, and
 * each device goes on from there.
 *
 * @throws Fault, RelayUnreached, RelayRefusal, Error in words when it cannot be done; nothing is changed then
 */
export async function forgetForAll(session: Session, whose: Whose): Promise<Omit<Forgotten, 'rows' | 'journal'>> {
  const client = clientOf(await needBook(session.entry.id));
  let told: Omit<Forgotten, 'rows' | 'journal'> | null = null;
  for (let tries = 1; ; tries++) {
    const { book } = await needBook(session.entry.id);
    try {
      await changeKey(client, session, await client.standing(book), async (file) => {
        const { file: without, ...rest } = await forgetInFile(new Blob([file as Uint8Array<ArrayBuffer>]), whose)
          .result;
        told = rest;
        return new Uint8Array(await without.arrayBuffer());
      });
      break;
    } catch (thrown) {
      if (!isBehind(thrown) || tries === TRIES) throw thrown;
    }
  }
  await goneOn(session.entry.id);
  return told!;
}

/** Until this device has gone on from the workspace that was begun afresh. */
const goneOn = (id: string): Promise<void> =>
  new Promise((resolve, reject) => {
    const watching = liveQuery(async () => (await registry.shared.get(id))?.afreshIn).subscribe((afreshIn) => {
      if (afreshIn !== undefined) return;
      queueMicrotask(() => watching.unsubscribe());
      clearTimeout(late);
      resolve();
    });
    const late = setTimeout(() => {
      watching.unsubscribe();
      reject(
        new Error(
          'It is deleted for all, and this device has not gone on from there yet. It does when the relay is reached.',
        ),
      );
    }, 120_000);
  });
