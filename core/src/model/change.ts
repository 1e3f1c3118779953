import type * as z from 'zod';
import type { Id } from './ids';
import type { journalSchema } from './records';
import type { Rows, TableName } from './tables';

/** What became different of one row of a table: `before` is null where it was added, `after` where it was removed. */
export interface ChangeOf<T extends TableName> {
  table: T;
  id: Id;
  before: Rows[T] | null;
  after: Rows[T] | null;
}

/** What became different of one row. Asking for its table tells what its images are. */
export type Change = { [T in TableName]: ChangeOf<T> }[TableName];

/**
 * One change to the workspace, chained to the one before it on the same device. Images that were written before a migration have the
 * shape of their time until they are read through `currentImage`.
 */
export type JournalRow = Omit<z.infer<typeof journalSchema>, 'changes'> & { changes: Change[] };

/** A change of one row: what it was and what it is, null where it was not or is no more. */
export const changeOf = <T extends TableName>(
  table: T,
  id: Id,
  before: Rows[T] | null,
  after: Rows[T] | null,
): Change => ({ table, id, before, after }) as ChangeOf<T> as Change;

/** The changes of one table. */
export const changesIn = <T extends TableName>(changes: readonly Change[], table: T): ChangeOf<T>[] =>
  changes.filter((change): change is Change & ChangeOf<T> => change.table === table);

/** The rows of one table as changes leave them, without those that are gone. */
export const rowsAfter = <T extends TableName>(changes: readonly Change[], table: T): Rows[T][] =>
  changesIn(changes, table).flatMap(({ after }) => (after ? [after] : []));
