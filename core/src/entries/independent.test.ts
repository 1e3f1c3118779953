import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runs } from '../testing/runs';
import { addDays, instantAt, weekdayOf, type Day } from '../time';
import { breakOfDay, blankEntry, laterDaysOf, owedOnDay, recordedOn, secondsOf } from '.';

// Days, breaks and owed hours worked out a second time, minute by minute and with nothing of ours but the records.

const ZONE = 'Europe/London';
const MINUTE = 60_000;

const wall = new Intl.DateTimeFormat('en-CA', { timeZone: ZONE, year: 'numeric', month: '2-digit', day: '2-digit' });
/** The day on a wall calendar at a moment. */
const dayAt = (instant: number): Day => wall.format(instant);

/** Around the two nights a year on which clocks change, and a plain one. */
const starts = fc
  .constantFrom('2026-03-28', '2026-10-24', '2026-11-11')
  .chain((day) => fc.integer({ min: 0, max: 3 * 1440 }).map((minutes) => instantAt(day, 0, ZONE) + minutes * MINUTE));
const spans = fc
  .array(fc.tuple(starts, fc.integer({ min: 1, max: 1500 })), { minLength: 1, maxLength: 3 })
  .map((list) => {
    const sorted = list
      .map(([start, minutes]) => ({ start, end: start + minutes * MINUTE }))
      .sort((a, b) => a.start - b.start);
    // Times of one entry do not overlap.
    return sorted.filter(
      (span, index) => index === 0 || span.start >= Math.max(...sorted.slice(0, index).map((each) => each.end)),
    );
  });

const entryOf = (list: { start: number; end: number }[], projectId: string | null = null) => ({
  ...blankEntry({
    id: 'e',
    memberId: 'm',
    day: dayAt(list[0]!.start),
    seconds: secondsOf(list),
    projectId,
  }),
  spans: list,
  laterDays: laterDaysOf(list, ZONE),
});

describe('an entry across midnight', () => {
  it('is on each day as long as a wall calendar says', () => {
    fc.assert(
      fc.property(spans, (list) => {
        const entry = entryOf(list);
        const minutes = new Map<Day, number>();
        for (const { start, end } of list)
          for (let at = start; at < end; at += MINUTE) minutes.set(dayAt(at), (minutes.get(dayAt(at)) ?? 0) + 60);
        for (let day = addDays(entry.day, -1), n = 0; n < 9; day = addDays(day, 1), n++)
          expect([day, recordedOn([entry], day, ZONE)]).toEqual([day, minutes.get(day) ?? 0]);
      }),
      { numRuns: runs(60) },
    );
  });
});

describe('the break rule', () => {
  it('takes off what a minute by minute look at the day says', () => {
    const rule = { after: 6 * 3600, take: 1800, projectId: 'lunch' };
    const day = '2026-11-12';
    const midnight = instantAt(day, 0, ZONE);
    const piece = fc.record({
      from: fc.integer({ min: 0, max: 1380 }),
      length: fc.integer({ min: 1, max: 300 }),
      lunch: fc.boolean(),
    });
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 6 }), (pieces) => {
        const entries = pieces.map(({ from, length, lunch }) =>
          entryOf(
            [{ start: midnight + from * MINUTE, end: midnight + Math.min(1440, from + length) * MINUTE }],
            lunch ? 'lunch' : 'rig',
          ),
        );
        const covered = new Array<boolean>(1440).fill(false);
        let [worked, taken] = [0, 0];
        for (const { from, length, lunch } of pieces) {
          for (let at = from; at < Math.min(1440, from + length); at++) {
            covered[at] = true;
            if (lunch) taken += 60;
            else worked += 60;
          }
        }
        const [first, last] = [covered.indexOf(true), covered.lastIndexOf(true)];
        for (let at = first + 1; first >= 0 && at < last; at++) if (!covered[at]) taken += 60;
        const deducted = worked > rule.after ? Math.max(0, rule.take - taken) : 0;
        expect(breakOfDay(rule, entries, day, ZONE)).toEqual({ worked, taken, deducted });
      }),
      { numRuns: runs(200) },
    );
  });

  it('begins after its hours, not at them', () => {
    const rule = { after: 6 * 3600, take: 1800, projectId: null };
    const of = (minutes: number) => {
      const start = instantAt('2026-11-12', 480, ZONE);
      return breakOfDay(rule, [entryOf([{ start, end: start + minutes * MINUTE }])], '2026-11-12', ZONE).deducted;
    };
    expect([of(359), of(360), of(361)]).toEqual([0, 0, 1800]);
  });
});

describe('owed hours', () => {
  it('are those of the weekday less what is not owed, day by day', () => {
    const absence = fc.record({
      from: fc.integer({ min: 0, max: 13 }),
      days: fc.integer({ min: 0, max: 5 }),
      seconds: fc.option(fc.integer({ min: 1, max: 30_000 })),
      memberId: fc.constantFrom(null, 'm', 'other'),
    });
    const owed = fc.array(fc.integer({ min: 0, max: 30_000 }), { minLength: 7, maxLength: 7 });
    fc.assert(
      fc.property(owed, fc.array(absence, { maxLength: 5 }), (week, list) => {
        const first = '2026-11-02';
        const absences = list.map(({ from, days, seconds, memberId }, index) => ({
          id: String(index),
          memberId,
          from: addDays(first, from),
          to: addDays(first, from + days),
          seconds,
          note: '',
          kind: 'holiday' as const,
          name: '',
        }));
        for (let n = 0; n < 20; n++) {
          const day = addDays(first, n);
          // The second of November 2026 is a Monday.
          let left = week[n % 7]!;
          expect(weekdayOf(day)).toBe((n % 7) + 1);
          for (const { from, days, seconds, memberId } of list) {
            if (memberId === 'other' || n < from || n > from + days) continue;
            left = seconds === null ? 0 : Math.max(0, left - seconds);
          }
          expect(owedOnDay({ id: 'm', owed: week }, day, absences as never)).toBe(left);
        }
      }),
      { numRuns: runs(100) },
    );
  });
});
