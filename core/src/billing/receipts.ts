import type { Pricer } from './pricer';
import type { Cost, CostLine } from '../model/records';
import type { Minor } from '../money/amount';
import { costAmounts, needsReceipt } from '../costs/amounts';

/**
 * What a cost comes to with its tax, in the workspace's currency by the rate of its day: what the limit for receipts is compared with. Where
 * no rate is known its own figure counts, so that a missing rate never hides a missing receipt.
 */
export function grossAtHome(pricer: Pricer, cost: Cost, lines: readonly CostLine[]): Minor {
  const { amountRounding, currency } = pricer.book.workspace;
  const tax = cost.taxId === null ? undefined : pricer.tax.get(cost.taxId);
  const { gross } = costAmounts(lines, cost, tax, amountRounding);
  return pricer.rates.exchange.convert(gross, cost.currency, currency, cost.day, amountRounding) ?? gross;
}

/**
 * Whether a cost should have a receipt and has neither that nor a reason.
 *
 * @param lines all lines of the cost
 */
export const lacksReceipt = (pricer: Pricer, cost: Cost, lines: readonly CostLine[]): boolean =>
  needsReceipt(cost, grossAtHome(pricer, cost, lines), pricer.book.workspace);
