import type { Allocation, FrozenInvoice, Invoice } from '../model/records';
import { showAmount } from '../money/amount';
import { sumExact } from '../money/rational';
import { grouped } from '../model/grouped';

/** Where an issued paper contradicts itself. */
export interface PaperFault {
  path: string;
  message: string;
}

/**
 * Compares an issued invoice or credit note with itself: its lines with their sum, discount, tax, rounding, total and what is to be paid,
 * its number with its place in the numbering, and what stands on each line with the line. Only what has held of every paper there ever was:
 * one that was made by an older rule is no fault.
 *
 * @param allocations all that stand on it
 */
export function paperFaults({ frozen, seq, voided }: Invoice, allocations: readonly Allocation[]): PaperFault[] {
  if (!frozen || seq === null) return [];
  const faults: PaperFault[] = [];
  const same = (path: string, is: number, ought: number, what: string) => {
    if (is === ought) return;
    const [said, comes] = [is, ought].map((minor) => showAmount(minor, frozen.currency));
    faults.push({ path: `frozen/${path}`, message: `${frozen.number} says ${said} ${what}; it comes to ${comes}.` });
  };
  const sum = <T>(rows: readonly T[], of: (row: T) => number) => sumExact(rows.map(of));
  same(
    'net',
    frozen.net,
    sum(frozen.lines, (line) => line.amount),
    'for its lines',
  );
  same(
    'tax',
    frozen.tax,
    sum(frozen.taxes, (tax) => tax.amount),
    'of tax',
  );
  const asked = frozen.total + frozen.rounding;
  same('total', asked, frozen.net - discountOf(frozen) + (frozen.inclusive ? 0 : frozen.tax), 'in total');
  same('payable', frozen.payable, asked - sum(frozen.deductions, (each) => each.amount), 'to pay');
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
      same(
        `lines/${index}/amount`,
        voided ? 0 : line.amount,
        sum(rows, (row) => row.amount ?? 0),
        `on “${line.text.slice(0, 40)}”`,
      );
  });
  if (onLine.size > 0)
    faults.push({
      path: 'frozen/lines',
      message: `Something stands on a line of ${frozen.number} that it does not have.`,
    });
  return faults;
}

const discountOf = ({ allowance }: FrozenInvoice): number => allowance?.amount ?? 0;
