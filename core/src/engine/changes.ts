import type { Change } from '../model/change';
import type { Id } from '../model/ids';
import type { Rows, TableName } from '../model/tables';
import type { Reader } from './store';

/** The rows that changes touch as they are now, each table read at once. */
export async function rowsBefore(
  reader: Reader,
  changes: readonly Change[],
): Promise<<T extends TableName>(table: T, id: Id) => Rows[T] | null> {
  const ids = new Map<TableName, Id[]>();
  for (const { table, id } of changes) {
    const list = ids.get(table);
    if (list) list.push(id);
    else ids.set(table, [id]);
  }
  const found = new Map<TableName, Map<Id, Rows[TableName]>>();
  for (const [table, wanted] of ids) {
    const rows = (await reader.many(table, wanted)).flatMap((row) => row ?? []);
    found.set(table, new Map(rows.map((row) => [row.id, row])));
  }
  return <T extends TableName>(table: T, id: Id) => (found.get(table)?.get(id) ?? null) as Rows[T] | null;
}
