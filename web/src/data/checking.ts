import type { Pricer } from '@half-penny/core/billing';
import {
  handInPeriodOf,
  heldDays,
  isApproved,
  isHandedIn,
  mayCheck,
  monthsTouched,
  sheetOn,
  standingOfPeriod,
  type PeriodStanding,
} from '@half-penny/core/checking';
import { memberPeriod, type MemberPeriod } from '@half-penny/core/entries';
import type { Correction, Cost, CostLine, Entry, HandIn, Id, Member, Timesheet } from '@half-penny/core/model';
import { addDays, daysFrom, type Day, type Period } from '@half-penny/core/time';
import type { WorkspaceDatabase } from './database';
import { useRead } from './read';
import { useSession } from './session';

// What the screens of checking read: timesheets with the entries and expenses that they are about.

/** A member with the week or billing period around a day. */
export interface CheckedMember extends MemberPeriod {
  member: Member;
}

/** How the week or billing period around a day stands for members, in their order. */
export function useMemberPeriods(
  pricer: Pricer | undefined,
  members: readonly Member[],
  day: Day,
  today: Day,
): CheckedMember[] | undefined {
  const { database } = useSession();
  const ids = members.map(({ id }) => id).join(' ');
  return useRead(
    async (reader) => {
      if (!pricer) return undefined;
      const { workspace } = pricer.book;
      const base = handInPeriodOf(workspace, day);
      const sheets = await reader.by('timesheets', '*months', monthsTouched(base.from, base.to));
      const own = sheets.filter((sheet) => sheet.from <= day && day <= sheet.to);
      const from = own.reduce((first, sheet) => (sheet.from < first ? sheet.from : first), base.from);
      const to = own.reduce((last, sheet) => (sheet.to > last ? sheet.to : last), base.to);
      const entries = await database.rows('entries').where('day').between(from, to, true, true).toArray();
      const costs = await database.rows('costs').where('day').between(from, to, true, true).toArray();
      const closings = await reader.all('closings');
      const absences = await reader.all('absences');
      const found: CheckedMember[] = [];
      for (const id of ids.split(' ')) {
        const member = pricer.member.get(id);
        if (!member) continue;
        const plans = await ofMember(database, 'plans', member.id, from, to).toArray();
        const first = member.owesFrom ?? (await ofMember(database, 'entries', member.id, '', '\uffff').first())?.day;
        const input = { workspace, member, day, today, absences, closings, entries, costs, plans, sheets };
        const { breakRule } = workspace;
        found.push({ member, ...memberPeriod({ ...input, breakRule, began: first ?? '9999-12-31' }) });
      }
      return found;
    },
    [database, pricer, ids, day, today],
  );
}

const ofMember = <T extends 'plans' | 'entries'>(
  database: WorkspaceDatabase,
  table: T,
  memberId: Id,
  from: Day,
  to: Day,
) => database.rows(table).where('[memberId+day]').between([memberId, from], [memberId, to], true, true);

/** How far an earlier period of a member is. */
export interface LatePeriod {
  period: Period;
  standing: PeriodStanding;
}

const LATELY = 6;

/** How far each member's periods before a day's own are, the oldest first: by what was done with them as a whole. */
export function useLately(pricer: Pricer, day: Day): ReadonlyMap<Id, LatePeriod[]> | undefined {
  return useRead(
    async (reader) => {
      const { workspace, members } = pricer.book;
      const periods: Period[] = [];
      for (let at = handInPeriodOf(workspace, day); periods.length < LATELY; periods.unshift(at))
        at = handInPeriodOf(workspace, addDays(at.from, -1));
      const months = monthsTouched(periods[0]!.from, periods.at(-1)!.to);
      const sheets = await reader.by('timesheets', '*months', months);
      const closings = await reader.all('closings');
      return new Map(
        members.map(({ id }) => {
          const own = sheets.filter(({ memberId }) => memberId === id);
          const standing = (period: Period) => standingOfPeriod(id, period, { sheets: own, closings, checked: [] });
          return [id, periods.map((period) => ({ period, standing: standing(period) }))] as const;
        }),
      );
    },
    [pricer, day],
  );
}

/** What was handed in on a timesheet, the newest first, and what was corrected of its days since. */
export interface SheetHistory {
  handIns: HandIn[];
  corrections: Correction[];
}

export function useSheetHistory(sheet: Timesheet | undefined): SheetHistory | undefined {
  const { id = '', memberId = '', from = '', to = '' } = sheet ?? {};
  return useRead(
    async (reader) => {
      const handIns = await reader.by('handIns', 'timesheetId', [id]);
      const corrections = (await reader.by('corrections', 'memberId', [memberId])).filter(({ before, after }) =>
        [before, after].some((line) => line && from <= line.day && line.day <= to),
      );
      return {
        handIns: handIns.sort((a, b) => b.at - a.at),
        corrections: corrections.sort((a, b) => b.at - a.at),
      };
    },
    [id, memberId, from, to],
  );
}

/** The days on which nothing can be recorded for a member here: closed, or handed in to somebody else. */
export function useHeldDays(member: Member, from: Day, to: Day): ReadonlySet<Day> | undefined {
  const { memberId } = useSession();
  return useRead((reader) => heldDays(reader, member, daysFrom(from, to), memberId), [member, from, to, memberId]);
}

/** An entry or expense that lies with a checker. */
export type ToCheck =
  | { kind: 'entry'; id: Id; member: Member; sheet: Timesheet; entry: Entry }
  | { kind: 'cost'; id: Id; member: Member; sheet: Timesheet; cost: Cost; lines: CostLine[] };

/** Sheets older than this are not looked for: what was never checked in two years is not waiting. */
const LOOKS_BACK = 731;
const LONG_APPROVED = 92;

/** Everything handed in and not approved that whoever works here may check, in the order of days. */
export function useToCheck(pricer: Pricer | undefined, whoId: Id | null, today: Day): ToCheck[] | undefined {
  const { database } = useSession();
  return useRead(
    async (reader) => {
      if (!pricer) return undefined;
      const months = monthsTouched(addDays(today, -LOOKS_BACK), addDays(today, 370));
      const sheets = (await reader.by('timesheets', '*months', months)).filter(isHandedIn);
      const found: ToCheck[] = [];
      for (const sheet of sheets) {
        const member = pricer.member.get(sheet.memberId);
        if (!member) continue;
        const own = mayCheck(member, whoId);
        // What was approved as a whole long ago is not read again for what might have been added to it.
        if (sheet.steps.at(-1)!.kind === 'approved' && sheet.to < addDays(today, -LONG_APPROVED)) continue;
        const recorded = await ofMember(database, 'entries', member.id, sheet.from, sheet.to).toArray();
        const open = recorded.filter((entry) => !isApproved(entry) && (own || mayLookAgain(entry, member.id, whoId)));
        for (const entry of open) found.push({ kind: 'entry', id: entry.id, member, sheet, entry });
        if (!own) continue;
        const costs = (await reader.by('costs', 'memberId', [member.id])).filter(
          (cost) => sheetOn([sheet], cost.day) && !isApproved(cost),
        );
        const lines = await reader.by(
          'costLines',
          'costId',
          costs.map(({ id }) => id),
        );
        for (const cost of costs)
          found.push({
            kind: 'cost',
            id: cost.id,
            member,
            sheet,
            cost,
            lines: lines.filter((line) => line.costId === cost.id),
          });
      }
      return found.sort((a, b) => (dayOfChecked(a) < dayOfChecked(b) ? -1 : dayOfChecked(a) > dayOfChecked(b) ? 1 : 0));
    },
    [database, pricer, whoId, today],
  );
}

export const dayOfChecked = (row: ToCheck): Day => (row.kind === 'entry' ? row.entry.day : row.cost.day);

/** Whether somebody who does not check the member may give the second look. */
const mayLookAgain = ({ approval }: Entry, memberId: Id, whoId: Id | null): boolean =>
  approval !== undefined && whoId !== memberId && approval.looks.every((look) => look.byId !== whoId);
