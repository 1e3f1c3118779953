import * as z from 'zod';
import { lineOfEntry } from '../checking/checked-line';
import { monthsTouched } from '../checking/periods';
import { closingOn } from '../checking/standing';
import { command, Plan, type CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';
import { Fault } from '../faults/fault';
import { sameData } from '../model/canonical';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Cost, CostLine, Entry, HandIn, Timesheet } from '../model/records';
import { signed, timesheetFileSchema, verdictOn, type TimesheetFile } from '../sealed-files';
import { idsOnBoth } from '../sealed-files/merge';
import { byId, costLinesById, entryLinesById, handInsOf, recordedOn, sheetsOver } from '../sealed-files/sheets';
import { dayOf, daysFrom, showDayShort } from '../time/day';
import { putEntries, putNewEntry } from './entry-writes';
import { needSigner, putCost, taken } from './take-sealed';

/**
 * Takes what a member handed in in a workspace of their own. It may come late, twice or out of order: what was taken before stays, what is
 * approved or invoiced stays as it is, and what both sides changed stays as the studio has it, shown beside what was handed in.
 */
export const takeTimesheet = command({
  name: 'timesheet.take',
  title: 'Timesheet taken',
  outward: 'What somebody handed in is not undone: send it back under Team, with a reason.',
  input: z.strictObject({ ...signed, file: timesheetFileSchema }),
  async plan(reader, { signer, file }, context) {
    const member = await reader.get('members', file.memberId);
    if (!member)
      throw new Fault(
        'unknown',
        'This is a timesheet of somebody who is not a member here. Nothing was taken.',
        'file',
      );
    await needSigner(reader, member.id, signer, member.name);
    const [sheet, handIn] = parts(file);
    await refuseTaken(reader, handIn, sheet, member.zone);
    const { from, to } = sheet;
    const closings = await reader.all('closings');
    const closed = daysFrom(from, to).find((day) => closingOn(closings, member.id, day));
    if (closed)
      throw new Fault(
        'closed',
        `${showDayShort(closed)} is closed, so nothing of this timesheet was taken. Reopen those days under Team to take it, or tell ${member.name}.`,
        'file',
        { day: closed },
      );
    const over = await sheetsOver(reader, member.id, from, to);
    const other = over.find((each) => each.from !== from || each.to !== to);
    if (other)
      throw new Fault(
        'overlap',
        `A timesheet from ${showDayShort(other.from)} to ${showDayShort(other.to)} has some of these days already. Nothing was taken.`,
        'file',
      );
    const own = over[0];
    const before = await handInsOf(reader, own);
    // What it says it follows is earlier, whatever the clocks say.
    const later = before.find((each) => each.byId === member.id && each.at >= handIn.at && each.id !== file.previousId);
    if (later)
      throw new Fault(
        'outdated',
        `${member.name} handed these days in again on ${showDayShort(dayOf(later.at, member.zone))}, and that was taken. This earlier timesheet changed nothing.`,
        'file',
      );
    const plan = new Plan();
    const joined = joinedSheet(own, sheet);
    plan.put('timesheets', joined).put('handIns', { ...handIn, timesheetId: joined.id });
    const last = before.filter((each) => each.byId === member.id).at(-1);
    const base = before.find((each) => each.id === file.previousId) ?? last;
    const merging: Merging = {
      reader,
      plan,
      file,
      base,
      // Somebody whose workspace has forgotten what it handed in last did not delete what it does not know.
      removes: last === undefined || last.id === file.previousId,
      context,
      whoId: context.memberId ?? member.checkerId ?? member.id,
    };
    await mergeEntries(merging);
    await mergeCosts(merging);
    await takeAbsences(reader, plan, file);
    return taken(plan, file, context.now, { from, to });
  },
});

/** @throws Fault where what is in the file does not belong together */
function parts(file: TimesheetFile): [Timesheet, HandIn] {
  const { timesheets, handIns, entries, costs, costLines } = file.rows;
  const [sheet] = timesheets;
  const [handIn] = handIns;
  const mismatch = (what: string) =>
    new Fault('invalid', `This timesheet does not hold together: ${what}. Nothing was taken.`, 'file');
  if (!sheet || !handIn || timesheets.length > 1 || handIns.length > 1) throw mismatch('it is of one period');
  if (sheet.memberId !== file.memberId || handIn.timesheetId !== sheet.id)
    throw mismatch('it is of another member or period than it says');
  if (handIn.byId !== file.memberId) throw mismatch('it was handed in by somebody else');
  const within = ({ day }: { day: string }) => sheet.from <= day && day <= sheet.to;
  const strange = [...entries, ...costs].find((row) => row.memberId !== file.memberId || !within(row));
  if (strange) throw mismatch(`what is of ${showDayShort(strange.day)} is of another member or day`);
  if (file.absences?.some((row) => row.memberId !== file.memberId))
    throw mismatch('days off in it are another member’s');
  if (costs.some(({ kind }) => kind !== 'expense')) throw mismatch('a member hands in expenses alone');
  const costIds = new Set(costs.map(({ id }) => id));
  if (costLines.some(({ costId }) => !costIds.has(costId))) throw mismatch('a line belongs to no expense');
  return [sheet, handIn];
}

async function refuseTaken(reader: Reader, handIn: HandIn, { from }: Timesheet, zone: string): Promise<void> {
  if (!(await reader.get('handIns', handIn.id))) return;
  const files = await reader.by('sealedFiles', 'memberId', [handIn.byId]);
  const file = files.find((row) => !row.sent && row.kind === 'timesheet' && row.from === from);
  const when = file ? ` on ${showDayShort(dayOf(file.at, zone))}` : '';
  throw new Fault('already', `This timesheet was taken${when} already. Nothing was changed.`, 'file');
}

/** The studio’s sheet with the steps that it has not heard of, in the order in which the member took them. */
function joinedSheet(own: Timesheet | undefined, theirs: Timesheet): Timesheet {
  if (!own) return { ...theirs, months: monthsTouched(theirs.from, theirs.to) };
  const isKnown = (step: Timesheet['steps'][number]) => own.steps.some((each) => sameData(each, step));
  // What the studio decided comes from the studio alone.
  const news = theirs.steps.filter(
    (step) => (step.kind === 'handed in' || step.kind === 'taken back') && !isKnown(step),
  );
  return { ...own, steps: [...own.steps, ...news] };
}

/** Days off that the studio does not know yet; of those it knows, what stands here stands. */
async function takeAbsences(reader: Reader, plan: Plan, { absences = [] }: TimesheetFile): Promise<void> {
  const known = await reader.many(
    'absences',
    absences.map(({ id }) => id),
  );
  for (const [at, row] of absences.entries()) if (!known[at]) plan.put('absences', row);
}

interface Merging {
  reader: Reader;
  plan: Plan;
  file: TimesheetFile;
  /** What the member’s state grew from. */
  base: HandIn | undefined;
  /** Whether what the member has no more is removed. */
  removes: boolean;
  context: CommandContext;
  /** Who takes it. */
  whoId: Id;
}

async function mergeEntries({ reader, plan, file, base, removes, context, whoId }: Merging): Promise<void> {
  const { memberId } = file;
  const [sheet] = file.rows.timesheets as [Timesheet];
  const theirs = byId(file.rows.entries);
  const present = (await reader.many('entries', [...theirs.keys()])).filter((row) => row !== undefined);
  const foreign = present.find((row) => row.memberId !== memberId);
  if (foreign)
    throw new Fault('invalid', 'An entry of this timesheet is somebody else’s here. Nothing was taken.', 'file');
  const ours = byId([...(await recordedOn(reader, memberId, sheet)).entries, ...present]);
  const [lines, theirLines] = [entryLinesById([...ours.values()]), entryLinesById([...theirs.values()])];
  const baseLines = new Map(base?.entries.map((line) => [line.id, line]));
  const fitting = await fitter(reader, file);
  const allocated = new Set((await reader.by('allocations', 'entryId', [...ours.keys()])).map((row) => row.entryId));
  const changed: [Entry, Entry][] = [];
  /** What was handed in and gives way to what is here stays to be seen, on both sides. */
  const trace = (their: Entry, our: Entry) => {
    const [before, after] = [lineOfEntry(their), lineOfEntry(our)];
    const row = { memberId, entryId: our.id, byId: whoId, at: context.now, before, after };
    plan.put('corrections', {
      id: context.newId(),
      ...row,
      reason: 'The studio had it otherwise when this was handed in.',
    });
  };
  for (const id of idsOnBoth(ours, theirs)) {
    const [our, their] = [ours.get(id), theirs.get(id)];
    const verdict = verdictOn({ base: baseLines.get(id), ours: lines.get(id), theirs: theirLines.get(id) });
    const isHeld = our?.approval !== undefined || (allocated.has(id) && verdict !== 'same');
    if (!our) {
      // Removed here, and not touched there since: it stays removed.
      if (verdict !== 'ours') putNewEntry(plan, fitting(their!));
    } else if (!their) {
      if (verdict === 'theirs' && removes && !isHeld) plan.remove('entries', id);
      else if (our.sentBack) changed.push([our, withoutSentBack(our)]);
    } else if (isHeld || verdict === 'ours' || verdict === 'both') {
      if (our.sentBack) changed.push([our, withoutSentBack(our)]);
      if (verdict === 'theirs' || verdict === 'both') trace(their, our);
    } else changed.push([our, { ...fitting(their), rate: our.rate, source: our.source, stretchIds: our.stretchIds }]);
  }
  await putEntries(plan, reader, changed);
}

function withoutSentBack<Row extends Entry | Cost>({ sentBack: _given, ...row }: Row): Row {
  return row as unknown as Row;
}

/** Makes of an entry what can stand here: of work that was removed since, it names what it was. */
async function fitter(reader: Reader, { rows, names }: TimesheetFile): Promise<(entry: Entry) => Entry> {
  const known = async (table: 'projects' | 'tasks' | 'services' | 'kindsOfWork' | 'plans', ids: (Id | null)[]) =>
    new Set((await reader.many(table, [...new Set(ids.filter((id) => id !== null))])).flatMap((row) => row?.id ?? []));
  const pick = (field: 'projectId' | 'taskId' | 'serviceId' | 'kindOfWorkId' | 'planId') =>
    rows.entries.map((entry) => entry[field]);
  const projects = await known('projects', pick('projectId'));
  const tasks = await known('tasks', pick('taskId'));
  const services = await known('services', pick('serviceId'));
  const kinds = await known('kindsOfWork', pick('kindOfWorkId'));
  const plans = await known('plans', pick('planId'));
  const where = (ids: ReadonlySet<Id>, id: Id | null) => (id !== null && ids.has(id) ? id : null);
  return (entry) => {
    const projectId = where(projects, entry.projectId);
    const isGone = entry.projectId !== null && projectId === null;
    return {
      ...entry,
      projectId,
      unlisted: isGone ? (names[entry.projectId!] ?? 'A project that is gone') : entry.unlisted,
      taskId: projectId === null ? null : where(tasks, entry.taskId),
      serviceId: where(services, entry.serviceId),
      kindOfWorkId: where(kinds, entry.kindOfWorkId),
      planId: where(plans, entry.planId),
    };
  };
}

async function mergeCosts({ reader, plan, file, base, removes }: Merging): Promise<void> {
  const { memberId } = file;
  const [sheet] = file.rows.timesheets as [Timesheet];
  const theirs = byId(file.rows.costs);
  const present = (await reader.many('costs', [...theirs.keys()])).filter((row) => row !== undefined);
  if (present.some((row) => row.memberId !== memberId))
    throw new Fault('invalid', 'An expense of this timesheet is somebody else’s here. Nothing was taken.', 'file');
  const here = await recordedOn(reader, memberId, sheet, { entries: [], costs: present.map(({ id }) => id) });
  const ours = byId(here.costs);
  const ourLines = grouped(here.costLines, (line) => line.costId);
  const theirLines = grouped(file.rows.costLines, (line) => line.costId);
  const [sums, theirSums] = [
    await costLinesById(reader, here.costs, here.costLines),
    await costLinesById(reader, file.rows.costs, file.rows.costLines),
  ];
  const baseSums = new Map(base?.costs.map((line) => [line.id, line]));
  const held = await heldCosts(reader, here.costs, here.costLines);
  const fit = await costFitter(reader, file);
  const receipts = byId(file.rows.receipts);
  for (const id of idsOnBoth(ours, theirs)) {
    const [our, their] = [ours.get(id), theirs.get(id)];
    const verdict = verdictOn({ base: baseSums.get(id), ours: sums.get(id), theirs: theirSums.get(id) });
    if (!our) {
      if (verdict !== 'ours') putCost(plan, ...fit(their!, theirLines.get(id) ?? []), [], receipts);
    } else if (!their) {
      if (verdict === 'theirs' && removes && !held.has(id)) {
        for (const line of ourLines.get(id) ?? []) plan.remove('costLines', line.id);
        plan.remove('costs', id);
      } else if (our.sentBack) plan.put('costs', withoutSentBack(our));
    } else if (held.has(id) || verdict === 'ours' || verdict === 'both') {
      if (our.sentBack) plan.put('costs', withoutSentBack(our));
    } else {
      const [cost, lines] = fit(their, theirLines.get(id) ?? []);
      putCost(plan, { ...cost, source: our.source, since: our.since }, lines, ourLines.get(id) ?? [], receipts);
    }
  }
}

/** Expenses that are approved, invoiced or paid back: as they are they stay. */
async function heldCosts(reader: Reader, costs: readonly Cost[], lines: readonly CostLine[]): Promise<Set<Id>> {
  const costOf = new Map(lines.map((line) => [line.id, line.costId]));
  const allocations = await reader.by('allocations', 'costLineId', [...costOf.keys()]);
  const payouts = await reader.by(
    'payouts',
    'costId',
    costs.map(({ id }) => id),
  );
  return new Set([
    ...costs.filter(({ approval, paidBackOn }) => approval || paidBackOn !== null).map(({ id }) => id),
    ...allocations.flatMap(({ costLineId }) => costOf.get(costLineId ?? '') ?? []),
    ...payouts.flatMap(({ costId }) => costId ?? []),
  ]);
}

async function costFitter(
  reader: Reader,
  { rows, names }: TimesheetFile,
): Promise<(cost: Cost, lines: readonly CostLine[]) => [Cost, CostLine[]]> {
  const ids = async (table: 'projects' | 'costCodes' | 'taxes') =>
    new Set((await reader.all(table)).map((row) => row.id));
  const [projects, codes, taxes] = [await ids('projects'), await ids('costCodes'), await ids('taxes')];
  const sent = byId(rows.receipts);
  const where = (known: ReadonlySet<Id>, id: Id | null) => (id !== null && known.has(id) ? id : null);
  const fitLine = (line: CostLine): CostLine => {
    const projectId = where(projects, line.projectId);
    const isGone = line.projectId !== null && projectId === null;
    const unlisted = isGone ? (names[line.projectId!] ?? 'A project that is gone').slice(0, 200) : line.unlisted;
    return {
      ...line,
      projectId,
      unlisted,
      costCodeId: where(codes, line.costCodeId),
      forClient: line.forClient && !isGone,
      orderId: null,
      agreedId: null,
    };
  };
  return (cost, lines) => [
    {
      ...cost,
      taxId: where(taxes, cost.taxId),
      receiptIds: cost.receiptIds.filter((id) => sent.has(id)),
      dueMilestoneId: null,
      since: null,
      source: '',
    },
    lines.map(fitLine),
  ];
}
