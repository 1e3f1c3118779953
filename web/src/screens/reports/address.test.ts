import { fieldNames, measureNames, plainDefinition, type Definition } from '@half-penny/core/reports';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isReportDue } from '../../data/report-due';
import { fromAddress, inAddress } from './address';
import { fault } from '@half-penny/core/testing';

describe('a question in an address', () => {
  it('comes back as it was, whatever it asks', () => {
    const filter = fc.record({
      field: fc.constantFrom(...fieldNames),
      keys: fc.array(fc.string({ maxLength: 30 }), { maxLength: 3 }),
      without: fc.boolean(),
    });
    const definition: fc.Arbitrary<Definition> = fc.record({
      rows: fc.uniqueArray(fc.constantFrom(...fieldNames), { maxLength: 8 }),
      columns: fc.constantFrom(null, 'month', 'hour', 'weekday'),
      measures: fc.uniqueArray(fc.constantFrom(...measureNames), { minLength: 1, maxLength: 12 }),
      filters: fc.array(filter, { maxLength: 4 }),
      when: fc.constantFrom(
        { kind: 'all' },
        { kind: 'moving', name: 'last month' },
        { kind: 'fixed', from: '2026-01-01', to: '2026-03-31' },
      ),
      compare: fc.constantFrom(null, 'before', 'year before'),
      sortBy: fc.option(fc.constantFrom(...measureNames)),
      chart: fc.constantFrom(null, 'bars', 'heat'),
    }) as fc.Arbitrary<Definition>;
    fc.assert(
      fc.property(definition, (asked) => {
        const address = new URLSearchParams({ ask: inAddress(asked) }).toString();
        expect(fromAddress(new URLSearchParams(address).get('ask')!)).toEqual({ definition: asked, left: [] });
      }),
    );
    expect(inAddress(plainDefinition)).toBe('{}');
  });

  it('is answered in words where it is none', () => {
    for (const text of ['', 'x', '[]', 'null', '3']) {
      expect(() => fromAddress(text)).toThrow(fault('other-file'));
    }
  });
});

describe('a report that waits', () => {
  it('is ready from its day of the month until it was looked at', () => {
    const on = (today: string, seenOn: string | null, readyOn: number | null = 3) =>
      isReportDue({ readyOn, seenOn }, today);
    expect(on('2026-11-02', null)).toBe(false);
    expect(on('2026-11-03', null)).toBe(true);
    expect(on('2026-11-30', '2026-10-31')).toBe(true);
    expect(on('2026-11-30', '2026-11-03')).toBe(false);
    expect(on('2026-12-02', '2026-11-03')).toBe(false);
    expect(on('2026-12-03', '2026-11-03')).toBe(true);
    expect(on('2026-12-03', null, null)).toBe(false);
  });
});
