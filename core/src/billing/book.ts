import type { Reader } from '../commands/store';
import { Fault } from '../model/fault';
import type { Allocation, Entry } from '../model/records';
import type { ChargeRows } from './charges';
import { bookTables, type PriceBook } from './pricer';

/** The small tables that prices depend on. */
export async function readBook(reader: Reader): Promise<PriceBook> {
  const [workspace] = await reader.all('workspace');
  if (!workspace) throw new Fault('This workspace has not been set up yet.');
  const rest = bookTables.filter((table) => table !== 'workspace');
  const rows = await Promise.all(rest.map((table) => reader.all(table)));
  return {
    workspace,
    ...Object.fromEntries(rest.map((table, index) => [table, rows[index]!])),
  } as unknown as PriceBook;
}

/** What stands on an invoice, read from its allocations. */
export async function readSources(
  reader: Reader,
  allocations: readonly Allocation[],
): Promise<{ entries: Entry[]; rows: ChargeRows }> {
  const idsOf = (field: 'entryId' | 'costLineId' | 'agreedId') => [
    ...new Set(allocations.map((each) => each[field]).filter((id) => id !== null)),
  ];
  const entries = (await reader.many('entries', idsOf('entryId'))).filter((row) => row !== undefined);
  const costLines = (await reader.many('costLines', idsOf('costLineId'))).filter((row) => row !== undefined);
  const agreed = (await reader.many('agreed', idsOf('agreedId'))).filter((row) => row !== undefined);
  const costs = (await reader.many('costs', [...new Set(costLines.map((row) => row.costId))])).filter(
    (row) => row !== undefined,
  );
  const milestoneIds = agreed.map((row) => row.milestoneId).filter((id) => id !== null);
  const milestones = (await reader.many('milestones', milestoneIds)).filter((row) => row !== undefined);
  return { entries, rows: { costs, costLines, agreed, milestones } };
}
