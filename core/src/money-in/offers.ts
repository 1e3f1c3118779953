import { owedOn, type InvoiceBalance } from '../billing/standing';
import { creditorReference } from '../e-invoice/pay-code';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Client, Deposit, MoneyIn } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { addExact, lessExact, sumExact, type RoundingRule } from '../money/rational';
import type { ExchangeRates } from '../rates/exchange';
import type { Day } from '../time/day';
import { namesAgree } from './payer-names';
import { QuotedNumbers } from './quoted';

// What a sum that came in was paid for, as far as the statement tells: by a reference, a number, the sum, the name. What is sure is offered to be
// taken together with all that is sure; the rest with its reasons, to be looked at.

/** A part of a sum that came in, as the payment of an invoice. */
export interface InvoicePart {
  invoiceId: Id;
  /** What of the invoice it pays, in minor units of the invoice's currency. */
  amount: Minor;
  /** What was kept of that on the way. */
  fee: Minor;
  /** What arrived, in minor units of its own currency, where that is not the invoice's. */
  arrived: Minor | null;
}

/** What arrived of a part, in minor units of the sum's currency. */
export const arrivedOf = ({ amount, fee, arrived }: Omit<InvoicePart, 'invoiceId'>): Minor =>
  arrived ?? lessExact(amount, fee);

/** What of a sum is for nothing yet; below nothing where more is given out than came in. */
export const leftOfSum = (
  sum: Pick<MoneyIn, 'amount'>,
  parts: readonly Omit<InvoicePart, 'invoiceId'>[],
  ahead: Minor = 0,
): Minor => lessExact(sum.amount, sumExact([...parts.map(arrivedOf), ahead]));

/** What a sum that came in may have been paid for. */
export interface Offer {
  parts: InvoicePart[];
  /** What is left of it for no invoice: paid ahead by a client, to be deducted from a later one. */
  ahead: { clientId: Id; amount: Minor } | null;
  /** Nothing speaks against it, and enough for it. */
  sure: boolean;
  /** What speaks for it, and against. */
  reasons: string[];
}

/** What offers are made from. */
export interface MatchRows {
  invoices: readonly InvoiceBalance[];
  clients: readonly Client[];
  /** Sums that came in before, with what became of them: whoever paid for a client then pays for it now. */
  moneyIn: readonly MoneyIn[];
  deposits: readonly Deposit[];
  exchange: Pick<ExchangeRates, 'convert'>;
  rounding: RoundingRule;
}

/** An invoice that money may be for, and what is still owed on it while sums are given out. */
interface Open {
  balance: InvoiceBalance;
  id: Id;
  number: string;
  clientId: Id;
  currency: CurrencyCode;
  day: Day;
  owed: Minor;
}

/** More than this is not told by trying which invoices add up to a sum. */
const MOST_TO_ADD_UP = 16;
/** Within this much of what is owed, a transfer in another currency, or one that something was kept of, is taken to be for it: in parts of 1,000. */
const NEAR_EXCHANGE = 50;
const NEAR_FEE = 30;

/**
 * What each of some sums was paid for. No two offers take the same money of an invoice: what is sure is given out first, by day.
 *
 * @param sums those that nothing is said of yet
 */
export function offersFor(sums: readonly MoneyIn[], rows: MatchRows): Map<Id, Offer> {
  const matcher = new Matcher(rows);
  const offers = new Map<Id, Offer>();
  const inOrder = [...sums].sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.id < b.id ? -1 : 1));
  for (const sum of inOrder) {
    const offer = matcher.offer(sum);
    if (!offer.sure) continue;
    offers.set(sum.id, offer);
    matcher.give(offer);
  }
  for (const sum of inOrder) {
    if (offers.has(sum.id)) continue;
    // Of two sums alike neither is sure, though one is left when the other was given out.
    const offer = { ...matcher.offer(sum), sure: false };
    offers.set(sum.id, offer);
    matcher.give(offer);
  }
  return offers;
}

class Matcher {
  readonly #rows: MatchRows;
  readonly #open = new Map<Id, Open>();
  readonly #settled = new Map<Id, { number: string; clientId: Id; why: string }>();
  readonly #numbers: QuotedNumbers;
  /** Who paid for a client before, by the payer's name. */
  readonly #payers = new Map<string, Id>();

  constructor(rows: MatchRows) {
    this.#rows = rows;
    const issued = rows.invoices.filter(({ invoice }) => invoice.frozen !== null && invoice.kind === 'invoice');
    this.#numbers = new QuotedNumbers(
      issued.map(({ invoice: { id, frozen } }) => ({
        id,
        number: frozen!.number,
        reference: creditorReference(frozen!.number),
      })),
    );
    for (const balance of issued) {
      const { id, frozen, clientId, currency, voided } = balance.invoice;
      const owed = owedOn(balance);
      const { number, day } = frozen!;
      if (voided) this.#settled.set(id, { number, clientId, why: `${number} is void` });
      else if (owed <= 0) this.#settled.set(id, { number, clientId, why: `${number} is paid already` });
      else this.#open.set(id, { balance, id, number, clientId, currency, day, owed });
    }
    const byId = new Map(rows.moneyIn.map((row) => [row.id, row]));
    const paidFor = (moneyInId: Id | undefined, clientId: Id) => {
      const payer = byId.get(moneyInId ?? '')?.payer.trim();
      if (payer) this.#payers.set(payer.toLowerCase(), clientId);
    };
    for (const { invoice, payments } of issued)
      for (const { moneyInId } of payments) paidFor(moneyInId, invoice.clientId);
    for (const { moneyInId, clientId } of rows.deposits) paidFor(moneyInId, clientId);
  }

  /** Takes what an offer gives off what is owed. */
  give({ parts }: Offer): void {
    for (const { invoiceId, amount } of parts) {
      const open = this.#open.get(invoiceId);
      if (open) open.owed = lessExact(open.owed, amount);
    }
  }

  offer(sum: MoneyIn): Offer {
    const named = this.#numbers.in(sum.text, sum.reference);
    const reasons: string[] = [];
    if (this.#hasTwin(sum)) reasons.push('another statement tells of the same sum on the same day: perhaps the same');
    for (const { id } of named) {
      const settled = this.#settled.get(id);
      if (settled) reasons.push(settled.why);
      else if (this.#open.get(id)!.owed === 0)
        reasons.push(`${this.#open.get(id)!.number} is paid by another transfer`);
    }
    const open = named.flatMap(({ id }) => this.#owing(id) ?? []);
    const payer = this.#clientOf(sum.payer);
    if (open.length > 0) return this.#ofNamed(sum, open, payer, reasons);
    if (named.length > 0) return this.#ofSettled(sum, named[0]!.id, payer, reasons);
    return payer === null ? this.#ofNobody(sum, reasons) : this.#ofClient(sum, payer, reasons);
  }

  /** Whether the same may have come in by another kind of file. */
  #hasTwin({ id, day, amount, currency, source, payer }: MoneyIn): boolean {
    const kindOf = (text: string) => text.slice(0, text.indexOf(':'));
    return this.#rows.moneyIn.some(
      (row) =>
        row.id !== id &&
        row.day === day &&
        row.amount === amount &&
        row.currency === currency &&
        kindOf(row.source) !== kindOf(source) &&
        (row.payer === '' || payer === '' || namesAgree(row.payer, payer)),
    );
  }

  #owing(id: Id): Open | null {
    const open = this.#open.get(id);
    return open && open.owed > 0 ? open : null;
  }

  /** Who a payer is: known from before, or by name; null where nobody, or several could be. */
  #clientOf(payer: string): Id | null {
    const before = this.#payers.get(payer.trim().toLowerCase());
    if (before) return before;
    const alike = this.#rows.clients.filter((client) => namesAgree(payer, client.name));
    return alike.length === 1 ? alike[0]!.id : null;
  }

  #name(clientId: Id): string {
    return this.#rows.clients.find((client) => client.id === clientId)?.name ?? '';
  }

  /** Invoices are named. */
  #ofNamed(sum: MoneyIn, named: readonly Open[], payer: Id | null, reasons: string[]): Offer {
    const numbers = named.map((each) => each.number).join(', ');
    reasons.push(`names ${numbers}`);
    const others = payer !== null && !named.some((each) => each.clientId === payer);
    if (others) reasons.push(`but the payer looks like ${this.#name(payer)}`);
    const clear = reasons.length === 1;
    const foreign = named.filter((each) => each.currency !== sum.currency);
    if (foreign.length > 0) return this.#ofForeign(sum, named, reasons, clear);
    const owed = sumExact(named.map((each) => each.owed));
    const clientId = named[0]!.clientId;
    const [only] = named;
    if (sum.amount === owed) {
      reasons.push(named.length === 1 ? 'the sum is what is owed' : 'the sum is what is owed on them');
      return { parts: named.map((each) => whole(each)), ahead: null, sure: clear, reasons };
    }
    if (sum.amount > owed) {
      const parts = named.map((each) => whole(each));
      const rest = lessExact(sum.amount, owed);
      const more = this.#openOf(clientId, sum.currency).filter((each) => !named.includes(each));
      const added = onlySubset(more, rest);
      if (added) {
        reasons.push(`with ${added.map((each) => each.number).join(', ')} it is the sum`);
        return { parts: [...parts, ...added.map((each) => whole(each))], ahead: null, sure: false, reasons };
      }
      reasons.push(`${showAmount(rest, sum.currency)} more than is owed on ${numbers}`);
      return { parts, ahead: { clientId, amount: rest }, sure: false, reasons };
    }
    const missing = lessExact(owed, sum.amount);
    if (named.length === 1 && sum.sent?.currency === only!.currency && sum.sent.amount === only!.owed) {
      reasons.push(`${showAmount(missing, sum.currency)} were kept on the way`);
      return { parts: [{ ...whole(only!), fee: missing }], ahead: null, sure: clear, reasons };
    }
    if (named.length === 1 && missing * 1000 <= owed * NEAR_FEE) {
      reasons.push(`${showAmount(missing, sum.currency)} less than is owed: charges, it seems`);
      return { parts: [{ ...whole(only!), fee: missing }], ahead: null, sure: false, reasons };
    }
    if (named.length === 1) {
      reasons.push(`a part of the ${showAmount(owed, sum.currency)} owed`);
      const parts = [{ ...whole(only!), amount: sum.amount }];
      return { parts, ahead: null, sure: clear && payer === clientId, reasons };
    }
    reasons.push(`${showAmount(missing, sum.currency)} less than is owed on them: the oldest are paid first`);
    return { parts: oldestFirst(named, sum.amount), ahead: null, sure: false, reasons };
  }

  /** An invoice in another currency is named. */
  #ofForeign(sum: MoneyIn, named: readonly Open[], reasons: string[], clear: boolean): Offer {
    const [only] = named;
    if (named.length > 1) {
      reasons.push('they are not all in the currency of the transfer');
      return { parts: [], ahead: null, sure: false, reasons };
    }
    const { currency, owed } = only!;
    const part = { ...whole(only!), arrived: sum.amount };
    if (sum.sent?.currency === currency) {
      const paid = Math.min(owed, sum.sent.amount);
      reasons.push(`${showAmount(sum.sent.amount, currency)} were sent`);
      return { parts: [{ ...part, amount: paid }], ahead: null, sure: clear && sum.sent.amount <= owed, reasons };
    }
    const { exchange, rounding } = this.#rows;
    const worth = exchange.convert(owed, currency, sum.currency, sum.day, rounding);
    if (worth !== null && Math.abs(lessExact(worth, sum.amount)) * 1000 <= worth * NEAR_EXCHANGE) {
      reasons.push(
        `the ${showAmount(owed, currency)} owed are worth ${showAmount(worth, sum.currency)} by the exchange rate of the day`,
      );
      return { parts: [part], ahead: null, sure: false, reasons };
    }
    reasons.push(
      worth === null
        ? `it is in ${currency}, and no exchange rate is known`
        : `it is in ${currency}: ${showAmount(worth, sum.currency)} would be expected`,
    );
    return { parts: [], ahead: null, sure: false, reasons };
  }

  /** Only invoices are named that nothing is owed on. */
  #ofSettled(sum: MoneyIn, id: Id, payer: Id | null, reasons: string[]): Offer {
    const clientId = this.#settled.get(id)?.clientId ?? this.#open.get(id)?.clientId ?? payer;
    const due = clientId === null ? [] : this.#openOf(clientId, sum.currency);
    const added = onlySubset(due, sum.amount);
    if (added) {
      reasons.push(`the sum is what is owed on ${added.map((each) => each.number).join(', ')}`);
      return { parts: added.map((each) => whole(each)), ahead: null, sure: false, reasons };
    }
    if (clientId === null) return { parts: [], ahead: null, sure: false, reasons };
    reasons.push('kept as paid ahead it is deducted from a later invoice, or paid back');
    return { parts: [], ahead: { clientId, amount: sum.amount }, sure: false, reasons };
  }

  /** No number, but a payer who is known. */
  #ofClient(sum: MoneyIn, clientId: Id, reasons: string[]): Offer {
    const clear = reasons.length === 0;
    reasons.push(`the payer is ${this.#name(clientId)}`);
    const due = this.#openOf(clientId, sum.currency);
    const loosely = new Set(this.#numbers.looselyIn(`${sum.reference} ${sum.text}`).map((row) => row.id));
    const hinted = due.filter((each) => loosely.has(each.id));
    if (hinted.length > 0 && sumExact(hinted.map((each) => each.owed)) === sum.amount) {
      reasons.push(`its text and sum are those of ${hinted.map((each) => each.number).join(', ')}`);
      return { parts: hinted.map((each) => whole(each)), ahead: null, sure: clear, reasons };
    }
    const same = due.filter((each) => each.owed === sum.amount);
    if (same.length > 0) {
      reasons.push(
        same.length === 1
          ? `the sum is what is owed on ${same[0]!.number}`
          : `${same.length} invoices have this sum: the oldest is taken`,
      );
      return { parts: [whole(same[0]!)], ahead: null, sure: clear && same.length === 1, reasons };
    }
    const added = onlySubset(due, sum.amount);
    if (added) {
      const all = added.length === due.length;
      reasons.push(`${all ? 'all that is owed' : added.map((each) => each.number).join(' and ')} comes to this sum`);
      return { parts: added.map((each) => whole(each)), ahead: null, sure: clear && all, reasons };
    }
    if (due.length === 0) {
      reasons.push('nothing is owed: it is paid ahead, or paid twice');
      return { parts: [], ahead: { clientId, amount: sum.amount }, sure: false, reasons };
    }
    const parts = oldestFirst(due, sum.amount);
    const rest = lessExact(sum.amount, sumExact(parts.map((each) => each.amount)));
    reasons.push(rest > 0 ? `${showAmount(rest, sum.currency)} more than is owed` : 'the oldest are paid first');
    return { parts, ahead: rest > 0 ? { clientId, amount: rest } : null, sure: false, reasons };
  }

  /** Nothing tells who it is from. */
  #ofNobody(sum: MoneyIn, reasons: string[]): Offer {
    const same = [...this.#open.values()].filter((each) => each.owed === sum.amount && each.currency === sum.currency);
    if (same.length === 1) {
      reasons.push(
        `only ${same[0]!.number} of ${this.#name(same[0]!.clientId)} has this sum`,
        'nothing else speaks for it',
      );
      return { parts: [whole(same[0]!)], ahead: null, sure: false, reasons };
    }
    reasons.push('no number, no sum and no name that is known');
    return { parts: [], ahead: null, sure: false, reasons };
  }

  /** What a client owes, the oldest first. */
  #openOf(clientId: Id, currency: CurrencyCode): Open[] {
    return [...this.#open.values()]
      .filter((each) => each.clientId === clientId && each.currency === currency && each.owed > 0)
      .sort(byAge);
  }
}

const byAge = (a: Open, b: Open): number => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.id < b.id ? -1 : 1);

const whole = ({ id, owed }: Open): InvoicePart => ({ invoiceId: id, amount: owed, fee: 0, arrived: null });

function oldestFirst(open: readonly Open[], amount: Minor): InvoicePart[] {
  let left = amount;
  const parts: InvoicePart[] = [];
  for (const each of [...open].sort(byAge)) {
    if (left <= 0) break;
    const paid = Math.min(left, each.owed);
    parts.push({ ...whole(each), amount: paid });
    left = lessExact(left, paid);
  }
  return parts;
}

/** The invoices that add up to a sum where there is one way alone to choose them; null otherwise. */
function onlySubset(open: readonly Open[], amount: Minor): Open[] | null {
  if (open.length === 0 || open.length > MOST_TO_ADD_UP) return null;
  let found: Open[] | null = null;
  for (let chosen = 1; chosen < 1 << open.length; chosen++) {
    let sum = 0;
    for (let index = 0; index < open.length && sum <= amount; index++)
      if (chosen & (1 << index)) sum = addExact(sum, open[index]!.owed);
    if (sum !== amount) continue;
    if (found) return null;
    found = open.filter((_each, index) => chosen & (1 << index));
  }
  return found;
}

/** What became of sums, by their ids: those that payments or deposits came with are matched. */
export function matchedSums(invoices: readonly InvoiceBalance[], deposits: readonly Deposit[]): Map<Id, MatchedParts> {
  const parts = invoices.flatMap(({ invoice, payments }) =>
    payments.flatMap((payment) => (payment.moneyInId === undefined ? [] : [{ payment, invoice }])),
  );
  const sums = new Map<Id, MatchedParts>();
  for (const [id, own] of grouped(parts, ({ payment }) => payment.moneyInId!)) {
    const back = own.filter(({ payment }) => payment.kind === 'refund');
    sums.set(id, { paid: own.filter((each) => !back.includes(each)), back, ahead: [] });
  }
  for (const deposit of deposits) {
    if (deposit.moneyInId === undefined) continue;
    const own = sums.get(deposit.moneyInId) ?? { paid: [], back: [], ahead: [] };
    sums.set(deposit.moneyInId, { ...own, ahead: [...own.ahead, deposit] });
  }
  return sums;
}

/** What a sum that came in paid, and what of it was paid ahead. */
export interface MatchedParts {
  paid: MatchedPart[];
  /** What of it went back to the payer, and is owed again. */
  back: MatchedPart[];
  ahead: Deposit[];
}

/** A payment with the invoice that it is on. */
interface MatchedPart {
  payment: InvoiceBalance['payments'][number];
  invoice: InvoiceBalance['invoice'];
}
