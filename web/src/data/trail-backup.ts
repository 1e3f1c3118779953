import { sealingKey } from '@half-penny/formats/sealed';
import { Fault } from '@half-penny/core/model';
import { useLiveQuery } from 'dexie-react-hooks';
import type { CancellableTask } from '../workers/tasks';
import { hasFolder, readyFolder } from './backup-folder';
import { bringTrailBack, sealTrail } from '../workers/trail';
import { heldSchema, type Backup } from './backups';
import { knowsSecret } from './secret';
import { askServer } from './server';
import { backupsToRemove, chosenBackup, outdateBackup, trail } from './trail';

// The trail's own backup: by choice, sealed in this browser before it goes anywhere, beside the workspaces' backups.

const LEAST_LETTERS = 10;
const fileNameOf = (id: string): string => `trail-${id.replace(/[^0-9a-f]/g, '').slice(-8)}.half-penny-trail`;

/** What is to be told of the trail's backup: null where none is chosen, undefined while it is read. */
export function useTrailBackup() {
  return useLiveQuery(async () => {
    const chosen = await chosenBackup();
    return { chosen: chosen ?? null, toRemove: (await backupsToRemove()).length };
  }, []);
}

/**
 * Begins to back the trail up, and takes the first one. The passphrase is kept nowhere; what is made of it stays in this browser.
 *
 * @throws Fault when the passphrase is too short
 */
export async function chooseTrailBackup(passphrase: string): Promise<void> {
  if (passphrase.trim().length < LEAST_LETTERS)
    throw new Fault(
      'too-short',
      `A passphrase has at least ${LEAST_LETTERS} letters; several words are good ones.`,
      'passphrase',
    );
  const sealing = await sealingKey(passphrase.trim());
  await trail.transaction('rw', trail.backup, async () => {
    // One that was sealed by another passphrase is not left behind.
    await outdateBackup();
    await trail.backup.put({ key: 'chosen', id: crypto.randomUUID(), sealing, last: null });
  });
  await backUpTrail();
}

/** Ends it: what was backed up is removed. */
export async function endTrailBackup(): Promise<void> {
  await trail.transaction('rw', trail.backup, () => outdateBackup(true));
  await removeOldTrailBackups();
}

/** Changes when anything of the trail does that is worth a backup. */
async function markOf(): Promise<string> {
  const few = [trail.placings, trail.rules, trail.settings, trail.switches, trail.openedFor, trail.meant];
  const [count, last, ...rest] = await Promise.all([
    trail.activities.count(),
    trail.activities.orderBy('from').last(),
    ...few.map((table) => table.toArray()),
  ]);
  const text = new TextEncoder().encode(JSON.stringify([count, last, rest]));
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', text));
  return [...hash.subarray(0, 12)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/**
 * Seals the trail and hands it to every place there is for backups, unless what lies there is of the same trail.
 *
 * @returns where it went; empty where there was nothing to do or no place
 * @throws what the last place said, when none could take it
 */
export async function backUpTrail(): Promise<('server' | 'folder')[]> {
  await removeOldTrailBackups();
  const chosen = await chosenBackup();
  const mark = await markOf();
  if (!chosen || chosen.last?.mark === mark) return [];
  const folder = await readyFolder();
  if (!folder && !knowsSecret()) return [];
  // An emptied browser puts nothing over what it lost.
  if (chosen.last === null && (await trail.activities.count()) + (await trail.placings.count()) === 0) return [];
  const blob = await sealTrail(chosen.sealing, () => undefined).result;
  const places: ('server' | 'folder')[] = [];
  let fault: unknown = null;
  const toServer = async () => {
    if (!knowsSecret()) return;
    const changes = await trail.activities.count();
    const query = new URLSearchParams({ workspace: chosen.id, name: 'What was noticed', changes: `${changes}` });
    const headers = { 'content-type': 'application/octet-stream' };
    await askServer(`/trail-backups?${query}`, { method: 'POST', body: blob, headers });
    places.push('server');
  };
  const toFolder = async () => {
    if (!folder) return;
    const writing = await (await folder.getFileHandle(fileNameOf(chosen.id), { create: true })).createWritable();
    await writing.write(blob);
    await writing.close();
    places.push('folder');
  };
  for (const place of [toServer, toFolder])
    await place().catch((thrown: unknown) => {
      fault = thrown;
    });
  if (places.length > 0) {
    const last = { at: Date.now(), bytes: blob.size, mark };
    await trail.transaction('rw', trail.backup, async () => {
      // Wiped while it was sealed: what has just been put there is to go again.
      const now = await chosenBackup();
      if (now?.id === chosen.id) await trail.backup.put({ ...now, last });
    });
  } else if (fault !== null) throw fault;
  if ((await chosenBackup())?.id !== chosen.id) await removeOldTrailBackups();
  return places;
}

/** Removes backups that are to go from where they lie; those that cannot be reached now stay on the list. */
export async function removeOldTrailBackups(): Promise<void> {
  const ids = await backupsToRemove();
  if (ids.length === 0) return;
  try {
    if (knowsSecret()) {
      for (const backup of await heldTrails()) {
        if (ids.includes(backup.workspace)) await askServer(`/trail-backups/${backup.id}`, { method: 'DELETE' });
      }
    }
    const folder = await readyFolder();
    // It may lie in a folder that the browser wants to be asked about first.
    if (!folder && (await hasFolder())) return;
    if (folder) {
      for (const id of ids)
        await folder.removeEntry(fileNameOf(id)).catch((thrown: unknown) => {
          if ((thrown as { name?: string }).name !== 'NotFoundError') throw thrown;
        });
    }
  } catch {
    return;
  }
  await trail.transaction('rw', trail.backup, async () => {
    const left = (await backupsToRemove()).filter((id) => !ids.includes(id));
    if (left.length === 0) await trail.backup.delete('to remove');
    else await trail.backup.put({ key: 'to remove', ids: left });
  });
}

/** Trails that the local server keeps, newest first. */
export const heldTrails = async (): Promise<Backup[]> =>
  heldSchema.parse(await (await askServer('/trail-backups')).json()).backups;

export const fetchTrail = async (id: string): Promise<Blob> => (await askServer(`/trail-backups/${id}`)).blob();

/**
 * Takes a sealed trail in beside what is here. A browser that backs up no trail of its own goes on with the backup it came from.
 *
 * @param id of the backups it is the newest of, where it lies with the local server
 * @returns how many rows came
 */
export function takeTrailIn(file: Blob, passphrase: string, id: string | null): CancellableTask<number> {
  const { result, stop } = bringTrailBack(file, passphrase.trim());
  const adopted = async () => {
    const came = await result;
    if (id === null || (await chosenBackup())) return came;
    await trail.backup.put({ key: 'chosen', id, sealing: await sealingKey(passphrase.trim()), last: null });
    return came;
  };
  return { result: adopted(), stop };
}

const OFTEN = 10 * 60_000;

/**
 * Keeps the trail's backup while the application is open, every ten minutes in which something was noticed; one tab does it for all.
 *
 * @returns a function that ends it
 */
export function keepTrailBackup(): () => void {
  const ended = new AbortController();
  void navigator.locks
    .request('half-penny-trail-backup', { signal: ended.signal }, async () => {
      while (!ended.signal.aborted) {
        // It is told where the backup is chosen, and tried again.
        await backUpTrail().catch(() => undefined);
        await new Promise((resolve) => setTimeout(resolve, OFTEN));
      }
    })
    .catch(() => undefined);
  return () => ended.abort();
}
