import type { CommandInput } from '@half-penny/core/commands';
import type { Id } from '@half-penny/core/model';
import { buildDemo, exportWorkspace, type CancellableTask } from '../workers/tasks';
import type { Exported } from '../workers/workspace.worker';
import { DATABASE_PREFIX, WorkspaceDatabase, type WorkspaceEntry } from './database';
import { DexieExecutor } from './executor';
import { plainName } from './plain-name';
import { newId, openWorkspace } from './registry';
import { whileMaking } from './storage';

type Progress = (share: number) => void;

const databaseFor = (id: Id): string => `${DATABASE_PREFIX}${id}`;

export function entryFor(id: Id, name: string, memberId: Id | null, demo: boolean): WorkspaceEntry {
  return { id, database: databaseFor(id), name, memberId, demo, createdAt: Date.now(), device: newId() };
}

/** Fills a new workspace by long work and opens it when all is there; one that was not finished is removed. */
export function intoNewWorkspace<T>(
  start: (database: string) => CancellableTask<T>,
  entryOf: (id: Id, result: T) => WorkspaceEntry,
  id: Id = newId(),
): CancellableTask<WorkspaceEntry> {
  const work = start(databaseFor(id));
  const result = whileMaking(databaseFor(id), async () => {
    const entry = entryOf(id, await work.result);
    await openWorkspace(entry);
    return entry;
  });
  return {
    stop: work.stop,
    result: result.catch(async (thrown: unknown) => {
      await WorkspaceDatabase.delete(databaseFor(id));
      throw thrown;
    }),
  };
}

/** Makes the demo studio beside what is there, and opens it. */
export const loadDemo = (onProgress: Progress): CancellableTask<WorkspaceEntry> =>
  intoNewWorkspace(
    (database) => buildDemo(database, Date.now(), onProgress),
    (id, content) => entryFor(id, content.name, content.memberId, true),
  );

/** Sets up an own, empty studio beside what is there, and opens it. */
export async function startEmpty(input: CommandInput<'workspace.create'>): Promise<WorkspaceEntry> {
  const fresh = entryFor(newId(), input.workspace.name, null, false);
  const database = new WorkspaceDatabase(fresh.database);
  try {
    const executor = new DexieExecutor(database, () => ({
      now: Date.now(),
      memberId: null,
      newId,
      device: fresh.device,
    }));
    await executor.run('workspace.create', input);
    const member = await database.rows('members').toCollection().first();
    const entry = { ...fresh, memberId: member?.id ?? null };
    await openWorkspace(entry);
    return entry;
  } catch (thrown) {
    await database.delete();
    throw thrown;
  } finally {
    database.close();
  }
}

/** The workspace as a file, ready to be saved, with its history unless it is said to go without. */
export const exportFile = (
  entry: WorkspaceEntry,
  onProgress: Progress,
  withHistory = true,
): CancellableTask<Exported> => exportWorkspace(entry.database, withHistory, onProgress);

/** "saltmere-lighting-2026-11-12.half-penny.zip". */
export const fileNameOf = (name: string, day: string): string => `${plainName(name)}-${day}.half-penny.zip`;

/** Hands a file to the person. */
export function save(blob: Blob, name: string): void {
  const address = URL.createObjectURL(blob);
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 60_000);
}
