import { grouped } from '../model/grouped';
import type { Allocation, FrozenInvoice, FrozenLine, Invoice } from '../model/records';
import type { Minor } from '../money/amount';
import type { CurrencyCode } from '../money/currency';
import { addExact, divideRounded, product } from '../money/rational';
import { withoutTax } from '../money/tax';
import type { Day } from '../time/day';
import { lineNets, netShares } from './paid';
import { sourceId } from './sources';

/** What issued papers gave up: taken off as a discount, or credited so that it never comes back to bill. */
export interface GivenUp {
  what: 'discount' | 'credited for good';
  invoice: Invoice;
  currency: CurrencyCode;
  /** The hours that the money stands for, at the lines' own prices; 0 where a line is not time. */
  seconds: number;
  /** Before tax, in minor units. */
  amount: Minor;
}

const part = (whole: number, of: number, all: number): number =>
  all === 0 ? 0 : divideRounded(product(whole, of * Math.sign(all)), Math.abs(all), 'half away from zero');

/**
 * Discounts and credits for good, before tax, each by the day of its paper. A discount counts as far as its line has not come back
 * to bill. What stands on a line of one's own and is credited comes back nowhere, so it is given up.
 *
 * @param allocations all that stands on the invoices and on their credit notes
 */
export function givenUp(
  invoices: readonly Invoice[],
  allocations: readonly Allocation[],
  within: { from: Day; to: Day },
): GivenUp[] {
  const onInvoice = grouped(allocations, (row) => row.invoiceId);
  const notesOf = grouped(
    invoices.filter((row) => row.ofId !== null && !row.voided),
    (row) => row.ofId,
  );
  return invoices.flatMap((invoice): GivenUp[] => {
    const { frozen, voided, kind } = invoice;
    if (!frozen || voided || frozen.day < within.from || frozen.day > within.to) return [];
    const own = onInvoice.get(invoice.id) ?? [];
    const found =
      kind === 'credit note'
        ? creditedForGood(invoice, own, onInvoice.get(invoice.ofId!) ?? [])
        : discounted(
            frozen,
            (notesOf.get(invoice.id) ?? []).flatMap((note) => onInvoice.get(note.id) ?? []),
          );
    if (found.amount === 0) return [];
    const what = kind === 'credit note' ? 'credited for good' : 'discount';
    return [{ what, invoice, currency: frozen.currency, ...found }];
  });
}

const comesBack = (row: Allocation): boolean => row.seconds !== 0 || row.part !== 0;

function discounted(frozen: FrozenInvoice, back: readonly Allocation[]): { seconds: number; amount: Minor } {
  const nets = lineNets(frozen);
  let [seconds, amount] = [0, 0];
  frozen.lines.forEach((line, index) => {
    const before = beforeTax(frozen, line);
    const off = before - nets[index]!;
    const freed = back.filter((row) => row.line === line.key && comesBack(row));
    const stays = freed.reduce((sum, row) => sum + (row.amount ?? 0), line.amount);
    const lost = line.gross === line.amount && frozen.allowance === null ? 0 : part(off, stays, line.amount);
    amount += lost;
    seconds += part(line.seconds, lost, before);
  });
  return { seconds, amount };
}

/** What a line came to without any discount, before tax. */
function beforeTax(frozen: FrozenInvoice, line: FrozenLine): Minor {
  const tax = frozen.taxes.find((each) => each.id === line.taxId);
  return frozen.inclusive && tax ? withoutTax(line.gross, tax.percent) : line.gross;
}

function creditedForGood(
  note: Invoice,
  own: readonly Allocation[],
  stood: readonly Allocation[],
): { seconds: number; amount: Minor } {
  const { byAllocation, byLine } = netShares(note, own);
  let [seconds, amount] = [0, 0];
  for (const row of own) {
    if (comesBack(row)) continue;
    amount -= byAllocation.get(row.id) ?? 0;
    const before = stood.find((each) => each.line === row.line && sourceId(each) === sourceId(row));
    seconds -= part(before?.billed ?? before?.seconds ?? 0, row.amount ?? 0, before?.amount ?? 0);
  }
  // What was written by hand stands for no time.
  for (const net of byLine.values()) amount -= net;
  return { seconds: seconds || 0, amount: amount || 0 };
}

/** Together: seconds, and money by currency. */
export function sumGivenUp(rows: readonly GivenUp[]): {
  seconds: number;
  amounts: { currency: CurrencyCode; amount: Minor }[];
} {
  const sums = new Map<CurrencyCode, Minor>();
  for (const { currency, amount } of rows) sums.set(currency, addExact(sums.get(currency) ?? 0, amount));
  return {
    seconds: rows.reduce((sum, row) => sum + row.seconds, 0),
    amounts: [...sums].map(([currency, amount]) => ({ currency, amount })),
  };
}
