import type { Reader } from '@half-penny/core/engine';
import type { Id, KeyHolder, PublicKeys, SealedFile } from '@half-penny/core/model';
import { WORKSPACE_ID } from '@half-penny/core/model';
import { makeKeys, publicKeysOf, unwrapKeys, wrapKeys, type PrivateKeys } from '@half-penny/formats/sealed-files';
import { useLiveQuery } from 'dexie-react-hooks';
import { useRead } from './read';
import { registry } from './registry';
import type { Changes } from './session';

// Keys: what others know of them stands in the workspace; the private ones are in this browser, beside it.

/** Who is known by keys here, and what went and came. */
export interface KnownKeys {
  /** Whose workspace this is; null for the studio. */
  ownerId: Id | null;
  /** The studio, as its members know it. */
  studio: KeyHolder | undefined;
  own: KeyHolder | undefined;
  ofMember: ReadonlyMap<Id, KeyHolder>;
  /** What was made and taken, the latest first. */
  files: readonly SealedFile[];
}

export async function knownKeys(reader: Reader): Promise<KnownKeys> {
  const ownerId = (await reader.get('workspace', WORKSPACE_ID))?.ofMember ?? null;
  const holders = await reader.all('keyHolders');
  const files = await reader.all('sealedFiles');
  return {
    ownerId,
    studio: holders.find(({ memberId }) => memberId === null),
    own: holders.find(({ memberId }) => memberId === ownerId),
    ofMember: new Map(holders.flatMap((row) => (row.memberId === null ? [] : [[row.memberId, row] as const]))),
    files: files.sort((a, b) => b.at - a.at),
  };
}

export const useKnownKeys = (): KnownKeys | undefined => useRead(knownKeys, []);

/** Whether the private keys are in this browser. */
export const useAreKeysHere = (keys: PublicKeys | null | undefined): boolean | undefined =>
  useLiveQuery(async () => (keys ? (await registry.keys.get(keys.signing)) !== undefined : false), [keys?.signing]);

/** @throws Error in words when they are not in this browser */
export async function privateKeysOf(keys: PublicKeys | null | undefined): Promise<PrivateKeys> {
  const kept = keys && (await registry.keys.get(keys.signing));
  if (!kept)
    throw new Error('The keys of this workspace are not in this browser. Bring them back by their passphrase.');
  return kept.keys;
}

export const keepKeys = (keys: PrivateKeys) => registry.keys.put({ id: publicKeysOf(keys).signing, keys });

/** Makes keys for this workspace; whoever met older ones has to meet these. */
export async function beginKeys({ run }: Changes): Promise<void> {
  const keys = makeKeys();
  // Kept before anybody is told of them.
  await keepKeys(keys);
  await run('keys.begin', { keys: publicKeysOf(keys) });
}

/** Puts the keys under a passphrase into the workspace, and so into its backups. */
export async function keepInBackups({ run }: Changes, own: KeyHolder, passphrase: string): Promise<void> {
  await run('keys.wrap', { wrapped: await wrapKeys(await privateKeysOf(own.keys), passphrase) });
}

/** Brings keys back that came with a backup. @throws SealedFileFault when the passphrase is another one */
export async function bringKeysBack({ wrapped, keys }: KeyHolder, passphrase: string): Promise<void> {
  const found = await unwrapKeys(wrapped!, passphrase);
  if (publicKeysOf(found).signing !== keys?.signing) throw new Error('These keys are not those of this workspace.');
  await keepKeys(found);
}
