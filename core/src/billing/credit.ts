import { Fault } from '../model/fault';
import type { Id } from '../model/ids';
import type { Allocation, FrozenInvoice, FrozenLine, Invoice } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import { addExact } from '../money/rational';
import { shareOut } from '../money/share';
import { totalsOf } from '../money/tax';
import type { Day } from '../time/day';
import { fromScaled, SCALE } from '../money/decimal';
import { minorPerMajor } from '../money/currency';
import { invoiceNumber, studioOf } from './freeze';
import type { Pricer } from './pricer';
import { sourceId } from './sources';

export interface CreditInput {
  invoice: Invoice;
  /** Credit notes of it so far. */
  notes: readonly Invoice[];
  /** What stands on the invoice and on those notes. */
  allocations: readonly Allocation[];
  /** What is taken back of each line, by its key; all of every line where not given. */
  lines?: Readonly<Record<string, Minor>> | undefined;
  reason: string;
  /** Whether what stood on the lines is to bill again. */
  free: boolean;
  day: Day;
  seq: number;
}

export interface Credited {
  frozen: FrozenInvoice;
  /** Negative ones, without the ids they will have. */
  allocations: Omit<Allocation, 'id' | 'invoiceId'>[];
}

/** What of a line has not been credited yet. */
export function creditableOf(line: FrozenLine, notes: readonly Invoice[]): Minor {
  const back = notes
    .filter((note) => !note.voided)
    .flatMap((note) => note.frozen?.lines ?? [])
    .filter((each) => each.key === line.key);
  return back.reduce((sum, each) => addExact(sum, each.amount), line.amount);
}

/**
 * A credit note: lines of an issued invoice taken back, in full or in part, with the taxes they bore. What stood on a line is given back in
 * proportion, by largest remainder.
 *
 * @throws Fault when more would be credited than is left of a line, or nothing at all
 */
export function creditNote(pricer: Pricer, input: CreditInput): Credited {
  const { invoice, notes, reason, day, seq } = input;
  const sent = invoice.frozen!;
  const { workspace } = pricer.book;
  const lines: FrozenLine[] = [];
  const allocations: Credited['allocations'] = [];
  for (const line of sent.lines) {
    const left = creditableOf(line, notes);
    const back = input.lines ? (input.lines[line.key] ?? 0) : left;
    if (back === 0) continue;
    if (back > 0 !== left > 0 || Math.abs(back) > Math.abs(left)) {
      const said = showAmount(left, sent.currency);
      throw new Fault(
        `Of “${line.text.slice(0, 60)}” ${said} is left to credit; ${showAmount(back, sent.currency)} is more.`,
        'lines',
        {
          key: line.key,
        },
      );
    }
    lines.push(creditLine(line, back, sent.currency));
    allocations.push(...givenBack(input, line, back, back === left));
  }
  if (lines.length === 0) throw new Fault('Nothing is left to credit on these lines.', 'lines');
  const rates = sent.taxes.map(({ id, name, percent }) => ({ id, name, percent }));
  const allowance = allowanceOf(sent, notes, lines);
  const totals = totalsOf(lines, rates, sent.taxMethod, workspace.amountRounding, {
    allowance: -allowance || 0,
    inclusive: sent.inclusive,
  });
  const frozen: FrozenInvoice = {
    ...sent,
    number: invoiceNumber(workspace, seq, day),
    day,
    dueDay: day,
    studio: studioOf(pricer),
    lines,
    allowance: allowance === 0 ? null : { ...sent.allowance!, amount: -allowance },
    taxes: totals.taxes.map((part) => ({
      id: part.tax.id,
      name: part.tax.name,
      percent: part.tax.percent,
      note: sent.taxes.find((each) => each.id === part.tax.id)?.note ?? '',
      basis: part.basis,
      amount: part.amount,
    })),
    net: totals.net,
    tax: totals.tax,
    total: totals.total,
    deductions: [],
    payable: totals.total,
    note: '',
    sentences: [],
    openBook: false,
    credits: { number: sent.number, reason },
  };
  return { frozen, allocations };
}

function creditLine(line: FrozenLine, back: Minor, currency: string): FrozenLine {
  const whole = back === line.amount;
  return {
    ...line,
    // A part of a line is a sum: its hours × price would not come to it.
    ...(whole && line.discount === null
      ? { seconds: line.seconds, quantity: line.quantity }
      : { seconds: 0, quantity: '1', unit: 'lump' as const, unitName: '', price: plainPrice(back, currency) }),
    gross: -back,
    discount: null,
    amount: -back,
    cost: null,
    markup: null,
    receiptIds: [],
  };
}

const plainPrice = (minor: Minor, currency: string) => fromScaled(Math.abs(minor) * (SCALE / minorPerMajor(currency)));

/** The part of a discount on all of an invoice that goes back with some of its lines: what is left of it with the last of them. */
function allowanceOf(sent: FrozenInvoice, notes: readonly Invoice[], lines: readonly FrozenLine[]): Minor {
  if (!sent.allowance) return 0;
  const before = notes
    .filter((note) => !note.voided)
    .reduce((sum, note) => sum - (note.frozen?.allowance?.amount ?? 0), 0);
  const back = lines.reduce((sum, line) => sum - line.amount, 0);
  const earlier = notes.filter((note) => !note.voided).reduce((sum, note) => sum - (note.frozen?.net ?? 0), 0);
  if (earlier + back === sent.net) return sent.allowance.amount - before;
  return shareOut(sent.allowance.amount, [back, sent.net - back])[0]!;
}

/** Allocations that give back what stood on a line, as far as it is credited. */
function givenBack(input: CreditInput, line: FrozenLine, back: Minor, all: boolean): Credited['allocations'] {
  const held = new Map<Id, Omit<Allocation, 'id' | 'invoiceId'> & { amount: Minor }>();
  for (const { id: _, invoiceId: _of, ...each } of input.allocations) {
    if (each.line !== line.key) continue;
    const before = held.get(sourceId(each));
    held.set(sourceId(each), {
      ...each,
      seconds: (before?.seconds ?? 0) + each.seconds,
      part: (before?.part ?? 0) + each.part,
      amount: (before?.amount ?? 0) + (each.amount ?? 0),
    });
  }
  const sources = [...held.values()];
  if (sources.length === 0) return [];
  const shares = all
    ? sources.map((each) => each.amount)
    : shareOut(
        back,
        sources.map((each) => Math.abs(each.amount)),
      );
  return sources.map((each, index) => {
    const share = shares[index]!;
    const portion = (whole: number) =>
      all ? whole : each.amount === 0 ? 0 : Math.trunc((whole * Math.abs(share)) / Math.abs(each.amount));
    return {
      ...each,
      seconds: input.free ? -portion(each.seconds) || 0 : 0,
      part: input.free ? -portion(each.part) || 0 : 0,
      amount: -share || 0,
      markup: null,
      dealId: null,
    };
  });
}
