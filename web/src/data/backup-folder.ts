import { momentsToKeep } from '@half-penny/core/time';
import { useEffect, useState } from 'react';
import type { WorkspaceEntry } from './database';
import { plainName } from './plain-name';
import { registry } from './registry';

// A folder that the person picked for backups, where the browser can write into one.

/** What the type library does not know yet of the File System Access API (WICG draft, https://wicg.github.io/file-system-access/). */
interface PickedFolder extends FileSystemDirectoryHandle {
  queryPermission(about: { mode: 'readwrite' }): Promise<PermissionState>;
  requestPermission(about: { mode: 'readwrite' }): Promise<PermissionState>;
}
interface Picking {
  showDirectoryPicker?: (options: { id: string; mode: 'readwrite' }) => Promise<PickedFolder>;
}

const WRITING = { mode: 'readwrite' } as const;

/** Whether this browser can write into a folder. */
export const canPickFolder = (): boolean => typeof (window as Picking).showDirectoryPicker === 'function';

const keptFolder = async (): Promise<PickedFolder | null> =>
  ((await registry.folders.get('backups'))?.folder as PickedFolder | undefined) ?? null;

const mayWrite = async (folder: PickedFolder): Promise<boolean> =>
  // Only some kinds of folders have to be asked.
  !('queryPermission' in folder) || (await folder.queryPermission(WRITING)) === 'granted';

/** The picked folder, if it can be written to without asking anybody. */
export async function readyFolder(): Promise<FileSystemDirectoryHandle | null> {
  const folder = await keptFolder();
  return folder && (await mayWrite(folder)) ? folder : null;
}

/** Whether a folder was picked, whether or not it can be written to now. */
export const hasFolder = async (): Promise<boolean> => (await keptFolder()) !== null;

/** Of one workspace: a name for people, its own letters, the moment. */
const FILE = /^.*-([0-9a-f]{8})-(\d{4})-(\d\d)-(\d\d)T(\d\d)(\d\d)(\d\d)Z\.half-penny\.zip$/;
const lettersOf = ({ id }: Pick<WorkspaceEntry, 'id'>): string => id.replace(/[^0-9a-f]/g, '').slice(-8);

function momentOf(name: string, { id }: Pick<WorkspaceEntry, 'id'>): number | null {
  const [, letters, year, month, day, hour, minute, second] = FILE.exec(name) ?? [];
  if (letters === undefined || letters !== lettersOf({ id })) return null;
  return Date.parse(`${year}-${month}-${day}T${hour}:${minute}:${second}Z`);
}

/** Writes a backup into the folder, whole or not at all, and removes those that are not kept any longer. */
export async function putInFolder(
  folder: FileSystemDirectoryHandle,
  blob: Blob,
  entry: Pick<WorkspaceEntry, 'id' | 'name'>,
  at: number,
): Promise<void> {
  const stamp = `${new Date(at).toISOString().slice(0, 19).replace(/:/g, '')}Z`;
  const name = `${plainName(entry.name)}-${lettersOf(entry)}-${stamp}.half-penny.zip`;
  const file = await folder.getFileHandle(name, { create: true });
  // What is written gets its place when it is closed; until then the file is as it was.
  const writing = await file.createWritable();
  try {
    await writing.write(blob);
    await writing.close();
  } catch (thrown) {
    await writing.abort().catch(() => undefined);
    await folder.removeEntry(name).catch(() => undefined);
    throw new Error(`The backup could not be written into the folder ${folder.name}; those in it are untouched.`, {
      cause: thrown,
    });
  }
  const own = new Map<number, string>();
  for await (const other of folder.keys()) {
    const moment = momentOf(other, entry);
    if (moment !== null) own.set(moment, other);
  }
  const keep = momentsToKeep([...own.keys()], at);
  for (const [moment, other] of own) if (!keep.has(moment)) await folder.removeEntry(other);
}

/** The folder for backups: its name, whether it can be written to now, and what can be done about it. */
export function useFolder() {
  const [folder, setFolder] = useState<{ name: string; ready: boolean } | null>(null);
  const [turn, setTurn] = useState(0);
  useEffect(() => {
    let left = false;
    void (async () => {
      const kept = await keptFolder();
      const found = kept && { name: kept.name, ready: await mayWrite(kept) };
      if (!left) setFolder(found);
    })();
    return () => void (left = true);
  }, [turn]);
  const again = () => setTurn((now) => now + 1);
  return {
    folder,
    pick: async () => {
      const picked = await (window as Picking).showDirectoryPicker!({ id: 'backups', mode: 'readwrite' }).catch(
        (thrown: unknown) => {
          if (thrown instanceof Error && thrown.name === 'AbortError') return null;
          throw new Error('The browser does not let this folder be written to. Choose another.', { cause: thrown });
        },
      );
      if (!picked) return;
      await registry.folders.put({ key: 'backups', folder: picked });
      again();
    },
    /** After the browser was closed it may want to be asked again, by a press. */
    allow: async () => {
      await (await keptFolder())?.requestPermission(WRITING);
      again();
    },
    forget: async () => {
      await registry.folders.delete('backups');
      again();
    },
  };
}
