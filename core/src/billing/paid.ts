import type { Id } from '../model/ids';
import type { Allocation, FrozenInvoice, Invoice, Payment } from '../model/records';
import type { Minor } from '../money/amount';
import { divideRounded, product, sumExact } from '../money/rational';
import { shareOut } from '../money/share';
import { grouped } from '../model/grouped';

/** What came in for a part of an invoice, before tax, and what of it was given up. */
export interface PaidPart {
  paid: Minor;
  writtenOff: Minor;
}

/** What an invoice asks for before tax: its lines less its discount, less the tax where it stands in the prices. */
export const netOf = (frozen: FrozenInvoice): Minor =>
  sumExact(frozen.lines.map((line) => line.amount)) -
  (frozen.allowance?.amount ?? 0) -
  (frozen.inclusive ? frozen.tax : 0);

/**
 * What was paid and written off on an invoice before tax. Money is taken to pay net and tax alike; what was paid ahead and deducted
 * counts as paid, what is held back does not, and nothing counts beyond the whole.
 */
export function paidOnNet(frozen: FrozenInvoice, payments: readonly Payment[]): PaidPart {
  const net = netOf(frozen);
  const ahead = sumExact(frozen.deductions.filter((each) => each.kind === 'deposit').map((each) => each.amount));
  const sum = (kind: Payment['kind']) => sumExact(payments.filter((row) => row.kind === kind).map((row) => row.amount));
  const part = (amount: Minor, most: Minor): Minor =>
    frozen.total <= 0
      ? 0
      : Math.min(
          most,
          divideRounded(product(net, Math.min(amount, frozen.total)), frozen.total, 'half away from zero'),
        );
  const paid = frozen.total === 0 ? net : part(ahead + sum('payment'), net);
  return { paid, writtenOff: part(sum('write-off'), net - paid) };
}

/**
 * What was paid and written off on each allocation of issued invoices, by the allocation's id: the invoice's figures shared out over
 * what stands on it by largest remainder. Lines without a source have their share under the invoice's own id.
 */
export function paidParts(
  invoices: readonly Invoice[],
  payments: readonly Payment[],
  allocations: readonly Allocation[],
): Map<Id, PaidPart> {
  const onInvoice = grouped(allocations, (row) => row.invoiceId);
  const paidOn = grouped(payments, (row) => row.invoiceId);
  const parts = new Map<Id, PaidPart>();
  for (const { id, frozen, voided, kind } of invoices) {
    const own = paidOn.get(id) ?? [];
    if (!frozen || voided || kind === 'credit note') continue;
    const { paid, writtenOff } = paidOnNet(frozen, own);
    if (paid === 0 && writtenOff === 0) continue;
    const rows = onInvoice.get(id) ?? [];
    const rest = netOf(frozen) - sumExact(rows.map((row) => row.amount ?? 0));
    const weights = [...rows.map((row) => Math.max(0, row.amount ?? 0)), Math.max(0, rest)];
    const ids = [...rows.map((row) => row.id), id];
    const shares = [shareOut(paid, weights), shareOut(writtenOff, weights)];
    ids.forEach((each, index) => parts.set(each, { paid: shares[0]![index]!, writtenOff: shares[1]![index]! }));
  }
  return parts;
}
