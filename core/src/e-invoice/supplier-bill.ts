import { costDefaults, costLineDefaults } from '../model/defaults-billing';
import type { Id } from '../model/ids';
import type { Cost, CostLine, Tax } from '../model/records';
import { showDecimal } from '../money/decimal';
import type { Minor } from '../money/amount';
import { percentOn } from '../money/tax';
import type { Day } from '../time/day';
import type { ReadInvoice, ReadTax } from './read-invoice';

/** A line of a bill before it is placed. */
export type BillLine = Pick<CostLine, 'text' | 'quantity' | 'unit' | 'price' | 'amount'>;

/** A supplier's bill as it will be written down: what is under one tax. */
export interface SupplierBill extends Pick<
  Cost,
  'supplier' | 'reference' | 'day' | 'dueDay' | 'currency' | 'taxId' | 'taxIncluded' | 'payTo' | 'note'
> {
  lines: BillLine[];
}

/** Most lines of a cost, and most signs of a line. */
const MOST_LINES = 500;
const MOST_TEXT = 2000;

/**
 * What a supplier's electronic invoice becomes: a bill for each of its taxes, as a cost bears one. A tax that the studio knows by its
 * percentage stands as such; of one that it does not know the amount is a line of its own, as it is part of what was paid. What is taken off
 * or put on the whole is a line as well, so that the lines come to what the supplier asks for. A credit note has its amounts negative.
 *
 * @param taxes those that the studio knows
 * @returns bills whose lines and taxes come to the total of the invoice, with its rounding
 */
export function supplierBills(invoice: ReadInvoice, taxes: readonly Tax[]): SupplierBill[] {
  const sign = invoice.type === '381' ? -1 : 1;
  const groups = invoice.taxes.length > 0 ? invoice.taxes : [NO_TAX];
  return groups.map((tax, index) => {
    const own = (each: ReadTax) => groups.length === 1 || isSame(each, tax);
    const known = taxKnown(tax, taxes, invoice.issued);
    const lines: BillLine[] = invoice.lines
      .filter((line) => own(line.tax))
      .map((line) => ofAmount(describe(line), sign * line.net));
    for (const { reason, charge, amount, tax: under } of invoice.allowances)
      if (own(under)) lines.push(ofAmount(reason || 'Discount', sign * (charge ? amount : -amount)));
    if (known === null && tax.amount !== 0) lines.push(ofAmount(`Tax ${tax.percent || '0'} %`, sign * tax.amount));
    const { rounding } = invoice.totals;
    if (index === 0 && rounding !== null && rounding !== 0) lines.push(ofAmount('Rounding', sign * rounding));
    return {
      supplier: invoice.seller.name.trim().slice(0, 300),
      reference: invoice.number.slice(0, 200),
      day: invoice.issued,
      dueDay: invoice.due || null,
      currency: invoice.currency,
      taxId: known,
      taxIncluded: costDefaults.taxIncluded,
      ...(invoice.account.trim() && { payTo: invoice.account.trim().slice(0, 60) }),
      note: invoice.notes,
      lines: fitting(lines),
    };
  });
}

const NO_TAX = { category: 'O', percent: '', basis: 0, amount: 0, reason: '' };

const isSame = (one: ReadTax, other: ReadTax): boolean =>
  one.category === other.category && Number(one.percent || '0') === Number(other.percent || '0');

/** The studio's own tax of the same percentage on that day; null where it has none, or nothing is charged. */
function taxKnown(tax: ReadTax & { amount: Minor }, taxes: readonly Tax[], day: Day): Id | null {
  if (tax.amount === 0) return null;
  return taxes.find((each) => Number(percentOn(each, day)) === Number(tax.percent))?.id ?? null;
}

const ofAmount = (text: string, amount: Minor): BillLine => ({
  text: text.slice(0, MOST_TEXT),
  quantity: costLineDefaults.quantity,
  unit: '',
  price: null,
  amount: amount || 0,
});

/** A line says how many and at which price, where that is more than one. */
function describe({ text, quantity, price, per }: ReadInvoice['lines'][number]): string {
  const plain = text.replace(/\s*\n\s*/g, ', ');
  if (Number(quantity) === 1 || per !== '1') return plain;
  return `${plain}, ${showDecimal(quantity, 0)} at ${showDecimal(price, 2)}`;
}

/** A cost holds so many lines; what is beyond is put together on the last. */
function fitting(lines: BillLine[]): BillLine[] {
  if (lines.length <= MOST_LINES) return lines;
  const rest = lines.slice(MOST_LINES - 1);
  const amount = rest.reduce((sum, line) => sum + (line.amount ?? 0), 0);
  return [...lines.slice(0, MOST_LINES - 1), ofAmount(`${rest.length} more lines`, amount)];
}
