import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rateTyped, typedMarkup } from './read-price';
import { readTerms } from './read-terms';
import { serviceOf, valueOfService } from './services';
import { rateSubjectFields, rateSubjectValue } from './rate-subject';
import { fault } from '@half-penny/core/testing';

describe('prices, markups and terms', () => {
  it('are taken as typed, and refused in words', () => {
    const readPrice = (text: string) => rateTyped(text, 'hour').price;
    expect([readPrice('85'), readPrice('85.5'), readPrice('1,250.75')]).toEqual(['85', '85.5', '1250.75']);
    expect(() => readPrice('-3')).toThrow(fault('negative'));
    expect(() => readPrice('a lot')).toThrow();
    expect(typedMarkup('28')).toBe('28');
    expect(() => typedMarkup('0.28')).toThrow('Is 28 % meant? Write 28, or 0.28 % with its sign.');
    expect(typedMarkup('0.28 %')).toBe('0.28');
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
        expect(rateSubjectFields(rateSubjectValue({ memberId: null, role }))).toEqual({ memberId: null, role });
      }),
    );
    expect(rateSubjectFields(rateSubjectValue({ memberId: 'm', role: null }))).toEqual({ memberId: 'm', role: null });
    expect(rateSubjectFields('')).toEqual({ memberId: null, role: null });
  });
});
