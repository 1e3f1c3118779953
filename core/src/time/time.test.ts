import fc from 'fast-check';
import { DateTime } from 'luxon';
import { describe, expect, it } from 'vitest';
import {
  addDays,
  billedLengths,
  boundsOfDay,
  covered,
  dayOf,
  gaps,
  instantAt,
  isDay,
  isoWeekOf,
  minuteOf,
  overlapOf,
  readClock,
  readLength,
  roundLength,
  showDecimalHours,
  showExactly,
  showLength,
  weekdayOf,
  type RoundingPolicy,
} from '.';
import { runs } from '../testing/runs';

const HOUR_MS = 3_600_000;
const someDay = fc.integer({ min: 0, max: 29_000 }).map((days) => addDays('1985-01-01', days));
const zone = fc.constantFrom(
  'Europe/London',
  'America/New_York',
  'Australia/Lord_Howe',
  'Asia/Kolkata',
  'Pacific/Apia',
  'UTC',
  'America/Sao_Paulo',
);

describe('reading lengths', () => {
  it.each([
    ['1.5', 5400],
    ['1,5', 5400],
    ['1:30', 5400],
    ['90m', 5400],
    ['1h 30', 5400],
    ['1h30m', 5400],
    ['1 h 30 min', 5400],
    ['1.5 hours', 5400],
    ['.2', 720],
    ['2', 7200],
    ['0:12:30', 750],
    ['45 s', 45],
    ['1 h 10 s', 3610],
    ['9-10:30', 5400],
    ['9.15 to 11', 6300],
    ['09:15–11:00', 6300],
    ['1pm-2:30 pm', 5400],
    ['22:00 - 24:00', 7200],
    ['1h30', 5400],
    ['2,', 7200],
    ['half an hour', 1800],
    ['a quarter of an hour', 900],
    ['three-quarters of an hour', 2700],
    ['an hour and a half', 5400],
    ['two and a half hours', 9000],
    ['1 hour and 20 mins', 4800],
    ['3/4 h', 2700],
    ['1½ h', 5400],
    ['1 1/3 h', 4800],
    // An end before its start is of the next day.
    ['23:30-0:45', 4500],
    ['22-1', 10_800],
    ['10pm to 1am', 10_800],
    ['from 22:00 to 1:00', 10_800],
    ['10:30-9', 81_000],
    // Half a day that is said once holds for both ends, as far as it can.
    ['2-3pm', 3600],
    ['11-1pm', 7200],
    ['10-2am', 14_400],
    ['1pm to 3', 7200],
    ['noon to 2', 7200],
    ['10pm-midnight', 7200],
    ['midnight to 1', 3600],
  ])('“%s” is %i seconds', (text, seconds) => {
    expect(readLength(text).seconds).toBe(seconds);
  });

  it.each([
    ['', /cannot be read/],
    ['soon', /cannot be read/],
    ['1:75', /cannot be read/],
    ['90', /90 what\?.*90m/],
    ['0', /nothing/],
    ['200h', /longer than a week/],
    ['9-9', /nothing/],
    ['9-25', /from–to/],
    ['-3', /cannot be read/],
  ])('refuses “%s” in words', (text, message) => {
    expect(() => readLength(text)).toThrow(message);
  });

  it('reads back what it prints, to the minute and to the second', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 168 * 60 - 1 }), fc.nat(59), (minutes, rest) => {
        expect(readLength(showLength(minutes * 60)).seconds).toBe(minutes * 60);
        expect(readLength(showExactly(minutes * 60 + rest)).seconds).toBe(minutes * 60 + rest);
      }),
      { examples: [[168 * 60 - 1, 59]] },
    );
  });

  it('reads times of day', () => {
    expect(['9', '9:05', '0905', '12 am', '12pm', '24:00', '25', '9:60', '13pm'].map(readClock)).toEqual([
      540,
      545,
      545,
      0,
      720,
      1440,
      null,
      null,
      null,
    ]);
  });

  it('shows decimal hours rounded half up without floating point', () => {
    expect([900, 5400, 18, 17, 3599].map((seconds) => showDecimalHours(seconds))).toEqual([
      '0.25',
      '1.50',
      '0.01',
      '0.00',
      '1.00',
    ]);
  });
});

describe('days', () => {
  // Source: IANA tz, through luxon as an independent implementation.
  it('have the bounds luxon gives them', () => {
    fc.assert(
      fc.property(someDay, zone, (day, where) => {
        // Apia had no 30 December 2011 at all.
        fc.pre(!(where === 'Pacific/Apia' && day === '2011-12-30'));
        const start = DateTime.fromISO(day, { zone: where }).startOf('day');
        expect(boundsOfDay(day, where)).toEqual({
          start: start.toMillis(),
          end: start.plus({ days: 1 }).startOf('day').toMillis(),
        });
      }),
      { numRuns: runs(300) },
    );
  });

  it.each([
    ['2026-03-29', 'Europe/London', 23],
    ['2026-10-25', 'Europe/London', 25],
    ['2026-10-04', 'Australia/Lord_Howe', 23.5],
    ['2026-11-12', 'Europe/London', 24],
  ])('%s in %s lasts %d hours', (day, where, hours) => {
    const { start, end } = boundsOfDay(day, where);
    expect((end - start) / HOUR_MS).toBe(hours);
  });

  it('find the day and minute of any instant, as luxon does', () => {
    fc.assert(
      fc.property(fc.integer({ min: 500_000_000, max: 4_000_000_000 }), zone, (seconds, where) => {
        const there = DateTime.fromSeconds(seconds, { zone: where });
        expect(dayOf(seconds * 1000, where)).toBe(there.toISODate());
        expect(minuteOf(seconds * 1000, where)).toBe(there.hour * 60 + there.minute);
      }),
      { numRuns: runs(300) },
    );
  });

  it('agree with luxon in every zone that Intl knows, around a change of clocks and far from one', () => {
    const moments = ['2026-01-15T23:59:59Z', '2026-03-29T01:00:00Z', '2026-10-25T00:59:59Z', '2011-12-29T22:00:00Z'];
    const zones = Intl.supportedValuesOf('timeZone');
    expect(zones.length).toBeGreaterThan(300);
    for (const where of zones) {
      for (const moment of moments) {
        const there = DateTime.fromISO(moment, { zone: where });
        expect([where, dayOf(there.toMillis(), where)]).toEqual([where, there.toISODate()]);
        expect([where, minuteOf(there.toMillis(), where)]).toEqual([where, there.hour * 60 + there.minute]);
      }
    }
  });

  it('turn a wall-clock time into the instant luxon does', () => {
    fc.assert(
      fc.property(someDay, fc.nat(1439), fc.constantFrom('Europe/London', 'America/New_York'), (day, minute, where) => {
        const [year, month, date] = day.split('-').map(Number) as [number, number, number];
        const there = DateTime.fromObject(
          { year, month, day: date, hour: Math.floor(minute / 60), minute: minute % 60 },
          { zone: where },
        );
        const own = instantAt(day, minute, where);
        // In the hour that occurs twice, ours is the first; luxon does not say which it takes.
        expect([0, HOUR_MS]).toContain(Math.abs(there.toMillis() - own));
        if (there.getPossibleOffsets().length === 1) expect(own).toBe(there.toMillis());
      }),
      { numRuns: runs(300) },
    );
  });

  it('number weeks by ISO 8601', () => {
    expect(isoWeekOf('2027-01-03')).toEqual({ year: 2026, week: 53 });
    fc.assert(
      fc.property(someDay, (day) => {
        const there = DateTime.fromISO(day, { zone: 'UTC' });
        expect(isoWeekOf(day)).toEqual({ year: there.weekYear, week: there.weekNumber });
        expect(weekdayOf(day)).toBe(there.weekday);
      }),
    );
  });

  it.each(['2026-02-29', '2026-13-01', '2026-1-1', 'today', ''])('“%s” is not one', (text) => {
    expect(isDay(text)).toBe(false);
  });
});

describe('intervals', () => {
  const interval = fc.tuple(fc.nat(1000), fc.nat(200)).map(([start, length]) => ({ start, end: start + length }));
  it('cover and leave gaps that together make the whole', () => {
    fc.assert(
      fc.property(fc.array(interval), (list) => {
        const bounds = { start: 0, end: 1200 };
        const free = gaps(list, bounds);
        expect(covered(free) + covered(list)).toBe(1200);
        for (const gap of free) for (const busy of list) expect(overlapOf(gap, busy)).toBe(0);
      }),
    );
  });
});

describe('rounding policies', () => {
  const policy = (
    increment: number,
    direction: RoundingPolicy['direction'],
    more: Partial<RoundingPolicy> = {},
  ): RoundingPolicy => ({
    increment,
    direction,
    minimum: 0,
    per: 'entry',
    ...more,
  });

  // Source: the standard six-minute billing table: 1–6 min 0.1 … 55–60 min 1.0.
  it('makes tenths of an hour as the billing table has them', () => {
    for (let minutes = 1; minutes <= 60; minutes++) {
      expect(showDecimalHours(roundLength(minutes * 60, policy(360, 'up')))).toBe(
        `${minutes > 54 ? 1 : 0}.${Math.ceil(minutes / 6) % 10}0`,
      );
    }
  });

  // Source: 29 CFR 785.48(b): to the nearest 5 minutes, tenth or quarter of an hour.
  it.each([
    [300, 2 * 60 + 29, 0],
    [300, 2 * 60 + 30, 300],
    [360, 3 * 60 - 1, 0],
    [360, 3 * 60, 360],
    [900, 7 * 60 + 29, 0],
    [900, 7 * 60 + 30, 900],
    [900, 22 * 60, 900],
    [900, 23 * 60, 1800],
  ])('nearest %i s makes %i s into %i s', (increment, seconds, rounded) => {
    expect(roundLength(seconds, policy(increment, 'nearest'))).toBe(rounded);
  });

  it('knows down, minima, and that nothing stays nothing', () => {
    expect(roundLength(1799, policy(900, 'down'))).toBe(900);
    expect(roundLength(10, policy(360, 'up', { minimum: 900 }))).toBe(900);
    expect(roundLength(0, policy(360, 'up', { minimum: 900 }))).toBe(0);
  });

  it('rounds a day and job once and shares it out, whatever the order', () => {
    const entry = fc.record({
      seconds: fc.integer({ min: 1, max: 20_000 }),
      day: fc.constantFrom('2026-11-12', '2026-11-13'),
      job: fc.constantFrom('a', 'b'),
    });
    const perDay = policy(900, 'up', { per: 'day and job' });
    fc.assert(
      fc.property(fc.array(entry, { minLength: 1 }), (entries) => {
        const billed = billedLengths(entries, perDay);
        for (const key of new Set(entries.map((each) => each.day + each.job))) {
          const own = entries
            .map((each, index) => ({ ...each, billed: billed[index]! }))
            .filter((each) => each.day + each.job === key);
          const sum = (of: (each: (typeof own)[number]) => number) => own.reduce((total, each) => total + of(each), 0);
          expect(sum((each) => each.billed)).toBe(
            roundLength(
              sum((each) => each.seconds),
              perDay,
            ),
          );
        }
      }),
    );
  });
});
