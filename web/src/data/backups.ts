import { useEffect, useState, useSyncExternalStore } from 'react';
import { wordsOf } from './in-words';
import * as z from 'zod';
import { putInFolder, readyFolder } from './backup-folder';
import { WorkspaceDatabase, type WorkspaceEntry } from './database';
import { registry } from './registry';
import { knowsSecret } from './secret';
import { askServer, NotConnected } from './server';
import { exportFile } from './workspaces';

const backupSchema = z.object({
  id: z.string().min(1),
  /** By which a workspace's backups belong together. */
  workspace: z.string().min(1),
  name: z.string(),
  /** How many changes its history had. */
  changes: z.number(),
  at: z.number(),
  bytes: z.number(),
});
export type Backup = z.output<typeof backupSchema>;
export const heldSchema = z.object({
  folder: z.string(),
  held: z.number(),
  most: z.number(),
  backups: z.array(backupSchema),
});
/** What the local server keeps, newest first, and where. */
export type Held = z.output<typeof heldSchema>;

/** @throws NotConnected, or what the server says */
export const heldBackups = async (signal?: AbortSignal): Promise<Held> =>
  heldSchema.parse(await (await askServer('/backups', signal ? { signal } : {})).json());

export const fetchBackup = async ({ id }: Backup): Promise<Blob> => (await askServer(`/backups/${id}`)).blob();

export const deleteBackup = async ({ id }: Backup): Promise<void> =>
  void (await askServer(`/backups/${id}`, { method: 'DELETE' }));

const PATIENCE = 3000;

/** The newest backup of each workspace, for a visit that finds nothing in this browser; none where no server is to be had. */
export async function backupsToOffer(): Promise<Backup[]> {
  if (!knowsSecret()) return [];
  try {
    const { backups } = await heldBackups(AbortSignal.timeout(PATIENCE));
    return backups.filter(
      (each, place) => backups.findIndex(({ workspace }) => workspace === each.workspace) === place,
    );
  } catch {
    // Whatever it is, it does not keep anybody from beginning.
    return [];
  }
}

/** How the last backup of this tab went; null where none was tried. */
export interface LastBackup {
  at: number;
  fault: string | null;
}
let last: LastBackup | null = null;
const watching = new Set<() => void>();
const watch = (told: () => void) => {
  watching.add(told);
  return () => void watching.delete(told);
};
export const useLastBackup = (): LastBackup | null => useSyncExternalStore(watch, () => last);

/**
 * Hands the workspace as it is now to every place there is for backups.
 *
 * @returns where it went; empty where there is no place
 * @throws Error of the last place that could not take it, when none could
 */
export async function backUp(entry: WorkspaceEntry): Promise<('server' | 'folder')[]> {
  const folder = await readyFolder();
  if (!folder && !knowsSecret()) return [];
  const places: ('server' | 'folder')[] = [];
  let fault: unknown = null;
  try {
    const changes = await countOf(entry);
    const { blob } = await exportFile(entry, () => undefined).result;
    const at = Date.now();
    const toServer = async () => {
      if (!knowsSecret()) return;
      const query = new URLSearchParams({ workspace: entry.id, name: entry.name.slice(0, 500), changes: `${changes}` });
      const headers = { 'content-type': 'application/zip' };
      await askServer(`/backups?${query}`, { method: 'POST', body: blob, headers });
      places.push('server');
    };
    const toFolder = async () => {
      if (!folder) return;
      await putInFolder(folder, blob, entry, at);
      places.push('folder');
    };
    for (const place of [toServer, toFolder]) {
      await place().catch((thrown: unknown) => {
        fault = thrown;
      });
    }
    if (places.length > 0) await registry.workspaces.update(entry.id, { backedUp: { at, changes } });
  } catch (thrown) {
    fault = thrown;
  }
  last = { at: Date.now(), fault: fault === null ? null : wordsOf(fault) };
  for (const told of watching) told();
  if (places.length === 0 && fault !== null) throw fault;
  return places;
}

async function countOf(entry: WorkspaceEntry): Promise<number> {
  const database = new WorkspaceDatabase(entry.database);
  try {
    return await database.journal.count();
  } finally {
    database.close();
  }
}

const OFTEN = 60_000;
const SELDOM = 15 * 60_000;
/** Between two backups of a workspace that rests in between. */
const PAUSE = 5 * 60_000;

/**
 * Keeps backups of the open workspace for as long as the application is open: when it rests for a minute
 * after a change, at most every five minutes, and every quarter of an hour while changes go on. One tab does it for all. The demo, which can be made again, has none.
 *
 * @returns a function that ends it
 */
export function keepBackups(entry: WorkspaceEntry): () => void {
  const ended = new AbortController();
  if (!entry.demo)
    void navigator.locks
      .request(`half-penny-backups ${entry.id}`, { signal: ended.signal }, () => keepUntil(entry, ended.signal))
      .catch(() => undefined);
  return () => ended.abort();
}

async function keepUntil(entry: WorkspaceEntry, signal: AbortSignal): Promise<void> {
  let before = -1;
  while (!signal.aborted) {
    try {
      const changes = await countOf(entry);
      const known = await registry.workspaces.get(entry.id);
      const age = Date.now() - (known?.backedUp?.at ?? 0);
      const wanted = changes > (known?.backedUp?.changes ?? 0);
      const quiet = changes === before;
      if (wanted && (age > SELDOM || (quiet && age > PAUSE))) await backUp(entry);
      before = changes;
    } catch {
      // It is told in Setup → Your data, and tried again.
    }
    await new Promise((resolve) => setTimeout(resolve, OFTEN));
  }
}

/** What the local server keeps, read when a screen shows it and whenever `again` is called. */
export function useHeld(): { held: Held | null; fault: string | null; again: () => void } {
  const [state, setState] = useState<{ held: Held | null; fault: string | null }>({ held: null, fault: null });
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    let left = false;
    heldBackups().then(
      (held) => !left && setState({ held, fault: null }),
      (thrown: unknown) =>
        // How to connect is said where one connects.
        !left && setState({ held: null, fault: thrown instanceof NotConnected ? null : wordsOf(thrown) }),
    );
    return () => void (left = true);
  }, [turn]);
  return { ...state, again: () => setTurn((now) => now + 1) };
}
