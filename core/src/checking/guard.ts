import type { CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import { sameData } from '../model/canonical';
import { changeOf, changesIn, type Change } from '../model/change';
import type { Id } from '../model/ids';
import type { Approval, Member } from '../model/records';
import { showDayShort, type Day } from '../time/day';
import { lineOfEntry } from './checked-line';
import { closingOn, isApproved, mayCheck } from './standing';
import { locksOn, touchedBy, type Locks, type Touch } from './touched';

// What was handed in, approved or closed stays as it was, whichever way it would be changed: by a form, an import, an undo.

/**
 * Refuses what would change closed days; and what is handed in or approved, unless whoever checks the member does it.
 *
 * @throws Fault that says what holds the day, and what can be done
 */
export async function guardChecked(reader: Reader, changes: readonly Change[], context: CommandContext): Promise<void> {
  await guardApprovals(reader, changes, context.memberId);
  await guardMoves(reader, changes);
  const touches = await touchedBy(reader, changes);
  if (touches.length === 0) return;
  const locks = await locksOn(reader, touches);
  for (const touch of touches) {
    await refuseClosed(reader, locks, touch);
    await refuseUnchecked(reader, locks, touch, context.memberId);
  }
}

/**
 * The days on which whoever works here can record nothing for a member: closed, or handed in to somebody else. For what records by itself
 * and would be refused.
 *
 * @param whoId who works; null where nobody said
 */
export async function heldDays(
  reader: Reader,
  member: Member,
  days: readonly Day[],
  whoId: Id | null,
): Promise<ReadonlySet<Day>> {
  const touches = days.map((day): Touch => ({ table: 'entries', id: '', memberId: member.id, days: [day] }));
  const locks = await locksOn(reader, touches);
  const isHeld = (touch: Touch) =>
    locks.closingOf(touch) !== undefined || (locks.sheetOf(touch) !== undefined && !mayCheck(member, whoId));
  return new Set(touches.filter(isHeld).flatMap((touch) => touch.days));
}

async function refuseClosed(reader: Reader, locks: Locks, touch: Touch): Promise<void> {
  const found = locks.closingOf(touch);
  if (!found) return;
  const { closing, day } = found;
  const by = await nameOf(reader, closing.byId);
  throw new Fault(
    'closed',
    `${showDayShort(day)} was closed${by}: what was worked and spent then stays. Reopen those days under Team, with a reason.`,
    'day',
    { day, closingId: closing.id, id: touch.id },
  );
}

async function refuseUnchecked(reader: Reader, locks: Locks, touch: Touch, whoId: Id | null): Promise<void> {
  const member = locks.members.get(touch.memberId ?? '');
  if (!member || mayCheck(member, whoId)) return;
  const { before } = touch;
  const checker = (await reader.get('members', member.checkerId!))?.name ?? 'the checker';
  if (before?.approval) {
    const how = isApproved(before) ? 'approved' : 'looked at';
    throw new Fault('approved', `This was ${how}. Only ${checker}, who checks ${member.name}, can change it.`, 'id', {
      id: touch.id,
    });
  }
  const found = locks.sheetOf(touch);
  if (!found) return;
  throw new Fault(
    'handed-in',
    `${showDayShort(found.day)} is handed in and lies with ${checker}. Take it back under Week to change it, or ask ${checker}.`,
    'day',
    { day: found.day, timesheetId: found.sheet.id, id: touch.id },
  );
}

/** Only whoever checks a member approves or gives back; a member hands in again what was given back. */
async function guardApprovals(reader: Reader, changes: readonly Change[], whoId: Id | null): Promise<void> {
  const touched = new Set<Id>();
  for (const change of [...changesIn(changes, 'entries'), ...changesIn(changes, 'costs')]) {
    const { before, after } = change;
    if (!after?.memberId) continue;
    const handedAgain = after.sentBack === undefined && sameData(before?.approval, after.approval);
    if (handedAgain || (sameData(before?.approval, after.approval) && sameData(before?.sentBack, after.sentBack)))
      continue;
    if (isSecondLook(before?.approval, after.approval) && whoId !== after.memberId) continue;
    touched.add(after.memberId);
  }
  for (const member of await reader.many('members', [...touched])) {
    if (!member || mayCheck(member, whoId)) continue;
    const [checker, deputy] = await reader.many('members', [member.checkerId!, member.deputyId ?? member.checkerId!]);
    const who = [checker, ...(member.deputyId ? [deputy] : [])].map((each) => each?.name).filter(Boolean);
    throw new Fault('not-checker', `${member.name} is checked by ${who.join(' or ')}, and by nobody else.`, 'memberId');
  }
}

/** A project that has closed days stays with its client: whom they were worked for is a part of what was closed. */
async function guardMoves(reader: Reader, changes: readonly Change[]): Promise<void> {
  const moved = changesIn(changes, 'projects').filter(
    ({ before, after }) => before && after && before.clientId !== after.clientId,
  );
  if (moved.length === 0) return;
  const closings = (await reader.all('closings')).filter(({ reopened }) => reopened === null);
  if (closings.length === 0) return;
  const ids = moved.map(({ id }) => id);
  const lines = await reader.by('costLines', 'projectId', ids);
  const costs = await reader.many('costs', [...new Set(lines.map(({ costId }) => costId))]);
  const rows = [...(await reader.by('entries', 'projectId', ids)), ...costs.filter((row) => row !== undefined)];
  const closed = rows.filter(({ memberId, day }) => closingOn(closings, memberId, day));
  if (closed.length === 0) return;
  const name = moved[0]!.before!.name;
  const count = closed.length === 1 ? '1 entry or cost' : `${closed.length} entries and costs`;
  throw new Fault(
    'closed',
    `${name} has ${count} on closed days, so it stays with its client. Make another project for what comes, or reopen those days.`,
    'clientId',
  );
}

/** Anybody gives the second look but the member; that it is not the first looker's is asked of the record itself. */
const isSecondLook = (before: Approval | undefined, after: Approval | undefined): boolean =>
  before?.looks.length === 1 && after?.looks.length === 2 && sameData(before.looks[0], after.looks[0]);

/** What a checker changes of what lies with them leaves a trace: as it was, as it became, who and when. */
export async function traceCorrections(
  reader: Reader,
  changes: readonly Change[],
  { now, newId, memberId: byId }: CommandContext,
): Promise<Change[]> {
  if (byId === null) return [];
  const ownReasons = new Set(changesIn(changes, 'corrections').map(({ after }) => after?.entryId));
  const entries = changesIn(changes, 'entries').filter(({ id }) => !ownReasons.has(id));
  if (entries.length === 0) return [];
  const touches = await touchedBy(reader, changes);
  if (touches.length === 0) return [];
  const locks = await locksOn(reader, touches);
  const held = new Set(
    touches.filter((touch) => touch.before?.approval !== undefined || locks.sheetOf(touch)).map(({ id }) => id),
  );
  return entries.flatMap(({ id, before, after }) => {
    if (!held.has(id)) return [];
    const [was, is] = [before && lineOfEntry(before), after && lineOfEntry(after)];
    if (sameData(was, is)) return [];
    const memberId = (before ?? after)!.memberId;
    const row = { id: newId(), memberId, entryId: id, byId, at: now, before: was, after: is, reason: '' };
    return [changeOf('corrections', row.id, null, row)];
  });
}

async function nameOf(reader: Reader, memberId: Id): Promise<string> {
  const name = (await reader.get('members', memberId))?.name;
  return name ? ` by ${name}` : '';
}
