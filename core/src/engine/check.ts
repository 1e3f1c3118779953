import { messageOf } from '../faults/fault';
import { changeOf, type Change } from '../model/change';
import type { Id } from '../model/ids';
import { tableNames, type Rows, type TableName } from '../model/tables';
import type { Engine } from './perform';
import { checkChains } from './journal';
import type { MemoryStore } from './memory';
import { replayFaults } from './replay';

export interface WorkspaceFault {
  table: TableName | 'journal';
  id: Id | null;
  path: string;
  message: string;
}

/** Checks the invariants for every row. Returns all faults found, row by row. */
export async function checkRows(engine: Engine, store: MemoryStore): Promise<WorkspaceFault[]> {
  const faults: WorkspaceFault[] = [];
  if (store.rows('workspace').length === 0) {
    faults.push({ table: 'workspace', id: null, path: '', message: 'The studio itself is missing.' });
  }
  for (const table of tableNames) {
    const rows = store.rows(table);
    const asChange = (row: Rows[TableName]) => changeOf(table, row.id, null, row);
    // All at once first: a sound table, the usual case, is checked with few look-ups.
    if (await holds(engine, store, rows.map(asChange))) continue;
    const found = faults.length;
    for (const row of rows) {
      try {
        await engine.check(store, [asChange(row)]);
      } catch (thrown) {
        faults.push({ table, id: row.id, path: (thrown as { path?: string }).path ?? '', message: messageOf(thrown) });
      }
    }
    if (faults.length === found) {
      faults.push({ table, id: null, path: '', message: `The rows of ${table} contradict each other.` });
    }
  }
  return faults;
}

/** Checks each device's chain, and the records with what the history made of them. */
export function checkHistory(store: MemoryStore): WorkspaceFault[] {
  const faults: WorkspaceFault[] = [];
  for (const fault of checkChains(store.journal)) {
    faults.push({ table: 'journal', id: fault.device, path: String(fault.seq), message: fault.message });
  }
  faults.push(...replayFaults({ rows: (table) => store.rows(table), journal: store.journal }));
  return faults;
}

async function holds(engine: Engine, store: MemoryStore, changes: readonly Change[]): Promise<boolean> {
  try {
    await engine.check(store, changes);
    return true;
  } catch {
    return false;
  }
}
