import { paperFaults } from '../billing/self-check';
import { checkHistory, checkRows, type WorkspaceFault } from '../engine/check';
import type { MemoryStore } from '../engine/memory';
import { grouped } from '../model/grouped';
import { engine } from './executor';

/**
 * Checks a whole workspace: the invariants for every row, issued papers with themselves, each device's chain, and the records with what the
 * history made of them. Returns all faults found, row by row.
 */
export async function checkWorkspace(store: MemoryStore): Promise<WorkspaceFault[]> {
  const faults = await checkRows(engine, store);
  const onInvoice = grouped(store.rows('allocations'), (row) => row.invoiceId);
  for (const invoice of store.rows('invoices')) {
    for (const fault of paperFaults(invoice, onInvoice.get(invoice.id) ?? []))
      faults.push({ table: 'invoices', id: invoice.id, ...fault });
  }
  return [...faults, ...checkHistory(store)];
}
