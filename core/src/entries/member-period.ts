import { billableOf } from '../billing/billed-lengths';
import { isApproved, isHandedIn, standingOfPeriod, type PeriodStanding } from '../checking/standing';
import { memberPeriodOf, sheetOn } from '../checking/periods';
import type { Closing, Cost, Entry, Timesheet, Workspace } from '../model/records';
import { daysBetween, daysFrom, type Day } from '../time/day';
import type { Seconds } from '../time/length';
import type { Period } from '../time/periods';
import { overlapping } from './day';
import { missingIn, type Missing, type MissingInput } from './missing';
import { partsByDay } from './spans';
import { weekOf } from './week';

const DAY_LONG = 86_400;

/** A member's week or billing period as it stands in checking. */
export interface MemberPeriod {
  period: Period;
  sheet: Timesheet | undefined;
  standing: PeriodStanding;
  /** After breaks. */
  recorded: Seconds;
  owed: Seconds;
  billable: Seconds;
  /** Of what is recorded. */
  approved: Seconds;
  missing: Missing;
  /** Entries whose times overlap another's. */
  overlaps: Entry[];
  /** Days with more than 24 hours on them. */
  longDays: { day: Day; seconds: Seconds }[];
  /** Days since it should have been handed in; 0 where it is, or is not over. */
  late: number;
  entries: Entry[];
  costs: Cost[];
}

export interface MemberPeriodInput extends Omit<MissingInput, 'days' | 'cutOff'> {
  workspace: Pick<Workspace, 'handsIn' | 'periods' | 'cutOff'>;
  /** A day of the period. */
  day: Day;
  /** The member's own costs. */
  costs: readonly Cost[];
  sheets: readonly Timesheet[];
  closings: readonly Closing[];
  /** From when hours can be missing. */
  began: Day;
}

/** How a member's week or billing period stands: what is recorded and owed, what is missing, how far it is in checking. */
export function memberPeriod(input: MemberPeriodInput): MemberPeriod {
  const { workspace, member, day, today, breakRule, absences, closings, began } = input;
  const sheets = input.sheets.filter((sheet) => sheet.memberId === member.id);
  const period = memberPeriodOf(workspace, sheets, day);
  const within = (each: { day: Day; memberId: string | null }) =>
    each.memberId === member.id && period.from <= each.day && each.day <= period.to;
  const entries = input.entries.filter(within);
  const costs = input.costs.filter(within);
  const plans = input.plans.filter(within);
  const days = daysFrom(period.from, period.to);
  const week = weekOf({ member, days, entries, plans, absences, breakRule });
  // What lies ahead is not missing yet, and nothing is before the member began.
  const over = days.filter((each) => each <= today && each >= began);
  const missing = missingIn({ ...input, days: over, entries, plans, cutOff: workspace.cutOff });
  const clashing = overlapping(entries);
  const perDay = new Map<Day, Seconds>();
  for (const entry of entries)
    for (const part of partsByDay(entry, member.zone)) perDay.set(part.day, (perDay.get(part.day) ?? 0) + part.seconds);
  const sheet = sheetOn(sheets, period.from);
  const standing = standingOfPeriod(member.id, period, { sheets, closings, checked: [...entries, ...costs] });
  // Nobody waits for the week of a member whom nobody checks.
  const isLate =
    member.checkerId !== null && !isHandedIn(sheet) && standing !== 'closed' && period.to < today && period.to >= began;
  return {
    period,
    sheet,
    standing,
    recorded: week.recorded - week.deducted,
    owed: week.owed,
    billable: entries.reduce((sum, entry) => sum + billableOf(entry), 0),
    approved: entries.reduce((sum, entry) => sum + (isApproved(entry) ? entry.seconds : 0), 0),
    missing,
    overlaps: entries.filter(({ id }) => clashing.has(id)),
    longDays: [...perDay].flatMap(([each, seconds]) => (seconds > DAY_LONG ? [{ day: each, seconds }] : [])),
    late: isLate ? daysBetween(period.to, today) : 0,
    entries,
    costs,
  };
}

/** How many things are missing or odd before a period is handed in. */
export const countMissing = ({
  missing,
  overlaps,
  longDays,
}: Pick<MemberPeriod, 'missing' | 'overlaps' | 'longDays'>) =>
  missing.days.length +
  missing.unlisted.length +
  missing.incomplete.length +
  missing.undone.length +
  (overlaps.length > 0 ? 1 : 0) +
  longDays.length;
