import type { KeyHolder, PublicKeys } from '@half-penny/core/model';
import type { SealedContent } from '@half-penny/core/sealed-files';
import { showLength } from '@half-penny/core/time';
import {
  isSealed,
  openSealed,
  readContent,
  readerOf,
  readInvitation,
  replyIn,
  SealedFileFault,
  unwrapKeys,
} from '@half-penny/formats/sealed-files';
import type { WorkspaceContent } from '@half-penny/formats/workspace';
import { readFileSync } from 'node:fs';
import { NotFound } from './commands';
import { fileError, openBlob, openWorkspace } from './files';
import { parse, UsageError } from './usage';

type Print = (line: string) => void;

const LARGEST_INVITATION = 100_000;

/** Says what a sealed file is, and with the keys of its reader that it is sound and what is in it. */
export async function sealed(args: readonly string[], print: Print): Promise<void> {
  const { positional, options } = parse(args, { positional: 1, options: ['workspace', 'passphrase'] });
  const [passphraseFile, workspaceFile] = [options.get('passphrase'), options.get('workspace')];
  if (passphraseFile !== undefined && workspaceFile === undefined)
    throw new UsageError('Say with --workspace whose keys the passphrase is of.');
  const bytes = new Uint8Array(await (await openBlob(positional[0]!)).arrayBuffer());
  if (!isSealed(bytes)) return printInvitation(bytes, print);
  const reader = readerOf(bytes);
  print(`Sealed to the key ${shortly(reader)}; ${bytes.length} bytes.`);
  if (workspaceFile === undefined)
    return print('Nothing else can be told without the keys of its reader: name a workspace file that keeps them.');
  const workspace = await openWorkspace(workspaceFile);
  const own = ownHolder(workspace, reader);
  print(`It is for ${nameOf(workspace, own)}.`);
  if (passphraseFile === undefined) return print('With --passphrase it is opened, and what is in it is listed.');
  if (!own.wrapped)
    throw new NotFound('That workspace keeps its keys in its browser alone, so nothing can be opened here.');
  const keys = await unwrapKeys(own.wrapped, passphraseIn(passphraseFile));
  const { signer, content } = openSealed(bytes, keys);
  const holder = workspace.store.rows('keyHolders').find((row) => row.keys?.signing === signer);
  const who = holder
    ? `${nameOf(workspace, holder)}, ${holder.standing}`
    : `the key ${shortly(signer)}, not known there`;
  print(`Sound: not altered since it was signed by ${who}.`);
  const reply = replyIn(content, signer);
  if (reply) return print(`A reply of ${reply.member.name} to an invitation, with the keys that they made.`);
  for (const line of listOf((await readContent(content)).content)) print(line);
}

function printInvitation(bytes: Uint8Array, print: Print): void {
  const invitation = readInvitation(new TextDecoder().decode(bytes.subarray(0, LARGEST_INVITATION)));
  if (!invitation)
    throw new SealedFileFault('not sealed', 'This is neither a sealed file of Half Penny nor an invitation.');
  const { studio, member, madeAt } = invitation;
  print(`Sound: an invitation of ${member.name} by ${studio.name}, made ${momentOf(madeAt)}.`);
  print(`Signed by the key ${shortly(studio.keys.signing)}; replies are sealed to ${shortly(studio.keys.agreement)}.`);
}

/** Whose keys the workspace has of its own. @throws NotFound where the file is sealed to others */
function ownHolder({ store }: WorkspaceContent, reader: string): KeyHolder {
  const ownerId = store.rows('workspace')[0]?.ofMember ?? null;
  const own = store.rows('keyHolders').find(({ memberId }) => memberId === ownerId);
  const isTo = (keys: PublicKeys | null | undefined) => keys?.agreement === reader;
  if (own && isTo(own.keys)) return own;
  const other = store.rows('keyHolders').find(({ keys }) => isTo(keys));
  throw new NotFound(
    other
      ? 'It is for somebody whom that workspace has met, so it is opened in theirs.'
      : 'It is sealed to keys that are not those of that workspace.',
  );
}

const nameOf = ({ store }: WorkspaceContent, { memberId }: KeyHolder): string =>
  memberId === null
    ? (store.rows('workspace')[0]?.name ?? 'the studio')
    : (store.rows('members').find(({ id }) => id === memberId)?.name ?? 'somebody who left');

function passphraseIn(path: string): string {
  try {
    return readFileSync(path, 'utf8').replace(/\r?\n$/, '');
  } catch (thrown) {
    throw fileError(path, thrown);
  }
}

/** What is in a file, a line each. */
function listOf(content: SealedContent): string[] {
  const head = `A ${content.kind}, made ${momentOf(content.madeAt)}.`;
  if (content.kind === 'job sheet') {
    const { clients, projects, tasks, plans, rateLines } = content.rows;
    return [
      head,
      `${clients.length} clients, ${projects.length} projects, ${tasks.length} tasks, ${plans.length} planned times, ${rateLines.length} rates.`,
    ];
  }
  const { timesheets, entries, costs, receipts } = content.rows;
  const seconds = entries.reduce((sum, entry) => sum + entry.seconds, 0);
  return [
    head,
    ...timesheets.map(({ from, to, steps }) => `${from} to ${to}: ${steps.map(({ kind }) => kind).join(', ')}`),
    `${entries.length} entries, ${showLength(seconds)}; ${costs.length} expenses, ${receipts.length} receipts.`,
    ...entries.map((entry) => `  ${entry.day} ${showLength(entry.seconds)} ${entry.note || entry.unlisted}`.trimEnd()),
    ...costs.map((cost) => `  ${cost.day} ${cost.supplier}`),
  ];
}

const momentOf = (at: number): string => new Date(at).toISOString();
const shortly = (key: string): string => `${key.slice(0, 8)}…`;
