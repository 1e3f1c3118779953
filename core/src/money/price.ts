import { minorPerMajor, type CurrencyCode } from './currency';
import { Fault } from '../faults/fault';
import { fromScaled, readDecimal, SCALE, toScaled, type Decimal } from './decimal';
import { divideRounded, product, type RoundingRule } from './rational';
import type { Minor } from './amount';

/** What a rate is per. A day's length is the workspace's "hours in a day". */
export const rateUnits = ['second', 'minute', 'hour', 'day'] as const;
export type RateUnit = (typeof rateUnits)[number];

/** Seconds in a unit; `daySeconds` is the length of a working day, e.g. 7.5 h = 27,000. */
export function unitSeconds(unit: RateUnit, daySeconds: number): number {
  switch (unit) {
    case 'second':
      return 1;
    case 'minute':
      return 60;
    case 'hour':
      return 3600;
    case 'day':
      return daySeconds;
  }
}

const UNIT_WORDS: readonly (readonly [RegExp, RateUnit])[] = [
  [/ ?(?:\/|per|an?|each) ?(?:h|hr|hours?)$/i, 'hour'],
  [/ ?(?:\/|per|an?|each) ?(?:m|min|minutes?)$/i, 'minute'],
  [/ ?(?:\/|per|an?|each) ?(?:s|sec|seconds?)$/i, 'second'],
  [/ ?(?:\/|per|an?|each) ?(?:d|days?)$/i, 'day'],
];

/**
 * Reads a rate as a person types it: "78", "85,50", "£78", "2/min", "600 a day". Where its unit is said, that is the unit.
 *
 * @throws Fault when it is not a number, is negative, or has more than four decimals
 * @example readRate('600 a day') // → { price: '600', unit: 'day' }
 */
export function readRate(text: string): { price: Decimal; unit: RateUnit | null } {
  const [pattern, unit] = UNIT_WORDS.find(([each]) => each.test(text.trim())) ?? [null, null];
  const figure = (pattern ? text.trim().replace(pattern, '') : text).replace(/^\s*\p{Sc}\s*|\s*\p{Sc}\s*$/gu, '');
  const price = readDecimal(figure, 'rate');
  if (price.startsWith('-')) throw new Fault('negative', 'A rate cannot be negative.', 'rate', { text });
  return { price, unit };
}

/**
 * A rate as typed where it is per hour.
 *
 * @throws Fault when it cannot be read or is said per day
 * @example readHourly('2/min') // → '120'
 */
export function readHourly(text: string): Decimal {
  const { price, unit } = readRate(text);
  if (unit === null || unit === 'hour') return price;
  if (unit === 'day') {
    throw new Fault(
      'not-per-hour',
      'This is a rate per hour. Write it per hour; a rate per day is set on the project’s page.',
      'rate',
      { text },
    );
  }
  return fromScaled(toScaled(price) * (unit === 'minute' ? 60 : 3600));
}

export interface TimePrice {
  /** Major units of the currency per unit, up to four decimals. */
  price: Decimal;
  unit: RateUnit;
  currency: CurrencyCode;
  /** Length of a working day in seconds; decides only prices per day. */
  daySeconds: number;
  /** Percent added on top (price is then a cost), up to four decimals. */
  markup?: Decimal;
  rule: RoundingRule;
}

/**
 * The worth of a length at a price: price × seconds ÷ unit × (1 + markup) as one exact fraction, rounded once.
 *
 * @param seconds whole seconds, negative for credits
 * @returns minor units of the currency
 */
export function amountOfTime(seconds: number, at: TimePrice): Minor {
  return amountOfScaled(
    seconds,
    toScaled(at.price),
    unitSeconds(at.unit, at.daySeconds),
    minorPerMajor(at.currency),
    at.rule,
    at.markup === undefined ? 0 : toScaled(at.markup),
  );
}

/** 100 % in ten-thousandths of a percent. */
const WHOLE_PERCENT = 100 * SCALE;

/**
 * {@link amountOfTime} with everything already in whole numbers, for long loops.
 *
 * @param scaledPrice ten-thousandths of a major unit per unit
 * @param scaledMarkup ten-thousandths of a percent
 * @example amountOfScaled(5400, 780_000, 3600, 100, 'half away from zero') // → 11700
 */
export function amountOfScaled(
  seconds: number,
  scaledPrice: number,
  perSeconds: number,
  minorUnits: number,
  rule: RoundingRule,
  scaledMarkup = 0,
): Minor {
  if (scaledMarkup === 0) return divideRounded(product(scaledPrice, seconds, minorUnits), perSeconds * SCALE, rule);
  return divideRounded(
    product(scaledPrice, seconds, minorUnits, WHOLE_PERCENT + scaledMarkup),
    product(perSeconds, SCALE, WHOLE_PERCENT),
    rule,
  );
}

/**
 * A cost with its markup as a price of four places, in another currency where a rate of exchange is given: 48 + 62.5 % = 78. Rounded once, so
 * that the arithmetic printed beside it holds.
 *
 * @param scaledCost ten-thousandths of a major unit
 * @param scaledMarkup ten-thousandths of a percent
 * @returns ten-thousandths of a major unit
 * @example scaledWithMarkup(480_000, 625_000, { numerator: 1n, denominator: 1n }, 'half away from zero') // → 780000
 */
export function scaledWithMarkup(
  scaledCost: number,
  scaledMarkup: number,
  exchanged: { numerator: bigint; denominator: bigint },
  rule: RoundingRule,
): number {
  return divideRounded(
    BigInt(scaledCost) * BigInt(WHOLE_PERCENT + scaledMarkup) * exchanged.numerator,
    BigInt(WHOLE_PERCENT) * exchanged.denominator,
    rule,
  );
}

/**
 * A percentage of an amount, rounded once.
 *
 * @example percentOf(10_000, '20', 'half away from zero') // → 2000
 */
export function percentOf(amount: Minor, percent: Decimal, rule: RoundingRule): Minor {
  return divideRounded(product(amount, toScaled(percent)), WHOLE_PERCENT, rule);
}

/**
 * An amount with a percentage added, as one exact fraction, rounded once.
 *
 * @example withMarkup(10_000, '35', 'half away from zero') // → 13500
 */
export function withMarkup(amount: Minor, markup: Decimal, rule: RoundingRule): Minor {
  return divideRounded(product(amount, WHOLE_PERCENT + toScaled(markup)), WHOLE_PERCENT, rule);
}

/**
 * So many at a price each, rounded once to minor units.
 *
 * @example amountOfPieces('12.5', '0.45', 'GBP', 'half away from zero') // → 563
 */
export function amountOfPieces(quantity: Decimal, price: Decimal, currency: CurrencyCode, rule: RoundingRule): Minor {
  return divideRounded(
    BigInt(toScaled(quantity)) * BigInt(toScaled(price)) * BigInt(minorPerMajor(currency)),
    BigInt(SCALE) * BigInt(SCALE),
    rule,
  );
}
