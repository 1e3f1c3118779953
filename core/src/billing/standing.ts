import type { Invoice, Payment } from '../model/records';
import type { Minor } from '../money/amount';
import { sumExact } from '../money/rational';
import type { Day } from '../time/day';

/** Where an invoice or a credit note stands, in the order of its life. Derived, never typed. */
export const standings = [
  'draft',
  'issued',
  'part paid',
  'overdue',
  'paid',
  'overpaid',
  'credited',
  'written off',
  'void',
  // Of credit notes: the client has money to come, it went against what was owed, or it was paid back.
  'open',
  'set off',
  'refunded',
] as const;
export type Standing = (typeof standings)[number];

/** An invoice with what came in on it and what was credited of it. */
export interface InvoiceBalance {
  invoice: Invoice;
  payments: readonly Payment[];
  /** Issued credit notes about it. */
  credits: readonly Invoice[];
  /** Of a credit note: the invoice it is about, with what became of that. */
  of?: InvoiceBalance;
}

const sumOf = (payments: readonly Payment[], kind: Payment['kind']): Minor =>
  sumExact(payments.filter((payment) => payment.kind === kind).map((payment) => payment.amount));

/** What has been paid on an invoice, less what was paid back; what was written off is not. */
export const paidOf = (payments: readonly Payment[]): Minor => sumOf(payments, 'payment') - sumOf(payments, 'refund');

/** What is held back of an invoice, less what credit notes gave back of it. */
export const heldOn = ({ invoice, credits }: Pick<InvoiceBalance, 'invoice' | 'credits'>): Minor =>
  sumExact(
    [invoice, ...credits.filter((note) => !note.voided)]
      .flatMap((each) => each.frozen?.deductions ?? [])
      .filter((each) => each.kind === 'retention')
      .map((each) => each.amount),
  );

/** What was held back and has become due. */
export const releasedOn = (owing: Pick<InvoiceBalance, 'invoice' | 'credits'>): Minor =>
  owing.invoice.releasedOn === null ? 0 : heldOn(owing);

/** What is still owed; zero for drafts, credit notes and void invoices, negative when overpaid. */
export function owedOn({ invoice, payments, credits }: InvoiceBalance): Minor {
  if (!invoice.frozen || invoice.voided || invoice.kind === 'credit note') return 0;
  const settled = paidOf(payments) + sumOf(payments, 'write-off');
  const credited = sumExact(credits.filter((note) => !note.voided).map((note) => note.frozen?.payable ?? 0));
  return invoice.frozen.payable + releasedOn({ invoice, credits }) + credited - settled;
}

/** The last day on which what is owed may come: the due day, or that on which what was held back became due. */
export function dueDayOf({ frozen, releasedOn }: Invoice): Day {
  const { dueDay } = frozen!;
  return releasedOn !== null && releasedOn > dueDay ? releasedOn : dueDay;
}

/** An invoice is overdue from the day after its due day while anything is owed. */
export function standingOf(owing: InvoiceBalance, today: Day): Standing {
  const { invoice, payments, credits } = owing;
  if (invoice.voided) return 'void';
  if (!invoice.frozen) return 'draft';
  if (invoice.kind === 'credit note') return standingOfNote(owing);
  const owed = owedOn(owing);
  if (owed < 0) return 'overpaid';
  const paid = paidOf(payments);
  if (owed > 0) return today > dueDayOf(invoice) ? 'overdue' : paid > 0 ? 'part paid' : 'issued';
  if (paid > 0) return 'paid';
  if (sumOf(payments, 'write-off') > 0) return 'written off';
  return credits.some((note) => !note.voided) ? 'credited' : 'paid';
}

function standingOfNote({ of }: InvoiceBalance): Standing {
  if (of && owedOn(of) < 0) return 'open';
  return of && sumOf(of.payments, 'refund') > 0 ? 'refunded' : 'set off';
}
