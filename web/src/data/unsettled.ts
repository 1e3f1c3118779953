import { unsettledEntries } from '@half-penny/core/billing';
import type { Reader } from '@half-penny/core/engine';
import type { Change, Entry, Id } from '@half-penny/core/model';
import type { Transaction } from 'dexie';
import type { UnsettledEntry, WorkspaceDatabase } from './database';

// Which entries are not settled, kept as an index: what is to bill is a few hundred entries of years of them. It is worked out of the
// records, follows each change in the same transaction, and is in no file; where it is not there yet, it is made when a workspace is
// opened, and until then everything is read.

/** In the index once all of it is there. */
const COMPLETE: UnsettledEntry = { id: 'complete', projectId: '' };
/** Rows put at a time. */
const PACK = 5000;

type Tables = Pick<Transaction, 'table'>;

/** Ids of entries of some projects that are not settled; null where the index is not made yet. */
export async function unsettledIn(database: WorkspaceDatabase, projectIds: readonly Id[]): Promise<Id[] | null> {
  if (!(await isMade(database))) return null;
  const found = await Promise.all(
    projectIds.map((id) => database.unsettled.where('projectId').equals(id).primaryKeys()),
  );
  return found.flat();
}

/** Brings the index in step with changes, within their transaction. */
export async function followUnsettled(tables: Tables, reader: Reader, changes: readonly Change[]): Promise<void> {
  const ids = entriesIn(changes);
  const index = tables.table<UnsettledEntry, Id>('unsettled');
  if (ids.length === 0 || !(await index.get(COMPLETE.id))) return;
  const entries = (await reader.many('entries', ids)).filter((row) => row !== undefined);
  const open = rowsOf(await openOf(reader, entries));
  const still = new Set(open.map((row) => row.id));
  if (open.length > 0) await index.bulkPut(open);
  await index.bulkDelete(ids.filter((id) => !still.has(id)));
}

/** Makes the index of a whole workspace in one transaction, where it is not there. */
export async function makeUnsettled(database: WorkspaceDatabase, reader: Reader): Promise<void> {
  if (await isMade(database)) return;
  await database.transaction('rw', database.tables, async () => {
    if (await isMade(database)) return;
    const [entries, allocations, adjustments] = await Promise.all([
      reader.all('entries'),
      reader.all('allocations'),
      reader.all('adjustments'),
    ]);
    const open = rowsOf(unsettledEntries(entries, [...allocations, ...adjustments]));
    await database.unsettled.clear();
    for (let from = 0; from < open.length; from += PACK)
      await database.unsettled.bulkPut(open.slice(from, from + PACK));
    await database.unsettled.put(COMPLETE);
  });
}

const isMade = async ({ unsettled }: Pick<WorkspaceDatabase, 'unsettled'>): Promise<boolean> =>
  (await unsettled.get(COMPLETE.id)) !== undefined;

/** To be made again: records were written past the commands. */
export const dropUnsettled = (database: WorkspaceDatabase): Promise<void> => database.unsettled.clear();

function entriesIn(changes: readonly Change[]): Id[] {
  const ids = new Set<Id>();
  for (const change of changes) {
    if (change.table === 'entries') ids.add(change.id);
    if (change.table !== 'allocations' && change.table !== 'adjustments') continue;
    for (const row of [change.before, change.after]) if (row?.entryId) ids.add(row.entryId);
  }
  return [...ids];
}

async function openOf(reader: Reader, entries: readonly Entry[]): Promise<Entry[]> {
  const ids = entries.map((entry) => entry.id);
  const [allocations, adjustments] = await Promise.all([
    reader.by('allocations', 'entryId', ids),
    reader.by('adjustments', 'entryId', ids),
  ]);
  return unsettledEntries(entries, [...allocations, ...adjustments]);
}

/** Time on no project is nobody's to bill. */
const rowsOf = (entries: readonly Entry[]): UnsettledEntry[] =>
  entries.flatMap(({ id, projectId }) => (projectId === null ? [] : [{ id, projectId }]));
