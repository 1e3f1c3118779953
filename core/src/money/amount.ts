import { Fault } from '../faults/fault';
import { currencyDigits, type CurrencyCode } from './currency';
import { withPoint } from './decimal';
import { divideRounded } from './rational';
import { fromStyle, inStyle, type NumberStyle } from './written';

/** A whole number of a currency's minor units: 7367 of GBP is £73.67. */
export type Minor = number;

/**
 * The amount as a plain decimal, exact: (7367, "GBP") → "73.67", (-5, "GBP") → "-0.05".
 *
 * @example plainAmount(-125050, 'EUR') // → '-1250.50'
 */
export function plainAmount(minor: Minor, currency: CurrencyCode): string {
  const digits = currencyDigits(currency);
  const text = String(Math.abs(minor)).padStart(digits + 1, '0');
  const sign = minor < 0 ? '-' : '';
  return digits === 0 ? sign + text : `${sign}${text.slice(0, -digits)}.${text.slice(-digits)}`;
}

/** The amount in whole units as spreadsheets keep figures: binary, so for showing there and never for computing here. */
export const spreadsheetAmount = (minor: Minor, currency: CurrencyCode): number => Number(plainAmount(minor, currency));

const formats = new Map<string, Intl.NumberFormat>();

/**
 * The amount for reading, with the currency's own sign: "£73.67", "€1,200.00".
 *
 * @example showAmount(125050, 'GBP') // → '£1,250.50'
 */
export function showAmount(minor: Minor, currency: CurrencyCode, style?: NumberStyle): string {
  // Given as text, the figure is formatted exactly as it stands, whatever its size.
  const figure = plainAmount(minor, currency) as `${number}`;
  return inStyle(trueMinus(formatOf(currency, currencyDigits(currency)).format(figure)), style);
}

/** The amount in whole units of its currency, for what is only likely: "£62", "¥1,240". */
export function showAbout(minor: Minor, currency: CurrencyCode): string {
  const whole = divideRounded(minor, 10 ** currencyDigits(currency), 'half away from zero');
  return inStyle(trueMinus(formatOf(currency, 0).format(whole)));
}

function formatOf(currency: CurrencyCode, digits: number): Intl.NumberFormat {
  const key = `${currency} ${digits}`;
  let format = formats.get(key);
  if (!format) {
    format = new Intl.NumberFormat('en-GB', {
      style: 'currency',
      currency,
      currencyDisplay: 'narrowSymbol',
      minimumFractionDigits: digits,
      maximumFractionDigits: digits,
    });
    formats.set(key, format);
  }
  return format;
}

/** A minus as it is printed; files and fields have a hyphen. */
const trueMinus = (figure: string): string => figure.replace('-', '−');

/**
 * The amount with thousands marks and no sign of the currency, as it stands in columns and slips: "1,234.50".
 *
 * @example bareAmount(125050, 'GBP') // → '1,250.50'
 */
export function bareAmount(minor: Minor, currency: CurrencyCode): string {
  const [whole, fraction] = plainAmount(minor, currency).split('.');
  const grouped = whole!.replace(/\B(?=(\d{3})+(?!\d))/g, ',');
  return inStyle(trueMinus(fraction === undefined ? grouped : `${grouped}.${fraction}`));
}

/**
 * Reads an amount as a person types it ("73.67", "£1,234.50", "1 234.5").
 *
 * @throws Fault when it is not a figure or has more digits than the currency
 * @example readAmount('1,250.5', 'GBP') // → 125050
 */
export function readAmount(text: string, currency: CurrencyCode): Minor {
  const digits = currencyDigits(currency);
  const plain = fromStyle(text)
    .trim()
    .replace('−', '-')
    .replace(/^(-?)\s*\p{Sc}\s*/u, '$1')
    .replace(/(\d)[, ](?=\d{3}(\D|$))/g, '$1');
  const match = /^(-?)(\d*)(?:\.(\d*))?$/.exec(withPoint(plain));
  if (!match || (match[2] === '' && !match[3])) {
    throw new Fault(
      'not-an-amount',
      `“${text.slice(0, 40)}” is not an amount. Write it in figures, for example 73.67.`,
      'amount',
      {
        text,
      },
    );
  }
  const fraction = (match[3] ?? '').replace(/0+$/, '');
  if (fraction.length > digits) {
    throw new Fault(
      'too-many-decimals',
      `${currency} amounts have ${digits === 0 ? 'no' : digits} decimals; “${text.slice(0, 40)}” has ${fraction.length}.`,
      'amount',
      { text },
    );
  }
  const minor = Number((match[2] || '0') + fraction.padEnd(digits, '0'));
  if (!Number.isSafeInteger(minor))
    throw new Fault('too-large', 'This amount is too large to be kept exactly.', 'amount', { text });
  return match[1] === '-' ? -minor || 0 : minor;
}
