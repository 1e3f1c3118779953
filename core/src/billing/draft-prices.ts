import type { Id } from '../model/ids';
import type { Invoice } from '../model/records';
import { minorPerMajor, type CurrencyCode } from '../money/currency';
import { fromScaled, SCALE, type Decimal } from '../money/decimal';
import type { Minor } from '../money/amount';
import { amountOfPieces, percentOf, withMarkup } from '../money/price';
import { shareOut } from '../money/share';
import type { Seconds } from '../time/length';
import { emptyLine, type DraftLine } from './draft-line';
import type { Pricer } from './pricer';
import { SLICE } from './slices';

// What a line comes to once all that it holds is on it, and what each source has of that.

/** Reckons a line's amount, cost and markup once all that it holds is on it; with a pause now and then, as a line may hold thousands. */
export function* priceLine(pricer: Pricer, invoice: Invoice, line: DraftLine): Generator<void, void> {
  const { amountRounding } = pricer.book.workspace;
  const deal = invoice.deals.find((each) => line.key === `deal ${each.id}`);
  line.taxId = taxOfLine(invoice, line);
  const markups = new Set(line.charges.map((charge) => charge.markup));
  if (deal) {
    line.gross = deal.amount ?? amountOfHours(pricer, line.billed, deal.price!, invoice.currency);
  } else if (line.price) line.gross = pricer.amount(line.billed, line.price);
  else {
    line.gross = line.sources.reduce((sum, each) => sum + pricer.amount(each.billed, each.price!), 0);
    // One markup on all of it: cost and markup stand side by side, so they are reckoned together.
    const [markup = null] = markups;
    line.gross +=
      markups.size === 1 && markup !== null
        ? withMarkup(
            line.charges.reduce((sum, charge) => sum + charge.costAmount!, 0),
            markup,
            amountRounding,
          )
        : line.charges.reduce((sum, charge) => sum + charge.amount, 0);
  }
  if (!line.price) line.unitPrice = plainPrice(line.gross, invoice.currency);
  line.cost = yield* costOfLine(pricer, line, invoice.currency);
  line.markup = markupOfLine(line, markups);
  applyDiscount(invoice, line, amountRounding);
}

function amountOfHours(pricer: Pricer, seconds: Seconds, price: Decimal, currency: CurrencyCode): Minor {
  return pricer.amount(seconds, pricer.priceFor(price, 'hour', currency));
}

function applyDiscount(invoice: Invoice, line: DraftLine, rule: Pricer['book']['workspace']['amountRounding']): void {
  line.discount = invoice.discounts[line.key] ?? null;
  line.amount = line.discount === null ? line.gross : line.gross - percentOf(line.gross, line.discount, rule);
}

/** The tax chosen for a line by itself, or what it has from its service and the invoice. */
function taxOfLine(invoice: Invoice, line: DraftLine): Id | null {
  const own = invoice.lineTaxes[line.key];
  return own === undefined ? line.taxId : own || null;
}

function* costOfLine(pricer: Pricer, line: DraftLine, currency: CurrencyCode): Generator<void, Minor | null> {
  let sum = 0;
  let count = 0;
  // Of the length as it is billed, so that cost, markup and price side by side hold.
  for (const { entry, billed } of line.sources) {
    if (++count % SLICE === 0) yield;
    const cost = pricer.costIn(entry.memberId, entry.day, billed, currency);
    if (cost === null) return null;
    sum += cost;
  }
  for (const charge of line.charges) {
    if (charge.costAmount === null) return null;
    sum += charge.costAmount;
  }
  return sum;
}

function markupOfLine(line: DraftLine, markups: ReadonlySet<Decimal | null>): Decimal | null {
  if (line.sources.length === 0) return markups.size === 1 ? [...markups][0]! : null;
  return line.charges.length === 0 ? (line.price?.markup ?? null) : null;
}

/** A whole amount as a plain price: 123450 of GBP → "1234.5". */
const plainPrice = (minor: Minor, currency: CurrencyCode): Decimal =>
  fromScaled(minor * (SCALE / minorPerMajor(currency)));

export function byHand(pricer: Pricer, invoice: Invoice): DraftLine[] {
  const { amountRounding } = pricer.book.workspace;
  return invoice.byHand.map((hand) => {
    const line: DraftLine = {
      ...emptyLine(hand.key, hand.taxId, hand.account),
      text: hand.text,
      written: true,
      unit: 'piece',
      quantity: hand.quantity,
      unitName: hand.unitName,
      unitPrice: hand.price,
      gross: amountOfPieces(hand.quantity, hand.price, invoice.currency, amountRounding),
      byHand: true,
    };
    line.taxId = taxOfLine(invoice, line);
    applyDiscount(invoice, line, amountRounding);
    return line;
  });
}

/**
 * Each source's share of its line's amount, entries first, then charges: by largest remainder over billed lengths where the line has one
 * price, over what each is worth by itself where it is a sum. They add up to the line exactly.
 */
export function shareOfSources(line: DraftLine): Minor[] {
  if (line.sources.length + line.charges.length === 0) return [];
  if (line.charges.length === 0 && (line.price || line.key.startsWith('deal '))) {
    return shareOut(
      line.amount,
      line.sources.map((source) => source.billed),
    );
  }
  const worth = [
    ...line.sources.map(({ billed, price }) => (price ? Math.round((billed * price.scaled) / price.perSeconds) : 0)),
    ...line.charges.map((charge) => charge.amount * (SCALE / minorPerMajor(charge.currency))),
  ];
  // Weights are never below nothing; where a refund stands among them, what it weighs is its size.
  const shares = worth.some((each) => each < 0) ? null : shareOut(line.amount, worth);
  return shares ?? shareWithRefunds(line);
}

/** With refunds on a line each charge keeps its own amount, and what is left over goes to the largest. */
function shareWithRefunds(line: DraftLine): Minor[] {
  const own = [...line.sources.map(() => 0), ...line.charges.map((charge) => charge.amount)];
  const left = line.amount - own.reduce((sum, each) => sum + each, 0);
  const largest = own.reduce((best, each, index) => (Math.abs(each) > Math.abs(own[best]!) ? index : best), 0);
  own[largest]! += left;
  return own;
}
