import type { Reader } from '../engine/store';
import { sameData } from '../model/canonical';
import { changesIn, type Change } from '../model/change';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Closing, Cost, Entry, Member, Timesheet } from '../model/records';
import type { TableName } from '../model/tables';
import { dayOf, type Day } from '../time/day';
import { monthsTouched, sheetOn } from './periods';
import { closingOn, isHandedIn, type Checked } from './standing';

// What a change does to days that may be handed in or closed.

/** A day of a member, or of the studio where its cost is nobody's, whose record becomes different. */
export interface Touch {
  table: Extract<TableName, 'entries' | 'costs' | 'timers'>;
  id: Id;
  /** Null for costs of the studio. */
  memberId: Id | null;
  days: readonly Day[];
  /** The record as it was; absent where there was none. */
  before?: Checked & (Entry | Cost);
}

/** Of an entry or cost: who approved it, or gave it back. */
const CHECKS = new Set<string>(['approval', 'sentBack']);
/** Of a cost besides: what the bookkeeping said of it later, and that it was paid. Neither is what was spent. */
const AFTERWARDS = new Set<string>([...CHECKS, 'since', 'paidBackOn']);

const differs = (before: object, after: object, except: ReadonlySet<string>): boolean =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])].some(
    (key) => !except.has(key) && !sameData((before as never)[key], (after as never)[key]),
  );

const daysOfEntry = (entry: Entry): Day[] => [entry.day, ...entry.laterDays];

/** What recorded time and costs a change makes different, and what it lets run on. */
export async function touchedBy(reader: Reader, changes: readonly Change[]): Promise<Touch[]> {
  const touches: Touch[] = [];
  for (const { id, before, after } of changesIn(changes, 'entries')) {
    if (before && after && !differs(before, after, CHECKS)) continue;
    for (const row of [before, after]) {
      if (row)
        touches.push({
          table: 'entries',
          id,
          memberId: row.memberId,
          days: daysOfEntry(row),
          ...(before && { before }),
        });
    }
  }
  touches.push(...(await costsTouched(reader, changes)), ...(await timersTouched(reader, changes)));
  return touches;
}

async function costsTouched(reader: Reader, changes: readonly Change[]): Promise<Touch[]> {
  const own = changesIn(changes, 'costs');
  const lines = changesIn(changes, 'costLines');
  if (own.length === 0 && lines.length === 0) return [];
  const touches: Touch[] = [];
  const touch = (id: Id, row: Cost | null | undefined, before: Cost | null | undefined) => {
    if (row) touches.push({ table: 'costs', id, memberId: row.memberId, days: [row.day], ...(before && { before }) });
  };
  for (const { id, before, after } of own) {
    if (before && after && !differs(before, after, AFTERWARDS)) continue;
    touch(id, before, before);
    touch(id, after, before);
  }
  const heads = new Map(own.map(({ id, after }) => [id, after]));
  const ofLines = [...new Set(lines.flatMap(({ before, after }) => [before?.costId, after?.costId]))];
  const others = ofLines.filter((id): id is Id => id !== undefined && !heads.get(id));
  (await reader.many('costs', others)).forEach((row) => row && touch(row.id, row, row));
  for (const id of ofLines) if (id !== undefined) touch(id, heads.get(id), heads.get(id));
  return touches;
}

/** A timer records on the day it began, and into the entry that it goes on with: refused as it starts, not as it stops. */
async function timersTouched(reader: Reader, changes: readonly Change[]): Promise<Touch[]> {
  const timers = changesIn(changes, 'timers').flatMap(({ before, after }) =>
    after && !(before && before.startedAt === after.startedAt && before.entryId === after.entryId) ? [after] : [],
  );
  if (timers.length === 0) return [];
  const members = await reader.many(
    'members',
    timers.map((timer) => timer.memberId),
  );
  const entries = await reader.many(
    'entries',
    timers.flatMap((timer) => timer.entryId ?? []),
  );
  const entryOf = new Map(entries.flatMap((entry) => (entry ? [[entry.id, entry] as const] : [])));
  return timers.map((timer, index) => {
    const entry = entryOf.get(timer.entryId ?? '');
    const began = dayOf(timer.startedAt, members[index]?.zone ?? 'UTC');
    const days = entry ? [...daysOfEntry(entry), began] : [began];
    return { table: 'timers', id: timer.id, memberId: timer.memberId, days, ...(entry && { before: entry }) };
  });
}

/** What holds the days that a change touches. */
export interface Locks {
  members: ReadonlyMap<Id, Member>;
  closingOf(touch: Touch): { closing: Closing; day: Day } | undefined;
  /** The handed in timesheet that one of the days is on. */
  sheetOf(touch: Touch): { sheet: Timesheet; day: Day } | undefined;
}

/** Reads what holds the days of touches: closings, and the timesheets of their months. */
export async function locksOn(reader: Reader, touches: readonly Touch[]): Promise<Locks> {
  const closings = (await reader.all('closings')).filter((each) => each.reopened === null);
  const months = [...new Set(touches.flatMap(({ days }) => days.flatMap((day) => monthsTouched(day, day))))];
  const handedIn = (await reader.by('timesheets', '*months', months)).filter(isHandedIn);
  const sheets = grouped(handedIn, (sheet) => sheet.memberId);
  const ids = [...new Set(touches.flatMap(({ memberId }) => memberId ?? []))];
  const members = (await reader.many('members', ids)).filter((row) => row !== undefined);
  return {
    members: new Map(members.map((member) => [member.id, member])),
    closingOf: ({ memberId, days }) => firstOf(days, (day) => closingOn(closings, memberId, day), 'closing'),
    sheetOf: ({ memberId, days }) => firstOf(days, (day) => sheetOn(sheets.get(memberId ?? '') ?? [], day), 'sheet'),
  };
}

function firstOf<T, K extends string>(
  days: readonly Day[],
  find: (day: Day) => T | undefined,
  as: K,
): ({ [Key in K]: T } & { day: Day }) | undefined {
  for (const day of days) {
    const found = find(day);
    if (found !== undefined) return { [as]: found, day } as { [Key in K]: T } & { day: Day };
  }
  return undefined;
}
