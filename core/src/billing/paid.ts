import type { Id } from '../model/ids';
import type { Allocation, FrozenInvoice, FrozenLine, Invoice, Payment } from '../model/records';
import type { Minor } from '../money/amount';
import { divideRounded, product, sumExact } from '../money/rational';
import { shareOut, shareSigned } from '../money/share';
import { grouped } from '../model/grouped';

/** What came in for a part of an invoice, before tax, and what of it was given up. */
export interface PaidPart {
  paid: Minor;
  writtenOff: Minor;
}

/** A part of an invoice: what it earns, and what became of that. */
export interface InvoicedPart extends PaidPart {
  /** Before tax, after its share of the discount on the whole; negative on credit notes. */
  net: Minor;
}

/** By what the part of a line that stands for no source is found. */
export const lineId = (invoiceId: Id, line: string): string => `${invoiceId} ${line}`;

/** What an invoice asks for before tax and after its discount. */
export const netOf = ({ total, tax }: Pick<FrozenInvoice, 'total' | 'tax'>): Minor => total - tax;

/** What the nets of lines depend on; the same of drafts and of what is issued. */
export interface NetFigures {
  lines: readonly Pick<FrozenLine, 'amount' | 'taxId'>[];
  taxes: readonly { id: Id; basis: Minor }[];
  total: Minor;
  tax: Minor;
}

/** What it asks for with tax, before anything is deducted: BT-112 with the rounding amount BT-114. */
export const askedOf = ({ total, rounding }: Pick<FrozenInvoice, 'total' | 'rounding'>): Minor => total + rounding;

/**
 * What each line of an invoice earns: before tax, and after its part of the discount on the whole. Within each tax the basis is shared over
 * the lines by largest remainder; the parts add up to {@link netOf}.
 */
export function lineNets(frozen: NetFigures): Minor[] {
  const nets = frozen.lines.map((line) => line.amount);
  const taxOf = (line: Pick<FrozenLine, 'taxId'>) =>
    frozen.taxes.some((tax) => tax.id === line.taxId) ? line.taxId : null;
  const untaxed = netOf(frozen) - sumExact(frozen.taxes.map((tax) => tax.basis));
  for (const { id, basis } of [{ id: null, basis: untaxed }, ...frozen.taxes]) {
    const places = frozen.lines.flatMap((line, index) => (taxOf(line) === id ? [index] : []));
    const amounts = places.map((index) => nets[index]!);
    const whole = sumExact(amounts);
    if (places.length === 0 || whole === basis) continue;
    const shares =
      whole === 0
        ? shareOut(basis, amounts.map(Math.abs)).map((part, index) => part + amounts[index]!)
        : shareSigned(basis, amounts);
    places.forEach((place, index) => (nets[place] = shares[index]!));
  }
  return nets;
}

/** What each allocation of an issued invoice earns, by its id, and each line that stands for no source, by its key. */
export function netShares(
  { frozen, voided }: Invoice,
  allocations: readonly Allocation[],
): { byAllocation: Map<Id, Minor>; byLine: Map<string, Minor> } {
  const byAllocation = new Map<Id, Minor>();
  const byLine = new Map<string, Minor>();
  const onLine = grouped(allocations, (row) => row.line);
  const nets = lineNets(frozen!);
  frozen!.lines.forEach((line, index) => {
    const net = nets[index]!;
    const rows = onLine.get(line.key) ?? [];
    if (rows.length === 0) byLine.set(line.key, net);
    // A void invoice holds what it took and what it gave back: each is turned by itself, so that they cancel out.
    const sum = sumExact(rows.map((row) => row.amount ?? 0));
    const shares =
      net === line.amount
        ? rows.map((row) => row.amount ?? 0)
        : voided || sum === 0
          ? rows.map((row) =>
              line.amount === 0
                ? 0
                : divideRounded(
                    product(row.amount ?? 0, net * Math.sign(line.amount)),
                    Math.abs(line.amount),
                    'half away from zero',
                  ),
            )
          : shareSigned(
              net,
              rows.map((row) => row.amount ?? 0),
            );
    rows.forEach((row, place) => byAllocation.set(row.id, shares[place]!));
  });
  return { byAllocation, byLine };
}

/**
 * What was paid and written off on an invoice before tax. Money is taken to pay net and tax alike; what was paid ahead and deducted
 * counts as paid, what is held back does not, and nothing counts beyond the whole.
 */
export function paidOnNet(frozen: FrozenInvoice, payments: readonly Payment[]): PaidPart {
  const net = netOf(frozen);
  const asked = frozen.total + frozen.rounding;
  const ahead = sumExact(frozen.deductions.filter((each) => each.kind === 'deposit').map((each) => each.amount));
  const sum = (kind: Payment['kind']) => sumExact(payments.filter((row) => row.kind === kind).map((row) => row.amount));
  const part = (amount: Minor, most: Minor): Minor =>
    asked <= 0 ? 0 : Math.min(most, divideRounded(product(net, Math.min(amount, asked)), asked, 'half away from zero'));
  const paid = asked === 0 ? net : part(Math.max(0, ahead + sum('payment') - sum('refund')), net);
  return { paid, writtenOff: part(sum('write-off'), net - paid) };
}

/**
 * What each allocation of issued invoices earns, and what was paid and written off of that, by the allocation's id: the invoice's figures
 * shared out over what stands on it by largest remainder. Lines without a source have their part under {@link lineId}.
 */
export function invoicedParts(
  invoices: readonly Invoice[],
  payments: readonly Payment[],
  allocations: readonly Allocation[],
): Map<string, InvoicedPart> {
  const onInvoice = grouped(allocations, (row) => row.invoiceId);
  const paidOn = grouped(payments, (row) => row.invoiceId);
  const parts = new Map<string, InvoicedPart>();
  for (const invoice of invoices) {
    const { id, frozen, voided, kind } = invoice;
    if (!frozen) continue;
    const { byAllocation, byLine } = netShares(invoice, onInvoice.get(id) ?? []);
    const nets: [string, Minor][] = [
      ...byAllocation,
      ...[...byLine].map(([key, net]) => [lineId(id, key), net] as [string, Minor]),
    ];
    const none = { paid: 0, writtenOff: 0 };
    const whole = voided || kind === 'credit note' ? none : paidOnNet(frozen, paidOn.get(id) ?? []);
    const weights = nets.map(([, net]) => Math.max(0, net));
    const share = (amount: Minor) =>
      amount === 0 || nets.length === 0 ? nets.map(() => 0) : shareOut(amount, weights);
    const [paid, writtenOff] = [share(whole.paid), share(whole.writtenOff)];
    nets.forEach(([key, net], index) => parts.set(key, { net, paid: paid[index]!, writtenOff: writtenOff[index]! }));
  }
  return parts;
}
