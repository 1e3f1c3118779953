import type { Id } from '../model/ids';
import type { Change, JournalRow } from '../model/change';
import type { IndexName, Rows, TableName } from '../model/tables';

/** A key of an index: one value, or one for each field of an index over several. */
export type IndexKey = string | number | readonly (string | number)[];

/** The narrow view of a workspace that commands read through. Rows are never to be changed in place. */
export interface Reader {
  get<T extends TableName>(table: T, id: Id): Promise<Rows[T] | undefined>;
  /** Rows in the order of the ids; undefined where there is none. */
  many<T extends TableName>(table: T, ids: readonly Id[]): Promise<(Rows[T] | undefined)[]>;
  /** All rows whose indexed field has one of the keys. The index must be declared in the model's tables. */
  by<T extends TableName>(table: T, index: IndexName<T>, keys: readonly IndexKey[]): Promise<Rows[T][]>;
  all<T extends TableName>(table: T): Promise<Rows[T][]>;
}

/** What an executor offers to one change: reading, this device's chain, and one write at the very end. */
export interface Transaction extends Reader {
  /** The newest journal rows of a device, newest first. */
  newest(device: Id, count: number): Promise<JournalRow[]>;
  journalRow(device: Id, seq: number): Promise<JournalRow | undefined>;
  /** Stores the rows and the journal row together or not at all. */
  write(changes: readonly Change[], journal: JournalRow): Promise<void>;
}

/** The same reader with changes laid over it: what the workspace would be after them. */
export function overlay(reader: Reader, changes: readonly Change[]): Reader {
  const changed = new Map<TableName, Map<Id, unknown>>();
  for (const change of changes) {
    const table = change.table as TableName;
    const rows = changed.get(table) ?? new Map<Id, unknown>();
    rows.set(change.id, change.after);
    changed.set(table, rows);
  }
  const over = <T extends TableName>(table: T, rows: Rows[T][], fits: (row: Rows[T]) => boolean): Rows[T][] => {
    const layer = changed.get(table);
    if (!layer) return rows;
    const kept = rows.filter((row) => !layer.has(row.id));
    for (const row of layer.values()) if (row !== null && fits(row as Rows[T])) kept.push(row as Rows[T]);
    return kept;
  };
  return {
    async get(table, id) {
      const layer = changed.get(table);
      return layer?.has(id) ? ((layer.get(id) ?? undefined) as never) : reader.get(table, id);
    },
    async many(table, ids) {
      const rows = await reader.many(table, ids);
      const layer = changed.get(table);
      return layer ? ids.map((id, i) => (layer.has(id) ? ((layer.get(id) ?? undefined) as never) : rows[i])) : rows;
    },
    async by(table, index, keys) {
      const wanted = new Set(keys.map(keyText));
      const rows = await reader.by(table, index, keys);
      return over(table, rows, (row) => indexKeysOf(row, index).some((key) => wanted.has(keyText(key))));
    },
    async all(table) {
      return over(table, await reader.all(table), () => true);
    },
  };
}

/** A row's keys in an index: one, or as many as the list that a "*" index is over has values. */
export function indexKeysOf(row: object, index: string): readonly IndexKey[] {
  const valueOf = (field: string) => (row as Record<string, string | number>)[field]!;
  if (index.startsWith('*')) return (row as Record<string, (string | number)[]>)[index.slice(1)]!;
  const values = index.split('+').map(valueOf);
  return values.length === 1 ? values : [values];
}

export const keyText = (key: IndexKey | null): string => (Array.isArray(key) ? key.join('\u0000') : String(key));
