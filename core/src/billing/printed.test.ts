import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { currencyDigits } from '../money/currency';
import { fromScaled } from '../money/decimal';
import { amountOfTime, rateUnits, unitSeconds } from '../money/price';
import { divideRounded, roundingRules } from '../money/rational';
import { lengthStyles } from '../time/length';
import { roundLength } from '../time/rounding';
import { printedQuantities, type QuantityLine } from './printed';
import { runs } from '../testing/runs';

const DAY_SECONDS = 27_000;
const usual = { currency: 'GBP', daySeconds: DAY_SECONDS, rule: 'half away from zero' } as const;
const timed = (seconds: number, price: string, gross: number, unit: QuantityLine['unit'] = 'hour'): QuantityLine => ({
  seconds,
  price,
  unit,
  gross,
  quantity: '1',
  unitName: '',
});

/** What a reader makes of a printed quantity: a fraction of seconds, as [numerator, denominator]. */
function readBack(printed: string, unit: QuantityLine['unit']): [bigint, bigint] {
  const [figure] = printed.split(' ') as [string];
  const clock = /^(\d+):(\d\d)(?::(\d\d))?$/.exec(figure);
  if (clock) return [BigInt(Number(clock[1]) * 3600 + Number(clock[2]) * 60 + Number(clock[3] ?? 0)), 1n];
  const [whole, fraction = ''] = figure.split('.');
  const per = BigInt(unitSeconds(unit as 'hour', DAY_SECONDS));
  return [BigInt(whole! + fraction) * per, 10n ** BigInt(fraction.length)];
}

describe('printed quantities', () => {
  it('have their seconds, or as many decimals as the product needs', () => {
    const line = timed(2867, '85', 6769);
    expect(printedQuantities([line], { ...usual, lengthStyle: 'h:mm' })).toEqual(['0:47:47 h']);
    expect(printedQuantities([line], { ...usual, lengthStyle: 'decimal' })).toEqual(['0.7964 h']);
  });

  it('are what a price is of: days, minutes, pieces; a sum has none', () => {
    const lines = [
      timed(40_500, '585', 87_750, 'day'),
      timed(90, '1.3', 195, 'minute'),
      { ...timed(0, '12.5', 2500, 'piece'), quantity: '2', unitName: 'rolls' },
      timed(0, '40', 4000, 'lump'),
      { ...timed(0, '5', -500, 'lump'), quantity: '-1' },
    ];
    expect(printedQuantities(lines, { ...usual, lengthStyle: 'h:mm' })).toEqual([
      '1.5 days',
      '1.5 min',
      '2 rolls',
      '',
      '−1',
    ]);
  });

  it('have a part more where an amount is exactly half a minor unit and its length has no last decimal', () => {
    const line = timed(399_180, '353.475', 5_225_932, 'day');
    const style = { ...usual, lengthStyle: 'h:mm', currency: 'KWD', rule: 'half away from zero' } as const;
    expect(printedQuantities([line], style)).toEqual(['14.784444445 days']);
  });

  it('sum to what the lengths of a day that was shared come to', () => {
    const thirds = [1200, 1200, 1200].map((seconds) => timed(seconds, '80', 2667));
    const printed = printedQuantities(thirds, { ...usual, lengthStyle: 'decimal' });
    const sum = printed.reduce((total, each) => total + Math.round(parseInt(each.replace('.', ''), 10)), 0);
    expect(sum).toBe(10 ** printed[0]!.split(' ')[0]!.split('.')[1]!.length);
  });

  it('multiply to the amount on a pocket calculator, whatever the style, step, unit and currency', () => {
    const anyLine = fc.record({
      seconds: fc.integer({ min: 1, max: 400_000 }),
      scaled: fc.integer({ min: 1, max: 9_999_999 }),
      unit: fc.constantFrom(...rateUnits),
    });
    fc.assert(
      fc.property(
        fc.array(anyLine, { minLength: 1, maxLength: 6 }),
        fc.constantFrom(...lengthStyles),
        fc.constantFrom(1, 60, 360, 900),
        fc.constantFrom('GBP', 'JPY', 'KWD'),
        fc.constantFrom(...roundingRules),
        (made, lengthStyle, increment, currency, rule) => {
          const policy = { increment, direction: 'up', minimum: 0, per: 'entry' } as const;
          const lines = made.map(({ seconds, scaled, unit }) => {
            const billed = roundLength(seconds, policy);
            const price = fromScaled(scaled);
            return timed(
              billed,
              price,
              amountOfTime(billed, { price, unit, currency, daySeconds: DAY_SECONDS, rule }),
              unit,
            );
          });
          const printed = printedQuantities(lines, { lengthStyle, currency, daySeconds: DAY_SECONDS, rule });
          printed.forEach((each, index) => {
            const { unit, gross } = lines[index]!;
            const [seconds, part] = readBack(each, unit);
            const per = BigInt(unitSeconds(unit as 'hour', DAY_SECONDS)) * part * 10_000n;
            const minor = 10n ** BigInt(currencyDigits(currency));
            expect(divideRounded(seconds * BigInt(made[index]!.scaled) * minor, per, rule)).toBe(gross);
          });
        },
      ),
      { numRuns: runs(400) },
    );
  });
});
