import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blankEntry } from '../entries';
import type { Approval, Entry, Timesheet } from '../model/records';
import { addDays, daysFrom } from '../time';
import { runs } from '../testing/runs';
import { checkedFields, differencesSince, fieldsChanged, lineOfEntry } from './checked-line';
import { handInPeriodOf, memberPeriodOf, monthsTouched, sheetOn } from './periods';
import { lookedAt } from './second-look';
import { closingOn, isApproved, isHandedIn, mayCheck, standingOfChecked } from './standing';

const id = (number: number) => `00000000-0000-7000-8000-${String(number).padStart(12, '0')}`;
const day = fc.integer({ min: 0, max: 800 }).map((days) => addDays('2025-10-01', days));
const workspace = fc.record({
  handsIn: fc.constantFrom('week' as const, 'billing period' as const),
  cutOff: fc.integer({ min: 1, max: 7 }),
  periods: fc.oneof(
    fc.record({ kind: fc.constant('monthly' as const), startsOn: fc.integer({ min: 1, max: 28 }) }),
    fc.record({ kind: fc.constant('fortnightly' as const), from: day }),
    fc.record({ kind: fc.constant('4-4-5' as const), from: day }),
  ),
});

const sheetOf = (from: string, to: string): Timesheet => ({
  id: id(1),
  memberId: id(2),
  from,
  to,
  months: monthsTouched(from, to),
  steps: [{ kind: 'handed in', byId: id(2), at: 1, reason: '' }],
});

describe('what is handed in at once', () => {
  it('touches the months of its days and no others', () => {
    expect(monthsTouched('2026-12-28', '2027-02-01')).toEqual(['2026-12', '2027-01', '2027-02']);
    fc.assert(
      fc.property(day, fc.nat(400), (from, length) => {
        const to = addDays(from, length);
        expect(monthsTouched(from, to)).toEqual([...new Set(daysFrom(from, to).map((each) => each.slice(0, 7)))]);
      }),
      { numRuns: runs(200) },
    );
  });

  it('has the day, none of another timesheet, and all days between them, whatever the calendars were', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ workspace, day }), { minLength: 1, maxLength: 30 }), (steps) => {
        const sheets: Timesheet[] = [];
        for (const step of steps) {
          const period = memberPeriodOf(step.workspace, sheets, step.day);
          expect(period.from <= step.day && step.day <= period.to).toBe(true);
          const there = sheetOn(sheets, step.day);
          if (there) {
            expect(period).toMatchObject({ from: there.from, to: there.to });
            continue;
          }
          const whole = handInPeriodOf(step.workspace, step.day);
          for (const each of daysFrom(period.from, period.to)) expect(sheetOn(sheets, each)).toBeUndefined();
          // What it leaves out of the calendar’s period, another one stands before or behind.
          if (period.from > whole.from) expect(sheetOn(sheets, addDays(period.from, -1))).toBeDefined();
          if (period.to < whole.to) expect(sheetOn(sheets, addDays(period.to, 1))).toBeDefined();
          sheets.push(sheetOf(period.from, period.to));
        }
      }),
      { numRuns: runs(150) },
    );
  });
});

describe('an approval', () => {
  const look = (by: number) => ({ byId: id(by), at: by });

  it('takes as many people as it needs, each once, and no more', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 1 }),
        fc.constantFrom(1, 2),
        (people, needs) => {
          let approval: Approval | undefined;
          for (const each of people) approval = lookedAt(approval, needs as 1 | 2, look(each));
          const who = approval!.looks.map(({ byId }) => byId);
          expect(new Set(who).size).toBe(who.length);
          expect(isApproved({ approval })).toBe(new Set(people).size >= needs);
          expect(who.length).toBe(Math.min(needs, new Set(people).size));
        },
      ),
    );
  });

  it('needs as many as when it was begun', () => {
    expect(lookedAt({ looks: [look(1)], needs: 2 }, 1, look(2))).toEqual({ looks: [look(1), look(2)], needs: 2 });
    expect(standingOfChecked({})).toBe('not approved');
    expect(standingOfChecked({ approval: { looks: [look(1)], needs: 2 } })).toBe('looked at');
    expect(standingOfChecked({ sentBack: { byId: id(1), at: 1, reason: 'So' } })).toBe('sent back');
  });

  it('is given by the checker or the deputy; by anybody where there is no checker', () => {
    expect(mayCheck({ checkerId: null }, null)).toBe(true);
    expect(mayCheck({ checkerId: id(1) }, null)).toBe(false);
    expect(mayCheck({ checkerId: id(1) }, id(1))).toBe(true);
    expect(mayCheck({ checkerId: id(1), deputyId: id(3) }, id(3))).toBe(true);
    expect(mayCheck({ checkerId: id(1), deputyId: id(3) }, id(2))).toBe(false);
  });
});

describe('days', () => {
  it('are held by a closing of everybody or of their member, until that is reopened', () => {
    const closing = {
      id: id(1),
      memberId: null,
      from: '2026-11-01',
      to: '2026-11-30',
      byId: id(9),
      at: 1,
      reopened: null,
    };
    expect(closingOn([closing], id(2), '2026-11-30')).toBe(closing);
    expect(closingOn([closing], null, '2026-11-01')).toBe(closing);
    expect(closingOn([closing], id(2), '2026-12-01')).toBeUndefined();
    const own = { ...closing, memberId: id(2) };
    expect(closingOn([own], id(2), '2026-11-12')).toBe(own);
    expect(closingOn([own], id(3), '2026-11-12')).toBeUndefined();
    expect(closingOn([own], null, '2026-11-12')).toBeUndefined();
    const reopened = { byId: id(9), at: 2, reason: 'A late slip' };
    expect(closingOn([{ ...closing, reopened }], id(2), '2026-11-12')).toBeUndefined();
  });

  it('lie with the checker from handing in until they are taken or sent back', () => {
    const after = (kind: Timesheet['steps'][number]['kind']) =>
      isHandedIn({ ...sheetOf('2026-11-09', '2026-11-15'), steps: [{ kind, byId: id(2), at: 1, reason: '' }] });
    expect((['handed in', 'approved', 'taken back', 'sent back'] as const).map(after)).toEqual([
      true,
      true,
      false,
      false,
    ]);
    expect(isHandedIn(undefined)).toBe(false);
  });
});

describe('what differs since it was handed in', () => {
  const entry = fc.record({
    seconds: fc.integer({ min: 1, max: 40_000 }),
    note: fc.constantFrom('', 'Focus', 'Travel'),
    projectId: fc.constantFrom(null, id(50), id(51)),
    serviceId: fc.constantFrom(null, id(60)),
    day: fc.constantFrom('2026-11-09', '2026-11-12'),
  });
  const list = fc.array(entry, { maxLength: 12 });
  const made = (rows: readonly Partial<Entry>[], first: number): Entry[] =>
    rows.map((row, index) =>
      blankEntry({ id: id(first + index), memberId: id(2), day: '2026-11-09', seconds: 60, ...row }),
    );

  it('is nothing where nothing changed, and otherwise every entry that came, went or is another, in the order of days', () => {
    fc.assert(
      fc.property(list, list, list, (kept, gone, came) => {
        const before = [...made(kept, 100), ...made(gone, 200)];
        const handIn = { entries: before.map(lineOfEntry) };
        expect(differencesSince(handIn, before)).toEqual([]);
        const after = [
          ...made(kept, 100).map((row, index) => (index % 2 ? { ...row, seconds: row.seconds + 1 } : row)),
          ...made(came, 300),
        ];
        const found = differencesSince(handIn, after);
        const changed = Math.floor(kept.length / 2);
        expect(found.length).toBe(changed + gone.length + came.length);
        expect(found.filter(({ before: was, after: is }) => was && is).map(({ fields }) => fields)).toEqual(
          Array.from({ length: changed }, () => ['length']),
        );
        const days = found.map(({ before: was, after: is }) => (is ?? was)!.day);
        expect(days).toEqual(days.toSorted());
      }),
      { numRuns: runs(150) },
    );
  });

  it('is told field by field, each for itself', () => {
    const spans = [{ start: 0, end: 60_000 }];
    const [one] = made([{ projectId: id(50), spans }], 100);
    const line = lineOfEntry(one!);
    const others: Partial<Entry>[] = [
      { day: '2026-11-10' },
      { projectId: id(51) },
      { serviceId: id(60) },
      { note: 'Focus' },
      { seconds: 61 },
      { spans: [{ start: 60_000, end: 120_000 }] },
      { billableSeconds: 0 },
    ];
    expect(others.flatMap((other) => fieldsChanged(line, lineOfEntry({ ...one!, ...other })))).toEqual([
      ...checkedFields,
    ]);
    expect(fieldsChanged(line, lineOfEntry({ ...one!, tags: ['late'], approval: { looks: [], needs: 1 } }))).toEqual(
      [],
    );
    // What was handed in before times were kept has none to differ.
    const { spans: _times, ...earlier } = line;
    expect(fieldsChanged(earlier, line)).toEqual([]);
  });
});
