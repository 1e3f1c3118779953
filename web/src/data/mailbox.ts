import type { KeyHolder, PublicKeys } from '@half-penny/core/model';
import { useLiveQuery } from 'dexie-react-hooks';
import type { Mailbox, Standing, Travelled } from './database';
import { privateKeysOf } from './keys';
import { registry } from './registry';

// Sealed files may go and come by a relay's mailboxes in place of hands.

/** So much of what went and came is shown. */
const LATELY = 20;

export const emptyMailbox = (id: string, relay: string): Mailbox => ({
  ...{ id, relay, sent: {}, lately: [] },
  standing: { kind: 'together', at: Date.now() },
});

/** The mailbox of keys that are here; null where they have none, undefined until that is read. */
export const useMailbox = ({ keys }: KeyHolder): Mailbox | null | undefined =>
  useLiveQuery(async () => (keys ? ((await registry.mailboxes.get(keys.signing)) ?? null) : null), [keys?.signing]);

/**
 * Sends and takes by a relay from now on, once it has answered.
 *
 * @throws Fault where the address is none, RelayUnreached, RelayRefusal, Error in words where the keys are not here
 */
export async function openMailbox(keys: PublicKeys, typed: string): Promise<void> {
  const [{ clientOf }, { relayAddress }] = await Promise.all([import('./sharing/client'), import('./sharing/share')]);
  const relay = relayAddress(typed);
  await clientOf({ relay, keys: await privateKeysOf(keys) }).letters();
  await registry.mailboxes.put(emptyMailbox(keys.signing, relay));
}

/** Goes on by files alone; what waits at the relay stays there. */
export const closeMailbox = ({ id }: Mailbox): Promise<void> => registry.mailboxes.delete(id);

/** Looks at once, and not only when it is time. */
export const lookNow = ({ id }: Mailbox): Promise<number> => registry.mailboxes.update(id, { asked: Date.now() });

/** Sends all that there is once more, should a relay have lost it. */
export const sendAllAgain = ({ id }: Mailbox): Promise<number> =>
  registry.mailboxes.update(id, { sent: {}, asked: Date.now() });

/** The mailbox of a public signing key. */
export const mailboxOf = (id: string): Promise<Mailbox | undefined> => registry.mailboxes.get(id);

/** Notes what went about something, so that the same does not go twice; both at once, whatever ends the page in between. */
export const wasSent = (id: string, about: string, as: string, said: string): Promise<number> =>
  registry.mailboxes
    .where('id')
    .equals(id)
    .modify((row) => {
      row.sent[about] = as;
      row.lately = [{ at: Date.now(), said, fault: false }, ...row.lately].slice(0, LATELY);
    });

/** Notes what went or came. @param id the key of the mailbox */
export const note = (id: string, travelled: Travelled): Promise<number> =>
  registry.mailboxes
    .where('id')
    .equals(id)
    .modify((row) => {
      row.lately = [travelled, ...row.lately].slice(0, LATELY);
    });

/** Kept where every tab sees it. Since when it does not go is not forgotten. */
export const stand = (id: string, standing: Standing): Promise<number> =>
  registry.mailboxes
    .where('id')
    .equals(id)
    .modify((row) => {
      const isSame = standing.kind !== 'together' && row.standing.kind === standing.kind;
      row.standing = isSame && 'since' in row.standing ? { ...standing, since: row.standing.since } : standing;
    });
