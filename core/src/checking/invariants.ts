import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import { sameData } from '../model/canonical';
import { rowsAfter, type Change } from '../model/change';
import { showDayShort } from '../time/day';
import { monthsTouched } from './periods';

/** What must hold of timesheets: they are looked up by the months they touch, and no day of a member is on two. */
export async function checkTimesheets(after: Reader, changes: readonly Change[]): Promise<void> {
  const sheets = rowsAfter(changes, 'timesheets');
  if (sheets.length === 0) return;
  for (const { from, to, months } of sheets) {
    if (!sameData(months, monthsTouched(from, to)))
      throw new Fault('invalid', `These are not the months from ${from} to ${to}.`, 'months');
  }
  const others = await after.by('timesheets', '*months', [...new Set(sheets.flatMap(({ months }) => months))]);
  for (const sheet of sheets) {
    const other = others.find(
      (each) =>
        each.id !== sheet.id && each.memberId === sheet.memberId && each.from <= sheet.to && sheet.from <= each.to,
    );
    if (other) {
      const days = `${showDayShort(other.from)} to ${showDayShort(other.to)}`;
      throw new Fault('overlap', `A timesheet from ${days} has some of these days already.`, 'from', { id: other.id });
    }
  }
}
