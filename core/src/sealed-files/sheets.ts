import { lineOfCost, lineOfEntry } from '../checking/checked-line';
import type { Reader } from '../engine/store';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import {
  WORKSPACE_ID,
  type CheckedCost,
  type Cost,
  type CostLine,
  type Entry,
  type HandIn,
  type Receipt,
  type Timesheet,
} from '../model/records';
import { daysFrom, type Day } from '../time/day';

// What a week or billing period of a member consists of.

export interface Recorded {
  entries: Entry[];
  costs: Cost[];
  costLines: CostLine[];
  receipts: Receipt[];
}

/** What a member recorded and spent on days, and these entries and costs wherever they are now. */
export async function recordedOn(
  reader: Reader,
  memberId: Id,
  { from, to }: { from: Day; to: Day },
  also: { entries: readonly Id[]; costs: readonly Id[] } = { entries: [], costs: [] },
): Promise<Recorded> {
  const keys = daysFrom(from, to).map((day) => [memberId, day] as const);
  const entries = await withAlso(reader, 'entries', await reader.by('entries', 'memberId+day', keys), also.entries);
  const within = (await reader.by('costs', 'memberId', [memberId])).filter(
    (cost) => cost.kind === 'expense' && from <= cost.day && cost.day <= to,
  );
  const costs = await withAlso(reader, 'costs', within, also.costs);
  const costLines = await reader.by(
    'costLines',
    'costId',
    costs.map(({ id }) => id),
  );
  const receiptIds = [...new Set(costs.flatMap((cost) => cost.receiptIds))];
  const receipts = (await reader.many('receipts', receiptIds)).filter((row) => row !== undefined);
  return { entries: entries.filter((row) => row.memberId === memberId), costs, costLines, receipts };
}

async function withAlso<T extends 'entries' | 'costs'>(
  reader: Reader,
  table: T,
  rows: (T extends 'entries' ? Entry : Cost)[],
  ids: readonly Id[],
): Promise<typeof rows> {
  const known = new Set(rows.map(({ id }) => id));
  const more = await reader.many(
    table,
    ids.filter((id) => !known.has(id)),
  );
  return [...rows, ...(more.filter((row) => row !== undefined) as typeof rows)];
}

/** The hand-ins of a timesheet, the latest last: in the order of its steps, which is that in which they happened, whatever the clock said. */
export async function handInsOf(reader: Reader, sheet: Timesheet | undefined): Promise<HandIn[]> {
  if (sheet === undefined) return [];
  const placeOf = ({ at, byId: who }: HandIn) =>
    sheet.steps.findIndex((step) => step.kind === 'handed in' && step.at === at && step.byId === who);
  return (await reader.by('handIns', 'timesheetId', [sheet.id])).sort(
    (a, b) => placeOf(a) - placeOf(b) || a.at - b.at || (a.id < b.id ? -1 : 1),
  );
}

/** The timesheets of a member that share a day with these. */
export async function sheetsOver(reader: Reader, memberId: Id, from: Day, to: Day): Promise<Timesheet[]> {
  return (await reader.by('timesheets', 'memberId', [memberId])).filter((row) => row.from <= to && from <= row.to);
}

/** What is compared of costs, by id. */
export async function costLinesById(
  reader: Reader,
  costs: readonly Cost[],
  lines: readonly CostLine[],
): Promise<Map<Id, CheckedCost>> {
  const rule = (await reader.get('workspace', WORKSPACE_ID))?.amountRounding ?? 'half away from zero';
  const taxes = new Map((await reader.all('taxes')).map((tax) => [tax.id, tax]));
  const of = grouped(lines, (line) => line.costId);
  return new Map(
    costs.map((cost) => [cost.id, lineOfCost(cost, of.get(cost.id) ?? [], taxes.get(cost.taxId ?? ''), rule)]),
  );
}

/** What is compared of entries, by id. */
export const entryLinesById = (entries: readonly Entry[]) =>
  new Map(entries.map((entry) => [entry.id, lineOfEntry(entry)]));

/** Rows by their ids. */
export const byId = <Row extends { id: Id }>(rows: readonly Row[]): Map<Id, Row> =>
  new Map(rows.map((row) => [row.id, row]));
