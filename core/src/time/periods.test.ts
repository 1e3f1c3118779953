import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, offeredPeriods, periodOf, startOfWeek, weekdayOf, weekPeriodOf, type PeriodRule } from '.';

const rules: PeriodRule[] = [
  { kind: 'monthly', startsOn: 1 },
  { kind: 'monthly', startsOn: 26 },
  { kind: 'fortnightly', from: '2026-01-05' },
  { kind: '4-4-5', from: '2026-01-05' },
  {
    kind: 'own',
    starts: [
      { from: '2026-03-07', name: 'Run' },
      { from: '2026-01-02', name: 'Rehearsals' },
    ],
  },
];

describe('billing periods', () => {
  it.each([
    [0, '2026-11-12', '2026-11-01', '2026-11-30'],
    [1, '2026-01-12', '2025-12-26', '2026-01-25'],
    [2, '2026-01-18', '2026-01-05', '2026-01-18'],
    [2, '2026-01-04', '2025-12-22', '2026-01-04'],
    [3, '2026-02-01', '2026-01-05', '2026-02-01'],
    [3, '2026-03-02', '2026-03-02', '2026-04-05'],
    [4, '2026-02-01', '2026-01-02', '2026-03-06'],
  ])('by rule %i: %s lies in %s to %s', (rule, day, from, to) => {
    expect(periodOf(rules[rule]!, day)).toMatchObject({ from, to });
  });

  it('follow one another without a gap, and every day lies in its own', () => {
    fc.assert(
      fc.property(fc.constantFrom(...rules.slice(0, 4)), fc.integer({ min: -900, max: 900 }), (rule, days) => {
        const day = addDays('2026-11-12', days);
        const period = periodOf(rule, day)!;
        expect(period.from <= day && day <= period.to).toBe(true);
        expect(periodOf(rule, addDays(period.to, 1))!.from).toBe(addDays(period.to, 1));
      }),
    );
  });

  it('are named and offered, weeks by the cut-off day', () => {
    expect(periodOf(rules[0]!, '2026-11-12')!.name).toBe('November 2026');
    expect(periodOf(rules[4]!, '2025-01-01')).toBeNull();
    expect(weekPeriodOf('2026-11-12', 5)).toMatchObject({ from: '2026-11-07', to: '2026-11-13' });
    expect(offeredPeriods(rules[1]!, 7, '2026-11-12').map((each) => each.label)).toEqual([
      'This week',
      'Last week',
      'This billing period',
      'Last billing period',
      'This month',
      'Last month',
    ]);
  });

  it('have weeks of seven days that end on the cut-off', () => {
    for (let cutOff = 1; cutOff <= 7; cutOff++) {
      const first = startOfWeek('2026-11-12', cutOff);
      expect(first <= '2026-11-12' && '2026-11-12' <= addDays(first, 6)).toBe(true);
      expect(weekdayOf(addDays(first, 6))).toBe(cutOff);
    }
  });
});
