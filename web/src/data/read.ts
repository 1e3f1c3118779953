import type { Reader } from '@half-penny/core/engine';
import type { Id, IndexName, Rows, TableName } from '@half-penny/core/model';
import { useLiveQuery } from 'dexie-react-hooks';
import { useSession } from './session';

// How a screen reads the workspace: it says what it wants, and is told again when that became different, in this tab or another.
// undefined = not read yet.

/**
 * Reads in one transaction, so that what is read together belongs together, and follows it.
 *
 * @param read awaits nothing but what it reads
 * @param on what it depends on
 */
export function useRead<T>(read: (reader: Reader) => Promise<T> | T, on: readonly unknown[]): T | undefined {
  const { database, reader } = useSession();
  return useLiveQuery(() => database.transaction('r', database.tables, () => read(reader)), [database, ...on]);
}

/** All rows of a small table. */
export const useAll = <T extends TableName>(table: T): Rows[T][] | undefined =>
  useRead((reader) => reader.all(table), [table]);

/** Rows of a table by an index. */
export function useBy<T extends TableName>(
  table: T,
  index: IndexName<T>,
  keys: readonly (string | number)[],
): Rows[T][] | undefined {
  // A list that was made again with the same keys in it asks for nothing else.
  const written = JSON.stringify(keys);
  return useRead((reader) => reader.by(table, index, JSON.parse(written) as typeof keys), [table, index, written]);
}

/** A row; null where there is none. */
export const useRow = <T extends TableName>(table: T, id: Id | null): Rows[T] | null | undefined =>
  useRead(async (reader) => (id === null ? null : ((await reader.get(table, id)) ?? null)), [table, id]);

/** Reads in a transaction of its own. */
export type ReadOnce = <T>(read: (reader: Reader) => Promise<T>) => Promise<T>;

/**
 * Reads one thing after the other, each in transactions of its own: what takes long to put together out of many would outlast one. It
 * follows all of them.
 *
 * @param list what there is to read
 * @param each reads one of it, in as many transactions as it likes; undefined where it is gone by then
 */
export function useInTurn<Item, T>(
  list: (reader: Reader) => Promise<Item[]>,
  each: (once: ReadOnce, item: Item) => Promise<T | undefined>,
  on: readonly unknown[],
): T[] | undefined {
  const { database, reader } = useSession();
  return useLiveQuery(async () => {
    const once: ReadOnce = (read) => database.transaction('r', database.tables, () => read(reader));
    const items = await once(list);
    const found: T[] = [];
    for (const item of items) {
      const one = await each(once, item);
      if (one !== undefined) found.push(one);
    }
    return found;
  }, [database, ...on]);
}
