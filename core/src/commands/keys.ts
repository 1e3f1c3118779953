import * as z from 'zod';
import { command, need, Plan } from '../engine/command';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import {
  keyHolderSchema,
  publicKeysSchema,
  sealedFileSchema,
  WORKSPACE_ID,
  wrappedKeysSchema,
  type KeyHolder,
} from '../model/records';

// Who signs and opens the files that travel between the studio and its members.

/** Who holds keys as the studio (null) or as a member. */
export async function holderOf(reader: Reader, memberId: Id | null): Promise<KeyHolder | undefined> {
  return (await reader.all('keyHolders')).find((row) => row.memberId === memberId);
}

/** Whose keys are this workspace’s own: a member’s, or the studio’s. */
export const ownerOf = async (reader: Reader): Promise<Id | null> =>
  (await reader.get('workspace', WORKSPACE_ID))?.ofMember ?? null;

const told = 'Others know of it by now. What was said between two browsers is changed by saying something new.';

/** Keeps the public keys of whoever this workspace belongs to. Whoever was met by older keys has to be met again. */
export const beginKeys = command({
  name: 'keys.begin',
  title: 'Keys made',
  outward: 'Keys are not unmade: whoever is met knows them.',
  input: z.strictObject({ keys: publicKeysSchema }),
  async plan(reader, { keys }, { now, newId }) {
    const plan = new Plan();
    const own = await holderOf(reader, await ownerOf(reader));
    // Whoever met the old keys has to meet the new ones.
    for (const row of await reader.all('keyHolders')) if (row.id !== own?.id) plan.remove('keyHolders', row.id);
    const id = own?.id ?? newId();
    return plan.put('keyHolders', { id, memberId: await ownerOf(reader), keys, standing: 'met', at: now });
  },
});

/**
 * Invites a member: the secret ties their reply to this invitation.
 *
 * @throws Fault where the studio has no keys yet
 */
export const inviteMember = command({
  name: 'keys.invite',
  title: 'Invited',
  outward: told,
  input: z.strictObject({ memberId: fields.id, secret: keyHolderSchema.shape.secret.unwrap() }),
  async plan(reader, { memberId, secret }, { now, newId }) {
    await need(reader, 'members', memberId, 'member');
    if (!(await holderOf(reader, null)))
      throw new Fault('not-set-up', 'The studio has no keys yet; make them first.', 'memberId');
    const id = (await holderOf(reader, memberId))?.id ?? newId();
    return new Plan().put('keyHolders', { id, memberId, keys: null, standing: 'invited', at: now, secret });
  },
});

/**
 * Takes a member's keys from their reply; they count once the codes were compared.
 *
 * @throws Fault where they were not invited, answered already, or answer an earlier invitation
 */
export const takeReply = command({
  name: 'keys.reply',
  title: 'Invitation answered',
  outward: told,
  input: z.strictObject({
    memberId: fields.id,
    keys: publicKeysSchema,
    secret: keyHolderSchema.shape.secret.unwrap(),
  }),
  async plan(reader, { memberId, keys, secret }, { now }) {
    const member = await need(reader, 'members', memberId, 'member');
    const holder = await holderOf(reader, memberId);
    if (!holder) throw new Fault('not-met', `${member.name} was not invited, or not by this workspace.`, 'memberId');
    if (holder.standing !== 'invited')
      throw new Fault('already', `${member.name} has answered already. Invite them again if those are not their keys.`);
    if (holder.secret !== secret)
      throw new Fault(
        'outdated',
        `This answers an earlier invitation. ${member.name} was invited again since; ask them to open that one.`,
        'secret',
      );
    return new Plan().put('keyHolders', { id: holder.id, memberId, keys, standing: 'to compare', at: now });
  },
});

/**
 * Says that both sides compared the code and it was the same: from now on files go between them.
 *
 * @throws Fault where there is no reply to compare
 */
export const meet = command({
  name: 'keys.met',
  title: 'Codes compared',
  outward: told,
  input: z.strictObject({ memberId: fields.id }),
  async plan(reader, { memberId }, { now }) {
    const member = await need(reader, 'members', memberId, 'member');
    const holder = await holderOf(reader, memberId);
    if (holder?.standing !== 'to compare')
      throw new Fault('not-met', `${member.name} has not answered an invitation, so there is no code to compare.`);
    return new Plan().put('keyHolders', { ...holder, standing: 'met', at: now });
  },
});

/**
 * Forgets whom one has met. What they were sent they keep.
 *
 * @throws Fault where nobody is met
 */
export const leaveKeys = command({
  name: 'keys.leave',
  title: 'Not met any more',
  outward: 'What they have they keep. Invite them again to go on.',
  input: z.strictObject({ memberId: fields.id }),
  async plan(reader, { memberId }) {
    const holder = await holderOf(reader, memberId);
    if (!holder) throw new Fault('gone', 'Nobody is met under that name.', 'memberId');
    return new Plan().remove('keyHolders', holder.id);
  },
});

/**
 * Keeps the private keys in backups, wrapped by a passphrase, or no longer.
 *
 * @throws Fault where there are none
 */
export const wrapKeys = command({
  name: 'keys.wrap',
  title: ({ wrapped }: { wrapped: unknown }) => (wrapped ? 'Keys kept in backups' : 'Keys kept in this browser alone'),
  input: z.strictObject({ wrapped: wrappedKeysSchema.nullable() }),
  async plan(reader, { wrapped }) {
    const holder = await holderOf(reader, await ownerOf(reader));
    if (!holder) throw new Fault('not-set-up', 'There are no keys yet.', 'wrapped');
    const { wrapped: _old, ...rest } = holder;
    return new Plan().put('keyHolders', { ...rest, ...(wrapped && { wrapped }) });
  },
});

/** Notes that a file was made, so that both sides can be told what went. */
export const fileMade = command({
  name: 'keys.made',
  title: ({ kind }: { kind: string }) => `${kind[0]!.toUpperCase()}${kind.slice(1)} made`,
  outward: told,
  input: sealedFileSchema.omit({ sent: true, at: true }),
  async plan(reader, input, { now }) {
    await need(reader, 'members', input.memberId, 'member');
    return new Plan().put('sealedFiles', { ...input, sent: true, at: now });
  },
});
