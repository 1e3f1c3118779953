import type { FrozenInvoice, FrozenLine } from '@half-penny/core/model';
import { currencyDigits, inStyle, showAmount, showDecimal, type RateUnit } from '@half-penny/core/money';
import { showDecimalHours, showLength } from '@half-penny/core/time';

/** An invoice's words and figures, in the order they are read. Paper and screen print the same. */
export interface InvoiceView {
  /** "Invoice" or "Credit note". */
  title: string;
  number: string;
  studio: string[];
  studioName: string;
  client: string[];
  facts: [label: string, value: string][];
  /** Whether what things cost and what was added stand beside the price. */
  openBook: boolean;
  lines: LineView[];
  totals: { label: string; amount: string; strong: boolean }[];
  notes: string[];
  payment: string[];
  /** Receipts that follow, each with the line it belongs to, counted from 1. */
  receipts: { receiptId: string; line: number }[];
}

export interface LineView {
  key: string;
  /** Stands above the line; empty where nothing does. */
  heading: string;
  text: string;
  quantity: string;
  price: string;
  amount: string;
  cost: string;
  markup: string;
  /** "Less 5 %, 12.00"; empty where nothing is taken off. */
  discount: string;
  /** The sum of the lines under a heading, on the last of them; empty elsewhere. */
  subtotal: string;
}

/** What the columns of lines are called. */
export const lineHeads = {
  text: 'Description',
  quantity: 'Quantity',
  price: 'Price',
  cost: 'Cost',
  markup: 'Markup',
  amount: 'Amount',
} as const;

const dayFormat = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' });
const showDay = (day: string) => dayFormat.format(new Date(`${day}T00:00:00Z`));

const rowsOf = (text: string) => text.split(/\r?\n/).filter((row) => row.trim() !== '');

/** Lays out what an invoice says. `number` is what stands in place of the number, for a draft. */
export function invoiceView(invoice: FrozenInvoice, number = invoice.number): InvoiceView {
  const { studio, client, currency, period, numberStyle } = invoice;
  const amount = (minor: number) => showAmount(minor, currency, numberStyle);
  const title = invoice.credits ? 'Credit note' : 'Invoice';
  return {
    title,
    number,
    studioName: studio.name,
    studio: [...rowsOf(studio.address), studio.email, studio.taxNumber && `Tax number ${studio.taxNumber}`].filter(
      Boolean,
    ),
    client: [client.name, ...rowsOf(client.address), client.taxNumber && `Tax number ${client.taxNumber}`].filter(
      Boolean,
    ),
    facts: [
      [title, number],
      ...(invoice.credits ? ([['Credits', invoice.credits.number]] satisfies [string, string][]) : []),
      ['Date', showDay(invoice.day)],
      ...(invoice.credits ? [] : ([['Due', showDay(invoice.dueDay)]] satisfies [string, string][])),
      ...(invoice.purchaseOrder ? ([['Your order', invoice.purchaseOrder]] satisfies [string, string][]) : []),
      ...(period ? ([['For', showPeriod(period.from, period.to)]] satisfies [string, string][]) : []),
    ],
    openBook: invoice.openBook,
    lines: linesOf(invoice),
    totals: totalsOf(invoice),
    notes: [
      ...(invoice.credits ? [`Why: ${invoice.credits.reason}`] : []),
      ...rowsOf(invoice.note),
      ...invoice.sentences,
      ...dayNote(invoice),
      ...invoice.taxes.map((tax) => tax.note).filter(Boolean),
    ],
    payment: invoice.credits ? [] : rowsOf(studio.paymentDetails),
    receipts: receiptsOf(invoice),
  };

  function linesOf({ lines }: FrozenInvoice): LineView[] {
    // Under a heading stand the lines up to the next one.
    let under = false;
    let sum = 0;
    // Receipts say which line they belong to, so the lines are numbered where there are any.
    const numbered = lines.some((line) => line.receiptIds.length > 0);
    return lines.map((line, index) => {
      if (line.heading) [under, sum] = [true, 0];
      sum += line.amount;
      const last = index === lines.length - 1 || lines[index + 1]!.heading !== '';
      const off = line.gross - line.amount;
      return {
        key: line.key,
        heading: line.heading,
        text: numbered ? `${index + 1}. ${line.text}` : line.text,
        quantity: quantityOf(line, invoice),
        price: line.unit === 'lump' ? '' : priceOf(line),
        amount: amount(line.amount),
        cost: line.cost === null ? '' : amount(line.cost),
        markup: line.markup === null ? '' : `${inStyle(line.markup, numberStyle)} %`,
        discount: line.discount === null ? '' : `Less ${inStyle(line.discount, numberStyle)} %, ${amount(off)}`,
        subtotal: under && last ? amount(sum) : '',
      };
    });
  }

  function priceOf({ price, unit, unitName }: FrozenLine): string {
    const mark = unit === 'piece' ? unitName : unitMark[unit as RateUnit];
    return `${showDecimal(price, currencyDigits(currency), numberStyle)}${mark ? ` /${mark}` : ''}`;
  }
}

/** Receipts in the order of the lines they belong to; one that serves several lines follows once, with the first. */
function receiptsOf({ lines }: FrozenInvoice): InvoiceView['receipts'] {
  const seen = new Set<string>();
  return lines.flatMap((line, index) =>
    line.receiptIds
      .filter((receiptId) => !seen.has(receiptId) && seen.add(receiptId))
      .map((receiptId) => ({ receiptId, line: index + 1 })),
  );
}

function totalsOf(invoice: FrozenInvoice): InvoiceView['totals'] {
  const { currency, numberStyle, inclusive, allowance, deductions } = invoice;
  const row = (label: string, minor: number, strong = false) => ({
    label,
    amount: showAmount(minor, currency, numberStyle),
    strong,
  });
  const rows = [row(inclusive ? 'Lines, with tax' : 'Net', invoice.net)];
  if (allowance) {
    const share = allowance.percent === null ? '' : `, ${inStyle(allowance.percent, numberStyle)} %`;
    rows.push(row(`${allowance.text}${share}`, -allowance.amount));
    if (!inclusive) rows.push(row('Net after discount', invoice.net - allowance.amount));
  }
  for (const tax of invoice.taxes) {
    const basis = showAmount(tax.basis, currency, numberStyle);
    rows.push(
      row(`${inclusive ? 'of that ' : ''}${tax.name} ${inStyle(tax.percent, numberStyle)} % on ${basis}`, tax.amount),
    );
  }
  if (deductions.length > 0) {
    rows.push(row('Total', invoice.total));
    for (const each of deductions) rows.push(row(each.text, -each.amount));
  }
  rows.push(row(`${invoice.credits ? 'Credited' : 'To pay'}, ${currency}`, invoice.payable, true));
  return rows;
}

const unitMark: Record<RateUnit, string> = { second: 's', minute: 'min', hour: 'h', day: 'day' };

/** Hours as the studio writes them, pieces by what they are called; nothing for a sum. */
function quantityOf(line: FrozenLine, invoice: FrozenInvoice): string {
  if (line.unit === 'lump') return '';
  if (line.unit === 'piece') return `${inStyle(line.quantity, invoice.numberStyle)} ${line.unitName}`.trim();
  return invoice.lengthStyle === 'decimal'
    ? `${showDecimalHours(line.seconds, invoice.numberStyle)} h`
    : `${showLength(line.seconds)} h`;
}

/** What is sold by the day says how long a day is. */
const dayNote = (invoice: FrozenInvoice): string[] =>
  invoice.lines.some((line) => line.unit === 'day') ? [`A day is ${showLength(invoice.daySeconds)} h.`] : [];

const showPeriod = (from: string, to: string) => (from === to ? showDay(from) : `${showDay(from)} to ${showDay(to)}`);
