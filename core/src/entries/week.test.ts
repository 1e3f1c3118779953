import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { memberDefaults } from '../model/defaults';
import type { Absence, Entry, Member, PlannedTime } from '../model/records';
import { DAY, ZONE } from '../testing/studio';
import { addDays, daysFrom, firstOfMonth, instantAt, lastOfMonth, startOfWeek, type Day } from '../time';
import {
  blankEntry,
  breakOfDay,
  gapsOfDay,
  missingIn,
  overlapping,
  owedOnDay,
  partsByDay,
  shareOver,
  weekOf,
  withTimes,
} from '.';
import { runs } from '../testing/runs';

const HOUR = 3600;
const member: Member = {
  ...memberDefaults,
  id: 'imogen',
  name: 'Imogen Vale',
  role: '',
  zone: ZONE,
  owed: [7.5, 7.5, 7.5, 7.5, 7.5, 0, 0].map((hours) => hours * HOUR),
};
let count = 0;
const entry = (fields: Partial<Entry> = {}): Entry =>
  blankEntry({ id: `entry ${++count}`, memberId: 'imogen', day: DAY, seconds: HOUR, ...fields });
const at = (from: number, to: number, fields: Partial<Entry> = {}, day = DAY): Entry =>
  withTimes(
    entry(fields),
    [{ start: instantAt(day, from * 60, ZONE), end: instantAt(day, from * 60, ZONE) + (to - from) * HOUR * 1000 }],
    ZONE,
  );
const planned = (day: Day) =>
  ({
    id: 'p',
    memberId: 'imogen',
    day,
    projectId: 'gallery',
    taskId: null,
    unlisted: '',
    seconds: HOUR,
  }) as PlannedTime;
const none = { plans: [], absences: [], breakRule: null };
const holiday: Absence = { id: 'h', memberId: null, name: 'Harbour day', from: DAY, to: DAY, seconds: null };

describe('a week', () => {
  it('has a row for each job, planned time that is not recorded yet, and sums that agree', () => {
    const plan = planned(DAY);
    const days = daysFrom(startOfWeek(DAY), addDays(startOfWeek(DAY), 6));
    const entries = [
      entry({ projectId: 'rig' }),
      entry({ projectId: 'rig', day: days[0]! }),
      entry({ unlisted: 'Hadley Hall' }),
    ];
    const week = weekOf({ ...none, member, days, entries, plans: [plan] });
    expect(week.rows.map((row) => [row.projectId ?? row.unlisted, row.seconds, row.planned])).toEqual([
      ['gallery', 0, HOUR],
      ['rig', 2 * HOUR, 0],
      ['Hadley Hall', HOUR, 0],
    ]);
    expect(week.rows[0]!.cells[3]).toMatchObject({ openSeconds: HOUR, seconds: 0 });
    expect(week).toMatchObject({ recorded: 3 * HOUR, planned: HOUR, owed: 37.5 * HOUR });
    const taken = weekOf({
      ...none,
      member,
      days,
      entries: [...entries, entry({ projectId: 'gallery', planId: 'p' })],
      plans: [plan],
    });
    expect(taken.rows[0]!.cells[3]).toMatchObject({ openSeconds: 0, seconds: HOUR });
  });

  it('comes to the same by weeks and by months, whatever crosses midnight', () => {
    const piece = fc.record({
      day: fc.integer({ min: 0, max: 120 }),
      start: fc.integer({ min: 0, max: 1439 }),
      seconds: fc.integer({ min: 1, max: 200_000 }),
    });
    const first = '2026-09-01';
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 30 }), (pieces) => {
        const entries = pieces.map(({ day, start, seconds }) => {
          const begin = instantAt(addDays(first, day), start, ZONE);
          return withTimes(entry({ projectId: 'rig' }), [{ start: begin, end: begin + seconds * 1000 }], ZONE);
        });
        const days = daysFrom(startOfWeek(first), '2027-01-31');
        const sum = (list: readonly string[]) => weekOf({ ...none, member, days: list, entries }).recorded;
        const weeks = days.filter((day) => startOfWeek(day) === day).map((day) => sum(daysFrom(day, addDays(day, 6))));
        const months = days
          .filter((day) => firstOfMonth(day) === day)
          .map((day) => sum(daysFrom(day, lastOfMonth(day))));
        const total = entries.reduce((all, each) => all + each.seconds, 0);
        expect(weeks.reduce((all, each) => all + each, 0)).toBe(total);
        expect(months.reduce((all, each) => all + each, 0)).toBe(total);
        for (const each of entries) {
          const parts = partsByDay(each, ZONE);
          expect(parts.reduce((all, part) => all + part.seconds, 0)).toBe(each.seconds);
          expect(shareOver(12_345, parts).reduce((all, part) => all + part, 0)).toBe(12_345);
        }
      }),
      { numRuns: runs(60) },
    );
  });

  it('owes less on holidays and absences', () => {
    expect(owedOnDay(member, DAY, [holiday])).toBe(0);
    expect(owedOnDay(member, DAY, [{ ...holiday, memberId: 'teodor' }])).toBe(7.5 * HOUR);
    expect(owedOnDay(member, DAY, [{ ...holiday, seconds: 4 * HOUR }])).toBe(3.5 * HOUR);
    expect(owedOnDay(member, addDays(DAY, 1), [holiday])).toBe(7.5 * HOUR);
  });
});

describe('breaks', () => {
  const rule = { after: 6 * HOUR, take: 1800, projectId: 'lunch' };
  it.each([
    ['six hours or less', [at(9, 15)], 0],
    ['more without a break', [at(9, 17)], 1800],
    ['a gap that was long enough', [at(9, 12), at(13, 18)], 0],
    ['a gap that was too short', [at(9, 12), at(12.25, 18)], 900],
    ['a break recorded on its job', [at(9, 17), entry({ projectId: 'lunch', seconds: 2400 })], 0],
  ])('take off after %s', (_what, entries, deducted) => {
    expect(breakOfDay(rule, entries, DAY, ZONE).deducted).toBe(deducted);
  });

  it('stand apart: no length is made shorter by them', () => {
    const week = weekOf({ ...none, member, days: [DAY], entries: [at(9, 17)], breakRule: rule });
    expect(week.days[0]).toMatchObject({ recorded: 8 * HOUR, deducted: 1800 });
    expect(week.rows[0]!.seconds).toBe(8 * HOUR);
  });
});

describe('a day', () => {
  it('shows gaps and overlaps', () => {
    const entries = [at(9, 10), at(11, 12), at(11.5, 13)];
    expect(gapsOfDay(entries, DAY, ZONE)).toEqual([
      { start: instantAt(DAY, 600, ZONE), end: instantAt(DAY, 660, ZONE) },
    ]);
    expect([...overlapping(entries)]).toEqual([entries[1]!.id, entries[2]!.id]);
  });

  it.each([
    ['2026-03-29', 23],
    ['2026-10-25', 25],
  ])('is as long as it is: %s has %i hours', (day, hours) => {
    const start = instantAt(day, 0, ZONE);
    const whole = withTimes(entry(), [{ start, end: start + 48 * HOUR * 1000 }], ZONE);
    expect(partsByDay(whole, ZONE)[0]).toEqual({ day, seconds: hours * HOUR });
  });
});

describe('what is missing', () => {
  it('names short days, unlisted jobs and entries without what is asked', () => {
    const days = daysFrom('2026-11-09', DAY);
    const entries = [
      entry({ day: '2026-11-09', seconds: 7.5 * HOUR, projectId: 'rig' }),
      entry({ day: '2026-11-10', seconds: 7 * HOUR, projectId: 'rig', note: 'Plot' }),
      entry({ unlisted: 'Hadley Hall', note: 'Survey', seconds: 7.5 * HOUR }),
    ];
    const asked = { ...member, asked: ['job', 'note'] as const };
    const missing = missingIn({
      member: { ...asked, asked: [...asked.asked] },
      days,
      entries,
      absences: [{ ...holiday, from: '2026-11-11', to: '2026-11-11' }],
      breakRule: null,
      plans: [planned('2026-11-11'), planned(DAY)],
      today: DAY,
      cutOff: 7,
    });
    // The day before is over and nothing was recorded for its plan; the week itself is not over.
    expect(missing.undone.map((each) => each.day)).toEqual(['2026-11-11']);
    expect(missing.late).toBe(0);
    expect(missing.days).toEqual([{ day: '2026-11-10', owed: 7.5 * HOUR, recorded: 7 * HOUR, missing: 1800 }]);
    expect(missing.unlisted.map((each) => each.words)).toEqual(['Hadley Hall']);
    expect(missing.incomplete.map((each) => each.lacks)).toEqual([['note']]);
  });

  it('counts lateness from the cut-off of the earliest week, and owes nothing before a member began', () => {
    const input = { entries: [], absences: [], breakRule: null, plans: [], cutOff: 7 };
    const days = daysFrom('2026-11-02', '2026-11-06');
    // That week ended on Sunday 8 November.
    expect(missingIn({ ...input, member, days, today: '2026-11-08' }).late).toBe(0);
    expect(missingIn({ ...input, member, days, today: '2026-11-09' }).late).toBe(1);
    const began = { ...member, owesFrom: '2026-11-05' };
    const { days: short } = missingIn({ ...input, member: began, days, today: '2026-11-09' });
    expect(short.map((each) => each.day)).toEqual(['2026-11-05', '2026-11-06']);
  });
});
