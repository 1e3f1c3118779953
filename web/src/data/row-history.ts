import type { Id, JournalRow, TableName } from '@half-penny/core/model';
import { useLiveQuery } from 'dexie-react-hooks';
import { changesOf } from './rows';
import { useSession } from './session';

/** Who did something to a row. */
export interface RowChange {
  row: JournalRow;
  /** Whoever worked there; null where nobody was chosen yet. */
  who: string | null;
  /** Where it was done; null where the workspace was on one device alone. */
  device: string | null;
}

/** What was done to a row, the latest first; undefined while that is looked for. */
export function useRowHistory(table: TableName, id: Id): RowChange[] | undefined {
  const { database, entry } = useSession();
  return useLiveQuery(async () => {
    const members = new Map((await database.rows('members').toArray()).map((row) => [row.id, row.name]));
    const devices = new Map((await database.rows('devices').toArray()).map((row) => [row.id, row.name]));
    const nameOf = (id: Id) => {
      const name = devices.get(id);
      return id === entry.device && name !== undefined ? `${name}, this one` : name;
    };
    return (await changesOf(database, table, id)).reverse().map((row) => ({
      row,
      who: members.get(row.memberId ?? '') ?? null,
      device: nameOf(row.device) ?? (devices.size > 0 ? 'a device that is not known here' : null),
    }));
  }, [database, table, id, entry.device]);
}
