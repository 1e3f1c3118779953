import type { ChargeRows, Pricer } from '@half-penny/core/billing';
import { lineAmounts } from '@half-penny/core/costs';
import type { CostLine } from '@half-penny/core/model';

/** What a cost's line costs the studio, in the cost's own currency. */
export function costOfLine(pricer: Pricer, rows: ChargeRows, line: CostLine): number {
  const cost = rows.costs.find((row) => row.id === line.costId)!;
  const tax = cost.taxId === null ? undefined : pricer.tax.get(cost.taxId);
  return lineAmounts(line, cost, tax, pricer.book.workspace.amountRounding).cost;
}
