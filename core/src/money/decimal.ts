import { Fault } from '../faults/fault';
import { fromStyle, inStyle, type NumberStyle } from './written';

/**
 * An exact decimal with up to four places, as it stands in a record: "78", "0.0125", "-3.5". Computed with as a whole
 * number of ten-thousandths.
 */
export type Decimal = string;

/** Ten-thousandths in one. */
export const SCALE = 10_000;
const PLACES = 4;
const MOST_WHOLE_DIGITS = 9;
/** Decimal notation as it is kept: no sign for nothing, no zeros that say nothing, at most nine digits and four places. */
export const decimalPattern = /^-?(0|[1-9]\d{0,8})(\.\d{0,3}[1-9])?$/;

/**
 * Reads a rate, price or percentage as a person types it ("78", "78.50", "78,50", "1,250", ".5"). Three figures behind a comma are a thousand.
 *
 * @param what the field's name in the message, e.g. "rate"
 * @returns the canonical decimal: no thousands marks, no superfluous zeros
 * @throws Fault when it is not a number, has more than four decimals or more than nine digits before them
 * @example readDecimal('1.250,50') // → '1250.5'
 */
export function readDecimal(text: string, what = 'number'): Decimal {
  const plain = fromStyle(text)
    .trim()
    .replace(/^−/, '-')
    .replace(
      /^([+-]?\d{1,3})((?:[, ]\d{3})+)(?=\.|$)/,
      (_, head: string, rest: string) => head + rest.replace(/[, ]/g, ''),
    );
  const match = /^([+-]?)(\d*)(?:\.(\d*))?$/.exec(withPoint(plain));
  if (!match || (match[2] === '' && !match[3])) {
    throw new Fault(
      'not-a-number',
      `“${short(text)}” is not a ${what}. Write it in figures, for example 78 or 78.50.`,
      '',
      { text },
    );
  }
  const whole = match[2]!.replace(/^0+(?=\d)/, '') || '0';
  const fraction = (match[3] ?? '').replace(/0+$/, '');
  if (fraction.length > PLACES) {
    throw new Fault(
      'too-many-decimals',
      `A ${what} has at most four decimals; “${short(text)}” has ${fraction.length}.`,
      '',
      { text },
    );
  }
  if (whole.length > MOST_WHOLE_DIGITS)
    throw new Fault('too-large', `“${short(text)}” is too large for a ${what}.`, '', { text });
  const unsigned = fraction ? `${whole}.${fraction}` : whole;
  return match[1] === '-' && unsigned !== '0' ? `-${unsigned}` : unsigned;
}

/**
 * With a point before its decimals: a comma that parts no thousands stands before them.
 *
 * @example withPoint('1.250,5') // → '1250.5'
 */
export const withPoint = (plain: string): string =>
  plain
    .replace(
      /^([+-]?\d{1,3}(?:[. ]\d{3})+),(\d{1,4})$/,
      (_, whole: string, part: string) => `${whole.replace(/[. ]/g, '')}.${part}`,
    )
    .replace(/^([+-]?\d*),(\d{1,2}|\d{4,})$/, '$1.$2');

/**
 * A canonical decimal as a whole number of ten-thousandths.
 *
 * @example toScaled('-0.5') // → -5000
 */
export function toScaled(decimal: Decimal): number {
  const negative = decimal.startsWith('-');
  const [whole, fraction = ''] = (negative ? decimal.slice(1) : decimal).split('.');
  const scaled = Number(whole) * SCALE + Number(fraction.padEnd(PLACES, '0'));
  return negative ? -scaled : scaled;
}

/**
 * The decimal of a whole number of ten-thousandths.
 *
 * @example fromScaled(5000) // → '0.5'
 */
export function fromScaled(scaled: number): Decimal {
  const magnitude = Math.abs(scaled);
  const fraction = String(magnitude % SCALE)
    .padStart(PLACES, '0')
    .replace(/0+$/, '');
  const whole = String((magnitude - (magnitude % SCALE)) / SCALE);
  return (scaled < 0 ? '-' : '') + whole + (fraction ? `.${fraction}` : '');
}

/**
 * A decimal for reading: at least `digits` places ("0.0125" stays), with a true minus.
 *
 * @example showDecimal('-1250', 2) // → '−1,250.00'
 */
export function showDecimal(decimal: Decimal, digits: number, style?: NumberStyle): string {
  const [whole, fraction = ''] = decimal.replace('-', '−').split('.');
  const grouped = whole!.replace(/\B(?=(\d{3})+(?!\d))/g, ',');
  const places = fraction.padEnd(digits, '0');
  return inStyle(places ? `${grouped}.${places}` : grouped, style);
}

const short = (text: string): string => (text.length > 40 ? `${text.slice(0, 40)}…` : text);
