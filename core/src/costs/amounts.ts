import type { Cost, CostLine, Milestone, Tax, Workspace } from '../model/records';
import { readDecimal } from '../money/decimal';
import type { Minor } from '../money/amount';
import { amountOfPieces, percentOf } from '../money/price';
import { percentOn, percentWithin } from '../money/tax';
import { addExact, type RoundingRule } from '../money/rational';
import { addDays, type Day } from '../time/day';

/** What a line of a cost comes to, in minor units of the cost's currency. */
export interface LineAmounts {
  net: Minor;
  tax: Minor;
  gross: Minor;
  /** What it costs the studio: without tax that is claimed back, with tax that is not. */
  cost: Minor;
}

type Priced = Pick<CostLine, 'quantity' | 'price' | 'amount'>;
type Taxed = Pick<Cost, 'currency' | 'day' | 'taxIncluded' | 'taxReclaimed'>;

/** A line as it was written: its amount, or quantity × price, rounded once. */
export const writtenAmount = (line: Priced, currency: string, rule: RoundingRule): Minor =>
  line.amount ?? amountOfPieces(line.quantity, line.price!, currency, rule);

/** Net, tax and what counts as cost of a line, by the tax as it was on the cost's day. */
export function lineAmounts(line: Priced, cost: Taxed, tax: Tax | undefined, rule: RoundingRule): LineAmounts {
  const written = writtenAmount(line, cost.currency, rule);
  const percent = tax ? percentOn(tax, cost.day) : '0';
  const part = cost.taxIncluded ? percentWithin(written, percent, rule) : percentOf(written, percent, rule);
  const net = cost.taxIncluded ? written - part : written;
  const gross = addExact(net, part);
  return { net, tax: part, gross, cost: cost.taxReclaimed ? net : gross };
}

/** What all lines of a cost come to. */
export function costAmounts(
  lines: readonly Priced[],
  cost: Taxed,
  tax: Tax | undefined,
  rule: RoundingRule,
): LineAmounts {
  const sum: LineAmounts = { net: 0, tax: 0, gross: 0, cost: 0 };
  for (const line of lines) {
    const part = lineAmounts(line, cost, tax, rule);
    for (const field of ['net', 'tax', 'gross', 'cost'] as const) sum[field] = addExact(sum[field], part[field]);
  }
  return sum;
}

/** When a bill is due: so many days after its milestone, wherever that has moved to, or on its own day. */
export function dueDayOf(
  cost: Pick<Cost, 'dueDay' | 'dueMilestoneId' | 'dueAfter'>,
  milestoneOf: (id: string) => Pick<Milestone, 'day'> | undefined,
): Day | null {
  const milestone = cost.dueMilestoneId === null ? undefined : milestoneOf(cost.dueMilestoneId);
  return milestone ? addDays(milestone.day, cost.dueAfter) : cost.dueDay;
}

/**
 * Whether a cost should have a receipt and has neither that nor a reason: an expense or ledger line of more than the studio's limit.
 *
 * @param gross in minor units of the workspace's currency
 */
export const needsReceipt = (
  cost: Pick<Cost, 'kind' | 'receiptIds' | 'noReceipt'>,
  gross: Minor,
  { receiptOver }: Pick<Workspace, 'receiptOver'>,
): boolean =>
  receiptOver !== null &&
  cost.kind !== 'bill' &&
  cost.receiptIds.length === 0 &&
  !cost.noReceipt?.trim() &&
  gross > receiptOver;

/**
 * A markup as it is typed, in percent. A figure between nothing and one, such as 0.35, is mostly a share where percent are meant: the
 * caller asks.
 *
 * @returns the markup as written, and as percent where a share may have been meant
 * @throws Fault when it is not a number
 */
export function readMarkup(typed: string): { percent: string; meant: string | null } {
  const percent = readDecimal(typed.replace('%', ''), 'markup');
  const written = Number(percent);
  if (typed.includes('%') || written <= 0 || written >= 1) return { percent, meant: null };
  return { percent, meant: readDecimal(String(Math.round(written * 1_000_000) / 10_000), 'markup') };
}
