import type { Share } from '@half-penny/core/shared-log';
import type { Id } from '@half-penny/core/model';
import { useLiveQuery } from 'dexie-react-hooks';
import type { SharedBook, WorkspaceDatabase } from '../database';
import { registry } from '../registry';
import { useSession } from '../session';

// What this browser keeps of a workspace that is on several devices.

/** How this workspace is shared; null where it is not, undefined until that is read. */
export function useSharedBook(): SharedBook | null | undefined {
  const { entry } = useSession();
  return useLiveQuery(async () => (await registry.shared.get(entry.id)) ?? null, [entry.id]);
}

/** Whether the workspace is shared and the log is not to be had: what others see waits then. */
export const useIsAway = (): boolean => {
  const kind = useSharedBook()?.standing.kind;
  return kind !== undefined && kind !== 'together';
};

/** Where this device stands in the log; null where the workspace is not shared, undefined until that is read. */
export function useShare(): Share | null | undefined {
  const { database } = useSession();
  return useLiveQuery(() => shareOf(database), [database]);
}

export const shareOf = async (database: WorkspaceDatabase): Promise<Share | null> =>
  (await database.share.toCollection().first()) ?? null;

/** @throws Error in words where the workspace is not shared */
export async function needBook(id: Id): Promise<SharedBook> {
  const book = await registry.shared.get(id);
  if (!book) throw new Error('This workspace is not shared.');
  return book;
}

export const editBook = (id: Id, change: (book: SharedBook) => void): Promise<number> =>
  registry.shared.where('id').equals(id).modify(change);
