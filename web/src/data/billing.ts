import { type Reader } from '@half-penny/core/engine';
import { useRead } from './read';
import {
  invoicedParts,
  toBill,
  type ChargeRows,
  type InvoiceBalance,
  type Pricer,
  type Reservation,
  type ToBill,
} from '@half-penny/core/billing';
import type { ProjectMoneyRows } from '@half-penny/core/costing';
import type { Adjustment, Allocation, Entry, Id, Invoice, Payment } from '@half-penny/core/model';
import { useMemo } from 'react';
import { readInvoice, type InvoiceRecords } from './invoice-records';
import { useSession } from './session';
import { unsettledIn } from './unsettled';

/** What can be billed, and what is spoken for of it. */
export interface Billable {
  entries: Entry[];
  /** What stands on invoices, was written down or is never billed. */
  allocations: Reservation[];
  adjustments: Adjustment[];
  rows: ChargeRows;
}

/** Whose work is asked for: one client's, every client's, or nobody's, as of internal work. */
export type Whose = { clientId: Id } | 'every client' | 'nobody';

/**
 * What can be to bill of clients' work: entries that are not settled, with those beside them that are rounded together or set aside, and
 * all costs and agreed amounts.
 */
export const useBillable = (pricer: Pricer | undefined, whose: Whose): Billable | undefined =>
  useWork(pricer, whose, 'unsettled');

/** Costs and agreed amounts of clients' work with its entries, all or those that can be to bill, and what is spoken for of these. */
function useWork(pricer: Pricer | undefined, whose: Whose, which: 'unsettled' | 'all'): Billable | undefined {
  const clientId = typeof whose === 'object' ? whose.clientId : null;
  const every = whose === 'every client';
  const { database } = useSession();
  return useRead(
    async (reader) => {
      if (!pricer) return undefined;
      const projects = pricer.book.projects.filter((each) => each.clientId && (every || each.clientId === clientId));
      const projectIds = idsOf(projects);
      const adjustments = await reader.all('adjustments');
      const billed = projectIds.filter((id) => pricer.billsHours(id));
      const open = which === 'all' ? null : await unsettledIn(database, billed);
      const entries = open
        ? await aroundOpen(reader, open, adjustments, projectIds)
        : await reader.by('entries', 'projectId', projectIds);
      const charges = await readChargeRows(reader, projectIds);
      const onEntries = await reader.by('allocations', 'entryId', idsOf(entries));
      const takings = charges.takings.filter((row) => 'invoiceId' in row);
      return {
        entries,
        adjustments,
        allocations: [...onEntries, ...takings, ...adjustments],
        rows: charges.rows,
      };
    },
    [database, pricer, clientId, every, which],
  );
}

const idsOf = (rows: readonly { id: Id }[]): Id[] => rows.map((row) => row.id);

/** Open entries and those set aside, with all of the same days and projects: what is rounded by the day is rounded together. */
async function aroundOpen(
  reader: Reader,
  open: readonly Id[],
  adjustments: readonly Adjustment[],
  projectIds: readonly Id[],
): Promise<Entry[]> {
  const own = new Set<Id | null>(projectIds);
  const aside = adjustments.flatMap(({ entryId }) => entryId ?? []);
  const found = (await reader.many('entries', [...new Set([...open, ...aside])])).flatMap((row) =>
    row && own.has(row.projectId) ? row : [],
  );
  const beside = await reader.by(
    'entries',
    'projectId+day',
    found.map(({ projectId, day }) => [projectId!, day] as const),
  );
  return [...new Map([...found, ...beside].map((row) => [row.id, row])).values()];
}

/** Costs and agreed amounts of some projects, and what is spoken for of them. */
export async function readChargeRows(
  reader: Reader,
  projectIds: readonly Id[],
): Promise<{ rows: ChargeRows; takings: (Allocation | Adjustment)[] }> {
  const [costLines, agreed, milestones] = await Promise.all([
    reader.by('costLines', 'projectId', projectIds),
    reader.by('agreed', 'projectId', projectIds),
    reader.by('milestones', 'projectId', projectIds),
  ]);
  const costs = (await reader.many('costs', [...new Set(costLines.map((row) => row.costId))])).filter(
    (row) => row !== undefined,
  );
  const takings = await Promise.all([
    reader.by('allocations', 'costLineId', idsOf(costLines)),
    reader.by('allocations', 'agreedId', idsOf(agreed)),
    reader.by('adjustments', 'costLineId', idsOf(costLines)),
    reader.by('adjustments', 'agreedId', idsOf(agreed)),
  ]);
  return { rows: { costs, costLines, agreed, milestones }, takings: takings.flat() };
}

/** Everything to bill, by client. */
export function useToBill(pricer: Pricer | undefined, whose: Whose): ToBill[] | undefined {
  const rows = useBillable(pricer, whose);
  return useMemo(
    () => (rows && pricer ? toBill(pricer, rows.entries, rows.allocations, rows.rows) : undefined),
    [rows, pricer],
  );
}

/** An invoice with what stands on it; null when there is none. */
export const useInvoice = (id: Id, pricer: Pricer | undefined): InvoiceRecords | null | undefined =>
  useRead(async (reader) => (pricer ? readInvoice(reader, pricer, id) : undefined), [pricer, id]);

/** All invoices and credit notes, newest first, with what came in on them. */
export function useInvoices(): InvoiceBalance[] | undefined {
  return useRead(async (reader) => balancesOf(await reader.all('invoices'), await reader.all('payments')), []);
}

/** A client's invoices and credit notes, newest first, with what came in on them. */
export async function readInvoicesOf(reader: Reader, clientId: Id): Promise<InvoiceBalance[]> {
  const invoices = await reader.by('invoices', 'clientId', [clientId]);
  return balancesOf(invoices, await reader.by('payments', 'invoiceId', idsOf(invoices)));
}

function balancesOf(invoices: readonly Invoice[], payments: readonly Payment[]): InvoiceBalance[] {
  const byInvoice = groupedBy(payments, (payment) => payment.invoiceId);
  const notes = groupedBy(
    invoices.filter((row) => row.ofId !== null),
    (row) => row.ofId!,
  );
  const owing = (invoice: Invoice): InvoiceBalance => ({
    invoice,
    payments: byInvoice.get(invoice.id) ?? [],
    credits: notes.get(invoice.id) ?? [],
  });
  const byId = new Map(invoices.map((invoice) => [invoice.id, owing(invoice)]));
  return [...byId.values()]
    .map((row) => {
      const of = byId.get(row.invoice.ofId ?? '');
      return of ? { ...row, of } : row;
    })
    .sort(
      (a, b) => (b.invoice.seq ?? Infinity) - (a.invoice.seq ?? Infinity) || b.invoice.createdAt - a.invoice.createdAt,
    );
}

function groupedBy<T>(rows: readonly T[], keyOf: (row: T) => Id): Map<Id, T[]> {
  const groups = new Map<Id, T[]>();
  for (const row of rows) {
    const group = groups.get(keyOf(row));
    if (group) group.push(row);
    else groups.set(keyOf(row), [row]);
  }
  return groups;
}

/** A client's time, costs and agreed amounts, what stands of them on invoices, and what was paid of that. */
export function useClientMoney(pricer: Pricer, whose: Whose): Omit<ProjectMoneyRows, 'orders'> | undefined {
  const billable = useWork(pricer, whose, 'all');
  const invoices = useInvoices();
  return useMemo(() => {
    if (!billable || !invoices) return undefined;
    return {
      ...billable.rows,
      entries: billable.entries,
      takings: billable.allocations,
      parts: invoicedParts(
        invoices.map((row) => row.invoice),
        invoices.flatMap((row) => row.payments),
        billable.allocations.filter((row): row is Allocation => 'invoiceId' in row),
      ),
    };
  }, [billable, invoices]);
}
