import type { Timesheet, Workspace } from '../model/records';
import { addDays, type Day } from '../time/day';
import { periodOf, weekPeriodOf, type Period } from '../time/periods';

/** The months that days from the first to the last touch, "2026-11". */
export function monthsTouched(from: Day, to: Day): string[] {
  const months: string[] = [];
  for (let month = from.slice(0, 7); month <= to.slice(0, 7); month = monthAfter(month)) months.push(month);
  return months;
}

function monthAfter(month: string): string {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return number === 12 ? `${year + 1}-01` : `${year}-${String(number + 1).padStart(2, '0')}`;
}

/** What is handed in at once around a day: the studio's week, or its billing period. A week where its calendar has no period there. */
export function handInPeriodOf(workspace: Pick<Workspace, 'handsIn' | 'periods' | 'cutOff'>, day: Day): Period {
  const own = workspace.handsIn === 'billing period' ? periodOf(workspace.periods, day) : null;
  return own ?? weekPeriodOf(day, workspace.cutOff);
}

/**
 * The same for a member: the timesheet that the day is on, or the period around it without the days that other timesheets took when the
 * studio handed in by another calendar.
 *
 * @param sheets the member's, of the months around the day
 */
export function memberPeriodOf(
  workspace: Pick<Workspace, 'handsIn' | 'periods' | 'cutOff'>,
  sheets: readonly Timesheet[],
  day: Day,
): Period {
  const period = handInPeriodOf(workspace, day);
  const own = sheetOn(sheets, day);
  if (own) return own.from === period.from && own.to === period.to ? period : { ...period, from: own.from, to: own.to };
  let { from, to } = period;
  for (const sheet of sheets) {
    if (sheet.to < day && sheet.to >= from) from = addDays(sheet.to, 1);
    if (sheet.from > day && sheet.from <= to) to = addDays(sheet.from, -1);
  }
  return { ...period, from, to };
}

/** The timesheet that a day is on. */
export const sheetOn = (sheets: readonly Timesheet[], day: Day): Timesheet | undefined =>
  sheets.find((sheet) => sheet.from <= day && day <= sheet.to);
