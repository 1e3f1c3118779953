import type { Allocation, Entry, Invoice } from '../model/records';
import { Charges, type Charge, type ChargeRows } from './charges';
import { chargeText } from './lines';
import type { Pricer } from './pricer';

/** An entry, a line of a cost or an agreed amount on an issued invoice, with its share of the line it stands on. */
export interface InvoiceItem {
  allocation: Allocation;
  /** Empty of an agreed amount that is of no day. */
  day: string;
  text: string;
  /** Null where it is no time. */
  entry: Entry | null;
  charge: Charge | null;
}

/** What an invoice was made of. */
export interface InvoiceMakings {
  invoice: Invoice;
  allocations: readonly Allocation[];
  entries: readonly Entry[];
  rows: ChargeRows;
}

/** What stands on an issued invoice or credit note, by day. */
export function invoiceItems(pricer: Pricer, { invoice, allocations, entries, rows }: InvoiceMakings): InvoiceItem[] {
  const byId = new Map(entries.map((entry) => [entry.id, entry]));
  const charges = new Charges(pricer, rows);
  const lines = new Map(rows.costLines.map((row) => [row.id, row]));
  const agreed = new Map(rows.agreed.map((row) => [row.id, row]));
  // What a void invoice gave back stands beside it as a negative part; here it is shown as it was issued.
  const shown = allocations.filter(
    (each) => invoice.kind === 'credit note' || (each.amount ?? 0) > 0 || each.seconds > 0 || each.part > 0,
  );
  return shown
    .flatMap((allocation): InvoiceItem[] => {
      const entry = byId.get(allocation.entryId ?? '');
      if (entry) return [{ allocation, day: entry.day, text: entry.note, entry, charge: null }];
      const line = lines.get(allocation.costLineId ?? '');
      const row = agreed.get(allocation.agreedId ?? '');
      const charge = line ? charges.ofLine(line, allocation.part) : row ? charges.ofAgreed(row, allocation.part) : null;
      return charge ? [{ allocation, day: charge.day, text: chargeText(charge), entry: null, charge }] : [];
    })
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}
