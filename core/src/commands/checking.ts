import * as z from 'zod';
import { lineOfCost, lineOfEntry } from '../checking/checked-line';
import { memberPeriodOf, monthsTouched, sheetOn } from '../checking/periods';
import { asksSecondLook, lookedAt } from '../checking/second-look';
import { closingOn, isApproved, isHandedIn, mayCheck } from '../checking/standing';
import { command, need, needAll, Plan, type CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';
import { missingFields, missingInWords } from '../entries/required-fields';
import { Fault } from '../faults/fault';
import { grouped } from '../model/grouped';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import {
  WORKSPACE_ID,
  type Cost,
  type Entry,
  type Member,
  type SentBack,
  type Step,
  type Timesheet,
} from '../model/records';
import { dayOf, daysFrom, showDayShort, type Day } from '../time/day';
import { putChecked } from './entry-writes';
import { whoIsWorking } from './job-fields';

// How a member's week or billing period goes through checking: handed in, sent back or approved, closed.

const reason = z.string().trim().max(1000, 'A reason has at most 1,000 characters.');
const givenReason = reason.min(3, 'Say why, in a few words.');
const idList = z.array(fields.id).max(100_000);

/** "2 Nov – 8 Nov". */
const daysOf = ({ from, to }: { from: Day; to: Day }) => `${showDayShort(from)} – ${showDayShort(to)}`;

const step = (kind: Step['kind'], byId: Id, at: number, why = ''): Step => ({ kind, byId, at, reason: why });

const withStep = (sheet: Timesheet, next: Step): Timesheet => ({ ...sheet, steps: [...sheet.steps, next] });

/** What a member recorded and spent in a range of days. */
async function recordsOf(
  reader: Reader,
  memberId: Id,
  { from, to }: { from: Day; to: Day },
): Promise<{ entries: Entry[]; costs: Cost[] }> {
  const keys = daysFrom(from, to).map((day) => [memberId, day] as const);
  const entries = await reader.by('entries', 'memberId+day', keys);
  const costs = (await reader.by('costs', 'memberId', [memberId])).filter(({ day }) => from <= day && day <= to);
  return { entries, costs };
}

/** @throws Fault where a timer runs that would record on these days */
async function refuseRunning(reader: Reader, memberIds: readonly Id[], isHeld: (day: Day) => boolean): Promise<void> {
  for (const timer of await reader.by('timers', 'memberId', memberIds)) {
    const member = await need(reader, 'members', timer.memberId, 'member');
    const entry = timer.entryId === null ? undefined : await reader.get('entries', timer.entryId);
    const began = dayOf(timer.startedAt, member.zone);
    if (!isHeld(began) && !(entry && isHeld(entry.day))) continue;
    throw new Fault(
      'timer-running',
      `A timer of ${member.name} has been running since ${showDayShort(began)}. Stop it first, so that its time is counted.`,
      'day',
      { timerId: timer.id },
    );
  }
}

/**
 * Hands in the period of a member that a day lies in, and freezes what it holds beside the records.
 *
 * @throws Fault where it is handed in already, has not begun, is closed in part, has a timer running in it, or an entry lacks a required
 * field; and where whoever works is neither the member nor their checker
 */
export const handIn = command({
  name: 'period.handIn',
  title: 'Handed in',
  input: z.strictObject({ memberId: fields.id, day: fields.day }),
  async plan(reader, { memberId, day }, context) {
    const { now, newId } = context;
    const member = await need(reader, 'members', memberId, 'member');
    const byId = whoIsWorking(context);
    if (byId !== memberId && !mayCheck(member, byId))
      throw new Fault(
        'not-checker',
        `${member.name} hands in for themselves, or whoever checks them does.`,
        'memberId',
      );
    const workspace = await need(reader, 'workspace', WORKSPACE_ID, 'studio');
    const sheets = await sheetsAround(reader, member, day);
    const period = memberPeriodOf(workspace, sheets, day);
    if (period.from > dayOf(now, member.zone))
      throw new Fault('too-early', `${daysOf(period)} has not begun yet.`, 'day');
    const before = sheetOn(sheets, day);
    if (isHandedIn(before)) throw new Fault('already', `${daysOf(period)} is handed in already.`, 'day');
    const closings = await reader.all('closings');
    const closed = daysFrom(period.from, period.to).find((each) => closingOn(closings, memberId, each));
    if (closed) throw new Fault('closed', `${showDayShort(closed)} is closed, so nothing of it is handed in.`, 'day');
    await refuseRunning(reader, [memberId], (each) => period.from <= each && each <= period.to);
    const { entries, costs } = await recordsOf(reader, memberId, period);
    for (const entry of entries) {
      const lacks = missingFields(member, entry);
      if (lacks.length > 0)
        throw new Fault(
          'lacking',
          `An entry of ${showDayShort(entry.day)} still needs ${missingInWords(lacks)}. Fill that in, then hand in.`,
          'day',
          { id: entry.id, day: entry.day },
        );
    }
    const lines = grouped(
      await reader.by(
        'costLines',
        'costId',
        costs.map(({ id }) => id),
      ),
      (line) => line.costId,
    );
    const taxes = new Map((await reader.all('taxes')).map((tax) => [tax.id, tax]));
    const { from, to } = period;
    const steps = [step('handed in', byId, now)];
    const sheet: Timesheet = before
      ? withStep(before, steps[0]!)
      : { id: newId(), memberId, from, to, months: monthsTouched(from, to), steps };
    const plan = new Plan().put('timesheets', sheet).put('handIns', {
      id: newId(),
      timesheetId: sheet.id,
      byId,
      at: now,
      entries: entries.map(lineOfEntry),
      costs: costs.map((cost) =>
        lineOfCost(cost, lines.get(cost.id) ?? [], taxes.get(cost.taxId ?? ''), workspace.amountRounding),
      ),
    });
    for (const entry of entries) if (entry.sentBack) putChecked(plan, notSentBack(entry));
    for (const cost of costs) if (cost.sentBack) plan.put('costs', notSentBack(cost));
    return plan;
  },
});

const notSentBack = <Row extends { sentBack?: SentBack | undefined }>({ sentBack: _given, ...row }: Row) => row as Row;
const notApproved = <Row extends Entry | Cost>({ approval: _looks, ...row }: Row) => row as Row;

async function sheetsAround(reader: Reader, member: Member, day: Day): Promise<Timesheet[]> {
  // A period of a studio's own calendar can be as long as a year.
  return (await reader.by('timesheets', 'memberId', [member.id])).filter(
    ({ from, to }) => Math.abs(Date.parse(from) - Date.parse(day)) < YEAR || (from <= day && day <= to),
  );
}

const YEAR = 370 * 86_400_000;

/**
 * Opens again what was handed in, as long as nothing of it is approved.
 *
 * @throws Fault for anybody but the member and their checker
 */
export const takeBack = command({
  name: 'period.takeBack',
  title: 'Taken back',
  input: z.strictObject({ id: fields.id }),
  async plan(reader, { id }, context) {
    const sheet = await need(reader, 'timesheets', id, 'timesheet');
    const member = await need(reader, 'members', sheet.memberId, 'member');
    const byId = whoIsWorking(context);
    if (byId !== member.id && !mayCheck(member, byId))
      throw new Fault('not-checker', `Only ${member.name}, or whoever checks them, takes this back.`, 'id');
    if (!isHandedIn(sheet)) throw new Fault('not-handed-in', `${daysOf(sheet)} is not handed in.`, 'id');
    const { entries, costs } = await recordsOf(reader, member.id, sheet);
    if ([...entries, ...costs].some(({ approval }) => approval))
      throw new Fault('approved', `Some of ${daysOf(sheet)} is approved already. Ask for it to be sent back.`, 'id');
    return new Plan().put('timesheets', withStep(sheet, step('taken back', byId, context.now)));
  },
});

/** Whose time it is may be checked by whoever works. @throws Fault otherwise */
async function needChecked(reader: Reader, memberIds: readonly Id[], context: CommandContext): Promise<void> {
  const byId = whoIsWorking(context);
  for (const member of await needAll(reader, 'members', memberIds, 'member')) {
    if (mayCheck(member, byId)) continue;
    const checker = await reader.get('members', member.checkerId!);
    throw new Fault('not-checker', `${member.name} is checked by ${checker?.name ?? 'somebody else'}.`, 'memberId');
  }
}

/** What is approved or sent back: all of some timesheets, and single entries and expenses beside them. */
const checkedFields = { ids: idList, entryIds: idList, costIds: idList };

type CheckedInput = z.infer<z.ZodObject<typeof checkedFields>>;

const hasSome = ({ ids, entryIds, costIds }: CheckedInput) => ids.length + entryIds.length + costIds.length > 0;
const nothingChosen = { message: 'Choose an entry, or a whole period.', path: ['ids'] };

/**
 * Sends whole periods, or single entries and expenses with their periods, back to be put right, with a reason. What was approved of it is
 * approved no more.
 *
 * @throws Fault where it is not handed in, or somebody else checks the member
 */
export const sendBack = command({
  name: 'period.sendBack',
  title: 'Sent back',
  input: z.strictObject({ ...checkedFields, reason: givenReason }).refine(hasSome, nothingChosen),
  async plan(reader, { ids, entryIds, costIds, reason: why }, context) {
    const byId = whoIsWorking(context);
    const { now: at } = context;
    const entries = await needAll(reader, 'entries', entryIds, 'entry');
    const costs = await needAll(reader, 'costs', costIds, 'cost');
    const whole = await needAll(reader, 'timesheets', ids, 'timesheet');
    const sheets = new Map(whole.map((sheet) => [sheet.id, sheet]));
    const sheetOf = await handedInSheets(reader, [...entries, ...costs]);
    for (const row of [...entries, ...costs]) {
      const sheet = sheetOf(row);
      if (!sheet)
        throw new Fault('not-handed-in', `What is of ${showDayShort(row.day)} is not handed in.`, 'entryIds', {
          id: row.id,
        });
      sheets.set(sheet.id, sheet);
    }
    await needChecked(
      reader,
      [...sheets.values()].map(({ memberId }) => memberId),
      context,
    );
    const plan = new Plan();
    for (const sheet of sheets.values()) {
      if (!isHandedIn(sheet))
        throw new Fault('not-handed-in', `${daysOf(sheet)} is not handed in, so it cannot be sent back.`, 'ids');
      plan.put('timesheets', withStep(sheet, step('sent back', byId, at, why)));
    }
    // What is sent back as a whole is open again as a whole.
    for (const sheet of whole) {
      const own = await recordsOf(reader, sheet.memberId, sheet);
      for (const entry of own.entries) if (entry.approval) putChecked(plan, notApproved(entry));
      for (const cost of own.costs) if (cost.approval) plan.put('costs', notApproved(cost));
    }
    const given = { byId, at, reason: why };
    for (const entry of entries) putChecked(plan, { ...notApproved(entry), sentBack: given });
    for (const cost of costs) plan.put('costs', { ...notApproved(cost), sentBack: given });
    return plan;
  },
});

/** The handed in timesheet that an entry or cost is on. */
async function handedInSheets(
  reader: Reader,
  rows: readonly (Entry | Cost)[],
): Promise<(row: Entry | Cost) => Timesheet | undefined> {
  const months = [...new Set(rows.flatMap(({ day }) => monthsTouched(day, day)))];
  const found = (await reader.by('timesheets', '*months', months)).filter(isHandedIn);
  const sheets = grouped(found, (sheet) => sheet.memberId);
  return ({ memberId, day }) => sheetOn(sheets.get(memberId ?? '') ?? [], day);
}

/**
 * Approves whole periods, or single entries and expenses. Where a project asks for a second look, the first leaves the entry waiting for
 * it.
 *
 * @throws Fault where it is not handed in, or whoever works may not give the look that comes next
 */
export const approve = command({
  name: 'period.approve',
  title: 'Approved',
  input: z.strictObject(checkedFields).refine(hasSome, nothingChosen),
  async plan(reader, { ids, entryIds, costIds }, context) {
    const byId = whoIsWorking(context);
    const { now: at } = context;
    const sheets = await needAll(reader, 'timesheets', ids, 'timesheet');
    const entries = await needAll(reader, 'entries', entryIds, 'entry');
    const costs = await needAll(reader, 'costs', costIds, 'cost');
    const plan = new Plan();
    for (const sheet of sheets) {
      if (!isHandedIn(sheet)) throw new Fault('not-handed-in', `${daysOf(sheet)} is not handed in.`, 'ids');
      const own = await recordsOf(reader, sheet.memberId, sheet);
      entries.push(...own.entries);
      costs.push(...own.costs);
      plan.put('timesheets', withStep(sheet, step('approved', byId, at)));
    }
    await refuseNotHandedIn(reader, entries, costs);
    const project = new Map((await reader.all('projects')).map((row) => [row.id, row]));
    await refuseStrangers(reader, [...entries, ...costs], byId);
    for (const entry of entries) {
      const needs = asksSecondLook(project, entry.projectId) ? 2 : 1;
      putChecked(plan, { ...notSentBack(entry), approval: lookedAt(entry.approval, needs, { byId, at }) });
    }
    for (const cost of costs)
      plan.put('costs', { ...notSentBack(cost), approval: lookedAt(cost.approval, 1, { byId, at }) });
    return plan;
  },
});

/**
 * The first look is the checker's; the second anybody's but the member's own. Who looked first and looks again changes nothing.
 *
 * @throws Fault where whoever works may not give the look that comes next
 */
async function refuseStrangers(reader: Reader, rows: readonly (Entry | Cost)[], byId: Id): Promise<void> {
  const ids = rows.flatMap(({ memberId }) => memberId ?? []);
  const members = new Map((await needAll(reader, 'members', ids, 'member')).map((member) => [member.id, member]));
  const names = new Map((await reader.all('members')).map(({ id, name }) => [id, name]));
  for (const row of rows) {
    const member = members.get(row.memberId ?? '');
    if (!member || mayCheck(member, byId) || (row.approval && byId !== member.id)) continue;
    const checker = names.get(member.checkerId!) ?? 'somebody else';
    throw new Fault('not-checker', `${member.name} is checked by ${checker}.`, 'memberId');
  }
}

/** Only what lies with the checker is approved; what was approved already stays so. */
async function refuseNotHandedIn(reader: Reader, entries: readonly Entry[], costs: readonly Cost[]): Promise<void> {
  const rows = [...entries, ...costs].filter((row) => !isApproved(row));
  const sheetOf = await handedInSheets(reader, rows);
  const row = rows.find((each) => !sheetOf(each));
  if (!row) return;
  throw new Fault('not-handed-in', `What is of ${showDayShort(row.day)} is not handed in yet.`, 'entryIds', {
    id: row.id,
  });
}

/**
 * Closes days for a member or for everybody: what was recorded in them no longer changes; billing it, writing it off and crediting it go
 * on.
 *
 * @throws Fault where a day is not over, a timer runs in them, all are closed already, or something is not approved and was not accepted
 * as such
 */
export const closeDays = command({
  name: 'period.close',
  title: ({ from, to }: { from: Day; to: Day }) => `${daysOf({ from, to })} closed`,
  outward: 'What was closed is not undone: reopen it under Team, with a reason.',
  inTurn: true,
  input: z.strictObject({
    from: fields.day,
    to: fields.day,
    /** Everybody and the studio's costs where null. */
    memberId: fields.id.nullable(),
    /** Though some of it is not approved. */
    anyway: z.boolean(),
  }),
  async plan(reader, { from, to, memberId, anyway }, context) {
    const byId = whoIsWorking(context);
    if (to < from) throw new Fault('end-before-start', 'The last day is before the first.', 'to');
    const workspace = await need(reader, 'workspace', WORKSPACE_ID, 'studio');
    if (to >= dayOf(context.now, workspace.zone))
      throw new Fault('too-early', 'Only days that are over are closed. Choose an earlier last day.', 'to');
    const closings = await reader.all('closings');
    if (daysFrom(from, to).every((day) => closingOn(closings, memberId, day)))
      throw new Fault('already', `${daysOf({ from, to })} is closed already.`, 'from');
    const members =
      memberId === null ? await reader.all('members') : await needAll(reader, 'members', [memberId], 'member');
    const within = (day: Day) => from <= day && day <= to;
    await refuseRunning(
      reader,
      members.map(({ id }) => id),
      within,
    );
    if (!anyway) {
      const open = await notApprovedIn(reader, members, { from, to });
      if (open > 0)
        throw new Fault(
          'not-approved',
          `${open} ${open === 1 ? 'entry' : 'entries'} of these days ${open === 1 ? 'is' : 'are'} not approved. Say that they are closed all the same, or have them checked first.`,
          'anyway',
          { open },
        );
    }
    const closing = { id: context.newId(), memberId, from, to, byId, at: context.now, reopened: null };
    return new Plan().put('closings', closing);
  },
});

async function notApprovedIn(
  reader: Reader,
  members: readonly Member[],
  { from, to }: { from: Day; to: Day },
): Promise<number> {
  const ids = new Set(members.map(({ id }) => id));
  const entries = await reader.by('entries', 'day', daysFrom(from, to));
  return entries.filter((entry) => ids.has(entry.memberId) && !isApproved(entry)).length;
}

/**
 * Opens days that were closed, with a reason that stays in reports.
 *
 * @throws Fault where they are open again already
 */
export const reopenDays = command({
  name: 'period.reopen',
  title: 'Reopened',
  outward: 'Days that were reopened are closed again, not undone.',
  inTurn: true,
  input: z.strictObject({ id: fields.id, reason: givenReason }),
  async plan(reader, input, context) {
    const closing = await need(reader, 'closings', input.id, 'closing');
    if (closing.reopened) throw new Fault('already', `${daysOf(closing)} is open again already.`, 'id');
    const reopened = { byId: whoIsWorking(context), at: context.now, reason: input.reason };
    return new Plan().put('closings', { ...closing, reopened });
  },
});

/** Says why something was corrected; the correction itself was written down as it was made. */
export const explainCorrection = command({
  name: 'correction.explain',
  title: 'Reason given',
  input: z.strictObject({ ids: idList.min(1), reason: givenReason }),
  async plan(reader, input, context) {
    const plan = new Plan();
    const rows = await needAll(reader, 'corrections', input.ids, 'correction');
    await needChecked(
      reader,
      rows.map(({ memberId }) => memberId),
      context,
    );
    for (const row of rows) plan.put('corrections', { ...row, reason: input.reason });
    return plan;
  },
});
