import { Fault } from '../faults/fault';

/** How a figure between two whole minor units is settled. The workspace names one; "half away from zero" is the usual. */
export const roundingRules = ['half away from zero', 'half to even', 'away from zero', 'towards zero'] as const;
export type RoundingRule = (typeof roundingRules)[number];

/**
 * numerator ÷ denominator, rounded once to a whole number by `rule`. Exact for any size: plain numbers while they are safe
 * integers, big integers beyond.
 *
 * @param denominator greater than zero
 * @example divideRounded(5, 2, 'half to even') // → 2
 */
export function divideRounded(numerator: number | bigint, denominator: number | bigint, rule: RoundingRule): number {
  if (typeof numerator === 'number' && typeof denominator === 'number') {
    // Remainder and subtraction of safe integers are exact, a quotient of two such need not be.
    const magnitude = Math.abs(numerator);
    const rest = magnitude % denominator;
    const whole = (magnitude - rest) / denominator;
    const rounded =
      rest === 0 ? whole : whole + (goesUp(whole % 2 === 1, compare(rest, denominator - rest), rule) ? 1 : 0);
    return numerator < 0 ? -rounded || 0 : rounded;
  }
  const wide = BigInt(numerator);
  const by = BigInt(denominator);
  const magnitude = wide < 0n ? -wide : wide;
  const rest = magnitude % by;
  const whole = magnitude / by;
  const rounded = rest === 0n ? whole : whole + (goesUp(whole % 2n === 1n, compare(rest, by - rest), rule) ? 1n : 0n);
  return toSafe(wide < 0n ? -rounded : rounded);
}

const compare = (a: number | bigint, b: number | bigint): -1 | 0 | 1 => (a < b ? -1 : a > b ? 1 : 0);

function goesUp(odd: boolean, againstHalf: -1 | 0 | 1, rule: RoundingRule): boolean {
  switch (rule) {
    case 'half away from zero':
      return againstHalf >= 0;
    case 'half to even':
      return againstHalf > 0 || (againstHalf === 0 && odd);
    case 'away from zero':
      return true;
    case 'towards zero':
      return false;
  }
}

/** The product of whole numbers: a number while that is exact, a big integer beyond. */
export function product(a: number, b: number, c = 1, d = 1): number | bigint {
  const quick = a * b * c * d;
  // A float product that is a safe integer is the true one: every partial product of such factors is smaller still,
  // save with a zero factor, where it is zero either way.
  if (Number.isSafeInteger(quick) && Number.isSafeInteger(a * b) && Number.isSafeInteger(a * b * c)) return quick;
  return BigInt(a) * BigInt(b) * BigInt(c) * BigInt(d);
}

/**
 * Adds whole minor units and refuses to leave the range in which that is exact.
 *
 * @example addExact(850, -10) // → 840
 */
export function addExact(a: number, b: number): number {
  const sum = a + b;
  if (!Number.isSafeInteger(sum))
    throw new Fault('too-large', 'This sum is too large to be kept exactly.', '', { a, b });
  return sum;
}

/** The exact difference of whole minor units. */
export const lessExact = (a: number, b: number): number => addExact(a, -b);

/**
 * The exact sum of whole minor units.
 *
 * @example sumExact([1, 2, 3]) // → 6
 */
export const sumExact = (amounts: Iterable<number>): number => {
  let sum = 0;
  for (const amount of amounts) sum = addExact(sum, amount);
  return sum;
};

function toSafe(value: bigint): number {
  if (value > BigInt(Number.MAX_SAFE_INTEGER) || value < BigInt(Number.MIN_SAFE_INTEGER)) {
    throw new Fault('too-large', 'This amount is too large to be kept exactly.', '', { value: value.toString() });
  }
  return Number(value);
}
