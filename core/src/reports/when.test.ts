import { describe, expect, it } from 'vitest';
import { rangeBefore, rangeOf, rangeYearBefore, type Moving } from './when';

const calendar = { periods: { kind: 'monthly' as const, startsOn: 1 }, cutOff: 7 };
const on = (name: Moving, day: string) => {
  const { from, to } = rangeOf({ kind: 'moving', name }, day, calendar)!;
  return `${from} ${to}`;
};

describe('days of a report', () => {
  it.each([
    ['this week', '2026-11-25', '2026-11-23 2026-11-29'],
    ['last week', '2026-11-23', '2026-11-16 2026-11-22'],
    ['this month', '2026-02-28', '2026-02-01 2026-02-28'],
    ['last month', '2026-03-31', '2026-02-01 2026-02-28'],
    ['last month', '2026-01-15', '2025-12-01 2025-12-31'],
    ['this quarter', '2026-11-25', '2026-10-01 2026-12-31'],
    ['last quarter', '2026-02-01', '2025-10-01 2025-12-31'],
    ['last year', '2026-07-01', '2025-01-01 2025-12-31'],
    ['last 30 days', '2026-03-01', '2026-01-31 2026-03-01'],
    ['last 12 months', '2026-11-25', '2025-12-01 2026-11-30'],
    ['last billing period', '2026-03-31', '2026-02-01 2026-02-28'],
  ] as const)('%s, run on %s, is %s', (name, day, expected) => {
    expect(on(name, day)).toBe(expected);
  });

  it('have no billing period where none was set up', () => {
    const none = { periods: { kind: 'own' as const, starts: [] }, cutOff: 7 };
    expect(() => rangeOf({ kind: 'moving', name: 'billing period' }, '2026-11-25', none)).toThrow(
      'No billing period holds that day',
    );
  });

  it('before whole months are as many whole months', () => {
    expect(rangeBefore({ from: '2026-03-01', to: '2026-03-31' })).toEqual({ from: '2026-02-01', to: '2026-02-28' });
    expect(rangeBefore({ from: '2026-10-01', to: '2026-12-31' })).toEqual({ from: '2026-07-01', to: '2026-09-30' });
    expect(rangeBefore({ from: '2026-11-03', to: '2026-11-09' })).toEqual({ from: '2026-10-27', to: '2026-11-02' });
  });

  it('a year before are the same days, and the end of February is its end', () => {
    expect(rangeYearBefore({ from: '2024-02-01', to: '2024-02-29' })).toEqual({ from: '2023-02-01', to: '2023-02-28' });
    expect(rangeYearBefore({ from: '2025-02-01', to: '2025-02-28' })).toEqual({ from: '2024-02-01', to: '2024-02-29' });
    expect(rangeYearBefore({ from: '2026-11-03', to: '2026-11-09' })).toEqual({ from: '2025-11-03', to: '2025-11-09' });
  });
});
