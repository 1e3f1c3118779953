import type { UnitRate } from '@half-penny/core/model';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readWritten } from '../screens/costs/read-amount';
import { readPrice, typedMarkup } from './read-price';
import { readTerms } from './read-terms';
import { serviceOf, valueOfService } from './services';
import { whoFields, whoValue } from './who';

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
    expect(() => readWritten('62 furlong', 'GBP', [mile])).toThrow('no unit rate for “furlong”; there are: mile');
    expect(() => readWritten('62 mile', 'EUR', [mile])).toThrow('no unit rate for “mile”');
  });

  it('is refused where it is none of these', () => {
    for (const text of ['', 'twelve', '4 x', 'x 4']) expect(() => readWritten(text, 'GBP', [mile])).toThrow();
  });
});

describe('prices, markups and terms', () => {
  it('are taken as typed, and refused in words', () => {
    expect([readPrice('85'), readPrice('85.5'), readPrice('1,250.75')]).toEqual(['85', '85.5', '1250.75']);
    expect(() => readPrice('-3')).toThrow('A rate cannot be negative.');
    expect(() => readPrice('a lot')).toThrow();
    expect(typedMarkup('35')).toBe('35');
    expect(() => typedMarkup('0.35')).toThrow('Is 35 % meant? Write 35, or 0.35 % with its sign.');
    expect(typedMarkup('0.35 %')).toBe('0.35');
    expect([readTerms('0'), readTerms(' 30 '), readTerms('365')]).toEqual([0, 30, 365]);
    for (const text of ['', '-1', '366', '14.5', 'soon']) {
      expect(() => readTerms(text)).toThrow('Terms are whole days from 0 to 365.');
    }
  });
});

describe('choices as values of lists', () => {
  it('stand for what was chosen', () => {
    const id = fc.option(fc.stringMatching(/^[a-z0-9]{1,12}$/));
    fc.assert(
      fc.property(id, id, (serviceId, kind) => {
        const pick = { serviceId, kindOfWorkId: serviceId === null ? null : kind };
        expect(serviceOf(valueOfService(pick))).toEqual(pick);
      }),
    );
    // Roles are words of the studio's own, with any signs in them.
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), (role) => {
        expect(whoFields(whoValue({ memberId: null, role }))).toEqual({ memberId: null, role });
      }),
    );
    expect(whoFields(whoValue({ memberId: 'm', role: null }))).toEqual({ memberId: 'm', role: null });
    expect(whoFields('')).toEqual({ memberId: null, role: null });
  });
});
