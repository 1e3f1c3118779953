import { deductedOf, remainingOfDeposit } from '../billing/deposits';
import { owedOn, type InvoiceBalance } from '../billing/standing';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Client, Deposit, Payout } from '../model/records';
import { namesAgree } from '../money-in/payer-names';
import { QuotedNumbers } from '../money-in/quoted';
import { showAmount, type Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { lessExact, sumExact } from '../money/rational';
import type { Day } from '../time/day';
import type { Due } from './dues';
import { bankId, endToEndIdOf, filesOf, transfersIn } from './payment-file';

// What a line of a statement that tells of money going out may have paid: a bill, what a member is owed, or money that goes back to a client.
// What is sure is offered as such; the rest stands as a choice with its reasons, and is a cost until somebody says otherwise.

/** A line as it was read. */
export interface SpentLine {
  source: string;
  day: Day;
  /** Who was paid, as the bank writes it. */
  supplier: string;
  text: string;
  reference?: string | undefined;
  /** Above nothing where money went out, in minor units. */
  amount: Minor;
  currency: CurrencyCode;
}

/** What of a line pays what. */
export interface PayPart {
  kind: 'cost' | 'invoice' | 'deposit';
  id: Id;
  amount: Minor;
  /** What left the account, where that is in another currency. */
  left: Minor | null;
}

/** What a line may have paid. */
export interface PayOffer {
  parts: PayPart[];
  /** "pays 4214 of Fresnel Hire" */
  says: string;
  sure: boolean;
  reasons: string[];
}

/** What offers are made from. */
export interface PayRows {
  dues: readonly Due[];
  payouts: readonly Payout[];
  invoices: readonly InvoiceBalance[];
  deposits: readonly Deposit[];
  clients: readonly Client[];
}

/** Something that can be paid by a line. */
interface Payable {
  kind: PayPart['kind'];
  id: Id;
  name: string;
  /** Their number or ours. */
  number: string;
  currency: CurrencyCode;
  left: Minor;
  says: string;
}

/**
 * What each line may have paid, the likeliest first; lines that nothing speaks for are left out. Nothing is offered as sure twice: what one
 * line pays is not owed to the next.
 */
export function payOffers(lines: readonly SpentLine[], rows: PayRows): Map<string, PayOffer[]> {
  const matcher = new PayMatcher(rows);
  const spent = lines.filter((line) => line.amount > 0);
  const offers = new Map<string, PayOffer[]>();
  const sure = new Map<string, PayOffer>();
  for (const line of spent) {
    const [first] = matcher.offers(line);
    if (!first?.sure) continue;
    sure.set(line.source, first);
    matcher.give(first);
  }
  for (const line of spent) {
    const own = sure.get(line.source);
    const others = matcher.offers(line).map((offer) => ({ ...offer, sure: false }));
    const all = own ? [own, ...others] : others;
    if (all.length > 0) offers.set(line.source, all);
  }
  return offers;
}

class PayMatcher {
  readonly #payables: Payable[];
  readonly #asked: { sign: string; parts: PayPart[]; currency: CurrencyCode; name: string }[];
  readonly #numbers: QuotedNumbers;

  constructor(rows: PayRows) {
    this.#payables = [...dueOf(rows), ...refundsOf(rows)];
    this.#numbers = new QuotedNumbers(
      this.#payables.filter((each) => each.number !== '').map(({ id, number }) => ({ id, number, reference: '' })),
    );
    const names = new Map(rows.dues.map((due) => [due.cost.id, due.name]));
    const costs = new Map(rows.dues.map((due) => [due.cost.id, due.cost]));
    const asked = (sign: string, own: readonly Payout[], name: string) => ({
      sign,
      currency: own[0]!.currency,
      name,
      parts: own.map(({ costId, amount }): PayPart => ({ kind: 'cost', id: costId, amount, left: null })),
    });
    // Banks book a file in one sum, or transfer by transfer.
    const files = filesOf(rows.payouts.filter((payout) => payout.standing === 'asked'));
    this.#asked = [...files].flatMap(([id, own]) => {
      const transfers = transfersIn(own, costs);
      return [
        ...transfers.map((each) => asked(endToEndIdOf(each), each, names.get(each[0]!.costId) ?? '')),
        asked(
          bankId(id),
          own,
          `${transfers.length === 1 ? 'what' : `all ${transfers.length} transfers that`} a file asked for`,
        ),
      ];
    });
  }

  /** Takes what an offer pays off what is left. */
  give({ parts }: PayOffer): void {
    for (const { kind, id, amount } of parts) {
      const payable = this.#payables.find((each) => each.kind === kind && each.id === id);
      if (payable) payable.left = lessExact(payable.left, amount);
    }
  }

  offers(line: SpentLine): PayOffer[] {
    const asked = this.#ofAsked(line);
    if (asked) return [asked];
    const own = this.#payables.filter((each) => each.left > 0 && each.currency === line.currency);
    const whole = `${line.reference ?? ''} ${line.text}`;
    const named = new Set(this.#numbers.in(whole, line.reference).map((row) => row.id));
    const alike = own.filter((each) => namesAgree(line.supplier, each.name) || namesAgree(line.text, each.name));
    const offers = alike.flatMap((each) => this.#ofAlike(line, each, alike, named) ?? []);
    offers.push(...togetherOf(line, alike, named));
    if (offers.length === 0) {
      const same = own.filter((each) => each.left === line.amount);
      if (same.length === 1) offers.push(offerOf(same, ['only this has the sum', 'nothing else speaks for it'], false));
    }
    return offers.sort((a, b) => Number(b.sure) - Number(a.sure));
  }

  /** What the bank was asked for comes back with the sign that it was given. */
  #ofAsked(line: SpentLine): PayOffer | null {
    const said = `${line.reference ?? ''} ${line.text}`.replaceAll('-', '').toLowerCase();
    for (const { sign, parts, currency, name } of this.#asked) {
      const sum = sumExact(parts.map((part) => part.amount));
      if (said.includes(sign) && sum === line.amount && currency === line.currency)
        return { parts, says: `pays ${name}`, sure: true, reasons: ['asked of the bank by a payment file'] };
    }
    return null;
  }

  #ofAlike(line: SpentLine, each: Payable, alike: readonly Payable[], named: ReadonlySet<Id>): PayOffer | null {
    const reasons = [`the payee looks like ${each.name}`];
    const isNamed = named.has(each.id);
    if (isNamed) reasons.push(`names ${each.number}`);
    if (each.left === line.amount) {
      const same = alike.filter((other) => other.left === line.amount);
      reasons.push(same.length === 1 ? 'the sum is what is left to pay' : `${same.length} have this sum`);
      return offerOf([each], reasons, isNamed || same.length === 1);
    }
    if (line.amount < each.left && isNamed) {
      reasons.push(`a part of the ${showAmount(each.left, each.currency)} left to pay`);
      const offer = offerOf([each], reasons, false);
      return { ...offer, parts: [{ ...offer.parts[0]!, amount: line.amount }], says: `${offer.says}, in part` };
    }
    return null;
  }
}

/** What comes to the sum together: bills that are named, the parts of one bill, or all that is left to one payee. */
function togetherOf(line: SpentLine, alike: readonly Payable[], named: ReadonlySet<Id>): PayOffer[] {
  const offers: PayOffer[] = [];
  for (const dues of grouped(
    alike.filter((each) => each.kind === 'cost'),
    (each) => each.name,
  ).values()) {
    const comes = (some: readonly Payable[]) =>
      some.length > 1 && sumExact(some.map((each) => each.left)) === line.amount;
    const [{ name }] = dues as [Payable, ...Payable[]];
    const said = dues.filter((each) => named.has(each.id));
    if (comes(said)) {
      const numbers = [...new Set(said.map((each) => each.number))].join(', ');
      const offer = offerOf(said, [`names ${numbers}, which come to this sum`], true);
      offers.push({ ...offer, says: `pays ${numbers} of ${name}` });
      continue;
    }
    for (const [number, parts] of grouped(dues, (each) => each.number)) {
      if (number === '' || !comes(parts)) continue;
      const offer = offerOf(parts, [`the payee looks like ${name}`, `the parts of ${number} come to this sum`], true);
      offers.push({ ...offer, says: `pays ${number} of ${name}` });
    }
    if (comes(dues)) offers.push(offerOf(dues, [`all that is left to ${name} comes to this sum`], true));
  }
  return offers;
}

function offerOf(payables: readonly Payable[], reasons: string[], sure: boolean): PayOffer {
  const [first] = payables;
  return {
    parts: payables.map(({ kind, id, left }) => ({ kind, id, amount: left, left: null })),
    says: payables.length === 1 ? first!.says : `pays all that is left to ${first!.name}`,
    sure,
    reasons,
  };
}

const dueOf = ({ dues }: PayRows): Payable[] =>
  dues.map(({ cost: { id, kind, currency, reference, day }, name, left }) => ({
    kind: 'cost',
    id,
    name,
    number: kind === 'bill' ? reference.trim() : '',
    currency,
    left,
    says: kind === 'bill' ? `pays ${reference.trim() || `the bill of ${day}`} of ${name}` : `pays ${name} back`,
  }));

/** What clients paid too much, and what they paid ahead. */
function refundsOf({ invoices, deposits, clients }: PayRows): Payable[] {
  const nameOf = (clientId: Id) => clients.find((client) => client.id === clientId)?.name ?? '';
  const over = invoices.flatMap((balance): Payable[] => {
    const owed = owedOn(balance);
    const { id, frozen, clientId, currency } = balance.invoice;
    if (owed >= 0 || !frozen) return [];
    const name = nameOf(clientId);
    const says = `pays ${name} back what was too much on ${frozen.number}`;
    return [{ kind: 'invoice', id, name, number: frozen.number, currency, left: -owed, says }];
  });
  const all = invoices.map((balance) => balance.invoice);
  const ahead = deposits.map((deposit): Payable => {
    const name = nameOf(deposit.clientId);
    const left = remainingOfDeposit(deposit, deductedOf(deposit.id, all));
    const says = `pays ${name} back what was paid ahead`;
    return { kind: 'deposit', id: deposit.id, name, number: '', currency: deposit.currency, left, says };
  });
  return [...over, ...ahead];
}
