import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { showDecimalHours, showMinute, writeClockAs, readClock } from '../time';
import {
  bareAmount,
  fromScaled,
  inStyle,
  numberStyles,
  readAmount,
  readDecimal,
  showAmount,
  showDecimal,
  writeNumbersAs,
} from '.';

afterEach(() => {
  writeNumbersAs('1,234.50');
  writeClockAs('14:05');
});

describe('figures', () => {
  it('are written in the style that was said', () => {
    const written = numberStyles.map((style) => {
      writeNumbersAs(style);
      return [
        showAmount(123_450, 'GBP'),
        bareAmount(123_456_789, 'EUR'),
        showDecimal('1250.5', 2),
        showDecimalHours(5400),
      ];
    });
    expect(written).toEqual([
      ['£1,234.50', '1,234,567.89', '1,250.50', '1.50'],
      ['£1.234,50', '1.234.567,89', '1.250,50', '1,50'],
      ['£1\u202f234,50', '1\u202f234\u202f567,89', '1\u202f250,50', '1,50'],
      ['£1’234.50', '1’234’567.89', '1’250.50', '1.50'],
    ]);
    expect(inStyle('20', '1.234,50')).toBe('20');
    // What was written once stays so, whatever is said later.
    writeNumbersAs('1.234,50');
    expect(showAmount(123_450, 'GBP', '1,234.50')).toBe('£1,234.50');
  });

  it.each([
    ['1.234,50', '1.250,5', '1250.5'],
    ['1.234,50', '85,5', '85.5'],
    ['1.234,50', '85.5', '85.5'],
    ['1.234,50', '1.250', '1250'],
    ['1 234,50', '1 250,5', '1250.5'],
    ['1’234.50', "1'250.5", '1250.5'],
    ['1,234.50', '1,250.5', '1250.5'],
  ] as const)('in the style %s, “%s” is read as %s', (style, typed, read) => {
    writeNumbersAs(style);
    expect(readDecimal(typed)).toBe(read);
    expect(readAmount(typed, 'GBP')).toBe(Math.round(Number(read) * 100));
  });

  it('are read as they are written, in every style', () => {
    fc.assert(
      fc.property(fc.constantFrom(...numberStyles), fc.integer({ min: 0, max: 9_999_999_999 }), (style, scaled) => {
        writeNumbersAs(style);
        const decimal = fromScaled(scaled);
        // Three decimals without a thousand before them could be either; at least two places tell.
        expect(readDecimal(showDecimal(decimal, 4))).toBe(decimal);
        expect(readAmount(bareAmount(scaled, 'GBP'), 'GBP')).toBe(scaled);
      }),
    );
  });
});

it('times of day are written by the clock of the studio and read by either', () => {
  const minutes = [0, 65, 720, 845, 1439];
  expect(minutes.map((minute) => showMinute(minute))).toEqual(['00:00', '01:05', '12:00', '14:05', '23:59']);
  writeClockAs('2:05 pm');
  expect(minutes.map((minute) => showMinute(minute))).toEqual([
    '12:00 am',
    '1:05 am',
    '12:00 pm',
    '2:05 pm',
    '11:59 pm',
  ]);
  for (let minute = 0; minute < 1440; minute++) expect(readClock(showMinute(minute))).toBe(minute);
});
