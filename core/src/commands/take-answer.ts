import * as z from 'zod';
import { lineOfEntry } from '../checking/checked-line';
import { closingOn, isHandedIn } from '../checking/standing';
import { command, Plan, type CommandContext } from '../engine/command';
import type { Reader } from '../engine/store';
import { sameData } from '../model/canonical';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import { WORKSPACE_ID, type Closing, type Cost, type Entry, type HandIn, type Timesheet } from '../model/records';
import { answerSchema, signed, verdictOn, type Answer } from '../sealed-files';
import { idsOnBoth } from '../sealed-files/merge';
import { byId, costLinesById, entryLinesById, handInsOf, recordedOn, sheetsOver } from '../sealed-files/sheets';
import { daysFrom } from '../time/day';
import { putEntries, putNewEntry } from './entry-writes';
import { needOwn } from './take-job-sheet';
import { needSigner, putCost, refuseOlder, taken } from './take-sealed';

/**
 * Takes what the studio says became of what was handed in. Days that were taken back or handed in again since are left as they are: the
 * answer to that comes later. Closed days become what the studio has of what was handed in; what was otherwise here stands among the
 * corrections.
 */
export const takeAnswer = command({
  name: 'answer.take',
  title: 'Answer taken',
  outward: 'What the studio decided stands until it decides otherwise.',
  input: z.strictObject({ ...signed, file: answerSchema }),
  async plan(reader, { signer, file }, context) {
    const workspace = await reader.get('workspace', WORKSPACE_ID);
    await needOwn(reader, workspace?.ofMember, file.memberId);
    await needSigner(reader, null, signer, 'The studio');
    await refuseOlder(reader, file);
    const plan = new Plan();
    await putUnknown(reader, plan, file);
    for (const row of file.rows.corrections) plan.put('corrections', row);
    for (const row of file.rows.closings) plan.put('closings', row);
    const sent = new Set(file.rows.closings.map(({ id }) => id));
    for (const { id } of await reader.all('closings')) if (!sent.has(id)) plan.remove('closings', id);
    for (const sheet of file.rows.timesheets) await new Period(reader, plan, file, sheet, context).take();
    return taken(plan, file, context.now, { answers: file.rows.handIns.map(({ id }) => id) });
  },
});

/** People and work that are named and not known here yet; what is known is said by job sheets. */
async function putUnknown(reader: Reader, plan: Plan, { rows }: Answer): Promise<void> {
  for (const table of ['members', 'services', 'kindsOfWork', 'clients', 'projects', 'tasks'] as const) {
    const known = await reader.many(
      table,
      rows[table].map(({ id }) => id),
    );
    rows[table].forEach((row, index) => known[index] || plan.put(table, row as never));
  }
}

/** One week or billing period as the answer has it. */
class Period {
  readonly #reader: Reader;
  readonly #plan: Plan;
  readonly #file: Answer;
  readonly #sheet: Timesheet;
  readonly #context: CommandContext;
  /** What both sides knew of last. */
  readonly #base: HandIn | undefined;

  constructor(reader: Reader, plan: Plan, file: Answer, sheet: Timesheet, context: CommandContext) {
    this.#reader = reader;
    this.#plan = plan;
    this.#file = file;
    this.#sheet = sheet;
    this.#context = context;
    this.#base = file.rows.handIns.find(({ timesheetId }) => timesheetId === sheet.id);
  }

  async take(): Promise<void> {
    const { memberId, from, to } = this.#sheet;
    const own = (await sheetsOver(this.#reader, memberId, from, to)).filter((each) => each.from === from);
    const [ours] = own;
    const before = await handInsOf(this.#reader, ours);
    if (!this.#isClosed && this.#isPast(ours, before)) return;
    const plan = this.#plan.put('timesheets', this.#withTakenBack(ours));
    // The studio may have begun a timesheet of these days by itself.
    for (const other of await sheetsOver(this.#reader, memberId, from, to))
      if (other.id !== this.#sheet.id) plan.remove('timesheets', other.id);
    for (const each of before) plan.put('handIns', { ...each, timesheetId: this.#sheet.id });
    if (this.#base) plan.put('handIns', this.#base);
    await this.#takeEntries();
    await this.#takeCosts();
  }

  get #isClosed(): boolean {
    const { memberId, from, to } = this.#sheet;
    const closings: readonly Closing[] = this.#file.rows.closings;
    return daysFrom(from, to).every((day) => closingOn(closings, memberId, day));
  }

  /** Whether the answer is to something that is past here: handed in again since, or taken back. */
  #isPast(ours: Timesheet | undefined, before: readonly HandIn[]): boolean {
    const last = before.at(-1);
    if (!ours || !last) return false;
    const isTakenBack = ours.steps.at(-1)?.kind === 'taken back';
    if (last.id === this.#base?.id) return isTakenBack;
    // What the answer knows of stands here too, before what was handed in last.
    return before.some(({ id }) => id === this.#base?.id) || last.at > (this.#base?.at ?? 0);
  }

  /**
   * The sheet as the studio has it. Where the days were closed before it heard that they were taken back, that is still so once they are opened
   * again: what was recorded since is not taken for handed in.
   */
  #withTakenBack(ours: Timesheet | undefined): Timesheet {
    const last = ours?.steps.at(-1);
    if (last?.kind !== 'taken back') return this.#sheet;
    const isNews = this.#sheet.steps.some((step) => !ours!.steps.some((each) => sameData(each, step)));
    return isNews ? this.#sheet : { ...this.#sheet, steps: [...this.#sheet.steps, last] };
  }

  /** Whether the studio holds these days, so that its state is what they are. */
  get #isHeld(): boolean {
    return this.#isClosed || isHandedIn(this.#sheet);
  }

  async #takeEntries(): Promise<void> {
    const { memberId } = this.#sheet;
    const base = new Map(this.#base?.entries.map((line) => [line.id, line]));
    const theirs = this.#theirs(this.#file.rows.entries, base);
    const here = await recordedOn(this.#reader, memberId, this.#sheet, { entries: [...theirs.keys()], costs: [] });
    const ours = byId(here.entries);
    const [lines, theirLines] = [entryLinesById(here.entries), entryLinesById([...theirs.values()])];
    const changed: [Entry, Entry][] = [];
    for (const id of idsOnBoth(ours, theirs)) {
      const [our, their] = [ours.get(id), theirs.get(id)];
      const verdict = verdictOn({ base: base.get(id), ours: lines.get(id), theirs: theirLines.get(id) });
      if (!this.#holds(verdict, their !== undefined, base.has(id))) continue;
      if (verdict === 'both' || (verdict === 'ours' && our)) this.#trace(our, their);
      if (!their) this.#plan.remove('entries', id);
      else if (!our) putNewEntry(this.#plan, their);
      // What it came of stays known here, where it is.
      else changed.push([our, { ...their, stretchIds: our.stretchIds, source: our.source, planId: our.planId }]);
    }
    await putEntries(this.#plan, this.#reader, changed);
  }

  /** Whether the studio’s state of something is what it becomes here. */
  #holds(verdict: ReturnType<typeof verdictOn>, isThere: boolean, wasHandedIn: boolean): boolean {
    // New here, and not handed in yet: it waits for the next time, on closed days until they are opened again.
    if (!isThere && !wasHandedIn) return false;
    if (verdict === 'same' || verdict === 'theirs') return true;
    return this.#isHeld || verdict === 'both';
  }

  /** Those of the answer that are of this period now, or were when they were handed in. */
  #theirs<Row extends Entry | Cost>(rows: readonly Row[], base: ReadonlyMap<Id, unknown>): Map<Id, Row> {
    const { from, to } = this.#sheet;
    return byId(rows.filter((row) => base.has(row.id) || (from <= row.day && row.day <= to)));
  }

  /** What was here and gives way stays to be seen. */
  #trace(our: Entry | undefined, their: Entry | undefined): void {
    if (!our) return;
    const { now: at, newId } = this.#context;
    this.#plan.put('corrections', {
      id: newId(),
      memberId: our.memberId,
      entryId: our.id,
      byId: this.#file.byId,
      at,
      before: lineOfEntry(our),
      after: their ? lineOfEntry(their) : null,
      reason: 'The studio had it otherwise when these days were answered.',
    });
  }

  async #takeCosts(): Promise<void> {
    const { memberId } = this.#sheet;
    const base = new Map(this.#base?.costs.map((line) => [line.id, line]));
    const theirs = this.#theirs(this.#file.rows.costs, base);
    const also = { entries: [], costs: [...theirs.keys()] };
    const here = await recordedOn(this.#reader, memberId, this.#sheet, also);
    const ours = byId(here.costs);
    const ourLines = grouped(here.costLines, (line) => line.costId);
    const theirLines = grouped(this.#file.rows.costLines, (line) => line.costId);
    const sums = await costLinesById(this.#reader, here.costs, here.costLines);
    const theirSums = await costLinesById(this.#reader, [...theirs.values()], this.#file.rows.costLines);
    const known = new Set((await this.#reader.all('receipts')).map(({ id }) => id));
    for (const id of idsOnBoth(ours, theirs)) {
      const [our, their] = [ours.get(id), theirs.get(id)];
      const verdict = verdictOn({ base: base.get(id), ours: sums.get(id), theirs: theirSums.get(id) });
      if (!this.#holds(verdict, their !== undefined, base.has(id))) continue;
      const before = ourLines.get(id) ?? [];
      if (!their) {
        for (const line of before) this.#plan.remove('costLines', line.id);
        this.#plan.remove('costs', id);
        continue;
      }
      // Receipts that the studio added are with the studio.
      const receiptIds = [...new Set([...(our?.receiptIds ?? []), ...their.receiptIds])].filter((each) =>
        known.has(each),
      );
      const lines = await this.#known(theirLines.get(id) ?? []);
      putCost(this.#plan, { ...their, taxId: await this.#taxOf(their), receiptIds }, lines, before, new Map());
    }
  }

  async #taxOf({ taxId }: Cost): Promise<Id | null> {
    return taxId !== null && (await this.#reader.get('taxes', taxId)) ? taxId : null;
  }

  async #known(lines: Answer['rows']['costLines']): Promise<Answer['rows']['costLines']> {
    const codes = new Set((await this.#reader.all('costCodes')).map(({ id }) => id));
    return lines.map((line) => ({
      ...line,
      costCodeId: line.costCodeId !== null && codes.has(line.costCodeId) ? line.costCodeId : null,
    }));
  }
}
