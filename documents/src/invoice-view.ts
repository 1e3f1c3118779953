import { printedQuantities, netOf } from '@half-penny/core/billing';
import { creditorReference, payCode } from '@half-penny/core/e-invoice';
import type { FrozenInvoice, FrozenLine } from '@half-penny/core/model';
import {
  currencyDigits,
  inStyle,
  printsPercent,
  showAmount,
  showDecimal,
  type RateUnit,
  addExact,
  lessExact,
  sumExact,
} from '@half-penny/core/money';
import { showLength } from '@half-penny/core/time';
import { designOf, type PaperDesign } from './designs';

/** An invoice's words and figures, in the order they are read. Paper and screen print the same. */
export interface InvoiceView {
  /** "Invoice" or "Credit note". */
  title: string;
  number: string;
  /** How it looks. */
  design: PaperDesign;
  /** What one sees first: how much, and until when; `by` is empty of a credit note. */
  due: { label: string; amount: string; by: string };
  studio: string[];
  studioName: string;
  client: string[];
  facts: [label: string, value: string][];
  /** Whether what things cost and what was added stand beside the price. */
  openBook: boolean;
  /** Whether lines say the rate of their tax. */
  rates: boolean;
  lines: LineView[];
  /** What stands beside the sum, for information, and is no part of it, says so. */
  totals: { label: string; amount: string; strong: boolean; beside?: boolean }[];
  notes: string[];
  payment: string[];
  /** What a code says that the payer's bank reads (EPC069-12); empty where there is none. */
  payCode: string;
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
  /** The rate of its tax, or its category's letters; empty where the invoice has one tax alone. */
  rate: string;
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
  rate: 'Tax',
  cost: 'Cost',
  markup: 'Markup',
  amount: 'Amount',
} as const;

const BRITISH = 'en-GB';
const dateOf = (day: string) => new Date(`${day}T00:00:00Z`);
const formats = new Map<string, Intl.DateTimeFormat>();

function formatIn(language: string): Intl.DateTimeFormat {
  let format = formats.get(language);
  if (!format) {
    format = new Intl.DateTimeFormat(language, { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' });
    formats.set(language, format);
  }
  return format;
}

/** "12 November 2026" in the language that the invoice writes its days in. */
const showDay = ({ datesIn = BRITISH }: Pick<FrozenInvoice, 'datesIn'>, day: string): string =>
  formatIn(datesIn).format(dateOf(day));

function creditedOf(invoice: FrozenInvoice): string {
  const { number, day } = invoice.credits!;
  return day === null ? number : `${number} of ${showDay(invoice, day)}`;
}

const rowsOf = (text: string) => text.split(/\r?\n/).filter((row) => row.trim() !== '');

/** Lays out what an invoice says. `number` is what stands in place of the number, for a draft. */
export function invoiceView(invoice: FrozenInvoice, number = invoice.number): InvoiceView {
  const { studio, client, currency, period, numberStyle } = invoice;
  const amount = (minor: number) => showAmount(minor, currency, numberStyle);
  const title = titleOf(invoice);
  return {
    title,
    number,
    design: designOf(invoice),
    due: {
      label: invoice.credits ? 'Credited' : 'To pay',
      amount: amount(invoice.payable),
      by: invoice.credits ? '' : `by ${showDay(invoice, invoice.dueDay)}`,
    },
    studioName: studio.name,
    studio: [
      ...rowsOf(studio.address),
      studio.email,
      studio.taxNumber && `${taxNumberOf(invoice)} ${studio.taxNumber}`,
      studio.companyNumber && `Company number ${studio.companyNumber}`,
      studio.registeredOffice && `Registered office: ${rowsOf(studio.registeredOffice).join(', ')}`,
    ].filter(Boolean),
    client: [
      client.name,
      invoice.attention && `For the attention of ${invoice.attention}`,
      ...rowsOf(client.address),
      client.taxNumber && `${taxNumberOf(invoice)} ${client.taxNumber}`,
    ].filter((row): row is string => Boolean(row)),
    facts: [
      [title, number],
      ...(invoice.credits ? ([['Credits', creditedOf(invoice)]] satisfies [string, string][]) : []),
      ['Date', showDay(invoice, invoice.day)],
      ...(invoice.taxPoint ? ([['Tax point', showDay(invoice, invoice.taxPoint)]] satisfies [string, string][]) : []),
      ...(invoice.credits ? [] : ([['Due', showDay(invoice, invoice.dueDay)]] satisfies [string, string][])),
      ...(invoice.purchaseOrder ? ([['Your order', invoice.purchaseOrder]] satisfies [string, string][]) : []),
      ...(period ? ([['For', showPeriod(invoice, period)]] satisfies [string, string][]) : []),
    ],
    openBook: invoice.openBook,
    rates: ratesOf(invoice) !== null,
    lines: linesOf(invoice),
    totals: totalsOf(invoice),
    notes: [
      ...(invoice.credits ? [`Why: ${invoice.credits.reason}`] : []),
      ...rowsOf(invoice.note),
      ...invoice.sentences,
      ...dayNote(invoice),
      ...invoice.taxes.map((tax) => tax.note).filter(Boolean),
      ...homeNote(invoice),
    ],
    payment: invoice.credits ? [] : [...accountOf(invoice), ...referenceOf(invoice), ...rowsOf(studio.paymentDetails)],
    payCode: invoice.payCode ? payCode(invoice) : '',
    receipts: receiptsOf(invoice),
  };

  function linesOf({ lines }: FrozenInvoice): LineView[] {
    // Under a heading stand the lines up to the next one.
    let under = false;
    let sum = 0;
    // Receipts say which line they belong to, so the lines are numbered where there are any.
    const numbered = lines.some((line) => line.receiptIds.length > 0);
    const quantities = printedQuantities(lines, { ...invoice, rule: invoice.amountRounding });
    const rates = ratesOf(invoice);
    return lines.map((line, index) => {
      if (line.heading) [under, sum] = [true, 0];
      sum = addExact(sum, line.amount);
      const last = index === lines.length - 1 || lines[index + 1]!.heading !== '';
      const off = lessExact(line.gross, line.amount);
      return {
        key: line.key,
        heading: line.heading,
        text: numbered ? `${index + 1}. ${line.text}` : line.text,
        quantity: quantities[index]!,
        price: line.unit === 'lump' && !quantities[index] ? '' : priceOf(line),
        rate: rates?.get(line.taxId) ?? '',
        amount: amount(line.amount),
        cost: costOf(line),
        markup: line.markup === null ? '' : `${inStyle(line.markup, numberStyle)} %`,
        discount: line.discount === null ? '' : `Less ${inStyle(line.discount, numberStyle)} %, ${amount(off)}`,
        subtotal: under && last ? amount(sum) : '',
      };
    });
  }

  /** Of time what a unit cost, as the price beside it is one of a unit; else what it cost. */
  function costOf({ cost, costPrice, unit }: FrozenLine): string {
    if (cost === null) return '';
    if (costPrice === null) return amount(cost);
    return `${showDecimal(costPrice, currencyDigits(currency), numberStyle)} /${unitMark[unit as RateUnit]}`;
  }

  function priceOf({ price, unit, unitName }: FrozenLine): string {
    const mark = unit === 'piece' ? unitName : unit === 'lump' ? '' : unitMark[unit];
    return `${showDecimal(price, currencyDigits(currency), numberStyle)}${mark ? ` /${mark}` : ''}`;
  }
}

/** What the number is that the tax office gave: of VAT where the invoice bears VAT. */
const taxNumberOf = ({ taxes }: FrozenInvoice): string =>
  taxes.some(({ name }) => /\bVAT\b/.test(name)) ? 'VAT number' : 'Tax number';

/** The account to pay into, a row for each of its figures. */
function accountOf({ studio: { account } }: FrozenInvoice): string[] {
  if (!account) return [];
  const { holder, number, bic } = account;
  const iban = /^[A-Z]{2}\d{2}[A-Z0-9 ]+$/.test(number);
  return [holder && `Account name ${holder}`, `${iban ? 'IBAN' : 'Account'} ${number}`, bic && `BIC ${bic}`].filter(
    Boolean,
  );
}

/** The reference that stands in the code as well, for whoever types it, in fours as it is read aloud. */
function referenceOf(invoice: FrozenInvoice): string[] {
  const reference = invoice.payCode && payCode(invoice) ? creditorReference(invoice.number) : '';
  return reference ? [`Reference ${reference.replace(/(.{4})(?=.)/g, '$1 ')}`] : [];
}

/** The rates that turned the tax into the studio's own currency. */
function homeNote(invoice: FrozenInvoice): string[] {
  const { home, numberStyle } = invoice;
  if (!home) return [];
  const rates = home.rates.map(
    ({ base, currency, rate, from }) =>
      `1 ${base} = ${inStyle(rate, numberStyle)} ${currency} of ${showDay(invoice, from)}`,
  );
  return [`Tax in ${home.currency} by the exchange rate${rates.length > 1 ? 's' : ''} ${rates.join(' and ')}.`];
}

/** A registered studio that charges the tax sends a VAT invoice; what the law calls it elsewhere is not known here. */
function titleOf({ credits, studio, taxes }: FrozenInvoice): string {
  if (credits) return 'Credit note';
  const vat = studio.taxNumber !== '' && taxes.some(({ name, percent }) => /\bVAT\b/.test(name) && Number(percent) > 0);
  return vat ? 'VAT invoice' : 'Invoice';
}

/** What stands beside each line of its tax, where an invoice has several; null where it has one. */
function ratesOf({ lines, taxes, numberStyle }: FrozenInvoice): Map<string | null, string> | null {
  const used = new Set(lines.map((line) => line.taxId));
  if (used.size < 2) return null;
  const words = taxes.map(
    ({ id, percent, category }) =>
      [id, printsPercent(category) ? `${inStyle(percent, numberStyle)} %` : category!] as const,
  );
  return new Map([[null, '–'], ...words]);
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
  const { currency, numberStyle, inclusive, allowance, deductions, rounding } = invoice;
  const row = (label: string, minor: number, strong = false) => ({
    label,
    amount: showAmount(minor, currency, numberStyle),
    strong,
  });
  const rows: InvoiceView['totals'] = [row(inclusive ? 'Lines, tax included' : 'Net', invoice.net)];
  if (allowance) {
    const share = allowance.percent === null ? '' : `, ${inStyle(allowance.percent, numberStyle)} %`;
    rows.push(row(`${allowance.text}${share}`, -allowance.amount));
    if (!inclusive) rows.push(row('Net after discount', netOf(invoice)));
  }
  if (inclusive) rows.push(row('Net', netOf(invoice)));
  for (const { name, percent, category, basis, amount } of invoice.taxes) {
    const of = printsPercent(category) ? `${name} ${inStyle(percent, numberStyle)} %` : name;
    rows.push(row(`${of} on ${showAmount(basis, currency, numberStyle)}`, amount));
  }
  if (invoice.home)
    rows.push({
      label: `Tax in ${invoice.home.currency}`,
      amount: showAmount(sumExact(invoice.taxes.map((tax) => tax.home ?? 0)), invoice.home.currency, numberStyle),
      strong: false,
      beside: true,
    });
  if (deductions.length > 0 || rounding !== 0) rows.push(row('Total', invoice.total));
  if (rounding !== 0) rows.push(row('Rounding', rounding));
  for (const { text, amount, dueDay } of deductions)
    rows.push(row(dueDay === null ? text : `${text}, due ${showDay(invoice, dueDay)}`, -amount));
  rows.push(row(`${invoice.credits ? 'Credited' : 'To pay'}, ${currency}`, invoice.payable, true));
  return rows;
}

const unitMark: Record<RateUnit, string> = { second: 's', minute: 'min', hour: 'h', day: 'day' };

/** What is sold by the day says how long a day is. */
const dayNote = (invoice: FrozenInvoice): string[] =>
  invoice.lines.some((line) => line.unit === 'day') ? [`A day is ${showLength(invoice.daySeconds)} h.`] : [];

/** "2 to 30 September 2026", "28 September to 4 October 2026": month and year are said once where they are the same. */
function showPeriod(invoice: FrozenInvoice, { from, to }: NonNullable<FrozenInvoice['period']>): string {
  const show = (day: string) => showDay(invoice, day);
  if (from === to) return show(from);
  const { datesIn = BRITISH } = invoice;
  if (datesIn !== BRITISH) return formatIn(datesIn).formatRange(dateOf(from), dateOf(to));
  const [day, month, year] = show(from).split(' ');
  if (from.slice(0, 7) === to.slice(0, 7)) return `${day} to ${show(to)}`;
  return from.slice(0, 4) === to.slice(0, 4)
    ? `${day} ${month} to ${show(to)}`
    : `${day} ${month} ${year} to ${show(to)}`;
}
