import {
  readWorkspace,
  sourceOf,
  WHOLE_FILE,
  WorkspaceFileError,
  writeWorkspace,
  type StoredFile,
  type WorkspaceContent,
} from '@half-penny/formats/workspace';
import type { MemoryStore } from '@half-penny/core/engine';
import { accessSync, constants, createWriteStream, openAsBlob, renameSync, rmSync } from 'node:fs';
import { once } from 'node:events';

/** A file that cannot be opened, read or written, in words. */
export class FileError extends Error {}

const reasons: Record<string, string> = {
  ENOENT: 'there is no such file or folder',
  EACCES: 'it may not be opened',
  EISDIR: 'it is a folder',
  ENOTDIR: 'it is not a folder',
  ENOSPC: 'there is no room left',
};

/** Names the path and the reason of a failed file operation. */
export function fileError(path: string, thrown: unknown): FileError {
  const { code, message } = thrown as { code?: string; message: string };
  return new FileError(`${path}: ${(code && reasons[code]) ?? message}.`);
}

export async function openBlob(path: string): Promise<Blob> {
  try {
    // openAsBlob says only that it failed; asking for the file first gives the reason.
    accessSync(path, constants.R_OK);
    return await openAsBlob(path);
  } catch (thrown) {
    throw fileError(path, thrown);
  }
}

/** Reads a workspace file; a fault of the file as a whole names its path. */
export async function openWorkspace(path: string): Promise<WorkspaceContent> {
  try {
    return await readWorkspace(await openBlob(path));
  } catch (thrown) {
    if (!(thrown instanceof WorkspaceFileError)) throw thrown;
    const faults = thrown.faults.map((fault) => (fault.file === WHOLE_FILE ? { ...fault, file: path } : fault));
    throw new WorkspaceFileError(faults, thrown.count);
  }
}

/** Writes bytes beside the target first, so that a failure leaves what was there. */
export async function writeSafely(
  path: string,
  write: (sink: (bytes: Uint8Array) => void) => Promise<unknown>,
): Promise<void> {
  const partial = `${path}.part`;
  const stream = createWriteStream(partial);
  const failed = once(stream, 'error').then(([error]) => Promise.reject(error as Error));
  try {
    await Promise.race([write((bytes) => void stream.write(bytes)), failed]);
    stream.end();
    await Promise.race([once(stream, 'finish'), failed]);
    renameSync(partial, path);
  } catch (thrown) {
    stream.destroy();
    rmSync(partial, { force: true });
    throw (thrown as { code?: string }).code ? fileError(path, thrown) : thrown;
  }
}

export const saveWorkspace = (
  path: string,
  store: MemoryStore,
  files?: () => AsyncIterable<StoredFile> | Iterable<StoredFile>,
): Promise<void> =>
  writeSafely(path, (sink) =>
    writeWorkspace(
      sourceOf((table) => store.rows(table), store.journal, files),
      sink,
    ),
  );
