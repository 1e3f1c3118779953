import type { Invoice, Payment } from '../model/records';
import type { Minor } from '../money/amount';
import { sumExact } from '../money/rational';
import type { Day } from '../time/day';

/** Where an invoice stands. Derived, never typed. */
export type Standing = 'draft' | 'issued' | 'part paid' | 'paid' | 'overdue' | 'void';

/** An invoice with what came in on it and what was credited of it. */
export interface Owing {
  invoice: Invoice;
  payments: readonly Payment[];
  /** Issued credit notes about it. */
  credits: readonly Invoice[];
}

/** What has been paid on an invoice; what was written off is not. */
export const paidOf = (payments: readonly Payment[]): Minor =>
  sumExact(payments.filter((payment) => payment.kind === 'payment').map((payment) => payment.amount));

/** What was held back and has become due. */
export const releasedOn = ({ frozen, releasedOn: day }: Invoice): Minor =>
  day === null || !frozen
    ? 0
    : sumExact(frozen.deductions.filter((each) => each.kind === 'retention').map((each) => each.amount));

/** What is still owed; zero for drafts, credit notes and void invoices, negative when overpaid. */
export function owedOn({ invoice, payments, credits }: Owing): Minor {
  if (!invoice.frozen || invoice.voided || invoice.kind === 'credit note') return 0;
  const settled = sumExact(payments.map((payment) => payment.amount));
  const credited = sumExact(credits.filter((note) => !note.voided).map((note) => note.frozen?.payable ?? 0));
  return invoice.frozen.payable + releasedOn(invoice) + credited - settled;
}

/** An invoice is overdue from the day after its due day while anything is owed. */
export function standingOf(owing: Owing, today: Day): Standing {
  const { invoice, payments, credits } = owing;
  if (invoice.voided) return 'void';
  if (!invoice.frozen) return 'draft';
  if (invoice.kind === 'credit note') return 'issued';
  if (owedOn(owing) <= 0) return 'paid';
  const due =
    invoice.releasedOn !== null && invoice.releasedOn > invoice.frozen.dueDay
      ? invoice.releasedOn
      : invoice.frozen.dueDay;
  if (today > due) return 'overdue';
  return payments.length > 0 || credits.length > 0 ? 'part paid' : 'issued';
}
