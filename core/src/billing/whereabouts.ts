import type { Id } from '../model/ids';
import type { Entry } from '../model/records';
import type { Pricer } from './pricer';
import { remainingLengths } from './remaining';
import type { Reservation } from './sources';
import type { Standing } from './standing';

/** Where recorded time is on its way to being paid, in the order of that way. Derived, never typed. */
export const whereabouts = ['to bill', 'on a draft', 'invoiced', 'paid', 'written off', 'not billed'] as const;
export type Whereabouts = (typeof whereabouts)[number];

/** A taking with the invoice it stands on; none of what is given up. */
export type PlacedTaking = Reservation & { invoiceId?: Id | null };

/**
 * Where each entry is. What is still to bill of one counts before what stands on a draft, and that before what is invoiced.
 *
 * @param standings of the invoices that takings stand on
 */
export function whereaboutsOf(
  pricer: Pricer,
  entries: readonly Entry[],
  takings: readonly PlacedTaking[],
  standings: ReadonlyMap<Id, Standing>,
): Map<Id, Whereabouts> {
  const byEntry = new Map<Id, PlacedTaking[]>();
  for (const taking of takings) {
    if (taking.entryId === null) continue;
    const list = byEntry.get(taking.entryId);
    if (list) list.push(taking);
    else byEntry.set(taking.entryId, [taking]);
  }
  const remaining = remainingLengths(pricer, entries, takings);
  return new Map(
    entries.map((entry) => {
      const billed = pricer.billsEntry(entry) && pricer.clientOf(entry.projectId) !== undefined;
      const open = billed && (remaining.get(entry.id)?.open.seconds ?? 0) > 0;
      return [entry.id, open ? 'to bill' : placeOf(byEntry.get(entry.id) ?? [], standings)];
    }),
  );
}

function placeOf(takings: readonly PlacedTaking[], standings: ReadonlyMap<Id, Standing>): Whereabouts {
  const found = takings.map(({ invoiceId }) => (invoiceId ? standings.get(invoiceId) : undefined));
  if (found.includes('draft')) return 'on a draft';
  const issued = found.filter((each) => each !== undefined && each !== 'void' && each !== 'credited');
  if (issued.some((each) => each !== 'paid' && each !== 'overpaid' && each !== 'written off')) return 'invoiced';
  if (issued.some((each) => each !== 'written off')) return 'paid';
  if (issued.length > 0 || takings.some(({ invoiceId }) => !invoiceId)) return 'written off';
  return 'not billed';
}
