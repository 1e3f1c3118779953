import { describe, expect, it } from 'vitest';
import type { Entry, Member, PlannedTime, Timesheet } from '../model/records';
import { memberDefaults } from '../model/defaults';
import { capacityOf } from './capacity';
import { countMissing, memberPeriod, type MemberPeriodInput } from './member-period';
import { blankEntry } from './timer';

const id = (number: number) => `00000000-0000-7000-8000-${String(number).padStart(12, '0')}`;
const WREN: Member = {
  ...memberDefaults,
  id: id(1),
  name: 'Wren Okafor',
  role: '',
  zone: 'Europe/London',
  owed: [28_800, 28_800, 28_800, 28_800, 28_800, 0, 0],
  checkerId: id(2),
};

let count = 100;
const entry = (day: string, seconds: number, more: Partial<Entry> = {}): Entry =>
  blankEntry({ id: id(count++), memberId: WREN.id, day, seconds, projectId: id(9), ...more });

const approval = { looks: [{ byId: id(2), at: 1 }], needs: 1 as const };

const of = (entries: Entry[], more: Partial<MemberPeriodInput> = {}) =>
  memberPeriod({
    workspace: { periods: { kind: 'monthly', startsOn: 1 }, cutOff: 7 },
    member: WREN,
    day: '2026-11-12',
    today: '2026-11-18',
    entries,
    costs: [],
    absences: [],
    plans: [],
    breakRule: null,
    sheets: [],
    closings: [],
    began: '2026-01-01',
    ...more,
  });

const sheet = (kind: Timesheet['steps'][number]['kind'], more: Partial<Timesheet> = {}): Timesheet => ({
  id: id(50),
  memberId: WREN.id,
  from: '2026-11-09',
  to: '2026-11-15',
  months: ['2026-11'],
  steps: [{ kind, byId: WREN.id, at: 1, reason: '' }],
  ...more,
});

describe('a member’s week', () => {
  it('counts what is recorded, owed, billable and approved of its own days and member', () => {
    const found = of([
      entry('2026-11-09', 28_800, { approval }),
      entry('2026-11-10', 3600, { billableSeconds: 600 }),
      entry('2026-11-16', 7200),
      { ...entry('2026-11-10', 9999), memberId: id(3) },
    ]);
    expect(found).toMatchObject({
      recorded: 32_400,
      owed: 5 * 28_800,
      billable: 29_400,
      approved: 28_800,
      standing: 'open',
      late: 3,
    });
    expect(found.missing.days.map(({ day }) => day)).toEqual(['2026-11-10', '2026-11-11', '2026-11-12', '2026-11-13']);
    expect(countMissing(found)).toBe(4);
  });

  it('is late only where it is over, not handed in, and somebody checks it', () => {
    expect(of([], { today: '2026-11-15' }).late).toBe(0);
    expect(of([], { sheets: [sheet('handed in')] }).late).toBe(0);
    expect(of([], { sheets: [sheet('sent back')] }).late).toBe(3);
    expect(of([], { member: { ...WREN, checkerId: null } }).late).toBe(0);
    expect(of([], { began: '2026-11-16' }).late).toBe(0);
  });

  it('stands where what was done with it leaves it', () => {
    const done = entry('2026-11-09', 3600, { approval });
    const one = entry('2026-11-09', 3600, { approval: { ...approval, needs: 2 } });
    const closing = {
      id: id(60),
      memberId: null,
      from: '2026-11-01',
      to: '2026-11-30',
      byId: id(2),
      at: 2,
      reopened: null,
    };
    expect(of([done], { sheets: [sheet('taken back')] }).standing).toBe('open');
    expect(of([done], { sheets: [sheet('sent back')] }).standing).toBe('sent back');
    expect(of([done], { sheets: [sheet('handed in')] }).standing).toBe('approved');
    expect(of([one], { sheets: [sheet('approved')] }).standing).toBe('handed in');
    expect(of([], { sheets: [sheet('handed in')] }).standing).toBe('handed in');
    expect(of([], { sheets: [sheet('approved')] }).standing).toBe('approved');
    expect(of([done], { closings: [closing] }).standing).toBe('closed');
    expect(of([done], { closings: [{ ...closing, to: '2026-11-12' }] }).standing).toBe('open');
    const reopened = { byId: id(2), at: 3, reason: 'A late slip' };
    expect(of([done], { closings: [{ ...closing, reopened }] }).standing).toBe('open');
  });

  it('is the days that were handed in together, whatever the calendar says now', () => {
    const workspace = {
      periods: { kind: 'monthly' as const, startsOn: 1 },
      cutOff: 7,
      handsIn: 'billing period' as const,
    };
    expect(of([], { workspace }).period).toMatchObject({ from: '2026-11-01', to: '2026-11-30' });
    expect(of([], { workspace, sheets: [sheet('handed in')] }).period).toMatchObject({
      from: '2026-11-09',
      to: '2026-11-15',
    });
    expect(of([], { workspace, sheets: [sheet('handed in')], day: '2026-11-20' }).period).toMatchObject({
      from: '2026-11-16',
      to: '2026-11-30',
    });
  });
});

describe('capacity', () => {
  const plan = (day: string, seconds: number, projectId: string | null, memberId = WREN.id): PlannedTime => ({
    id: id(count++),
    memberId,
    day,
    projectId,
    unlisted: '',
    taskId: null,
    serviceId: null,
    kindOfWorkId: null,
    note: '',
    seconds,
    start: null,
    source: '',
    guests: '',
  });

  it('sets what is planned by job against what is owed, week by week, absences taken off', () => {
    const plans = [
      plan('2026-11-09', 3600, id(9)),
      plan('2026-11-15', 7200, id(9)),
      plan('2026-11-10', 14_400, id(8)),
      plan('2026-11-16', 1800, id(9)),
      plan('2026-11-16', 1800, id(9), id(3)),
      plan('2026-11-23', 1800, id(9)),
    ];
    const away = { id: id(70), memberId: null, name: 'Holiday', from: '2026-11-16', to: '2026-11-17', seconds: null };
    const [wren] = capacityOf({ members: [WREN], from: '2026-11-09', weeks: 2, plans, absences: [away] });
    expect(wren!.weeks).toMatchObject([
      { from: '2026-11-09', to: '2026-11-15', owed: 144_000, planned: 25_200 },
      { from: '2026-11-16', to: '2026-11-22', owed: 86_400, planned: 1800 },
    ]);
    expect(wren!.weeks[0]!.blocks.map(({ seconds, plans: own }) => [seconds, own.length])).toEqual([
      [14_400, 1],
      [10_800, 2],
    ]);
  });
});
