import type { IndexKey } from '@half-penny/core/engine';
import type { Id, JournalRow, TableName } from '@half-penny/core/model';
import type { Share } from '@half-penny/core/shared-log';
import Dexie, { type PromiseExtended, type Table, type Transaction } from 'dexie';
import { indexName } from './database';

// How many rows are read at once. The browser gives all rows of one key, or of a range, in a single answer, but of several keys row by
// row; and a screen that is told of changes row by row keeps a note of each. For a hundred thousand rows both cost many seconds.
//
// Dexie's own promises alone: where several functions await the browser's side by side, an open transaction is lost sight of.

/** With more keys than this, what lies between the first and the last of them is read, and the rest of it left. */
const MOST_KEYS = 2000;
/** From so many rows on a screen is told of any change to their table, not of those to its rows alone. */
const MANY_ROWS = 3000;

/**
 * Rows by an index, in the order of its keys, each once.
 *
 * @param index as the model names it: "projectId", "memberId+day", "*stretchIds"
 */
export function rowsBy<Row extends { id: string }>(
  table: Table<Row>,
  index: string,
  keys: readonly IndexKey[],
): PromiseExtended<Row[]> {
  const own = indexName(index);
  const sorted = [...new Map(keys.map((key) => [String(key), key])).values()].sort((a, b) => indexedDB.cmp(a, b));
  const [first, last] = [sorted[0], sorted[sorted.length - 1]];
  if (first === undefined || last === undefined) return Dexie.Promise.resolve([]);
  if (sorted.length > MOST_KEYS && !/[*+]/.test(index)) {
    const wanted = new Set<unknown>(sorted);
    return inBulk(table, own, IDBKeyRange.bound(first, last)).then((found) =>
      found.filter((row) => wanted.has((row as Record<string, unknown>)[index])),
    );
  }
  return Dexie.Promise.all(sorted.map((key) => rowsOf(table, own, key))).then((lists) => {
    const found = lists.flat();
    return index.startsWith('*') ? [...new Map(found.map((row) => [row.id, row])).values()] : found;
  });
}

/** All rows of a table. */
export const allRows = <Row>(table: Table<Row>): PromiseExtended<Row[]> =>
  table
    .limit(MANY_ROWS)
    .toArray()
    .then((few) => (few.length < MANY_ROWS ? few : inBulk(table, null, null)));

const rowsOf = <Row>(table: Table<Row>, index: string, key: IndexKey): PromiseExtended<Row[]> =>
  table
    .where(index)
    .equals(key)
    .limit(MANY_ROWS)
    .toArray()
    .then((few) => (few.length < MANY_ROWS ? few : inBulk(table, index, IDBKeyRange.only(key))));

/** Many rows, straight from the open transaction; whoever follows them is told of every change to the table. */
function inBulk<Row>(table: Table<Row>, index: string | null, range: IDBKeyRange | null): PromiseExtended<Row[]> {
  const open = Dexie.currentTransaction?.idbtrans;
  if (!open) {
    const from =
      index === null ? table.toCollection() : table.where(index).between(range!.lower, range!.upper, true, true);
    return from.toArray();
  }
  // Asked for the first of all, a screen is told of a change to any.
  return table
    .limit(1)
    .primaryKeys()
    .then(
      () =>
        new Dexie.Promise<Row[]>((resolve, reject) => {
          const store = open.objectStore(table.name);
          const request: IDBRequest<Row[]> = (index === null ? store : store.index(index)).getAll(range);
          request.onsuccess = () => resolve(request.result);
          request.onerror = () => reject(request.error);
        }),
    );
}

/** Everything that was done to a row, in the order in which it counts. Looked for in the whole history. */
export async function changesOf(database: Pick<Transaction, 'table'>, table: TableName, id: Id): Promise<JournalRow[]> {
  const rows: JournalRow[] = await database
    .table<JournalRow>('journal')
    .filter(({ changes }) => changes.some((change) => change.table === table && change.id === id))
    .toArray();
  const share = (await database.table<Share>('share').toCollection().first()) ?? null;
  const waiting = new Set(share?.waiting.map(({ seq }) => seq));
  const isWaiting = ({ device, seq }: JournalRow) => device === share?.device && waiting.has(seq);
  // What waits for its place in the log comes last; what was there before it was shared came first.
  const place = (row: JournalRow) => row.place ?? (isWaiting(row) ? Infinity : 0);
  const order = (a: JournalRow, b: JournalRow) => (place(a) === place(b) ? a.at - b.at : place(a) - place(b));
  return rows.sort((a, b) => order(a, b) || (a.device === b.device ? a.seq - b.seq : 0));
}
