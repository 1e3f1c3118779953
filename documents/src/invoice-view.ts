import type { FrozenInvoice, FrozenLine } from '@half-penny/core/model';
import { currencyDigits, inStyle, showAmount, showDecimal, type RateUnit } from '@half-penny/core/money';
import { showDecimalHours, showLength } from '@half-penny/core/time';

/** An invoice's words and figures, in the order they are read. Paper and screen print the same. */
export interface InvoiceView {
  number: string;
  studio: string[];
  studioName: string;
  client: string[];
  facts: [label: string, value: string][];
  lines: { key: string; text: string; quantity: string; price: string; amount: string }[];
  totals: { label: string; amount: string; strong: boolean }[];
  notes: string[];
  payment: string[];
}

/** What the columns of lines are called. */
export const lineHeads = { text: 'Description', quantity: 'Time', price: 'Price', amount: 'Amount' } as const;

const dayFormat = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' });
const showDay = (day: string) => dayFormat.format(new Date(`${day}T00:00:00Z`));

const rowsOf = (text: string) => text.split(/\r?\n/).filter((row) => row.trim() !== '');

/** Lays out what an invoice says. `number` is what stands in place of the number, for a draft. */
export function invoiceView(invoice: FrozenInvoice, number = invoice.number): InvoiceView {
  const { studio, client, currency, period, numberStyle } = invoice;
  const amount = (minor: number) => showAmount(minor, currency, numberStyle);
  return {
    number,
    studioName: studio.name,
    studio: [...rowsOf(studio.address), studio.email, studio.taxNumber && `Tax number ${studio.taxNumber}`].filter(
      Boolean,
    ),
    client: [client.name, ...rowsOf(client.address), client.taxNumber && `Tax number ${client.taxNumber}`].filter(
      Boolean,
    ),
    facts: [
      ['Invoice', number],
      ['Date', showDay(invoice.day)],
      ['Due', showDay(invoice.dueDay)],
      ...(invoice.purchaseOrder ? ([['Your order', invoice.purchaseOrder]] satisfies [string, string][]) : []),
      ...(period ? ([['For', showPeriod(period.from, period.to)]] satisfies [string, string][]) : []),
    ],
    lines: invoice.lines.map((line) => ({
      key: line.key,
      text: line.text,
      quantity: quantityOf(line, invoice),
      price: `${showDecimal(line.price, currencyDigits(currency), numberStyle)} /${unitMark[line.unit]}`,
      amount: amount(line.amount),
    })),
    totals: [
      { label: 'Net', amount: amount(invoice.net), strong: false },
      ...invoice.taxes.map((tax) => ({
        label: `${tax.name} ${inStyle(tax.percent, numberStyle)} % on ${amount(tax.basis)}`,
        amount: amount(tax.amount),
        strong: false,
      })),
      { label: `To pay, ${currency}`, amount: amount(invoice.total), strong: true },
    ],
    notes: [
      ...rowsOf(invoice.note),
      ...invoice.sentences,
      ...dayNote(invoice),
      ...invoice.taxes.map((tax) => tax.note).filter(Boolean),
    ],
    payment: rowsOf(studio.paymentDetails),
  };
}

const unitMark: Record<RateUnit, string> = { second: 's', minute: 'min', hour: 'h', day: 'day' };

/** Hours as the studio writes them. */
const quantityOf = (line: FrozenLine, invoice: FrozenInvoice): string =>
  invoice.lengthStyle === 'decimal'
    ? `${showDecimalHours(line.seconds, invoice.numberStyle)} h`
    : `${showLength(line.seconds)} h`;

/** What is sold by the day says how long a day is. */
const dayNote = (invoice: FrozenInvoice): string[] =>
  invoice.lines.some((line) => line.unit === 'day') ? [`A day is ${showLength(invoice.daySeconds)} h.`] : [];

const showPeriod = (from: string, to: string) => (from === to ? showDay(from) : `${showDay(from)} to ${showDay(to)}`);
