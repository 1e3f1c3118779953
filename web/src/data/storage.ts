import Dexie, { liveQuery } from 'dexie';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useState } from 'react';
import { DATABASE_PREFIX, WorkspaceDatabase, type WorkspaceEntry } from './database';
import { registry } from './registry';
import { useSession } from './session';

/** How this browser keeps what it is given. */
export interface Room {
  /** Whether it promised never to clear it by itself; null where it does not tell. */
  kept: boolean | null;
  /** Bytes of everything at this address, and how many more fit; null where it does not tell. */
  used: number | null;
  left: number | null;
}

async function lookAround(): Promise<Room> {
  const { storage } = navigator;
  const kept = (await storage?.persisted?.().catch(() => null)) ?? null;
  const { usage, quota }: StorageEstimate = (await storage?.estimate?.().catch(() => null)) ?? {};
  return { kept, used: usage ?? null, left: usage !== undefined && quota !== undefined ? quota - usage : null };
}

/** The room there is, and asking the browser to keep what is here for good. */
export function useRoom(): { room: Room | null; ask: () => Promise<boolean> } {
  const [room, setRoom] = useState<Room | null>(null);
  useEffect(() => {
    let left = false;
    void lookAround().then((found) => !left && setRoom(found));
    return () => void (left = true);
  }, []);
  const ask = async () => {
    const kept = (await navigator.storage?.persist?.().catch(() => false)) ?? false;
    setRoom(await lookAround());
    return kept;
  };
  return { room, ask };
}

/** Remembers that a workspace was saved as a file just now. */
export async function wasExported(entry: WorkspaceEntry, at: number): Promise<void> {
  const database = new WorkspaceDatabase(entry.database);
  try {
    const exported = { at, changes: await database.journal.count() };
    await registry.workspaces.update(entry.id, { exported });
  } finally {
    database.close();
  }
}

/** What is in this browser only. */
export interface Unsaved {
  changes: number;
  /** Since the last file or backup, or since the workspace began. */
  days: number;
  /** Whether there is a file or a backup at all. */
  ever: boolean;
}

const DAY = 86_400_000;

/** How much of the open workspace no file holds; undefined while it is being counted. */
export function useUnsaved(now: number): Unsaved | undefined {
  const { entry, database } = useSession();
  const counted = useLiveQuery(async () => {
    const changes = await database.journal.count();
    const known = await registry.workspaces.get(entry.id);
    const { exported, backedUp } = known ?? {};
    const kept = (backedUp?.changes ?? 0) > (exported?.changes ?? 0) ? backedUp : exported;
    return { changes, kept, since: kept?.at ?? entry.createdAt };
  }, [entry, database]);
  return (
    counted && {
      changes: counted.changes - (counted.kept?.changes ?? 0),
      days: Math.max(0, Math.floor((now - counted.since) / DAY)),
      ever: counted.kept !== undefined,
    }
  );
}

/** From so many days and changes on, a reminder is in place. */
const OFTEN = { days: 7, changes: 20 };

/** Whether it is time to save a file. The demo is made again whenever it is wanted. */
export const isTimeToSave = ({ demo }: Pick<WorkspaceEntry, 'demo'>, { changes, days }: Unsaved): boolean =>
  !demo && days >= OFTEN.days && changes >= OFTEN.changes;

const MAKING = 'half-penny-making ';

/** Holds a database for as long as it is being filled, so that nobody takes it for one that was left behind. */
export const whileMaking = <T>(database: string, task: () => Promise<T>): Promise<T> =>
  navigator.locks.request(`${MAKING}${database}`, task) as Promise<T>;

/** Databases of workspaces that were never finished: an import or a start that was broken off. */
async function leftBehind(): Promise<string[]> {
  const [names, known, locks] = await Promise.all([
    Dexie.getDatabaseNames(),
    registry.workspaces.toArray(),
    navigator.locks.query(),
  ]);
  const inUse = new Set([
    ...known.map((entry) => entry.database),
    ...(locks.held ?? []).map(({ name }) => name?.replace(MAKING, '')),
  ]);
  return names.filter((name) => name.startsWith(DATABASE_PREFIX) && !inUse.has(name));
}

/** Workspaces that were left unfinished, and removing them. */
export function useLeftBehind(): { names: readonly string[]; remove: () => Promise<void> } {
  const [names, setNames] = useState<readonly string[]>([]);
  useEffect(() => {
    const watching = liveQuery(() => registry.workspaces.count()).subscribe(() => {
      void leftBehind().then(setNames);
    });
    return () => watching.unsubscribe();
  }, []);
  const remove = async () => {
    // Another tab may have taken one in meanwhile.
    for (const name of await leftBehind()) await Dexie.delete(name);
    setNames(await leftBehind());
  };
  return { names, remove };
}
