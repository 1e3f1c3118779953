import type { Id } from '../model/ids';
import type { Approval, Closing, Member, SentBack, Timesheet } from '../model/records';
import { daysFrom, type Day } from '../time/day';
import type { Period } from '../time/periods';
import { sheetOn } from './periods';

/** How far a week or billing period of a member is. */
export const periodStandings = ['open', 'handed in', 'sent back', 'approved', 'closed'] as const;
export type PeriodStanding = (typeof periodStandings)[number];

/** What is asked of an entry or cost that is checked. */
export interface Checked {
  approval?: Approval | undefined;
  sentBack?: SentBack | undefined;
}

/** Whether as many have looked as need to. */
export const isApproved = ({ approval }: Checked): boolean =>
  approval !== undefined && approval.looks.length >= approval.needs;

/** How far one entry or cost is: looked at where its project asks for a second look that nobody gave yet. */
export const checkedStandings = ['not approved', 'sent back', 'looked at', 'approved'] as const;
export type CheckedStanding = (typeof checkedStandings)[number];

/** How far the checking of an entry or expense is. */
export function standingOfChecked(row: Checked): CheckedStanding {
  if (isApproved(row)) return 'approved';
  if (row.sentBack) return 'sent back';
  return row.approval ? 'looked at' : 'not approved';
}

/** Whether what is on a timesheet lies with the checker now: handed in, and neither taken nor sent back since. */
export function isHandedIn(sheet: Timesheet | undefined): boolean {
  const last = sheet?.steps.at(-1)?.kind;
  return last === 'handed in' || last === 'approved';
}

/** Whether a closing holds a member's day; studio costs are of no member. */
export const holds = (closing: Closing, memberId: Id | null, day: Day): boolean =>
  closing.reopened === null &&
  closing.from <= day &&
  day <= closing.to &&
  (closing.memberId === null || closing.memberId === memberId);

/** What keeps a member's day as it is; undefined where it is open. */
export const closingOn = (closings: readonly Closing[], memberId: Id | null, day: Day): Closing | undefined =>
  closings.find((closing) => holds(closing, memberId, day));

/** What tells how far a period is. */
export interface PeriodRecords {
  /** The member's, of the months that the period touches. */
  sheets: readonly Timesheet[];
  closings: readonly Closing[];
  /** The member's entries and expenses of the period. */
  checked: readonly Checked[];
}

/** How far a member's week or billing period is, from what was done with it. */
export function standingOfPeriod(
  memberId: Id,
  { from, to }: Pick<Period, 'from' | 'to'>,
  { sheets, closings, checked }: PeriodRecords,
): PeriodStanding {
  const closed = closings.length > 0 && daysFrom(from, to).every((day) => closingOn(closings, memberId, day));
  if (closed) return 'closed';
  const sheet = sheetOn(sheets, from);
  const last = sheet?.steps.at(-1)?.kind;
  if (!sheet || sheet.to < to || last === undefined || last === 'taken back') return 'open';
  if (last === 'sent back') return 'sent back';
  return (last === 'approved' || checked.length > 0) && checked.every(isApproved) ? 'approved' : 'handed in';
}

/**
 * Whether somebody may check a member: their checker or the deputy; anybody in the studio where no checker is named.
 *
 * @param whoId who is working; null where nobody said
 */
export function mayCheck(member: Pick<Member, 'checkerId' | 'deputyId'>, whoId: Id | null): boolean {
  if (member.checkerId === null) return true;
  return whoId !== null && (member.checkerId === whoId || member.deputyId === whoId);
}
