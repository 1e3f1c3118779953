import { printedQuantities, netOf } from '@half-penny/core/billing';
import { creditorReference, payCode, slipOf, type Slip } from '@half-penny/core/e-invoice';
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
import { wordsIn, type Message, type Words } from './words';

/** An invoice's words and figures, in the order they are read. Paper and screen print the same. */
export interface InvoiceView {
  /** "Invoice" or "Credit note". */
  title: string;
  number: string;
  /** How it looks. */
  design: PaperDesign;
  /** What one sees first: how much, and until when; `by` is empty of a credit note. */
  due: { label: string; amount: string; by: string; of: string };
  studio: string[];
  studioName: string;
  client: string[];
  facts: [label: string, value: string][];
  /** Whether what things cost and what was added stand beside the price. */
  openBook: boolean;
  /** Whether lines say the rate of their tax. */
  rates: boolean;
  /** Above the lines of a quote: its title and what it says. */
  opening: string[];
  lines: LineView[];
  /** What may be added to a quote, and is in no sum. */
  options: LineView[];
  /**
   * What stands beside the sum, for information, and is no part of it, says so. `of` is the path of the figure in the document, with a minus
   * where it is shown turned round; empty where it is worked out.
   */
  totals: { label: string; amount: string; strong: boolean; beside?: boolean; of: string }[];
  notes: string[];
  payment: string[];
  /** What a code says that the payer's bank reads (EPC069-12); empty where there is none. */
  payCode: string;
  /** The Swiss payment part; null where it has none. */
  slip: Slip | null;
  /** Receipts that follow, each with the line it belongs to, counted from 1. */
  receipts: { receiptId: string; line: number }[];
  /** Which language its other words are in. */
  language?: FrozenInvoice['language'];
  wording?: FrozenInvoice['wording'];
  labels: Labels;
}

/** What stands over columns and parts. */
type Labels = Record<
  | 'description'
  | 'quantity'
  | 'price'
  | 'tax'
  | 'cost'
  | 'markup'
  | 'amount'
  | 'total'
  | 'howToPay'
  | 'payByCode'
  | 'optional'
  | 'receipts',
  string
>;

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
export const showDay = ({ datesIn = BRITISH }: Pick<FrozenInvoice, 'datesIn'>, day: string): string =>
  formatIn(datesIn).format(dateOf(day));

function creditedOf(invoice: FrozenInvoice, t: Words): string {
  const { number, day } = invoice.credits!;
  return day === null ? number : t('numberOf', { number, day: showDay(invoice, day) });
}

const rowsOf = (text: string) => text.split(/\r?\n/).filter((row) => row.trim() !== '');

/** Lays out what an invoice says. `number` is what stands in place of the number, for a draft. */
export function invoiceView(invoice: FrozenInvoice, number = invoice.number): InvoiceView {
  const { studio, client, currency, numberStyle } = invoice;
  const amount = (minor: number) => showAmount(minor, currency, numberStyle);
  const t = wordsIn(invoice);
  const title = titleOf(invoice, t);
  const { quote, credits } = invoice;
  const receipts = receiptsOf(invoice);
  return {
    title,
    number,
    design: designOf(invoice),
    due: {
      label: credits ? t('credited') : quote ? t('total') : t('toPay'),
      amount: amount(invoice.payable),
      by: untilOf(invoice, t),
      of: 'payable',
    },
    studioName: studio.name,
    studio: [
      ...rowsOf(studio.address),
      studio.email,
      studio.taxNumber && `${taxNumberOf(invoice, t)} ${studio.taxNumber}`,
      studio.companyNumber && `${t('companyNumber')} ${studio.companyNumber}`,
      studio.registeredOffice && `${t('registeredOffice')}: ${rowsOf(studio.registeredOffice).join(', ')}`,
    ].filter(Boolean),
    client: [
      client.name,
      invoice.attention && t('attention', { name: invoice.attention }),
      ...rowsOf(client.address),
      client.taxNumber && `${taxNumberOf(invoice, t)} ${client.taxNumber}`,
    ].filter((row): row is string => Boolean(row)),
    facts: factsOf(invoice, title, number, t),
    openBook: invoice.openBook,
    rates: ratesOf(invoice) !== null,
    opening: quote ? [quote.title, ...rowsOf(quote.intro)] : [],
    lines: linesOf(invoice),
    options: quote ? linesOf({ ...invoice, lines: quote.options }) : [],
    totals: totalsOf(invoice, t),
    notes: [
      ...(credits ? [t('why', { reason: credits.reason })] : []),
      ...rowsOf(invoice.note),
      ...invoice.sentences,
      ...dayNote(invoice, t),
      ...invoice.taxes.map((tax) => tax.note).filter(Boolean),
      ...homeNote(invoice, t),
      ...aheadNote(invoice, t),
    ],
    payment:
      credits || quote ? [] : [...accountOf(invoice, t), ...referenceOf(invoice, t), ...rowsOf(studio.paymentDetails)],
    slip: slipOf(invoice),
    payCode: invoice.payCode && !quote ? payCode(invoice) : '',
    receipts,
    ...(invoice.language && { language: invoice.language }),
    ...(invoice.wording && { wording: invoice.wording }),
    labels: labelsOf(t, receipts.length),
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
        discount:
          line.discount === null
            ? ''
            : t('less', { percent: inStyle(line.discount, numberStyle), amount: amount(off) }),
        subtotal: under && last ? amount(sum) : '',
      };
    });
  }

  /** Of time what a unit cost, as the price beside it is one of a unit; else what it cost. */
  function costOf({ cost, costPrice, unit }: FrozenLine): string {
    if (cost === null) return '';
    if (costPrice === null) return amount(cost);
    return `${showDecimal(costPrice, currencyDigits(currency), numberStyle)} /${t(unitWords[unit as RateUnit])}`;
  }

  function priceOf({ price, unit, unitName }: FrozenLine): string {
    const mark = unit === 'piece' ? unitName : unit === 'lump' ? '' : t(unitWords[unit]);
    return `${showDecimal(price, currencyDigits(currency), numberStyle)}${mark ? ` /${mark}` : ''}`;
  }
}

const labelsOf = (t: Words, receipts: number): Labels => ({
  description: t('description'),
  quantity: t('quantity'),
  price: t('price'),
  tax: t('tax'),
  cost: t('cost'),
  markup: t('markup'),
  amount: t('amount'),
  total: t('total'),
  howToPay: t('howToPay'),
  payByCode: t('payByCode'),
  optional: t('optional'),
  receipts: t('receipts', { count: receipts }),
});

/** Until when it is to be paid, or holds; empty of a credit note. */
function untilOf(invoice: FrozenInvoice, t: Words): string {
  const { credits, quote, dueDay } = invoice;
  if (credits) return '';
  return quote ? t('until', { day: showDay(invoice, quote.validUntil) }) : t('by', { day: showDay(invoice, dueDay) });
}

/** What is known of it, under its title. */
function factsOf(invoice: FrozenInvoice, title: string, number: string, t: Words): [string, string][] {
  const { credits, quote, taxPoint, purchaseOrder, period } = invoice;
  const day = (value: string) => showDay(invoice, value);
  const facts: [string, string][] = [[title, number]];
  if (credits) facts.push([t('credits'), creditedOf(invoice, t)]);
  facts.push([t('date'), day(invoice.day)]);
  if (taxPoint) facts.push([t('taxPoint'), day(taxPoint)]);
  if (quote) facts.push([t('validUntil'), day(quote.validUntil)]);
  else if (!credits) facts.push([t('due'), day(invoice.dueDay)]);
  if (purchaseOrder) facts.push([t('order'), purchaseOrder]);
  if (period) facts.push([t('period'), showPeriod(invoice, period, t)]);
  return facts;
}

/** What the number is that the tax office gave: of VAT where the invoice bears VAT. */
const taxNumberOf = ({ taxes }: FrozenInvoice, t: Words): string =>
  taxes.some(({ name }) => VAT.test(name)) ? t('vatNumber') : t('taxNumber');
const VAT = /\bVAT\b/;

/** The account to pay into, a row for each of its figures. */
function accountOf({ studio: { account } }: FrozenInvoice, t: Words): string[] {
  if (!account) return [];
  const { holder, number, bic } = account;
  const iban = /^[A-Z]{2}\d{2}[A-Z0-9 ]+$/.test(number);
  return [
    holder && t('accountName', { name: holder }),
    iban ? `IBAN ${number}` : t('account', { number }),
    bic && `BIC ${bic}`,
  ].filter(Boolean);
}

/** The reference that stands in the code as well, for whoever types it, in fours as it is read aloud. */
function referenceOf(invoice: FrozenInvoice, t: Words): string[] {
  const reference = invoice.payCode && (payCode(invoice) || slipOf(invoice)) ? creditorReference(invoice.number) : '';
  return reference ? [t('reference', { reference: reference.replace(/(.{4})(?=.)/g, '$1 ') })] : [];
}

/** The rates that turned the tax into the studio's own currency. */
function homeNote(invoice: FrozenInvoice, t: Words): string[] {
  const { home, numberStyle } = invoice;
  if (!home) return [];
  const rates = home.rates.map(({ base, currency, rate, from }) =>
    t('rateOf', { rate: `1 ${base} = ${inStyle(rate, numberStyle)} ${currency}`, day: showDay(invoice, from) }),
  );
  const [one = '', other] = rates;
  const said = other === undefined ? one : t('and', { one, other });
  return [t('exchange', { count: rates.length, currency: home.currency, rates: said })];
}

/** How money that was invoiced ahead stands. */
function aheadNote({ ahead = [], currency, numberStyle }: FrozenInvoice, t: Words): string[] {
  const money = (minor: number) => showAmount(minor, currency, numberStyle);
  return ahead.map(({ number, asked, used, left, seconds }) => {
    const sums = t('aheadLeft', { number, asked: money(asked), used: money(used), left: money(left) });
    return seconds === null ? sums : `${sums} ${t('aheadHours', { length: showLength(seconds) })}`;
  });
}

/** A registered studio that charges the tax sends a VAT invoice; what the law calls it elsewhere is not known here. */
function titleOf({ credits, quote, studio, taxes }: FrozenInvoice, t: Words): string {
  if (credits) return t('creditNote');
  if (quote) return t('quote');
  const vat = studio.taxNumber !== '' && taxes.some(({ name, percent }) => VAT.test(name) && Number(percent) > 0);
  return vat ? t('vatInvoice') : t('invoice');
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

function totalsOf(invoice: FrozenInvoice, t: Words): InvoiceView['totals'] {
  const { currency, numberStyle, inclusive, allowance, deductions, rounding, quote } = invoice;
  const row = (label: string, of: string, minor: number, strong = false) => ({
    label,
    amount: showAmount(minor, currency, numberStyle),
    strong,
    of,
  });
  const rows: InvoiceView['totals'] = [row(inclusive ? t('linesWithTax') : t('net'), 'net', invoice.net)];
  if (allowance) {
    const share = allowance.percent === null ? '' : `, ${inStyle(allowance.percent, numberStyle)} %`;
    rows.push(row(`${allowance.text}${share}`, '-allowance/amount', -allowance.amount));
    if (!inclusive) rows.push(row(t('netAfterDiscount'), '', netOf(invoice)));
  }
  if (inclusive) rows.push(row(t('net'), '', netOf(invoice)));
  invoice.taxes.forEach(({ name, percent, category, basis, amount }, index) => {
    const tax = printsPercent(category) ? `${name} ${inStyle(percent, numberStyle)} %` : name;
    const label = t('taxOn', { tax, amount: showAmount(basis, currency, numberStyle) });
    rows.push(row(label, `taxes/${index}/amount`, amount));
  });
  if (invoice.home)
    rows.push({
      label: t('taxIn', { currency: invoice.home.currency }),
      amount: showAmount(sumExact(invoice.taxes.map((tax) => tax.home ?? 0)), invoice.home.currency, numberStyle),
      strong: false,
      beside: true,
      of: '',
    });
  if (deductions.length > 0 || rounding !== 0) rows.push(row(t('total'), 'total', invoice.total));
  if (rounding !== 0) rows.push(row(t('rounding'), 'rounding', rounding));
  deductions.forEach(({ text, amount, dueDay }, index) => {
    const label = dueDay === null ? text : t('dueOn', { what: text, day: showDay(invoice, dueDay) });
    rows.push(row(label, `-deductions/${index}/amount`, -amount));
  });
  const last = invoice.credits ? t('credited') : quote ? t('total') : t('toPay');
  rows.push(row(`${last}, ${currency}`, 'payable', invoice.payable, true));
  return rows;
}

const unitWords = { second: 'second', minute: 'minute', hour: 'hour', day: 'day' } as const satisfies Record<
  RateUnit,
  Message
>;

/** What is sold by the day says how long a day is. */
const dayNote = (invoice: FrozenInvoice, t: Words): string[] =>
  invoice.lines.some((line) => line.unit === 'day') ? [t('dayLasts', { length: showLength(invoice.daySeconds) })] : [];

/** "2 to 30 September 2026", "28 September to 4 October 2026": month and year are said once where they are the same. */
function showPeriod(invoice: FrozenInvoice, { from, to }: NonNullable<FrozenInvoice['period']>, t: Words): string {
  const show = (day: string) => showDay(invoice, day);
  if (from === to) return show(from);
  const { datesIn = BRITISH } = invoice;
  if (datesIn !== BRITISH) return formatIn(datesIn).formatRange(dateOf(from), dateOf(to));
  const [day, month, year] = show(from).split(' ');
  if (from.slice(0, 7) === to.slice(0, 7)) return t('periodTo', { from: day!, to: show(to) });
  return from.slice(0, 4) === to.slice(0, 4)
    ? t('periodTo', { from: `${day} ${month}`, to: show(to) })
    : t('periodTo', { from: `${day} ${month} ${year}`, to: show(to) });
}
