import type { Deposit, Payment } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import { addExact, lessExact, sumExact } from '../money/rational';
import { daysBetween, type Day } from '../time/day';
import { leftWithTax, openAdvances } from './advances';
import { askedOf } from './paid';
import { dueDayOf, heldOn, owedOn, type InvoiceBalance } from './standing';

/** What moves a client's account. Those that come earlier stand first on one day. */
export const accountMoves = [
  'invoice',
  'credit note',
  'void',
  'paid ahead',
  'payment',
  'refund',
  'written off',
] as const;
export type AccountMove = (typeof accountMoves)[number];

/** A line of a statement of account. */
export interface AccountLine {
  day: Day;
  move: AccountMove;
  /** The number of the invoice or credit note it is about; empty where it is about none. */
  number: string;
  invoiceId: string | null;
  note: string;
  /** What the client owes more by it, in minor units; what it owes less is negative. */
  amount: Minor;
  /** What is owed after it. */
  balance: Minor;
}

/** An invoice that something is still to come of. */
export interface OpenItem {
  invoiceId: string;
  number: string;
  day: Day;
  dueDay: Day;
  /** What is owed by its due day. */
  owed: Minor;
  /** What is held back and not due yet. */
  held: Minor;
  /** Days past its due day; 0 or less where it is not late, and where nothing but what is held back is open. */
  late: number;
}

/** A client's account over a period, in one currency. */
export interface AccountStatement {
  currency: CurrencyCode;
  /** What was owed before the period; negative where the client had money to come. */
  opening: Minor;
  lines: AccountLine[];
  closing: Minor;
  /** The oldest first. */
  open: OpenItem[];
  /** What was paid ahead and no invoice has taken yet. */
  ahead: Minor;
}

type Moved = Omit<AccountLine, 'balance'>;

/**
 * A client's statements of account, one for each currency that anything moved in up to the end of the period. As of that end: what came
 * later is not in it, and an invoice that was made void later stands in it as it was.
 *
 * @param invoices the client's invoices and credit notes with what came in on them; drafts are left out
 * @param deposits what the client paid ahead
 * @param to the last day
 */
export function accountStatements(
  invoices: readonly InvoiceBalance[],
  deposits: readonly Deposit[],
  from: Day,
  to: Day,
): AccountStatement[] {
  const issued = invoices.filter(({ invoice }) => invoice.frozen !== null && invoice.frozen.day <= to);
  const ahead = deposits.filter((deposit) => deposit.day <= to);
  const currencies = new Set([...issued.map(({ invoice }) => invoice.currency), ...ahead.map((each) => each.currency)]);
  return [...currencies].sort().map((currency) => {
    const own = issued.filter(({ invoice }) => invoice.currency === currency);
    const paidAhead = ahead.filter((deposit) => deposit.currency === currency);
    return statementOf(currency, own, paidAhead, from, to);
  });
}

function statementOf(
  currency: CurrencyCode,
  invoices: readonly InvoiceBalance[],
  deposits: readonly Deposit[],
  from: Day,
  to: Day,
): AccountStatement {
  const moves = [
    ...invoices.flatMap((each) => movesOf(each)),
    ...deposits.flatMap(({ day, note, amount, paidBack = [] }): Moved[] => {
      const about = { number: '', invoiceId: null };
      const back = paidBack.map((each): Moved => ({
        ...about,
        move: 'refund',
        day: each.day,
        note: each.note,
        amount: each.amount,
      }));
      return [{ ...about, day, move: 'paid ahead', note, amount: -amount }, ...back];
    }),
  ].filter((move) => move.day <= to);
  moves.sort(
    (a, b) =>
      (a.day < b.day ? -1 : a.day > b.day ? 1 : 0) ||
      accountMoves.indexOf(a.move) - accountMoves.indexOf(b.move) ||
      a.number.localeCompare(b.number, 'en', { numeric: true }),
  );
  let balance = 0;
  let opening = 0;
  const lines: AccountLine[] = [];
  for (const move of moves) {
    balance = addExact(balance, move.amount);
    if (move.day < from) opening = balance;
    else lines.push({ ...move, balance });
  }
  const then = invoices.map((each) => asOf(each, to));
  const taken = then.flatMap(({ invoice }) =>
    invoice.voided ? [] : invoice.frozen!.deductions.filter((each) => each.kind === 'deposit'),
  );
  return {
    currency,
    opening,
    lines,
    closing: balance,
    open: then.flatMap((each) => openOf(each, to) ?? []).sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0)),
    ahead: sumExact([
      deposits.reduce((sum, each) => addExact(sum, lessExact(each.amount, paidBackBy(each, to))), 0),
      -taken.reduce((sum, each) => addExact(sum, each.amount), 0),
      invoicedAhead(then),
    ]),
  };
}

/** What is left of money that was invoiced ahead and is paid, with its tax. How drafts are rounded is no matter: there are none. */
function invoicedAhead(then: readonly InvoiceBalance[]): Minor {
  const all = then.flatMap(({ invoice, credits }) => [invoice, ...credits]);
  const known = [...new Map(all.map((row) => [row.id, row])).values()];
  const unpaid = new Set(then.filter((each) => owedOn(each) > 0).map(({ invoice }) => invoice.id));
  const open = openAdvances(known, 'half away from zero').filter(({ invoice }) => !unpaid.has(invoice.id));
  return sumExact(open.map(leftWithTax));
}

const paidBackBy = ({ paidBack = [] }: Deposit, to: Day): Minor =>
  paidBack.filter((each) => each.day <= to).reduce((sum, each) => addExact(sum, each.amount), 0);

const MOVE_OF_PAYMENT: Readonly<Record<Payment['kind'], { move: AccountMove; sign: 1 | -1 }>> = {
  payment: { move: 'payment', sign: -1 },
  refund: { move: 'refund', sign: 1 },
  'write-off': { move: 'written off', sign: -1 },
};

/** What an issued invoice or credit note moves: itself, what came in on it, and its being made void. */
function movesOf({ invoice, payments }: InvoiceBalance): Moved[] {
  const frozen = invoice.frozen!;
  const about = { number: frozen.number, invoiceId: invoice.id };
  const amount = askedOf(frozen);
  const moves: Moved[] = [{ ...about, day: frozen.day, move: invoice.kind, note: '', amount }];
  if (invoice.voided) {
    moves.push({ ...about, day: invoice.voided.day, move: 'void', note: invoice.voided.reason, amount: -amount });
  }
  for (const payment of payments) {
    const { move, sign } = MOVE_OF_PAYMENT[payment.kind];
    moves.push({ ...about, day: payment.day, move, note: payment.note, amount: sign * payment.amount });
  }
  return moves;
}

/** An invoice as it was at the end of a day. */
export function asOf({ invoice, payments, credits }: InvoiceBalance, to: Day): InvoiceBalance {
  const voidedBy = (voided: typeof invoice.voided) => (voided && voided.day <= to ? voided : null);
  return {
    invoice: {
      ...invoice,
      voided: voidedBy(invoice.voided),
      releasedOn: invoice.releasedOn !== null && invoice.releasedOn <= to ? invoice.releasedOn : null,
    },
    payments: payments.filter((payment) => payment.day <= to),
    credits: credits
      .filter((note) => note.frozen !== null && note.frozen.day <= to)
      .map((note) => ({ ...note, voided: voidedBy(note.voided) })),
  };
}

function openOf(balance: InvoiceBalance, to: Day): OpenItem | null {
  const { invoice } = balance;
  if (invoice.kind === 'credit note' || invoice.voided) return null;
  const owed = owedOn(balance);
  const held = invoice.releasedOn === null ? heldOn(balance) : 0;
  if (owed === 0 && held === 0) return null;
  const { number, day } = invoice.frozen!;
  const dueDay = dueDayOf(invoice);
  return { invoiceId: invoice.id, number, day, dueDay, owed, held, late: owed > 0 ? daysBetween(dueDay, to) : 0 };
}

const WORDS: Readonly<Record<AccountMove, string>> = {
  invoice: 'Invoice',
  'credit note': 'Credit note',
  void: 'Made void',
  'paid ahead': 'Paid ahead',
  payment: 'Paid',
  refund: 'Paid back',
  'written off': 'Written off',
};

/** A line in words: "Invoice SL-0131", "Paid, SL-0131: cheque". */
export function accountWords({ move, number, note }: Pick<AccountLine, 'move' | 'number' | 'note'>): string {
  const named = move === 'invoice' || move === 'credit note' ? `${WORDS[move]} ${number}` : WORDS[move];
  const about = move !== 'invoice' && move !== 'credit note' && number !== '' ? `, ${number}` : '';
  return `${named}${about}${note.trim() === '' ? '' : `: ${note.trim()}`}`;
}

/** What a statement to the client closes with. */
export const closingWords = (closing: Minor): string =>
  closing === 0 ? 'Settled' : closing < 0 ? 'In your favour' : 'Owed';

/** A statement of account as it goes to the client. */
export interface AccountPaper {
  studio: { name: string; address: string; email: string; paper: 'A4' | 'Letter' };
  client: { name: string; address: string };
  from: Day;
  to: Day;
  statements: readonly AccountStatement[];
}
