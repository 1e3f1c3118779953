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
  /** The newest row of any device that changed a record; a place that does not know how to find it leaves it out. */
  lastChange?(table: TableName, id: Id): Promise<JournalRow | undefined>;
  /** Stores the rows and the journal row together or not at all. */
  write(changes: readonly Change[], journal: JournalRow): Promise<void>;
}

/** A row's keys in an index: one, or as many as the list that a "*" index is over has values. */
export function indexKeysOf(row: object, index: string): readonly IndexKey[] {
  const valueOf = (field: string) => (row as Record<string, string | number>)[field]!;
  if (index.startsWith('*')) return (row as Record<string, (string | number)[]>)[index.slice(1)]!;
  const values = index.split('+').map(valueOf);
  return values.length === 1 ? values : [values];
}

/** An index key as one text, by which equal keys are equal texts. */
export const keyText = (key: IndexKey | null): string => (Array.isArray(key) ? key.join('\u0000') : String(key));
