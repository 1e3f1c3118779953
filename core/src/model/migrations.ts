import { Fault } from './fault';
import type { TableName } from './tables';

/**
 * The version of the records. Raised together with a migration below whenever a stored shape changes; both the browser's database
 * and workspace files of older versions are brought forward by the same steps.
 */
export const SCHEMA_VERSION = 3;

type RawRow = Record<string, unknown>;

/** Brings one row from `from` to the next version. */
export interface Migration {
  from: number;
  /** The only tables whose rows it changes; all where not given. */
  tables?: readonly (TableName | 'journal')[];
  row(table: TableName | 'journal', row: RawRow): RawRow;
}

export const migrations: readonly Migration[] = [
  // Kept reports came; no row of version 1 changed.
  { from: 1, tables: [], row: (_table, row) => row },
  // Tags came; a row without any is as it was.
  { from: 2, tables: [], row: (_table, row) => row },
];

/**
 * Brings a row forward to `to`.
 *
 * @throws Fault when the row is from a newer version or a step is missing
 */
export function migrateRow(
  table: TableName | 'journal',
  row: RawRow,
  from: number,
  to: number = SCHEMA_VERSION,
  steps: readonly Migration[] = migrations,
): RawRow {
  if (from > to) throw new Fault(newerVersion(from, to), 'version', { from, to });
  let current = row;
  for (let version = from; version < to; version++) {
    const step = steps.find((each) => each.from === version);
    if (!step)
      throw new Fault(`There is no way from version ${version} of the records to ${to}.`, 'version', { from, to });
    current = step.row(table, current);
  }
  return current;
}

export const newerVersion = (from: number, to: number): string =>
  `This was written by a newer version of Half Penny (records ${from}; this one reads up to ${to}). Update Half Penny and try again.`;
