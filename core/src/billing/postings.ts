import { lineAmounts } from '../costs/amounts';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Cost, CostLine, Deposit, FrozenInvoice, Invoice, Payment, Payout } from '../model/records';
import type { Rows, TableName } from '../model/tables';
import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { addExact, lessExact, sumExact } from '../money/rational';
import { shareOut } from '../money/share';
import type { Day } from '../time/day';
import { bankAccountOf } from './freeze';
import { lineNets } from './paid';
import type { Pricer } from './pricer';
import { heldOn } from './standing';

/** One line of a double-entry journal: an amount on an account, debit or credit. */
export interface PostingLine {
  account: string;
  debit: Minor;
  credit: Minor;
  /** What the bookkeeping calls the tax that income, or tax itself, stands under; empty for what has none. */
  taxCode: string;
  text: string;
  /** Debit and credit in the studio's currency, in balance too; null where no exchange rate tells them. */
  home: { debit: Minor; credit: Minor } | null;
}

/** What happened once, on several accounts; debits and credits are equal. */
export interface Posting {
  day: Day;
  /** The number of the invoice or credit note, or the supplier's own. */
  reference: string;
  text: string;
  /** What the bookkeeping calls the client; empty where it is of none. */
  clientCode: string;
  currency: CurrencyCode;
  lines: PostingLine[];
}

/** Rows that postings are made of. */
export interface PostingRows {
  invoices: readonly Invoice[];
  payments: readonly Payment[];
  deposits?: readonly Deposit[];
  costs?: readonly Cost[];
  costLines?: readonly CostLine[];
  payouts?: readonly Payout[];
}

/** The rows that all postings of a workspace are made of, as they are read. */
export const postingRows = (read: <T extends TableName>(table: T) => Rows[T][]): PostingRows => ({
  invoices: read('invoices'),
  payments: read('payments'),
  deposits: read('deposits'),
  costs: read('costs'),
  costLines: read('costLines'),
  payouts: read('payouts'),
});

type BareLine = Omit<PostingLine, 'home'>;
type Homes = (PostingLine['home'] & object)[];
/** A posting whose lines are worth in the studio's currency what the rate of its day says, or what is said of each. */
type BarePosting = Omit<Posting, 'lines'> & { lines: BareLine[]; homes?: Homes };

/**
 * The postings of invoices, credit notes, voids, payments, supplier bills and expenses, by day. Each balances to nothing, in its own currency
 * and in the studio's. What was read from the bookkeeping is in it already and is not posted again.
 */
export function postingsOf(pricer: Pricer, rows: PostingRows): Posting[] {
  const poster = new Poster(pricer);
  const postings: BarePosting[] = (rows.deposits ?? []).flatMap((deposit) => poster.paidAhead(deposit));
  const issued = new Map<Id, Invoice>();
  const notesOf = grouped(rows.invoices, (row) => row.ofId);
  for (const invoice of rows.invoices) {
    if (!invoice.frozen) continue;
    issued.set(invoice.id, invoice);
    const posting = poster.sent(invoice.frozen, invoice.clientId);
    postings.push(posting);
    if (invoice.voided) postings.push(reversed(posting, invoice.voided.day, `Void: ${invoice.voided.reason}`));
    const released = poster.released(invoice, notesOf.get(invoice.id) ?? []);
    if (released) postings.push(released);
    const lapsed = invoice.voided ? null : poster.lapsed(invoice);
    if (lapsed) postings.push(lapsed);
  }
  for (const payment of rows.payments) {
    const invoice = issued.get(payment.invoiceId);
    if (invoice) postings.push(poster.paid(invoice.frozen!, invoice.clientId, payment));
  }
  const linesOf = grouped(rows.costLines ?? [], (row) => row.costId);
  const bought = new Map((rows.costs ?? []).map((cost) => [cost.id, cost]));
  for (const cost of bought.values()) postings.push(...poster.bought(cost, linesOf.get(cost.id) ?? []));
  for (const payout of rows.payouts ?? []) {
    const cost = bought.get(payout.costId);
    if (cost && payout.standing === 'paid') postings.push(poster.paidOut(cost, payout));
  }
  return postings
    .filter((posting) => posting.lines.length > 0)
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.reference < b.reference ? -1 : 1))
    .map((posting) => poster.valued(posting));
}

/** Money that moved: what was owed and since when, and what the account says of it in its own currency. */
interface Moved {
  currency: CurrencyCode;
  bookedOn: Day;
  on: Day;
  at?: { amount: Minor; currency: CurrencyCode } | undefined;
}

const paymentTexts: Record<Payment['kind'], string> = {
  payment: 'Payment',
  'write-off': 'Written off',
  refund: 'Paid back',
};

class Poster {
  readonly #pricer: Pricer;

  constructor(pricer: Pricer) {
    this.#pricer = pricer;
  }

  get #accounts() {
    return this.#pricer.book.workspace.accounts;
  }

  /** Where money in a currency arrives. */
  #bank(currency: CurrencyCode): string {
    return bankAccountOf(this.#pricer.book.workspace, currency)?.ledger || this.#accounts.bank;
  }

  #code(clientId: Id): string {
    return this.#pricer.client.get(clientId)?.code ?? '';
  }

  #taxCode(taxId: Id | null): string {
    return this.#pricer.tax.get(taxId ?? '')?.code ?? '';
  }

  paidAhead({ clientId, day, amount, currency, note, fee = 0, paidBack = [] }: Deposit): BarePosting[] {
    const moved = (on: Day, by: Minor, text: string, kept = 0): BarePosting => ({
      day: on,
      reference: '',
      text,
      clientCode: this.#code(clientId),
      currency,
      lines: [
        line(this.#bank(currency), lessExact(by, kept), text),
        ...(kept === 0 ? [] : [line(this.#accounts.charges, kept, 'Charges')]),
        line(this.#accounts.deposits, -by, text),
      ],
    });
    const back = paidBack.map((each) => moved(each.day, -each.amount, each.note.trim() || 'Paid back'));
    return [moved(day, amount, note.trim() || 'Paid ahead', fee), ...back];
  }

  paid(frozen: FrozenInvoice, clientId: Id, payment: Payment): BarePosting {
    const { currency, kind, day, fee = 0, arrived } = payment;
    const accounts = this.#accounts;
    const into = kind === 'write-off' ? accounts.writeOffs : this.#bank(arrived?.currency ?? currency);
    const amount = kind === 'refund' ? -payment.amount : payment.amount;
    const text = payment.note.trim() || paymentTexts[kind];
    const lines = [
      line(into, lessExact(amount, fee), text),
      ...(fee === 0 ? [] : [line(accounts.charges, fee, 'Charges')]),
      line(accounts.receivables, -amount, text),
    ];
    const head = { day, reference: frozen.number, clientCode: this.#code(clientId), currency };
    const moved = { currency, bookedOn: frozen.day, on: kind === 'write-off' ? frozen.day : day, at: arrived };
    return { ...head, text: `${frozen.client.name}: ${text}`, ...this.#exchanged(moved, lines) };
  }

  /** What a supplier or a member was owed goes off the bank. */
  paidOut(cost: Cost, { day, amount, currency, note, left }: Payout): BarePosting {
    const accounts = this.#accounts;
    const member = this.#pricer.member.get(cost.memberId ?? '')?.name ?? '';
    const isBill = cost.kind === 'bill';
    const text = note.trim() || (isBill ? 'Paid' : `Paid back to ${member}`.trim());
    const lines = [
      line(this.#bank(left?.currency ?? currency), -amount, text),
      line(isBill ? accounts.payables : accounts.members, amount, text),
    ];
    const at = left && { ...left, amount: -left.amount };
    const head = { day, reference: cost.reference, clientCode: '', currency };
    const what = cost.supplier || member || 'Cost';
    return {
      ...head,
      text: `${what}: ${text}`,
      ...this.#exchanged({ currency, bookedOn: cost.day, on: day, at }, lines),
    };
  }

  /**
   * What is owed in another currency was booked by the rate of the day it came to be owed and is taken off by the same; what the money is
   * worth on the day it moves is more or less, and the difference is gained or lost.
   *
   * @param lines the bank first, what was owed last
   */
  #exchanged({ currency, bookedOn, on, at }: Moved, lines: BareLine[]): Pick<BarePosting, 'lines' | 'homes'> {
    const { workspace } = this.#pricer.book;
    if (currency === workspace.currency) return { lines };
    const { exchange } = this.#pricer.rates;
    const worth = (amount: Minor, on: Day) =>
      exchange.convert(amount, currency, workspace.currency, on, workspace.amountRounding);
    const values = lines.map(({ debit, credit }, index) => {
      if (index === 0 && at?.currency === workspace.currency) return at.amount;
      return worth(lessExact(debit, credit), index === lines.length - 1 ? bookedOn : on);
    });
    if (values.some((value) => value === null)) return { lines };
    const homes = values.map((value) => sided(value!));
    const gained = sumExact(values.map((value) => value!));
    if (gained === 0) return { lines, homes };
    const text = gained > 0 ? 'Gained by exchange' : 'Lost by exchange';
    return { lines: [...lines, line(this.#accounts.exchange, 0, text)], homes: [...homes, sided(-gained)] };
  }

  /** Income is posted net and after its share of the discount, on the account of its line and under its tax. */
  sent(frozen: FrozenInvoice, clientId: Id): BarePosting {
    const accounts = this.#accounts;
    const what = frozen.credits ? `Credit note for ${frozen.credits.number}` : 'Invoice';
    const lines: BareLine[] = [line(accounts.receivables, frozen.payable, 'To be paid')];
    for (const each of frozen.deductions) {
      lines.push(line(each.kind === 'deposit' ? accounts.deposits : accounts.retention, each.amount, each.text));
    }
    const income = new Map<string, BareLine & { amount: Minor }>();
    const nets = lineNets(frozen);
    frozen.lines.forEach((each, index) => {
      const account = each.account || accounts.sales;
      const key = `${account} ${each.taxId ?? ''}`;
      const own = income.get(key) ?? { ...line(account, 0, 'Income', this.#taxCode(each.taxId)), amount: 0 };
      income.set(key, { ...own, amount: addExact(own.amount, nets[index]!) });
    });
    for (const { account, taxCode, amount } of income.values()) lines.push(line(account, -amount, 'Income', taxCode));
    for (const tax of frozen.taxes)
      lines.push(line(accounts.tax, -tax.amount, `${tax.name} ${tax.percent} %`, this.#taxCode(tax.id)));
    if (frozen.rounding !== 0) lines.push(line(accounts.sales, -frozen.rounding, 'Rounding'));
    return {
      day: frozen.day,
      reference: frozen.number,
      text: `${frozen.client.name}: ${what}`,
      clientCode: this.#code(clientId),
      currency: frozen.currency,
      lines: lines.filter((each) => each.debit !== 0 || each.credit !== 0),
    };
  }

  /** What was invoiced ahead and is lost by agreement is earned; its tax was due before. */
  lapsed({ advance, frozen, clientId, currency }: Invoice): BarePosting | null {
    if (!advance?.lapsed) return null;
    const { day, parts } = advance.lapsed;
    const lines = parts.flatMap(({ taxId, amount }) => [
      line(this.#accounts.deposits, amount, 'Lapsed', this.#taxCode(taxId)),
      line(this.#accounts.sales, -amount, 'Lapsed', this.#taxCode(taxId)),
    ]);
    const { number, client } = frozen!;
    const head = { day, reference: number, clientCode: this.#code(clientId), currency };
    return { ...head, text: `${client.name}: what was left of ${number} lapsed`, lines };
  }

  /** Retention that became due moves to what is owed. */
  released(invoice: Invoice, credits: readonly Invoice[]): BarePosting | null {
    const { frozen, releasedOn, voided } = invoice;
    const held = heldOn({ invoice, credits });
    if (releasedOn === null || held === 0 || voided) return null;
    return {
      day: releasedOn,
      reference: frozen!.number,
      text: `${frozen!.client.name}: retention due`,
      clientCode: this.#code(invoice.clientId),
      currency: frozen!.currency,
      lines: [
        line(this.#accounts.receivables, held, 'Retention due'),
        line(this.#accounts.retention, -held, 'Retention due'),
      ],
    };
  }

  /** A supplier bill is owed to the supplier; an expense comes off the bank, or is owed to a member until it is paid back. */
  bought(cost: Cost, costLines: readonly CostLine[]): BarePosting[] {
    if (cost.kind === 'ledger' || costLines.length === 0) return [];
    const accounts = this.#accounts;
    const tax = cost.taxId === null ? undefined : this.#pricer.tax.get(cost.taxId);
    const rule = this.#pricer.book.workspace.amountRounding;
    const amounts = costLines.map((each) => lineAmounts(each, cost, tax, rule));
    const gross = sumExact(amounts.map((each) => each.gross));
    const spent = sumExact(amounts.map((each) => each.cost));
    const claimed = lessExact(gross, spent);
    const code = this.#taxCode(cost.taxId);
    const from =
      cost.kind === 'bill' ? accounts.payables : cost.owedBack ? accounts.members : this.#bank(cost.currency);
    const head = { reference: cost.reference, clientCode: '', currency: cost.currency };
    const what = cost.supplier || costLines[0]!.text || 'Cost';
    const lines = [
      line(accounts.purchases, spent, costLines[0]!.text || what, code),
      line(accounts.inputTax, claimed, tax ? `${tax.name} ${tax.percent} %` : 'Tax', code),
      line(from, -gross, cost.kind === 'bill' ? 'To be paid' : cost.owedBack ? 'Owed back' : 'Paid'),
    ];
    const postings: BarePosting[] = [
      { ...head, day: cost.day, text: what, lines: lines.filter((each) => each.debit !== 0 || each.credit !== 0) },
    ];
    if (cost.owedBack && cost.paidBackOn !== null) {
      const member = this.#pricer.member.get(cost.memberId ?? '')?.name ?? '';
      const text = `Paid back to ${member}`.trim();
      const back = [line(accounts.members, gross, text), line(this.#bank(cost.currency), -gross, text)];
      postings.push({ ...head, day: cost.paidBackOn, text: `${what}: ${text}`, lines: back });
    }
    return postings;
  }

  /** The same in the studio's currency by the exchange rate of the day: the whole converted once, and shared, so that it balances. */
  valued({ homes, ...posting }: BarePosting): Posting {
    if (homes) return { ...posting, lines: posting.lines.map((each, index) => ({ ...each, home: homes[index]! })) };
    const { workspace } = this.#pricer.book;
    const { exchange } = this.#pricer.rates;
    const { currency, day, lines } = posting;
    const rule = workspace.amountRounding;
    const whole = exchange.convert(sumExact(lines.map((each) => each.debit)), currency, workspace.currency, day, rule);
    const shares = (of: (each: BareLine) => Minor) => (whole === null ? null : shareOut(whole, lines.map(of)));
    const [debits, credits] = [shares((each) => each.debit), shares((each) => each.credit)];
    return {
      ...posting,
      lines: lines.map((each, index) => ({
        ...each,
        home: debits && credits && { debit: debits[index]!, credit: credits[index]! },
      })),
    };
  }
}

const sided = (amount: Minor) => ({ debit: Math.max(0, amount), credit: Math.max(0, -amount) });

const line = (account: string, amount: Minor, text: string, taxCode = ''): BareLine => ({
  account,
  ...sided(amount),
  taxCode,
  text,
});

const reversed = (posting: BarePosting, day: Day, text: string): BarePosting => ({
  ...posting,
  day,
  text: `${posting.text}. ${text}`,
  lines: posting.lines.map((each) => ({ ...each, debit: each.credit, credit: each.debit })),
});
