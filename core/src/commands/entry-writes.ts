import { billableOf } from '../billing/billed-lengths';
import { reservedBySource } from '../billing/sources';
import type { Plan } from '../engine/command';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import { sameData } from '../model/canonical';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Entry } from '../model/records';

// The one place in which commands write entries: what stands of an entry on a draft follows it, and what is invoiced stays.

/** What may still be changed once an entry is on an issued invoice. */
const FREE_FIELDS = new Set<string>([
  'id',
  'note',
  'spans',
  'laterDays',
  'planId',
  'source',
  'tags',
  'approval',
  'sentBack',
]);

/** Puts an entry that was not there before. */
export const putNewEntry = (plan: Plan, entry: Entry): Plan => plan.put('entries', entry);

/**
 * Puts an entry as it is now, with what stands of it on a draft.
 *
 * @throws Fault where it is on an issued invoice and more than its note, tags or times would change
 */
export const putEntry = (plan: Plan, reader: Reader, before: Entry, after: Entry): Promise<void> =>
  putEntries(plan, reader, [[before, after]]);

/** The same for several, whose allocations and adjustments are read together. @throws Fault likewise */
export async function putEntries(
  plan: Plan,
  reader: Reader,
  entries: readonly (readonly [before: Entry, after: Entry])[],
): Promise<void> {
  for (const [, after] of entries) plan.put('entries', after);
  const ids = entries.map(([before]) => before.id);
  const allocations = grouped(await reader.by('allocations', 'entryId', ids), (each) => each.entryId!);
  if (allocations.size === 0) return;
  const adjusted = reservedBySource(await reader.by('adjustments', 'entryId', [...allocations.keys()]));
  for (const [before, after] of entries) {
    const own = allocations.get(before.id) ?? [];
    const issued = own.filter((each) => each.amount !== null).reduce((sum, each) => sum + each.seconds, 0);
    const locked = (Object.keys(after) as (keyof Entry)[]).some(
      (key) => !FREE_FIELDS.has(key) && !sameData(after[key], before[key]),
    );
    if (issued > 0 && locked) throw new Fault('issued', await onInvoice(reader, before.id), 'id');
    const draft = own.find((each) => each.amount === null);
    if (!draft) continue;
    const left = billableOf(after) - issued - (adjusted.get(before.id) ?? 0);
    if (left > 0) plan.put('allocations', { ...draft, seconds: left });
    else plan.remove('allocations', draft.id);
  }
}

/** Puts an entry of which only the checking became different: who approved it, or gave it back. What stands on a draft stays. */
export const putChecked = (plan: Plan, entry: Entry): Plan => plan.put('entries', entry);

/** Whether something of an entry stands on an invoice that was issued. */
export const isIssued = async (reader: Reader, entryId: Id): Promise<boolean> =>
  (await reader.by('allocations', 'entryId', [entryId])).some((each) => each.amount !== null);

/** @throws Fault where one of them is on an issued invoice */
export async function refuseIssued(reader: Reader, ids: readonly Id[]): Promise<void> {
  const issued = (await reader.by('allocations', 'entryId', ids)).find((each) => each.amount !== null);
  if (issued) throw new Fault('issued', await onInvoice(reader, issued.entryId!), 'ids');
}

/** What is said where an entry cannot change because it was invoiced, with the invoice's number. */
export async function onInvoice(reader: Reader, entryId: Id): Promise<string> {
  const [allocation] = (await reader.by('allocations', 'entryId', [entryId])).filter((each) => each.amount !== null);
  const invoice = allocation && (await reader.get('invoices', allocation.invoiceId));
  return `This entry is on ${invoice?.frozen?.number ?? 'an issued invoice'} and stays as it was invoiced. Only its note and tags can change.`;
}
