import type { Invoice, Payment } from '../model/records';
import type { Minor } from '../money/amount';
import { sumExact } from '../money/rational';
import type { Day } from '../time/day';

/** Where an invoice stands. Derived, never typed. */
export type Standing = 'draft' | 'issued' | 'part paid' | 'paid' | 'overdue' | 'void';

/** What has been paid on an invoice. */
export const paidOf = (payments: readonly Payment[]): Minor => sumExact(payments.map((payment) => payment.amount));

/** What is still owed; zero for drafts and void invoices, negative when overpaid. */
export function owedOn(invoice: Invoice, payments: readonly Payment[]): Minor {
  if (!invoice.frozen || invoice.voided) return 0;
  return invoice.frozen.total - paidOf(payments);
}

/** An invoice is overdue from the day after its due day while anything is owed. */
export function standingOf(invoice: Invoice, payments: readonly Payment[], today: Day): Standing {
  if (invoice.voided) return 'void';
  if (!invoice.frozen) return 'draft';
  if (owedOn(invoice, payments) <= 0) return 'paid';
  if (today > invoice.frozen.dueDay) return 'overdue';
  return payments.length > 0 ? 'part paid' : 'issued';
}
