import type { Id } from '../model/ids';
import type { Change } from '../model/records';
import type { TableName } from '../model/tables';

/** The ids that changes touch, table by table, so that the rows of each can be read at once. */
export function idsByTable(changes: readonly Change[]): Map<TableName, Id[]> {
  const ids = new Map<TableName, Id[]>();
  for (const change of changes) {
    const table = change.table as TableName;
    const list = ids.get(table);
    if (list) list.push(change.id);
    else ids.set(table, [change.id]);
  }
  return ids;
}
