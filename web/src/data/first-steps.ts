import type { Id } from '@half-penny/core/model';
import { useLiveQuery } from 'dexie-react-hooks';
import { useSession } from './session';

/** Whoever has recorded more than this needs no first steps. */
const FEW = 50;

/** How far a workspace has begun. */
export interface Begun {
  entries: boolean;
  invoices: boolean;
  /** It is well under way: one that was imported, say. */
  longAgo: boolean;
}

/** Looks at a few keys, however much there is. */
export function useBegun(): Begun | undefined {
  const { database } = useSession();
  return useLiveQuery(
    () =>
      database.transaction('r', database.tables, async () => {
        const entries = (
          await database
            .rows('entries')
            .limit(FEW + 1)
            .primaryKeys()
        ).length;
        const invoices = (await database.rows('invoices').limit(1).primaryKeys()).length;
        return { entries: entries > 0, invoices: invoices > 0, longAgo: entries > FEW };
      }),
    [database],
  );
}

/** Time of a few entries by project, first recorded first. */
export function useFewEntries(): () => Promise<{ id: Id; projectId: Id | null }[]> {
  const { database } = useSession();
  return async () =>
    (await database.rows('entries').limit(FEW).toArray()).map(({ id, projectId }) => ({ id, projectId }));
}
