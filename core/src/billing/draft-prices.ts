import type { Id } from '../model/ids';
import type { Invoice } from '../model/records';
import { minorPerMajor, type CurrencyCode } from '../money/currency';
import { fromScaled, SCALE, toScaled, type Decimal } from '../money/decimal';
import type { Minor } from '../money/amount';
import { amountOfPieces, percentOf, scaledWithMarkup, withMarkup } from '../money/price';
import { shareOut, shareSigned } from '../money/share';
import { emptyLine, type DraftLine } from './draft-line';
import type { Pricer } from './pricer';

// What a line comes to once all that it holds is on it, and what each source has of that.

/** Computes a line's amount, cost and markup once all that it holds is on it. */
export function priceLine(
  pricer: Pricer,
  invoice: Invoice,
  line: DraftLine,
  percentOfTax: (taxId: Id | null) => Decimal,
): void {
  const { amountRounding } = pricer.book.workspace;
  const deal = invoice.deals.find((each) => line.key === `deal ${each.id}`);
  line.taxId = taxOfLine(invoice, line);
  const markups = new Set(line.charges.map((charge) => charge.markup));
  if (deal?.price != null) {
    // An hour at the price agreed is printed like any other: length × price.
    line.price = pricer.priceFor(deal.price, 'hour', invoice.currency);
    line.unit = 'hour';
    line.unitPrice = line.price.price;
  }
  if (deal?.amount != null) line.gross = deal.amount;
  else if (line.price) line.gross = pricer.amount(line.billed, line.price);
  else {
    line.gross = line.sources.reduce((sum, each) => sum + pricer.amount(each.billed, each.price!), 0);
    // One markup on all of it: cost and markup stand side by side, so they are computed together.
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
  if (invoice.grossedUp) grossUp(pricer, line, percentOfTax(line.taxId));
  if (!line.price) {
    // A price is never negative (EN 16931 BR-27): what takes something off is a negative quantity of it.
    line.unitPrice = plainPrice(Math.abs(line.gross), invoice.currency);
    line.quantity = line.gross < 0 ? '-1' : '1';
  }
  line.cost = costOfLine(pricer, line, invoice.currency);
  line.markup = markupOfLine(line, markups);
  applyDiscount(invoice, line, amountRounding);
}

/** Adds the tax to a line's price, so that what it earns stays the same with the tax in it. */
function grossUp(pricer: Pricer, line: DraftLine, percent: Decimal): void {
  if (!line.price) {
    line.gross += percentOf(line.gross, percent, 'half away from zero');
    return;
  }
  line.price = pricer.priceFor(withPercent(line.price.price, percent), line.price.unit, line.price.currency);
  line.unitPrice = line.price.price;
  line.gross = pricer.amount(line.billed, line.price);
}

/** A price with a percentage added, to four places. */
const withPercent = (price: Decimal, percent: Decimal): Decimal =>
  fromScaled(
    scaledWithMarkup(toScaled(price), toScaled(percent), { numerator: 1n, denominator: 1n }, 'half away from zero'),
  );

function applyDiscount(invoice: Invoice, line: DraftLine, rule: Pricer['book']['workspace']['amountRounding']): void {
  line.discount = invoice.discounts[line.key] ?? null;
  line.amount = line.discount === null ? line.gross : line.gross - percentOf(line.gross, line.discount, rule);
}

/** The tax chosen for a line by itself, or what it has from its service and the invoice. */
function taxOfLine(invoice: Invoice, line: DraftLine): Id | null {
  const own = invoice.lineTaxes[line.key];
  return own === undefined ? line.taxId : own || null;
}

function costOfLine(pricer: Pricer, line: DraftLine, currency: CurrencyCode): Minor | null {
  let sum = 0;
  // Of the length as it is billed, so that cost, markup and price side by side hold.
  for (const { entry, billed } of line.sources) {
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
export const plainPrice = (minor: Minor, currency: CurrencyCode): Decimal =>
  fromScaled(minor * (SCALE / minorPerMajor(currency)));

/** Lines that were written by hand: quantity times price, rounded once to minor units by the studio's rounding. */
export function byHand(pricer: Pricer, invoice: Invoice, percentOfTax: (taxId: Id | null) => Decimal): DraftLine[] {
  const { amountRounding } = pricer.book.workspace;
  return invoice.byHand.map((hand) => {
    const line = emptyLine(hand.key, hand.taxId, hand.account);
    line.taxId = taxOfLine(invoice, line);
    const taken = hand.price.startsWith('-');
    const price = taken ? hand.price.slice(1) : hand.price;
    Object.assign(line, {
      text: hand.text,
      written: true,
      unit: 'piece',
      // A price is never negative (EN 16931 BR-27).
      quantity: taken ? negated(hand.quantity) : hand.quantity,
      unitName: hand.unitName,
      unitPrice: invoice.grossedUp ? withPercent(price, percentOfTax(line.taxId)) : price,
      byHand: true,
    } satisfies Partial<DraftLine>);
    line.gross = amountOfPieces(line.quantity, line.unitPrice, invoice.currency, amountRounding);
    applyDiscount(invoice, line, amountRounding);
    return line;
  });
}

const negated = (decimal: Decimal): Decimal => fromScaled(-toScaled(decimal));

/**
 * Each source's share of its line's amount, entries first, then charges. A line of one price is shared by billed lengths. On a sum each has
 * what it is worth by itself, and the difference to the sum is shared by size; a discount of the line comes off each in proportion. All by
 * largest remainder: they add up to the line exactly.
 *
 * For example a sum of 865 over 850 of time, 20 of costs and a refund of 5 → 850, 20, −5
 */
export function shareOfSources(pricer: Pricer, line: DraftLine): Minor[] {
  if (line.sources.length + line.charges.length === 0) return [];
  if (line.charges.length === 0 && line.price) {
    return shareOut(
      line.amount,
      line.sources.map((source) => source.billed),
    );
  }
  const worth = [
    ...line.sources.map(({ billed, price }) => (price ? pricer.amount(billed, price) : 0)),
    ...line.charges.map((charge) => charge.amount),
  ];
  const rest = shareOut(line.gross - worth.reduce((sum, each) => sum + each, 0), worth.map(Math.abs));
  const shares = worth.map((each, index) => each + rest[index]!);
  return line.amount === line.gross || line.gross === 0 ? shares : shareSigned(line.amount, shares);
}
