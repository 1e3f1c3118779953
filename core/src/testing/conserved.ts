import { billableOf, owedOn, Pricer, readBook, reservedBySource, toBill } from '../billing';
import { checkWorkspace } from '../commands';
import type { MemoryStore } from '../engine';

/**
 * What does not hold of a workspace in which anything may have been done: its own checks; every billable second stands on an invoice or is
 * to bill, once; invoices are numbered without gaps, come to what was allocated, and nothing is owed on a void one.
 */
export async function unsound(store: MemoryStore): Promise<string[]> {
  const found = (await checkWorkspace(store)).map(({ message }) => message);
  const allocations = store.rows('allocations');
  const entries = store.rows('entries');
  const taken = reservedBySource(allocations);
  const clients = toBill(new Pricer(await readBook(store)), entries, allocations);
  const open = new Map(clients.flatMap(({ items }) => items.map((item) => [item.entry.id, item.seconds])));
  for (const row of entries) {
    const seconds = (taken.get(row.id) ?? 0) + (open.get(row.id) ?? 0);
    if (seconds !== billableOf(row)) found.push(`Of ${billableOf(row)} s of ${row.id} ${seconds} s are accounted for.`);
  }
  const invoices = store.rows('invoices');
  const numbers = invoices.flatMap((row) => row.seq ?? []).sort((a, b) => a - b);
  if (numbers.some((number, index) => number !== index + 1)) found.push(`Invoices are numbered ${numbers.join(', ')}.`);
  for (const row of invoices) {
    if (!row.frozen) continue;
    const own = allocations.filter(({ invoiceId }) => invoiceId === row.id);
    const sum = own.reduce((before, { amount }) => before + amount!, 0);
    if (sum !== (row.voided ? 0 : row.frozen.net)) found.push(`What is on invoice ${row.seq} comes to ${sum}.`);
    if (row.voided && owedOn({ invoice: row, payments: [], credits: [] }) !== 0)
      found.push(`Something is owed on invoice ${row.seq}, which is void.`);
  }
  return found;
}
