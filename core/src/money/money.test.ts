import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  amountOfTime,
  bareAmount,
  currencyCodes,
  currencyDigits,
  divideRounded,
  fromScaled,
  percentOf,
  plainAmount,
  readAmount,
  readDecimal,
  roundingRules,
  shareOut,
  showAbout,
  showAmount,
  showDecimal,
  sumExact,
  toScaled,
  totalsOf,
  type RoundingRule,
  type TimePrice,
  readHourly,
  readRate,
} from '.';
import { fault } from '../testing/fault';

const RULE: RoundingRule = 'half away from zero';

describe('currency digits', () => {
  // Source: ISO 4217; the runtime's Intl is the witness. Where ICU gives the digits customary in the country instead of ISO's
  // minor unit, it is named here with ISO's own (from memory), so that neither list can drift unseen.
  const customary: Record<string, number> = {
    ...Object.fromEntries(
      'AFN ALL COP HUF IDR IRR KPW LAK LBP MGA MMK PKR SOS SYP YER'.split(' ').map((code) => [code, 2]),
    ),
    IQD: 3,
  };
  it('are as many as Intl says', () => {
    for (const code of currencyCodes) {
      const { maximumFractionDigits } = new Intl.NumberFormat('en', {
        style: 'currency',
        currency: code,
      }).resolvedOptions();
      expect([code, currencyDigits(code)]).toEqual([code, customary[code] ?? maximumFractionDigits]);
    }
  });

  it('knows JPY 0, GBP 2, KWD 3 (ISO 4217)', () => {
    expect(['JPY', 'GBP', 'KWD'].map(currencyDigits)).toEqual([0, 2, 3]);
  });

  it.each(['XYZ', 'gbp', '', 'POUND', '__proto__'])('refuses “%s”', (code) => {
    expect(() => currencyDigits(code)).toThrow(fault('not-a-currency'));
  });
});

describe('time × money', () => {
  const at = (price: string, unit: TimePrice['unit'], more: Partial<TimePrice> = {}): TimePrice => ({
    price,
    unit,
    currency: 'GBP',
    daySeconds: 27_000,
    rule: RULE,
    ...more,
  });

  // Practice of the trade, no published source.
  it.each([
    ['15 min at 100 an hour is 25.00', 900, at('100', 'hour'), 2500],
    ['15 min at 2 a minute is 30.00', 900, at('2', 'minute'), 3000],
    ['15 min at 2 an hour is 0.50', 900, at('2', 'hour'), 50],
    ['an hour at cost 50 + 70 % is 85.00', 3600, at('50', 'hour', { markup: '70' }), 8500],
    ['7 min billed as 12 min at 60 an hour is 12.00', 720, at('60', 'hour'), 1200],
    ['90 seconds at 0.01 a second is 0.90', 90, at('0.01', 'second'), 90],
    ['half a day of 7.5 h at 810 a day is 405.00', 13_500, at('810', 'day'), 40_500],
    ['ten minutes at 85.00 an hour is 14.17', 600, at('85', 'hour'), 1417],
    ['an hour at 1000 in a currency without digits', 3600, at('1000', 'hour', { currency: 'JPY' }), 1000],
    ['an hour at 1.2345 in a currency with three digits', 3600, at('1.2345', 'hour', { currency: 'KWD' }), 1235],
  ])('%s', (_, seconds, price, amount) => {
    expect(amountOfTime(seconds, price)).toBe(amount);
  });

  it('is exact where floating point is not, and beyond safe products', () => {
    // 1.005 × 100 is 100.49999999999999 in floating point.
    expect(amountOfTime(3600, at('1.005', 'hour'))).toBe(101);
    const huge = at('999999999.9999', 'hour', { markup: '33.3333' });
    // By hand: 999999999.9999 × 168 × 1.333333 = 223999943999.9776000056 major units.
    expect(amountOfTime(604_800, huge)).toBe(22_399_994_399_998);
  });

  it('agrees with one big fraction for any input', () => {
    fc.assert(
      fc.property(
        fc.nat(10_000_000),
        fc.integer({ min: 0, max: 9_999_999_999 }),
        fc.nat(2_000_000),
        (seconds, price, markup) => {
          const amount = amountOfTime(seconds, at(fromScaled(price), 'hour', { markup: fromScaled(markup) }));
          const top = BigInt(seconds) * BigInt(price) * 100n * BigInt(1_000_000 + markup);
          const bottom = 3600n * 10_000n * 1_000_000n;
          const twice = top * 2n - BigInt(amount) * bottom * 2n;
          // Within half a penny of the true value, halves upwards.
          expect(twice >= -bottom && twice < bottom).toBe(true);
        },
      ),
    );
  });
});

describe('rounding rules', () => {
  it.each([
    ['half away from zero', [3, -3, 2, 4]],
    ['half to even', [2, -2, 2, 4]],
    ['away from zero', [3, -3, 3, 4]],
    ['towards zero', [2, -2, 2, 3]],
  ] as const)('%s settles 2.5, -2.5, 2.25 and 3.75', (rule, wanted) => {
    expect([10, -10, 9, 15].map((quarters) => divideRounded(quarters, 4, rule))).toEqual(wanted);
  });

  it('gives the same for numbers and big integers', () => {
    fc.assert(
      fc.property(
        fc.maxSafeInteger(),
        fc.integer({ min: 1, max: 1_000_000 }),
        fc.constantFrom(...roundingRules),
        (top, bottom, rule) => {
          expect(divideRounded(top, bottom, rule)).toBe(divideRounded(BigInt(top), BigInt(bottom), rule));
        },
      ),
    );
  });

  it('refuses sums that could not be exact', () => {
    expect(() => sumExact([Number.MAX_SAFE_INTEGER, 1])).toThrow(fault('too-large'));
  });
});

describe('sharing out', () => {
  it('gives the left-over pennies to the largest remainders', () => {
    // 100 over 1:1:1 leaves one penny, which the first takes; over 1:2:4 the remainders are .29, .57, .14.
    expect(shareOut(100, [1, 1, 1])).toEqual([34, 33, 33]);
    expect(shareOut(100, [1, 2, 4])).toEqual([14, 29, 57]);
    expect(shareOut(-100, [1, 1, 1])).toEqual([-34, -33, -33]);
    expect(shareOut(5, [0, 0])).toEqual([3, 2]);
  });

  it('always sums to the whole and is within one of the exact share', () => {
    const weights = fc.array(fc.nat(1_000_000_000), { minLength: 1, maxLength: 40 });
    fc.assert(
      fc.property(fc.integer({ min: -1e12, max: 1e12 }), weights, (total, list) => {
        const parts = shareOut(total, list);
        expect(parts.reduce((sum, part) => sum + part, 0)).toBe(total);
        const sum = list.reduce((a, b) => a + b, 0);
        if (sum === 0) return;
        parts.forEach((part, index) => {
          const over = BigInt(part) * BigInt(sum) - BigInt(total) * BigInt(list[index]!);
          expect(over < BigInt(sum) && over > -BigInt(sum)).toBe(true);
        });
      }),
    );
  });

  it.each([[[]], [[-1, 2]], [[0.5]]])('refuses the weights %j', (weights) => {
    expect(() => shareOut(1, weights)).toThrow();
  });
});

describe('tax', () => {
  const vat = { id: 'vat', name: 'VAT', percent: '20' };
  const reduced = { id: 'red', name: 'VAT', percent: '5' };

  // Source: EN 16931-1 BR-CO-14 and BR-CO-17: tax per rate on the sum of its lines.
  it('is computed on the net total of each rate', () => {
    const lines = [33, 33, 33].map((amount) => ({ amount, taxId: 'vat' }));
    expect(totalsOf(lines, [vat], 'invoice')).toMatchObject({ net: 99, tax: 20, total: 119 });
  });

  // Source: HMRC Notice 700 §17.5 (from memory): each line's tax rounded, then summed.
  it('or line by line', () => {
    const lines = [33, 33, 33].map((amount) => ({ amount, taxId: 'vat' }));
    expect(totalsOf(lines, [vat], 'line')).toMatchObject({ net: 99, tax: 21, total: 120 });
  });

  it('keeps several rates and untaxed lines apart', () => {
    const lines = [
      { amount: 10_000, taxId: 'vat' },
      { amount: 1_001, taxId: 'red' },
      { amount: 500, taxId: null },
    ];
    const totals = totalsOf(lines, [vat, reduced], 'invoice');
    expect(totals.taxes.map(({ basis, amount }) => [basis, amount])).toEqual([
      [10_000, 2_000],
      [1_001, 50],
    ]);
    expect(totals).toMatchObject({ net: 11_501, tax: 2_050, total: 13_551 });
  });

  it('adds up: net is the sum of lines, total is net and taxes', () => {
    const line = fc.record({ amount: fc.integer({ min: -1e9, max: 1e9 }), taxId: fc.constantFrom('vat', 'red', null) });
    fc.assert(
      fc.property(fc.array(line), fc.constantFrom('invoice' as const, 'line' as const), (lines, method) => {
        const totals = totalsOf(lines, [vat, reduced], method);
        expect(totals.net).toBe(sumExact(lines.map((each) => each.amount)));
        expect(totals.total).toBe(totals.net + sumExact(totals.taxes.map((part) => part.amount)));
        if (method === 'invoice')
          for (const part of totals.taxes) expect(part.amount).toBe(percentOf(part.basis, part.tax.percent, RULE));
      }),
    );
  });
});

describe('markup and margin', () => {
  // Source: the usual arithmetic tables: margin = markup ÷ (1 + markup), in hundredths of a percent.
  it.each([
    ['25', 2000],
    ['35', 2593],
    ['50', 3333],
    ['100', 5000],
  ])('%s %% markup', (markup, margin) => {
    const cost = 1_000_000;
    const price = cost + percentOf(cost, markup, RULE);
    expect(divideRounded((price - cost) * 10_000, price, RULE)).toBe(margin);
  });
});

describe('figures as people write them', () => {
  it.each([
    ['85', '85'],
    ['85.50', '85.5'],
    ['1,250', '1250'],
    ['.5', '0.5'],
    ['007', '7'],
    ['0.0125', '0.0125'],
    ['-3.5', '-3.5'],
    ['-0', '0'],
  ])('reads “%s” as %s', (text, decimal) => {
    expect(readDecimal(text)).toBe(decimal);
  });

  it('reads a comma before decimals, and three figures behind one as a thousand', () => {
    const read = (text: string) => readDecimal(text, 'rate');
    expect([read('85,50'), read('85,5'), read('0,0125'), read('1,250'), read('1.250,75')]).toEqual([
      '85.5',
      '85.5',
      '0.0125',
      '1250',
      '1250.75',
    ]);
    expect([readAmount('73,67', 'GBP'), readAmount('1,250', 'GBP')]).toEqual([7367, 125_000]);
  });

  it('reads a rate with its unit', () => {
    expect(readRate('85,50')).toEqual({ price: '85.5', unit: null });
    expect(readRate('£78 an hour')).toEqual({ price: '78', unit: 'hour' });
    expect(readRate('2/min')).toEqual({ price: '2', unit: 'minute' });
    expect(readRate('600 a day')).toEqual({ price: '600', unit: 'day' });
    expect(readHourly('2/min')).toBe('120');
    expect(readHourly('0.02 / s')).toBe('72');
    expect(() => readHourly('600/day')).toThrow(fault('not-per-hour'));
    expect(() => readRate('-3')).toThrow(fault('negative'));
  });

  it.each(['', 'abc', '1.23456', '1..2', '1,23,4', '12345678901', '1e5', 'NaN'])('refuses “%s”', (text) => {
    expect(() => readDecimal(text, 'rate')).toThrow();
  });

  it('says how many decimals are too many', () => {
    expect(() => readDecimal('85.12345', 'rate')).toThrow('A rate has at most four decimals; “85.12345” has 5.');
  });

  it('prints decimals so that they read back the same', () => {
    fc.assert(
      fc.property(fc.integer({ min: -9_999_999_999_999, max: 9_999_999_999_999 }), (scaled) => {
        expect(toScaled(fromScaled(scaled))).toBe(scaled);
        expect(readDecimal(showDecimal(fromScaled(scaled), 2))).toBe(fromScaled(scaled));
      }),
    );
  });

  it('prints amounts so that they read back the same', () => {
    fc.assert(
      fc.property(fc.maxSafeInteger(), fc.constantFrom('GBP', 'JPY', 'KWD', 'CLF'), (minor, currency) => {
        expect(readAmount(plainAmount(minor, currency), currency)).toBe(minor);
        expect(readAmount(bareAmount(minor, currency), currency)).toBe(minor);
      }),
    );
  });

  it('shows amounts with their sign, exact at any size', () => {
    expect(showAmount(123_456, 'GBP')).toBe('£1,234.56');
    expect([showAbout(6249, 'GBP'), showAbout(6250, 'GBP'), showAbout(1240, 'JPY')]).toEqual(['£62', '£63', '¥1,240']);
    expect(showAmount(Number.MAX_SAFE_INTEGER, 'GBP')).toBe('£90,071,992,547,409.91');
    expect(() => readAmount('1.234', 'GBP')).toThrow(/2 decimals/);
    expect(() => readAmount('12.5', 'JPY')).toThrow(fault('too-many-decimals'));
  });
});
