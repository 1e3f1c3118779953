import { currencyDigits, type CurrencyCode } from '../money/currency';
import { fromScaled, showDecimal } from '../money/decimal';
import { divideRounded, product } from '../money/rational';
import { HOUR, showLength, type LengthStyle } from '../time/length';
import type { MeasureKind } from './measures';

/** An axis: where its marks are, in the measure's own units, and what stands at them. */
export interface Axis {
  ticks: number[];
  show: (tick: number) => string;
}

/** An axis has about so many steps. */
const STEPS = 4;

/** Steps are no finer than a ten-thousandth, which is what decimals are kept in. */
const FINEST = -4;

/** Whole steps of one, two or five, as rulers have them, that hold all values and nothing. */
export function axisOf(values: readonly number[], kind: MeasureKind, currency: CurrencyCode, style: LengthStyle): Axis {
  const unit = unitOf(kind, currency);
  const low = Math.min(0, ...values) / unit;
  const high = Math.max(0, ...values) / unit;
  const { digit, power } = niceStep((high - low) / STEPS);
  const step = digit * 10 ** power;
  const from = Math.floor(low / step);
  const to = Math.max(from + 1, Math.ceil(high / step));
  const marks = Array.from({ length: to - from + 1 }, (_, at) => {
    const tenThousandths = (from + at) * digit * 10 ** (power - FINEST);
    const tick = divideRounded(product(tenThousandths, unit), 10 ** -FINEST, 'half away from zero');
    return { tick, decimal: showDecimal(fromScaled(tenThousandths), Math.max(0, -power)) };
  });
  const texts = new Map(
    marks.map(({ tick, decimal }) => [
      tick,
      kind === 'length' && style === 'h:mm' ? showLength(tick, 'h:mm') : kind === 'percent' ? `${decimal} %` : decimal,
    ]),
  );
  return { ticks: marks.map(({ tick }) => tick), show: (tick) => texts.get(tick) ?? '' };
}

const unitOf = (kind: MeasureKind, currency: CurrencyCode): number => {
  if (kind === 'length') return HOUR;
  if (kind === 'percent') return 100;
  return kind === 'count' ? 1 : 10 ** currencyDigits(currency);
};

/** The next step of one, two or five times a power of ten. */
function niceStep(least: number): { digit: number; power: number } {
  if (least <= 0) return { digit: 1, power: 0 };
  const power = Math.max(FINEST, Math.floor(Math.log10(least)));
  // Powers of ten below one are not exact: a step that is as good as enough is enough.
  const digit = [1, 2, 5].find((each) => each * 10 ** power >= least * (1 - 1e-9));
  return digit === undefined ? { digit: 1, power: power + 1 } : { digit, power };
}
