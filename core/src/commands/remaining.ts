import { Charges } from '../billing/charges';
import { readBook } from '../billing/book';
import { Pricer } from '../billing/pricer';
import { sourceTables, reservedBySource, type SourceTable } from '../billing/sources';
import { billableOf } from '../billing/billed-lengths';
import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Reader } from '../engine/store';

/** Sources by the tables they stand in. */
export interface Picked {
  entryIds?: Id[] | undefined;
  costLineIds?: Id[] | undefined;
  agreedIds?: Id[] | undefined;
}

/** How many sources were picked, of all kinds. */
export const countOf = ({ entryIds = [], costLineIds = [], agreedIds = [] }: Picked): number =>
  entryIds.length + costLineIds.length + agreedIds.length;

/** "3 entries", "5 items". */
export function sayCount(input: Picked): string {
  const count = countOf(input);
  const [one, many] = count === input.entryIds?.length ? ['entry', 'entries'] : ['item', 'items'];
  return `${count} ${count === 1 ? one : many}`;
}

/** A source with what is neither on an invoice nor adjusted: seconds of an entry, minor units of another. */
export interface Remaining {
  table: SourceTable;
  left: number;
}

/**
 * What is left to bill of each picked source, in the order they were picked.
 *
 * @throws Fault for one that is not there, or not for a client
 */
export async function remainingOf(reader: Reader, picked: Picked): Promise<Map<Id, Remaining>> {
  const { entryIds = [], costLineIds = [], agreedIds = [] } = picked;
  const left = new Map<Id, Remaining>();
  const put = async (table: SourceTable, ids: readonly Id[], billable: ReadonlyMap<Id, number>) => {
    const field = sourceTables[table];
    const taken = reservedBySource([
      ...(await reader.by('allocations', field, ids)),
      ...(await reader.by('adjustments', field, ids)),
    ]);
    for (const id of ids) left.set(id, { table, left: billable.get(id)! - (taken.get(id) ?? 0) });
  };
  const rowsOf = async <T extends SourceTable>(table: T, ids: readonly Id[], what: string) =>
    (await reader.many(table, ids)).map((row, index) => {
      if (!row)
        throw new Fault('gone', `This ${what} is not there any more.`, `${sourceTables[table]}s`, { id: ids[index] });
      return row;
    });
  const entries = await rowsOf('entries', entryIds, 'entry');
  await put('entries', entryIds, new Map(entries.map((row) => [row.id, billableOf(row)])));
  if (costLineIds.length > 0) {
    const costLines = await rowsOf('costLines', costLineIds, 'cost');
    const costs = await reader.many('costs', [...new Set(costLines.map((row) => row.costId))]);
    const rows = { costs: costs.filter((row) => row !== undefined), costLines, agreed: [], milestones: [] };
    const charges = new Charges(new Pricer(await readBook(reader)), rows);
    const billable = costLines.map((row) => {
      const amount = charges.billableOfLine(row);
      if (amount === null)
        throw new Fault('not-for-a-client', 'This cost is not for a client.', 'costLineIds', { id: row.id });
      return [row.id, amount] as const;
    });
    await put('costLines', costLineIds, new Map(billable));
  }
  const agreed = await rowsOf('agreed', agreedIds, 'amount');
  await put('agreed', agreedIds, new Map(agreed.map((row) => [row.id, row.amount])));
  return left;
}
