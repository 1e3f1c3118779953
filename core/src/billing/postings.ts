import type { Accounts, Deposit, FrozenInvoice, Invoice, Payment } from '../model/records';
import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import type { Day } from '../time/day';
import { lineNets } from './paid';
import { heldOn } from './standing';

/** One line of a double-entry journal: an amount on an account, debit or credit. */
export interface PostingLine {
  account: string;
  debit: Minor;
  credit: Minor;
  text: string;
}

/** What happened once, on several accounts; debits and credits are equal. */
export interface Posting {
  day: Day;
  /** The number of the invoice or credit note. */
  reference: string;
  text: string;
  currency: CurrencyCode;
  lines: PostingLine[];
}

/**
 * The postings of invoices, credit notes, voids and payments, by day. Each balances to nothing.
 */
export function postingsOf(
  accounts: Accounts,
  invoices: readonly Invoice[],
  payments: readonly Payment[],
  deposits: readonly Deposit[] = [],
): Posting[] {
  const postings: Posting[] = deposits.map((deposit) => paidAhead(accounts, deposit));
  const issued = new Map<string, Invoice>();
  for (const invoice of invoices) {
    if (!invoice.frozen) continue;
    issued.set(invoice.id, invoice);
    const posting = sent(accounts, invoice.frozen);
    postings.push(posting);
    if (invoice.voided) postings.push(reversed(posting, invoice.voided.day, `Void: ${invoice.voided.reason}`));
    const released = releasedPosting(
      accounts,
      invoice,
      invoices.filter((each) => each.ofId === invoice.id),
    );
    if (released) postings.push(released);
  }
  for (const payment of payments) {
    const frozen = issued.get(payment.invoiceId)?.frozen;
    if (!frozen) continue;
    const into = payment.kind === 'write-off' ? accounts.writeOffs : accounts.bank;
    const amount = payment.kind === 'refund' ? -payment.amount : payment.amount;
    const text = payment.note.trim() || paymentTexts[payment.kind];
    postings.push({
      day: payment.day,
      reference: frozen.number,
      text: `${frozen.client.name}: ${text}`,
      currency: payment.currency,
      lines: [line(into, amount, text), line(accounts.receivables, -amount, text)],
    });
  }
  return postings.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.reference < b.reference ? -1 : 1));
}

const paymentTexts: Record<Payment['kind'], string> = {
  payment: 'Payment',
  'write-off': 'Written off',
  refund: 'Paid back',
};

function paidAhead(accounts: Accounts, { day, amount, currency, note }: Deposit): Posting {
  const text = note.trim() || 'Paid ahead';
  const lines = [line(accounts.bank, amount, text), line(accounts.deposits, -amount, text)];
  return { day, reference: '', text, currency, lines };
}

function sent(accounts: Accounts, frozen: FrozenInvoice): Posting {
  const what = frozen.credits ? `Credit note for ${frozen.credits.number}` : 'Invoice';
  const lines: PostingLine[] = [line(accounts.receivables, frozen.payable, 'To be paid')];
  for (const each of frozen.deductions) {
    lines.push(line(each.kind === 'deposit' ? accounts.deposits : accounts.retention, each.amount, each.text));
  }
  const income = new Map<string, Minor>();
  const nets = lineNets(frozen);
  frozen.lines.forEach((each, index) => {
    const account = each.account || accounts.sales;
    income.set(account, (income.get(account) ?? 0) + nets[index]!);
  });
  for (const [account, amount] of income) lines.push(line(account, -amount, 'Income'));
  for (const tax of frozen.taxes) lines.push(line(accounts.tax, -tax.amount, `${tax.name} ${tax.percent} %`));
  if (frozen.rounding !== 0) lines.push(line(accounts.sales, -frozen.rounding, 'Rounding'));
  return {
    day: frozen.day,
    reference: frozen.number,
    text: `${frozen.client.name}: ${what}`,
    currency: frozen.currency,
    lines: lines.filter((each) => each.debit !== 0 || each.credit !== 0),
  };
}

/** Retention that became due moves to what is owed. */
function releasedPosting(accounts: Accounts, invoice: Invoice, credits: readonly Invoice[]): Posting | null {
  const { frozen, releasedOn, voided } = invoice;
  const held = heldOn({ invoice, credits });
  if (releasedOn === null || held === 0 || voided) return null;
  return {
    day: releasedOn,
    reference: frozen!.number,
    text: `${frozen!.client.name}: retention due`,
    currency: frozen!.currency,
    lines: [line(accounts.receivables, held, 'Retention due'), line(accounts.retention, -held, 'Retention due')],
  };
}

const line = (account: string, amount: Minor, text: string): PostingLine => ({
  account,
  debit: Math.max(0, amount),
  credit: Math.max(0, -amount),
  text,
});

const reversed = (posting: Posting, day: Day, text: string): Posting => ({
  ...posting,
  day,
  text: `${posting.text}. ${text}`,
  lines: posting.lines.map((each) => ({ ...each, debit: each.credit, credit: each.debit })),
});
