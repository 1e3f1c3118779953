import type { CancellableTask } from '../workers/tasks';
import { fetchBackup, type Backup } from './backups';
import type { WorkspaceEntry } from './database';
import { isThere } from './opening';
import { newId, registry } from './registry';
import { takeInFile } from './import-workspace';

/**
 * Takes a backup in and opens it. Where its workspace is no longer in this browser it takes its place, and its backups go on as one line;
 * else it stands beside it. The promise is rejected with a WorkspaceFileError that has each fault of the file.
 */
export function bringBack(backup: Backup, onProgress: (share: number) => void): CancellableTask<WorkspaceEntry> {
  let stop: () => void = () => undefined;
  let stopped = false;
  const result = (async () => {
    const file = await fetchBackup(backup);
    const known = await registry.workspaces.get(backup.workspace);
    const taken = known !== undefined && (await isThere(known));
    const work = takeInFile(file, true, onProgress, taken ? newId() : backup.workspace);
    stop = work.stop;
    if (stopped) stop();
    const entry = await work.result;
    await registry.workspaces.update(entry.id, { backedUp: { at: backup.at, changes: backup.changes } });
    return entry;
  })();
  return {
    result,
    stop: () => {
      stopped = true;
      stop();
    },
  };
}
