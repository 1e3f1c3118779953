import * as z from 'zod';
import { closingOn } from '../checking/standing';
import { placingOf, type Placed } from '../costs/match';
import { costDefaults, costLineDefaults } from '../model/defaults-billing';
import * as fields from '../model/fields';
import type { Id } from '../model/ids';
import { costSchema, feedSchema, type Cost, type CostLine } from '../model/records';
import { command, Plan } from '../engine/command';
import { sourcesPaid } from '../paying-out';
import { outPartSchema, planPaid } from './payouts';
import type { Reader } from '../engine/store';

/** A line of the bookkeeping as it was read from a service or a file. */
export const ledgerLineSchema = z.strictObject({
  /** Tells it apart from every other: "ledger:4021". */
  source: z.string().min(1).max(300),
  day: fields.day,
  supplier: costSchema.shape.supplier,
  text: z.string().max(2000),
  /** Spent, in minor units; negative where money came back. */
  amount: fields.minor,
  currency: fields.currency,
  /** The bookkeeping took it back. */
  withdrawn: z.boolean(),
  /** What an older reading of the same file told it apart by. */
  was: z.string().max(300).optional(),
  /** The reference that went with it in a field of its own. */
  reference: z.string().max(200).optional(),
  /** What it paid, where it is no cost: bills, members, money that goes back to clients. */
  pays: z.array(outPartSchema).min(1).max(200).optional(),
});
export type LedgerLine = z.infer<typeof ledgerLineSchema>;

/**
 * Reads lines of the bookkeeping: each source once, however often it is read. What changed there corrects the cost here; what was placed
 * before is placed alike, by rules first.
 */
export const takeLedger = command({
  name: 'ledger.take',
  title: ({ lines }: { lines: unknown[] }) =>
    `${lines.length} ${lines.length === 1 ? 'line' : 'lines'} read from the bookkeeping`,
  input: z.strictObject({
    lines: z.array(ledgerLineSchema).max(50_000),
    /** How far the service has been read with this; not for files. */
    feed: feedSchema.pick({ name: true, cursor: true }).optional(),
  }),
  async plan(reader, input, { now, newId }) {
    const plan = new Plan();
    // The last word on a line counts, whether it came in one reading or several.
    const lines = new Map(input.lines.map((line) => [line.source, line]));
    const known = new Map((await reader.by('costs', 'source', [...lines.keys()])).map((row) => [row.source, row]));
    const formerly = await knownFormerly(
      reader,
      [...lines.values()].filter((line) => !known.has(line.source)),
    );
    const wanted = [...lines.values()].flatMap(({ source, was }) => (was ? [source, was] : [source]));
    const paid = await sourcesPaid(reader, wanted);
    const rules = await reader.all('matchRules');
    const closings = await reader.all('closings');
    const history = lines.size > known.size ? await placedBefore(reader) : [];
    for (const line of lines.values()) {
      const cost = known.get(line.source) ?? formerly.get(line);
      if (paid.has(line.source) || paid.has(line.was ?? '')) continue;
      if (line.pays && !cost && !line.withdrawn) await planPaid(reader, plan, line, line.pays, newId);
      else if (cost) {
        const closed = [cost.day, line.day].some((day) => closingOn(closings, cost.memberId, day));
        await correct(reader, plan, cost, line, { now, closed });
      } else if (!line.withdrawn) {
        const made = { ...costDefaults, id: newId(), kind: 'ledger', ...headOf(line) } as Cost;
        const placing = placingOf(line, rules, history);
        const placed = placing && {
          projectId: placing.projectId,
          costCodeId: placing.costCodeId,
          forClient: placing.forClient,
        };
        plan.put('costs', made);
        plan.put('costLines', {
          ...costLineDefaults,
          id: newId(),
          costId: made.id,
          text: line.text,
          amount: line.amount,
          ...placed,
        } as CostLine);
      }
    }
    if (input.feed) {
      const before = (await reader.all('feeds')).find((row) => row.name === input.feed!.name);
      plan.put('feeds', { id: before?.id ?? newId(), ...input.feed, readAt: now });
    }
    return plan;
  },
});

/** Costs that an older reading made of lines: by the number it went by, where day and amount are the same. */
async function knownFormerly(reader: Reader, lines: readonly LedgerLine[]): Promise<Map<LedgerLine, Cost>> {
  const wanted = [...new Set(lines.flatMap((line) => line.was ?? []))];
  const costs = wanted.length === 0 ? [] : await reader.by('costs', 'source', wanted);
  const rows = await reader.by(
    'costLines',
    'costId',
    costs.map((cost) => cost.id),
  );
  const found = new Map<LedgerLine, Cost>();
  for (const line of lines) {
    const cost = costs.find((each) => each.source === line.was && each.day === line.day);
    const sum = rows.filter((row) => row.costId === cost?.id).reduce((total, row) => total + (row.amount ?? 0), 0);
    if (cost && sum === line.amount) found.set(line, cost);
  }
  return found;
}

const headOf = ({ source, day, supplier, currency }: LedgerLine) => ({ source, day, supplier, currency });

/**
 * A line that was corrected or withdrawn: it follows while nobody has billed it; once it is on an issued invoice, or its day is closed, what
 * is said of it now is kept beside it, and the cost stays as it was.
 */
async function correct(
  reader: Reader,
  plan: Plan,
  cost: Cost,
  line: LedgerLine,
  { now, closed }: { now: number; closed: boolean },
): Promise<void> {
  const rows = await reader.by('costLines', 'costId', [cost.id]);
  const ids = rows.map((row) => row.id);
  const allocations = await reader.by('allocations', 'costLineId', ids);
  const billed = allocations.some((each) => each.amount !== null);
  const [only] = rows;
  const same = rows.length === 1 && only!.amount === line.amount && cost.currency === line.currency && !line.withdrawn;
  if (same && cost.day === line.day && cost.supplier === line.supplier) {
    if (cost.since) plan.put('costs', { ...cost, since: null });
    return;
  }
  const total = rows.reduce((sum, row) => sum + (row.amount ?? 0), 0);
  if (billed || closed || rows.length !== 1) {
    if (total === line.amount && !line.withdrawn) return;
    const said = { amount: line.amount, withdrawn: line.withdrawn };
    if (cost.since?.amount === said.amount && cost.since.withdrawn === said.withdrawn) return;
    plan.put('costs', { ...cost, since: { ...said, at: now } });
    return;
  }
  for (const each of allocations) {
    if (line.withdrawn || line.amount === 0) plan.remove('allocations', each.id);
    else plan.put('allocations', { ...each, part: line.amount });
  }
  if (line.withdrawn) {
    for (const each of await reader.by('adjustments', 'costLineId', ids)) plan.remove('adjustments', each.id);
    plan.remove('costLines', only!.id).remove('costs', cost.id);
    return;
  }
  plan.put('costs', { ...cost, ...headOf(line), since: null });
  plan.put('costLines', { ...only!, amount: line.amount, text: only!.text || line.text });
}

/** Lines of the bookkeeping that somebody or a rule placed. */
async function placedBefore(reader: Reader): Promise<Placed[]> {
  const costs = await reader.by('costs', 'kind', ['ledger']);
  const byId = new Map<Id, Cost>(costs.map((row) => [row.id, row]));
  const lines = await reader.by('costLines', 'costId', [...byId.keys()]);
  return lines
    .filter((row) => row.projectId !== null || !row.forClient)
    .map(({ costId, text, projectId, costCodeId, forClient }) => {
      const { supplier, day } = byId.get(costId)!;
      return { supplier, text, projectId, costCodeId, forClient, day };
    });
}
