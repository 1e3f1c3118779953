import type { FrozenLine } from '../model/records';
import { minorPerMajor, type CurrencyCode } from '../money/currency';
import { SCALE, toScaled } from '../money/decimal';
import { unitSeconds, type RateUnit } from '../money/price';
import { divideRounded, roundingRules, type RoundingRule } from '../money/rational';
import { shareOut } from '../money/share';
import { inStyle, type NumberStyle } from '../money/written';
import { showBilled, type LengthStyle } from '../time/length';

// What stands in a line's column of quantities. Whoever multiplies it by the price beside it, on a pocket calculator, gets the amount.

/** What of a line its quantity depends on. */
export type QuantityLine = Pick<FrozenLine, 'seconds' | 'quantity' | 'unitName' | 'unit' | 'price' | 'gross'>;

export interface QuantityStyle {
  lengthStyle: LengthStyle;
  numberStyle?: NumberStyle;
  currency: CurrencyCode;
  /** Seconds of a day that is sold as a day. */
  daySeconds: number;
  /** How amounts are rounded; null where an older invoice does not say. */
  rule: RoundingRule | null;
}

/** Decimals beyond which no length under a week needs any more. */
const MOST_DECIMALS = 9;

/**
 * Quantities as they are printed. Hours are written as the studio writes lengths, with their seconds or with as many decimals as their
 * product needs; lengths sold by the minute, second or day count those. Decimals of one unit also sum to what the lengths sum to. A sum of
 * its own has no quantity.
 */
export function printedQuantities(lines: readonly QuantityLine[], style: QuantityStyle): string[] {
  const decimals = new Map<RateUnit, string[]>();
  const places = new Map<RateUnit, number[]>();
  lines.forEach(({ unit }, index) => {
    if (isTimed(unit)) places.set(unit, [...(places.get(unit) ?? []), index]);
  });
  for (const [unit, own] of places) {
    if (unit === 'hour' && style.lengthStyle === 'h:mm') continue;
    decimals.set(
      unit,
      decimalsOf(
        own.map((index) => lines[index]!),
        unitSeconds(unit, style.daySeconds),
        style,
      ),
    );
  }
  return lines.map((line, index) => {
    if (line.unit === 'lump') return line.quantity.startsWith('-') ? '−1' : '';
    if (line.unit === 'piece') return `${inStyle(line.quantity, style.numberStyle)} ${line.unitName}`.trim();
    const own = decimals.get(line.unit);
    if (!own) return `${showBilled(line.seconds)} h`;
    const written = own[places.get(line.unit)!.indexOf(index)]!;
    return `${inStyle(written, style.numberStyle)} ${unitWords[line.unit](written)}`;
  });
}

const isTimed = (unit: FrozenLine['unit']): unit is RateUnit => unit !== 'piece' && unit !== 'lump';

const unitWords: Record<RateUnit, (figure: string) => string> = {
  second: () => 's',
  minute: () => 'min',
  hour: () => 'h',
  day: (figure) => (Number(figure) === 1 ? 'day' : 'days'),
};

/** The fewest decimals, at least two for hours, with which every line's product is its amount; trailing zeros beyond those are left out. */
function decimalsOf(lines: readonly QuantityLine[], perSeconds: number, style: QuantityStyle): string[] {
  const least = perSeconds === 3600 ? 2 : 0;
  const whole = lines.reduce((sum, line) => sum + Math.abs(line.seconds), 0);
  for (let places = least; ; places++) {
    const unit = 10 ** places;
    // Shares of what they sum to, so that what is printed sums as well.
    const counts = shareOut(
      divideRounded(BigInt(whole) * BigInt(unit), perSeconds, 'half away from zero'),
      lines.map((line) => Math.abs(line.seconds)),
    );
    const held = lines.every((line, index) => multiplies(counts[index]!, unit, line, style));
    if (!held && places < MOST_DECIMALS) continue;
    return lines.map((line, index) => {
      const count = counts[index]!;
      // An amount of exactly half a minor unit needs a part more, where its length has no last decimal.
      const fits = [count, count + 1, count - 1].find((each) => multiplies(each, unit, line, style)) ?? count;
      return written(fits, places, least, line.seconds < 0);
    });
  }
}

/** Whether so many parts of a unit at the line's price come to its amount. */
function multiplies(count: number, unit: number, line: QuantityLine, { currency, rule }: QuantityStyle): boolean {
  const exact = BigInt(count) * BigInt(toScaled(line.price)) * BigInt(minorPerMajor(currency));
  const per = BigInt(unit) * BigInt(SCALE);
  const amount = Math.abs(line.gross);
  // Older invoices do not say by which rule they were rounded: nearly all by halves.
  const rules = rule === null ? roundingRules.filter((each) => each.startsWith('half')) : [rule];
  return rules.some((each) => divideRounded(exact, per, each) === amount);
}

function written(count: number, places: number, least: number, negative: boolean): string {
  const digits = String(count).padStart(places + 1, '0');
  const whole = places === 0 ? digits : digits.slice(0, -places);
  let fraction = places === 0 ? '' : digits.slice(-places);
  while (fraction.length > least && fraction.endsWith('0')) fraction = fraction.slice(0, -1);
  return `${negative ? '-' : ''}${whole}${fraction ? `.${fraction}` : ''}`;
}
