import { messageOf } from '../model/fault';
import type { Id } from '../model/ids';
import { tableNames, type TableName } from '../model/tables';
import { checkInvariants } from './invariants';
import { checkChains } from './journal';
import type { MemoryStore } from './memory';

export interface WorkspaceFault {
  table: TableName | 'journal';
  id: Id | null;
  path: string;
  message: string;
}

/** Checks a whole workspace: the invariants for every row, and each device's chain. Returns all faults found, row by row. */
export async function checkWorkspace(store: MemoryStore): Promise<WorkspaceFault[]> {
  const faults: WorkspaceFault[] = [];
  if (store.rows('workspace').length === 0) {
    faults.push({ table: 'workspace', id: null, path: '', message: 'The studio itself is missing.' });
  }
  for (const table of tableNames) {
    const rows = store.rows(table);
    const asChange = (row: { id: Id }) => ({ table, id: row.id, before: null, after: row as Record<string, unknown> });
    // All at once first: a sound table, the usual case, is checked with few look-ups.
    if (await holds(store, rows.map(asChange))) continue;
    const found = faults.length;
    for (const row of rows) {
      try {
        await checkInvariants(store, [asChange(row)]);
      } catch (thrown) {
        faults.push({ table, id: row.id, path: (thrown as { path?: string }).path ?? '', message: messageOf(thrown) });
      }
    }
    if (faults.length === found) {
      faults.push({ table, id: null, path: '', message: `The rows of ${table} contradict each other.` });
    }
  }
  for (const fault of checkChains(store.journal)) {
    faults.push({ table: 'journal', id: fault.device, path: String(fault.seq), message: fault.message });
  }
  return faults;
}

async function holds(store: MemoryStore, changes: Parameters<typeof checkInvariants>[1]): Promise<boolean> {
  try {
    await checkInvariants(store, changes);
    return true;
  } catch {
    return false;
  }
}
