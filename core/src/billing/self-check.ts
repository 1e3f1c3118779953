import type { Allocation, FrozenInvoice, Invoice } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import { percentOf } from '../money/price';
import { sumExact } from '../money/rational';
import { grouped } from '../model/grouped';

/** Where an issued paper contradicts itself. */
export interface PaperFault {
  path: string;
  message: string;
}

/** What a figure of a paper is, and what it ought to be by the others. */
export interface Equation {
  path: string;
  is: Minor;
  ought: Minor;
  /** What the figure is for. */
  what: string;
}

/** How the sums of a paper hang together. Only what has held of every paper there ever was. */
export function equationsOf(frozen: FrozenInvoice): Equation[] {
  const asked = frozen.total + frozen.rounding;
  return [
    { path: 'net', is: frozen.net, ought: sumExact(frozen.lines.map((line) => line.amount)), what: 'for its lines' },
    { path: 'tax', is: frozen.tax, ought: sumExact(frozen.taxes.map((tax) => tax.amount)), what: 'of tax' },
    {
      path: 'total',
      is: asked,
      ought: frozen.net - discountOf(frozen) + (frozen.inclusive ? 0 : frozen.tax),
      what: 'in total',
    },
    {
      path: 'payable',
      is: frozen.payable,
      ought: asked - sumExact(frozen.deductions.map((each) => each.amount)),
      what: 'to pay',
    },
  ];
}

/**
 * Compares an issued invoice or credit note with itself: its lines with their sum, discount, tax, rounding, total and what is to be paid,
 * its number with its place in the numbering, and what stands on each line with the line. One that was made by an older rule is no fault.
 *
 * @param allocations all that stand on it
 */
export function paperFaults({ frozen, seq, voided }: Invoice, allocations: readonly Allocation[]): PaperFault[] {
  if (!frozen || seq === null) return [];
  const faults: PaperFault[] = [];
  const same = ({ path, is, ought, what }: Equation) => {
    if (is === ought) return;
    const [said, comes] = [is, ought].map((minor) => showAmount(minor, frozen.currency));
    faults.push({ path: `frozen/${path}`, message: `${frozen.number} says ${said} ${what}; it comes to ${comes}.` });
  };
  equationsOf(frozen).forEach(same);
  faults.push(...ruleFaults(frozen));
  if (!frozen.number.endsWith(String(seq)))
    faults.push({
      path: 'frozen/number',
      message: `${frozen.number} is number ${seq} of the invoices; its own number says otherwise.`,
    });
  const onLine = grouped(allocations, (row) => row.line);
  frozen.lines.forEach((line, index) => {
    const rows = onLine.get(line.key);
    onLine.delete(line.key);
    if (rows)
      same({
        path: `lines/${index}/amount`,
        is: voided ? 0 : line.amount,
        ought: sumExact(rows.map((row) => row.amount ?? 0)),
        what: `on “${line.text.slice(0, 40)}”`,
      });
  });
  if (onLine.size > 0)
    faults.push({
      path: 'frozen/lines',
      message: `Something stands on a line of ${frozen.number} that it does not have.`,
    });
  return faults;
}

/** By the rules of now: a percentage of the whole is taken off, and tax is its basis × rate. Credits of the rest may differ, so they are left out. */
function ruleFaults(frozen: FrozenInvoice): PaperFault[] {
  const { amountRounding, allowance, taxMethod, taxes, net, number, credits, currency } = frozen;
  if (amountRounding === null || credits) return [];
  const faults: PaperFault[] = [];
  if (allowance?.percent != null && allowance.amount !== percentOf(net, allowance.percent, amountRounding))
    faults.push({
      path: 'frozen/allowance',
      message: `The discount on ${number} is not ${allowance.percent} % of its lines.`,
    });
  taxes.forEach(({ name, percent, basis, amount }, index) => {
    if (taxMethod !== 'invoice' || amount === percentOf(basis, percent, 'half away from zero')) return;
    const message = `${name} on ${number} is not ${percent} % of ${showAmount(basis, currency)}.`;
    faults.push({ path: `frozen/taxes/${index}/amount`, message });
  });
  return faults;
}

const discountOf = ({ allowance }: FrozenInvoice): number => allowance?.amount ?? 0;
