import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Allocation, Entry } from '../model/records';
import { unitKey } from './billed-lengths';
import type { ChargeRows } from './charges';
import { bookTables, type PriceBook, type Pricer } from './pricer';
import type { Reservation } from './sources';

/** The small tables that prices depend on. */
export async function readBook(reader: Reader): Promise<PriceBook> {
  const [workspace] = await reader.all('workspace');
  if (!workspace) throw new Fault('not-set-up', 'This workspace has not been set up yet.');
  const rest = bookTables.filter((table) => table !== 'workspace');
  const rows = await Promise.all(rest.map(async (table) => [table, await reader.all(table)] as const));
  return { workspace, ...(Object.fromEntries<unknown>(rows) as Omit<PriceBook, 'workspace'>) };
}

/** What stands on an invoice, with what its rounding needs to know. */
export interface InvoiceSources {
  entries: Entry[];
  rows: ChargeRows;
  /** Other entries of the rounding units that its entries belong to. */
  mates: Entry[];
  /** What is settled or drafted elsewhere of its entries and those. */
  takings: Reservation[];
}

/** Reads what stands on an invoice, from its allocations. */
export async function readSources(
  reader: Reader,
  pricer: Pricer,
  allocations: readonly Allocation[],
): Promise<InvoiceSources> {
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
  const mates = await matesOf(reader, pricer, entries);
  const ids = [...entries, ...mates].map((entry) => entry.id);
  const own = new Set(allocations.map((each) => each.id));
  const takings: Reservation[] = [
    ...(await reader.by('allocations', 'entryId', ids)).filter((each) => !own.has(each.id)),
    ...(await reader.by('adjustments', 'entryId', ids)),
  ];
  return { entries, mates, takings, rows: { costs, costLines, agreed, milestones } };
}

/** Other entries of the rounding units that some belong to: none where each is rounded by itself. */
async function matesOf(reader: Reader, pricer: Pricer, entries: readonly Entry[]): Promise<Entry[]> {
  const units = new Set<string>();
  const places = new Map<string, [Id, string]>();
  for (const entry of entries) {
    const key = unitKey(pricer, entry);
    if (key === null) continue;
    units.add(key);
    places.set(`${entry.projectId} ${entry.day}`, [entry.projectId!, entry.day]);
  }
  if (units.size === 0) return [];
  const known = new Set(entries.map((entry) => entry.id));
  const there = await reader.by('entries', 'projectId+day', [...places.values()]);
  return there.filter((entry) => !known.has(entry.id) && units.has(unitKey(pricer, entry) ?? ''));
}
