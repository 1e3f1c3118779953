import type { InvoiceBalance, ToBill } from '../billing';
import { heldOn, owedOn } from '../billing/standing';
import type { Id } from '../model/ids';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import { divideRounded } from '../money/rational';
import { daysBetween, type Day } from '../time/day';

/** Bands of age in days, as ledgers of receivables have them (practice): up to 30, 60 and 90 days, and more. */
export const bands = ['0 to 30', '31 to 60', '61 to 90', 'over 90'] as const;
export type Band = (typeof bands)[number];

/** The band of an age in days: 30 is still of the first, 31 of the second. */
export const bandOf = (days: number): Band =>
  days <= 30 ? '0 to 30' : days <= 60 ? '31 to 60' : days <= 90 ? '61 to 90' : 'over 90';

/** Amounts of one client in one currency, by age. */
export interface AgedRow {
  clientId: Id;
  name: string;
  currency: CurrencyCode;
  /** Owed money that is not due yet; nothing for what is to bill. */
  ahead: Minor;
  bands: Record<Band, Minor>;
  all: Minor;
  /** Held back and not released yet; not part of what is owed. */
  held: Minor;
  /** The first day on which some of that falls due; null where none is said. */
  heldUntil: Day | null;
  /** Days of the oldest. */
  oldest: number;
}

const newRow = (fields: Pick<AgedRow, 'clientId' | 'name' | 'currency'>): AgedRow => ({
  ...fields,
  ahead: 0,
  bands: { '0 to 30': 0, '31 to 60': 0, '61 to 90': 0, 'over 90': 0 },
  all: 0,
  held: 0,
  heldUntil: null,
  oldest: 0,
});

/** What is to bill, by how long ago the work was done or the cost came. What has no day counts as of today. */
export function toBillByAge(list: readonly ToBill[], today: Day): AgedRow[] {
  return list.map(({ client, items, charges, currency }) => {
    const row = newRow({ clientId: client.id, name: client.name, currency });
    const put = (day: Day, amount: Minor) => {
      const days = day === '' ? 0 : Math.max(0, daysBetween(day, today));
      row.bands[bandOf(days)] += amount;
      row.all += amount;
      if (amount !== 0) row.oldest = Math.max(row.oldest, days);
    };
    for (const { entry, amount } of items) put(entry.day, amount);
    for (const { day, amount } of charges) put(day, amount);
    return row;
  });
}

/** What clients owe on issued invoices, by how long ago it was due, and what they hold back beside it. */
export function owedByAge(list: readonly InvoiceBalance[], today: Day): AgedRow[] {
  const rows = new Map<string, AgedRow>();
  for (const each of list) {
    const { frozen, clientId, currency } = each.invoice;
    const owed = owedOn(each);
    const held = isHeld(each) ? heldOn(each) : 0;
    if (!frozen || (owed === 0 && held === 0)) continue;
    const key = `${clientId} ${currency}`;
    let row = rows.get(key);
    if (!row) {
      row = newRow({ clientId, name: frozen.client.name, currency });
      rows.set(key, row);
    }
    row.held += held;
    for (const { kind, dueDay } of held === 0 ? [] : frozen.deductions) {
      if (kind === 'retention' && dueDay !== null && (row.heldUntil === null || dueDay < row.heldUntil))
        row.heldUntil = dueDay;
    }
    if (owed === 0) continue;
    const late = daysBetween(dueDayOf(each), today);
    if (late <= 0) row.ahead += owed;
    else row.bands[bandOf(late)] += owed;
    row.all += owed;
    row.oldest = Math.max(row.oldest, late);
  }
  return [...rows.values()].sort((a, b) => a.name.localeCompare(b.name) || (a.currency < b.currency ? -1 : 1));
}

const isHeld = ({ invoice }: InvoiceBalance): boolean =>
  invoice.kind === 'invoice' && invoice.frozen !== null && !invoice.voided && invoice.releasedOn === null;

const dueDayOf = ({ invoice }: InvoiceBalance): Day => {
  const due = invoice.frozen!.dueDay;
  return invoice.releasedOn !== null && invoice.releasedOn > due ? invoice.releasedOn : due;
};

/** How long a client takes to pay. */
export interface PaymentHabit {
  clientId: Id;
  name: string;
  /** Invoices that were paid in full. */
  invoices: number;
  /** Whole days from issue to the last payment, on average over those invoices. */
  daysToPay: number;
  /** The same from the due day; negative where they pay ahead of it. */
  daysLate: number;
}

/** Days from issue to the payment that settled an invoice, on average, for each client that has settled any. */
export function paymentHabits(list: readonly InvoiceBalance[]): PaymentHabit[] {
  const rows = new Map<Id, { name: string; paid: number[]; late: number[] }>();
  for (const each of list) {
    const { invoice, payments } = each;
    const own = payments.filter((row) => row.kind === 'payment');
    if (!invoice.frozen || invoice.voided || invoice.kind !== 'invoice' || own.length === 0 || owedOn(each) > 0)
      continue;
    const last = own.reduce((day, row) => (row.day > day ? row.day : day), '');
    const row = rows.get(invoice.clientId) ?? { name: invoice.frozen.client.name, paid: [], late: [] };
    row.paid.push(daysBetween(invoice.frozen.day, last));
    row.late.push(daysBetween(dueDayOf(each), last));
    rows.set(invoice.clientId, row);
  }
  const mean = (days: readonly number[]) =>
    divideRounded(
      days.reduce((sum, each) => sum + each, 0),
      days.length,
      'half away from zero',
    );
  return [...rows]
    .map(([clientId, { name, paid, late }]) => ({
      clientId,
      name,
      invoices: paid.length,
      daysToPay: mean(paid),
      daysLate: mean(late),
    }))
    .sort((a, b) => a.name.localeCompare(b.name));
}
