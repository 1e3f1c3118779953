import { costAmounts } from '../costs/amounts';
import { sameData } from '../model/canonical';
import type { CheckedCost, CheckedEntry, Cost, CostLine, Entry, HandIn, Tax } from '../model/records';
import type { RoundingRule } from '../money/rational';

/** What is kept of an entry when it is handed in or corrected. */
export const lineOfEntry = (entry: Entry): CheckedEntry => ({
  id: entry.id,
  day: entry.day,
  projectId: entry.projectId,
  unlisted: entry.unlisted,
  taskId: entry.taskId,
  serviceId: entry.serviceId,
  kindOfWorkId: entry.kindOfWorkId,
  note: entry.note,
  seconds: entry.seconds,
  billableSeconds: entry.billableSeconds,
  ...(entry.spans.length > 0 && { spans: entry.spans }),
});

/** What is kept of an expense: what it comes to with tax, in its own currency. */
export const lineOfCost = (
  cost: Cost,
  lines: readonly CostLine[],
  tax: Tax | undefined,
  rule: RoundingRule,
): CheckedCost => ({
  id: cost.id,
  day: cost.day,
  supplier: cost.supplier,
  amount: costAmounts(lines, cost, tax, rule).gross,
  currency: cost.currency,
});

/** What can differ between an entry as it was handed in and as it is. */
export const checkedFields = ['day', 'job', 'service', 'note', 'length', 'times', 'billable part'] as const;
export type CheckedField = (typeof checkedFields)[number];

const keysOf: Readonly<Record<CheckedField, readonly (keyof CheckedEntry)[]>> = {
  day: ['day'],
  job: ['projectId', 'unlisted', 'taskId'],
  service: ['serviceId', 'kindOfWorkId'],
  note: ['note'],
  length: ['seconds'],
  times: ['spans'],
  'billable part': ['billableSeconds'],
};

/** The fields by which two states of an entry differ. */
export const fieldsChanged = (before: CheckedEntry, after: CheckedEntry): CheckedField[] =>
  checkedFields.filter((field) => keysOf[field].some((key) => isChanged(key, before, after)));

/** Times are told of where both have them: what was handed in before they were kept has none. */
const isChanged = (key: keyof CheckedEntry, before: CheckedEntry, after: CheckedEntry): boolean =>
  !sameData(before[key], after[key]) && (key !== 'spans' || (before.spans !== undefined && after.spans !== undefined));

/** One entry as it was handed in and as it is now; null where it was not there, or is no more. */
export interface Difference {
  before: CheckedEntry | null;
  after: CheckedEntry | null;
  /** What differs where both are there. */
  fields: CheckedField[];
}

/** What became different since a member handed in, entry by entry in the order of days. */
export function differencesSince(handIn: Pick<HandIn, 'entries'>, entries: readonly Entry[]): Difference[] {
  const now = new Map(entries.map((entry) => [entry.id, lineOfEntry(entry)]));
  const differences: Difference[] = [];
  for (const before of handIn.entries) {
    const after = now.get(before.id) ?? null;
    now.delete(before.id);
    const fields = after ? fieldsChanged(before, after) : [];
    if (!after || fields.length > 0) differences.push({ before, after, fields });
  }
  for (const after of now.values()) differences.push({ before: null, after, fields: [] });
  const dayOf = ({ before, after }: Difference) => (after ?? before)!.day;
  return differences.sort((a, b) => (dayOf(a) < dayOf(b) ? -1 : dayOf(a) > dayOf(b) ? 1 : 0));
}
