import type { Id } from '@half-penny/core/model';
import { WorkspaceFileError } from '@half-penny/formats/workspace';
import { importWorkspace, type CancellableTask } from '../workers/tasks';
import type { WorkspaceEntry } from './database';
import { entryFor, intoNewWorkspace } from './workspaces';

/**
 * Takes a workspace file in beside what is there, and opens it once all of it is found sound and written.
 * The promise is rejected with a WorkspaceFileError that has each fault.
 *
 * @param withoutReceipts whether to go on where the bytes of receipts are missing
 * @param id of the workspace in this browser, for one that goes on where it stood; a new one where not given
 */
export const takeInFile = (
  file: Blob,
  withoutReceipts: boolean,
  onProgress: (share: number) => void,
  id?: Id,
): CancellableTask<WorkspaceEntry> =>
  intoNewWorkspace(
    (database) => {
      const work = importWorkspace(file, database, withoutReceipts, onProgress);
      const result = work.result.then((reading) => {
        if (!reading.ok) throw new WorkspaceFileError(reading.faults, reading.count, reading.onlyReceipts);
        return reading.content;
      });
      return { stop: work.stop, result };
    },
    (own, content) => entryFor(own, content.name, content.memberId, false),
    id,
  );
