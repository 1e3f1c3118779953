import type { UnitRate } from '@half-penny/core/model';
import { describe, expect, it } from 'vitest';
import { readWritten } from './read-amount';
import { fault } from '@half-penny/core/testing';

const mile = { id: 'm', name: 'Own car', unit: 'mile', price: '0.45', currency: 'GBP' } as UnitRate;

describe('an amount that was spent, as written', () => {
  it('is a sum', () => {
    expect(readWritten('12.40', 'GBP', [])).toEqual({ amount: 1240, price: null, quantity: '1', unit: '' });
    expect(readWritten('1,234.50 GBP', 'GBP', []).amount).toBe(123_450);
    expect(readWritten('1200 JPY', 'JPY', []).amount).toBe(1200);
  });

  it('is so many at a price each, with or without what they are', () => {
    for (const text of ['4 x 12.50', '4×12.50', '4 @ 12.50', '4*12.5']) {
      expect(readWritten(text, 'GBP', [])).toMatchObject({ amount: null, quantity: '4', price: '12.5', unit: '' });
    }
    expect(readWritten('3 night x 96', 'GBP', [])).toMatchObject({ quantity: '3', unit: 'night', price: '96' });
  });

  it('is so many of what the studio has a rate for, one or more of them', () => {
    for (const text of ['62 mile', '62 miles', '62 Miles']) {
      expect(readWritten(text, 'GBP', [mile])).toEqual({
        amount: null,
        price: '0.45',
        quantity: '62',
        unit: 'mile',
        rate: mile,
      });
    }
    expect(() => readWritten('62 furlong', 'GBP', [mile])).toThrow(fault('unknown-unit'));
    expect(() => readWritten('62 mile', 'EUR', [mile])).toThrow(fault('unknown-unit'));
  });

  it('is refused where it is none of these', () => {
    for (const text of ['', 'twelve', '4 x', 'x 4']) expect(() => readWritten(text, 'GBP', [mile])).toThrow();
  });
});
