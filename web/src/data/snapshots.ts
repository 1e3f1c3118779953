import Dexie, { type EntityTable } from 'dexie';
import { useLiveQuery } from 'dexie-react-hooks';
import { exportAsItIs } from '../workers/tasks';
import { DURABLE, type WorkspaceEntry } from './database';

/** A workspace as it was before something that cannot be undone: a file, kept in this browser. */
export interface Snapshot {
  id: number;
  workspaceId: string;
  name: string;
  at: number;
  /** "before version 5". */
  reason: string;
  blob: Blob;
}

class SnapshotDatabase extends Dexie {
  snapshots!: EntityTable<Snapshot, 'id'>;

  constructor() {
    super('half-penny.snapshots', DURABLE);
    this.version(1).stores({ snapshots: '++id, workspaceId' });
  }
}

const database = new SnapshotDatabase();

/** Of one workspace. */
const MOST = 3;

/**
 * Keeps a workspace as it is in its database now, whatever version that is of, and lets go of the oldest of it.
 *
 * @throws where it could not be written; what was to follow must not be done then
 */
export async function keepSnapshot(
  { id, name, database: of }: Pick<WorkspaceEntry, 'id' | 'name' | 'database'>,
  reason: string,
): Promise<void> {
  const blob = await exportAsItIs(of).result;
  await database.transaction('rw', database.snapshots, async () => {
    await database.snapshots.add({ workspaceId: id, name, at: Date.now(), reason, blob });
    const own = await database.snapshots.where('workspaceId').equals(id).primaryKeys();
    await database.snapshots.bulkDelete(own.slice(0, Math.max(0, own.length - MOST)));
  });
}

export const removeSnapshot = (id: number): Promise<void> => database.snapshots.delete(id);

/** Those of a workspace go with it, and with a person who was deleted out of it. */
export const removeSnapshotsOf = (workspaceId: string): Promise<number> =>
  database.snapshots.where('workspaceId').equals(workspaceId).delete();

/** All that there are, newest first. */
export const useSnapshots = (): readonly Snapshot[] =>
  useLiveQuery(() => database.snapshots.reverse().toArray(), []) ?? [];
