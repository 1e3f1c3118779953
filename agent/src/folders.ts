import type { Activity } from '@half-penny/core/capture';
import { watch, type FSWatcher } from 'chokidar';
import { resolve } from 'node:path';

const HIDDEN = /(?:^|[/\\])(?:\.|node_modules(?:[/\\]|$))/;

/** Watches folders for files that are saved, and keeps which files there are. */
export async function watchFolders(
  folders: readonly string[],
  files: Set<string>,
  record: (activities: Activity[]) => void,
): Promise<FSWatcher> {
  let begun = false;
  const watcher = watch(
    folders.map((folder) => resolve(folder)),
    {
      ignored: (path) => HIDDEN.test(path.slice(1)),
      // Programs write in parts: it is kept when its size stays.
      awaitWriteFinish: { stabilityThreshold: 200, pollInterval: 50 },
    },
  );
  const kept = (file: string) => {
    const now = Date.now();
    record([{ kind: 'kept', from: now, to: now, file }]);
  };
  watcher.on('add', (file) => {
    files.add(file);
    if (begun) kept(file);
  });
  watcher.on('change', kept);
  watcher.on('unlink', (file) => files.delete(file));
  await new Promise<void>((done) => watcher.once('ready', done));
  begun = true;
  return watcher;
}
