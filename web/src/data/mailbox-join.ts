import { Fault } from '@half-penny/core/model';
import { SealedFileFault } from '@half-penny/formats/sealed-files';
import { RelayUnreached } from '@half-penny/formats/sealed-log';
import type { AnsweredInvitation, WorkspaceEntry } from './database';
import { openFile, setUpByJobSheet } from './sealed-files';
import { clientOf } from './sharing/client';
import { later } from './sharing/later';

/** So often it is looked for a job sheet while somebody waits for it, in milliseconds. */
const OFTEN = 4_000;

/**
 * Waits at the relay for the job sheet that follows a reply, and sets the workspace up by it.
 *
 * @param refused told of what came and does not fit
 * @throws what `signal` is aborted for
 */
export async function setUpFromMailbox(
  { invitation, keys }: AnsweredInvitation,
  refused: (thrown: unknown) => void,
  signal: AbortSignal,
): Promise<WorkspaceEntry> {
  const client = clientOf({ relay: invitation.relay!, keys });
  for (;;) {
    try {
      for (const { id } of await client.letters()) {
        const blob = new Blob([(await client.letter(id)) as Uint8Array<ArrayBuffer>]);
        signal.throwIfAborted();
        try {
          const entry = await setUpByJobSheet(await openFile(blob));
          await client.removeLetter(id);
          return entry;
        } catch (thrown) {
          if (!(thrown instanceof Fault || thrown instanceof SealedFileFault)) throw thrown;
          await client.removeLetter(id);
          refused(thrown);
        }
      }
    } catch (thrown) {
      if (!(thrown instanceof RelayUnreached)) throw thrown;
    }
    await later(OFTEN, signal);
  }
}
