import { Fault, WORKSPACE_ID, type Id, type KeyHolder, type Receipt, type SealedKind } from '@half-penny/core/model';
import { answerFor, jobSheetFor, timesheetFor, type SealedContent } from '@half-penny/core/sealed-files';
import { addDays, dayOf } from '@half-penny/core/time';
import {
  isSealed,
  makeKeys,
  openSealed,
  packContent,
  publicKeysOf,
  randomBytes,
  readContent,
  readerOf,
  readInvitation,
  replyIn,
  sealTo,
  SealedFileFault,
  writeInvitation,
  writeReply,
  type Invitation,
  type PrivateKeys,
  type ReadContent,
  type Reply,
} from '@half-penny/formats/sealed-files';
import { useLiveQuery } from 'dexie-react-hooks';
import { WorkspaceDatabase, type AnsweredInvitation, type MadeFile, type WorkspaceEntry } from './database';
import { DexieExecutor } from './executor';
import { keepKeys, privateKeysOf } from './keys';
import { emptyMailbox } from './mailbox';
import { plainName } from './plain-name';
import { newId, openWorkspace, registry } from './registry';
import type { Session } from './session';
import { entryFor } from './workspaces';

// Making, opening and taking the files that travel between the studio and its members.

/** Endings of sealed files and invitations. */
export const SEALED_TYPES = '.sealed,.invitation';

const ending = (kind: string) => (kind === 'invitation' ? 'half-penny.invitation' : 'half-penny.sealed');

/** "asha-kerr-timesheet-2026-11-09.half-penny.sealed". */
const nameOf = (who: string, kind: string, day: string): string =>
  `${plainName(who)}-${plainName(kind)}-${day}.${ending(kind)}`;

/** Answers tell of days so far back; older ones are settled. */
const ANSWERED_DAYS = 190;

/** What a file is made of. */
export type ToMake =
  { kind: 'job sheet'; memberId: Id } | { kind: 'timesheet'; timesheetId: Id } | { kind: 'answer'; memberId: Id };

/** Who the file is from and to. */
export interface Sides {
  own: KeyHolder;
  reader: KeyHolder;
  /** Named in the file's name. */
  studio: string;
}

/** Makes a sealed file and notes that it was made. @throws Fault, or Error in words where keys are missing */
export async function makeSealed(session: Session, what: ToMake, { own, reader, studio }: Sides): Promise<MadeFile> {
  const keys = await privateKeysOf(own.keys);
  if (!reader.keys || reader.standing !== 'met')
    throw new Error('They are not met yet: compare the short codes first.');
  const madeAt = await momentAfter(session, what.kind);
  const content = await contentOf(session, what, { id: newId(), madeAt });
  const files = content.kind === 'timesheet' ? await bytesOf(session.database, content.rows.receipts) : [];
  const sealed = sealTo(packContent(content, files), reader.keys.agreement, keys);
  const period = content.kind === 'timesheet' ? content.rows.timesheets[0]! : null;
  const { id, kind, memberId } = content;
  await session.executor.run('keys.made', {
    ...{ id, kind, memberId, madeAt },
    from: period?.from ?? null,
    to: period?.to ?? null,
  });
  const member = await session.reader.get('members', memberId);
  const day = period?.from ?? dayOf(madeAt, member?.zone ?? 'UTC');
  const who = kind === 'timesheet' ? (member?.name ?? '') : `${studio} ${member?.name ?? ''}`;
  return { name: nameOf(who, kind, day), blob: new Blob([sealed], { type: 'application/octet-stream' }) };
}

/** Now, or right after the last of its kind, should the clock have been set back since: a later file is told from an earlier one by it. */
async function momentAfter({ reader }: Session, kind: SealedKind): Promise<number> {
  const sent = (await reader.all('sealedFiles')).filter((file) => file.sent && file.kind === kind);
  return Math.max(Date.now(), ...sent.map((file) => file.madeAt + 1));
}

/** What a file of a kind would say now. @throws Fault, or Error in words where something is missing */
export function contentOf(
  { database, reader, memberId: whoId }: Session,
  what: ToMake,
  making: { id: Id; madeAt: number },
): Promise<SealedContent> {
  return database.transaction('r', database.tables, async (): Promise<SealedContent> => {
    if (what.kind === 'timesheet') return timesheetFor(reader, what.timesheetId, making);
    if (whoId === null) throw new Error('Say first, under Setup, People, who works here.');
    if (what.kind === 'job sheet') return jobSheetFor(reader, what.memberId, whoId, making);
    const since = addDays(dayOf(making.madeAt, 'UTC'), -ANSWERED_DAYS);
    return answerFor(reader, what.memberId, whoId, since, making);
  });
}

async function bytesOf(database: WorkspaceDatabase, receipts: readonly Receipt[]) {
  const stored = await database.files.bulkGet(receipts.map(({ sha256 }) => sha256));
  return Promise.all(
    stored
      .filter((file) => file !== undefined)
      .map(async ({ sha256, blob }) => ({ sha256, bytes: new Uint8Array(await blob.arrayBuffer()) })),
  );
}

/** Makes an invitation for a member, to be sent to them. */
export async function makeInvitation(
  { executor }: Session,
  studio: { name: string; holder: KeyHolder },
  member: { id: Id; name: string },
): Promise<MadeFile> {
  const keys = await privateKeysOf(studio.holder.keys);
  const secret = [...randomBytes(32)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
  const madeAt = Date.now();
  const mailbox = await registry.mailboxes.get(publicKeysOf(keys).signing);
  const text = writeInvitation(
    {
      ...{ studio: studio.name, member: { id: member.id, name: member.name }, secret, madeAt },
      ...(mailbox && { relay: mailbox.relay }),
    },
    keys,
  );
  await executor.run('keys.invite', { memberId: member.id, secret });
  return {
    name: nameOf(`${studio.name} ${member.name}`, 'invitation', dayOf(madeAt, 'UTC')),
    blob: new Blob([text], { type: 'application/json' }),
  };
}

/** What a file is, once it is opened. */
export type OpenedFile =
  | { kind: 'invitation'; invitation: Invitation }
  | { kind: 'reply'; reply: Reply }
  | ({ kind: 'content'; signer: string } & ReadContent);

/**
 * Opens a file by the keys that it is sealed to.
 *
 * @throws SealedFileFault when it is none, was altered, or is for somebody else
 */
export async function openFile(file: Blob): Promise<OpenedFile> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  if (!isSealed(bytes)) {
    const invitation = readInvitation(new TextDecoder().decode(bytes.subarray(0, 100_000)));
    if (invitation) return { kind: 'invitation', invitation };
    throw new SealedFileFault('not sealed', 'This is neither a sealed file of Half Penny nor an invitation.');
  }
  const { signer, content } = openSealed(bytes, await keysFor(readerOf(bytes)));
  const reply = replyIn(content, signer);
  return reply ? { kind: 'reply', reply } : { kind: 'content', signer, ...(await readContent(content)) };
}

/** The keys in this browser that something is sealed to; any others where none are, by which it is refused in words. */
async function keysFor(agreement: string): Promise<PrivateKeys> {
  const kept = [...(await registry.keys.toArray()), ...(await registry.invitations.toArray())];
  return kept.find(({ keys }) => publicKeysOf(keys).agreement === agreement)?.keys ?? makeKeys();
}

/** What became of an opened file. */
export interface Took {
  /** In a sentence, for a list of what was opened. */
  said: string;
  /** The member whose short code is to be compared now. */
  compare?: Id;
  /** What is to be answered now. */
  answer?: Invitation;
}

/** Takes an opened file into this workspace. @throws Fault in words where it does not fit, and then nothing of it is taken */
export async function takeOpened({ executor, database, reader }: Session, opened: OpenedFile): Promise<Took> {
  if (opened.kind === 'invitation') {
    const { member, studio } = opened.invitation;
    // Whose keys were lost is invited again, and goes on with the workspace that is there.
    if ((await reader.get('workspace', WORKSPACE_ID))?.ofMember !== member.id)
      throw new Fault(
        'invalid',
        'This is an invitation: open it under Start your own, in the browser of whoever is invited.',
      );
    return { said: `${studio.name} invites you again. What is to be done stands below.`, answer: opened.invitation };
  }
  if (opened.kind === 'reply') {
    const { member, keys, secret } = opened.reply;
    await executor.run('keys.reply', { memberId: member.id, keys, secret });
    return { said: `${member.name} has answered the invitation. Compare the short codes now.`, compare: member.id };
  }
  const { signer, content, files } = opened;
  for (const { sha256, bytes } of files)
    await database.files.put({ sha256, blob: new Blob([bytes as Uint8Array<ArrayBuffer>]) });
  switch (content.kind) {
    case 'timesheet': {
      await executor.run('timesheet.take', { signer, file: content });
      const { entries, costs } = content.rows;
      const name = (await reader.get('members', content.memberId))?.name ?? '';
      return {
        said: `The timesheet of ${name} was taken: ${counted(entries.length, 'entry', 'entries')}, ${counted(costs.length, 'expense', 'expenses')}.`,
      };
    }
    case 'job sheet': {
      const answered = await registry.invitations.get(content.memberId);
      const isAnswer = answered?.invitation.studio.keys.signing === signer;
      if (isAnswer) await keepKeys(answered.keys);
      await executor.run('jobSheet.take', { signer, file: content, ...(isAnswer && { met: metBy(answered) }) });
      if (isAnswer) {
        await goOnByRelay(answered);
        await registry.invitations.delete(answered.id);
      }
      return { said: `The job sheet was taken: ${counted(content.rows.projects.length, 'project', 'projects')}.` };
    }
    case 'answer': {
      await executor.run('answer.take', { signer, file: content });
      return {
        said: `The answer was taken. It is about ${counted(content.rows.timesheets.length, 'timesheet', 'timesheets')}.`,
      };
    }
  }
}

const counted = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`;

/**
 * Answers an invitation: keys are made, and kept here until the job sheet comes. The same invitation is answered by the same keys. Where the
 * studio named a relay the reply goes there; where it could not it is a file as ever.
 */
export async function answerInvitation(invitation: Invitation): Promise<AnsweredInvitation & { reply: MadeFile }> {
  const { id, name } = invitation.member;
  const known = await registry.invitations.get(id);
  const isSame = known?.invitation.secret === invitation.secret;
  const keys = isSame ? known.keys : makeKeys();
  // One that is there already stays there, whether it is reached once more or not.
  const wasPosted = isSame && known.posted === true;
  await registry.invitations.put({ id, invitation, keys, ...(wasPosted && { posted: true }) });
  const reply = writeReply(invitation, keys);
  const isPosted = wasPosted || (invitation.relay !== undefined && (await postReply(invitation, keys, reply)));
  if (isPosted) await registry.invitations.update(id, { posted: true });
  const file = nameOf(name, 'reply', dayOf(invitation.madeAt, 'UTC'));
  return { id, invitation, keys, ...(isPosted && { posted: true }), reply: { name: file, blob: new Blob([reply]) } };
}

/** @returns false where the relay was not reached, or refused */
async function postReply({ relay, studio }: Invitation, keys: PrivateKeys, reply: Uint8Array): Promise<boolean> {
  const { clientOf } = await import('./sharing/client');
  return clientOf({ relay: relay!, keys })
    .post(studio.keys.signing, reply)
    .then(
      () => true,
      () => false,
    );
}

/** Invitations that were answered here and wait for their job sheet. */
export const useAnswered = (): AnsweredInvitation[] | undefined =>
  useLiveQuery(() => registry.invitations.toArray(), []);

export const forgetInvitation = (id: Id): Promise<void> => registry.invitations.delete(id);

const metBy = ({ invitation, keys }: AnsweredInvitation) => ({
  studio: invitation.studio.keys,
  member: publicKeysOf(keys),
});

/** Whoever was invited by way of a relay goes on by it. */
async function goOnByRelay({ invitation, keys }: AnsweredInvitation): Promise<void> {
  if (invitation.relay !== undefined)
    await registry.mailboxes.put(emptyMailbox(publicKeysOf(keys).signing, invitation.relay));
}

/** Told apart from the studio's own, should both be in one browser. */
const ownName = ({ studio, member }: Invitation) => `${studio.name}, ${member.name}`;

/**
 * Sets up a member's own workspace by their first job sheet, and opens it.
 *
 * @throws Fault, or Error in words, where it is not what was waited for; nothing is set up then
 */
export async function setUpByJobSheet(opened: OpenedFile): Promise<WorkspaceEntry> {
  if (opened.kind !== 'content' || opened.content.kind !== 'job sheet')
    throw new Fault('invalid', 'This is not the job sheet. Open the file that came after you sent your reply.');
  const { signer, content } = opened;
  const answered = await registry.invitations.get(content.memberId);
  if (!answered) throw new Fault('not-met', 'No invitation to this was answered in this browser.');
  const fresh = entryFor(newId(), ownName(answered.invitation), null, false);
  const database = new WorkspaceDatabase(fresh.database);
  try {
    const executor = new DexieExecutor(database, () => ({
      ...{ now: Date.now(), memberId: null, newId },
      device: fresh.device,
    }));
    await executor.run('jobSheet.take', { signer, file: content, met: metBy(answered) });
    await keepKeys(answered.keys);
    const entry = { ...fresh, memberId: content.memberId };
    await openWorkspace(entry);
    await goOnByRelay(answered);
    await registry.invitations.delete(answered.id);
    return entry;
  } catch (thrown) {
    await database.delete();
    throw thrown;
  } finally {
    database.close();
  }
}
