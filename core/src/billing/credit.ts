import { Fault } from '../faults/fault';
import type { Id } from '../model/ids';
import type { Allocation, Deduction, FrozenInvoice, FrozenLine, Invoice } from '../model/records';
import { showAmount, type Minor } from '../money/amount';
import { minorPerMajor } from '../money/currency';
import { fromScaled, SCALE, toScaled } from '../money/decimal';
import { percentOf } from '../money/price';
import { addExact, divideRounded, product, sumExact } from '../money/rational';
import { shareOut, shareSigned } from '../money/share';
import { percentWithin, withoutTax } from '../money/tax';
import type { Day } from '../time/day';
import { inHome, invoiceNumber, studioOf } from './freeze';
import type { Pricer } from './pricer';
import { sourceId } from './sources';

// Credits of one invoice, in any number of parts and order, come to what was invoiced and never to more: of each line, of each tax, of what
// stood on the lines, of deposits and retention. The note that takes what is left takes all that is left, so that nothing stays over.

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

/** How much of a line a note takes back, and what was left of it before. */
interface Back {
  line: FrozenLine;
  back: Minor;
  left: Minor;
}

/**
 * A credit note: lines of an issued invoice taken back, in full or in part, with the taxes they bore. What stood on a line is given back in
 * proportion, by largest remainder.
 *
 * @throws Fault when more would be credited than is left of a line, or nothing at all
 */
export function creditNote(pricer: Pricer, input: CreditInput): Credited {
  const { invoice, reason, day, seq } = input;
  const sent = invoice.frozen!;
  const notes = input.notes.filter((note) => note.frozen && !note.voided).map((note) => note.frozen!);
  const backs = backsOf(input, sent);
  const lines = backs.filter((each) => each.back !== 0).map(({ line, back }) => creditLine(line, back, sent.currency));
  if (lines.length === 0) throw new Fault('nothing-left', 'Nothing is left to credit on these lines.', 'lines');
  const groups = groupsOf(sent).map((group) => creditOfGroup(sent, group, notes, backs));
  const sum = (of: (group: GroupCredit) => Minor) => sumExact(groups.map(of));
  const [allowance, basis, tax] = [sum((each) => each.allowance), sum((each) => each.basis), sum((each) => each.tax)];
  const total = basis + tax;
  const rounding = sent.inclusive ? sum((each) => each.gross) - allowance - total : 0;
  const rest = backs.every(({ back, left }) => back === left);
  // What was held back and is due by now is owed like the rest; only what is still held is given back as such.
  const held = sent.deductions.filter((each) => each.kind === 'deposit' || invoice.releasedOn === null);
  const deductions = deductionsOf(sent, held, notes, total + rounding, rest);
  const frozen: FrozenInvoice = {
    ...sent,
    number: invoiceNumber(pricer.book.workspace, seq, day),
    day,
    dueDay: day,
    taxPoint: null,
    studio: studioOf(pricer, sent.currency),
    lines,
    allowance: allowance === 0 ? null : { ...sent.allowance!, amount: -allowance },
    taxes: groups.flatMap((group) =>
      group.of === null || (group.basis === 0 && group.tax === 0 && group.gross === 0)
        ? []
        : [
            {
              ...group.of,
              allowance: -group.allowance || 0,
              basis: -group.basis || 0,
              amount: -group.tax || 0,
              home: homeBack(sent, group, notes),
            },
          ],
    ),
    net: -sum((each) => each.gross) || 0,
    tax: -tax || 0,
    total: -total || 0,
    rounding: -rounding || 0,
    deductions,
    payable: sumExact(deductions.map((each) => -each.amount)) - total - rounding || 0,
    note: '',
    sentences: [],
    openBook: false,
    credits: { number: sent.number, day: sent.day, reason },
  };
  return { frozen, allocations: backs.flatMap((each) => (each.back === 0 ? [] : givenBack(input, each))) };
}

/** What is taken back of each line, checked against what is left of it. */
function backsOf({ notes, lines }: CreditInput, sent: FrozenInvoice): Back[] {
  return sent.lines.map((line) => {
    const left = creditableOf(line, notes);
    const back = lines ? (lines[line.key] ?? 0) : left;
    if (back !== 0 && (back > 0 !== left > 0 || Math.abs(back) > Math.abs(left))) {
      const said = showAmount(left, sent.currency);
      throw new Fault(
        'more-than-left',
        `Of “${line.text.slice(0, 60)}” ${said} is left to credit; ${showAmount(back, sent.currency)} is more.`,
        'lines',
        { key: line.key },
      );
    }
    return { line, back, left };
  });
}

function creditLine(line: FrozenLine, back: Minor, currency: string): FrozenLine {
  const whole = back === line.amount && line.discount === null;
  return {
    ...line,
    // A part of a line is a sum: its hours × price would not come to it.
    ...(whole
      ? { seconds: -line.seconds || 0, quantity: fromScaled(-toScaled(line.quantity)) }
      : {
          seconds: 0,
          quantity: back < 0 ? '1' : '-1',
          unit: 'lump' as const,
          unitName: '',
          price: plainPrice(back, currency),
        }),
    gross: -back,
    discount: null,
    amount: -back,
    cost: null,
    costPrice: null,
    markup: null,
    receiptIds: [],
  };
}

const plainPrice = (minor: Minor, currency: string) => fromScaled(Math.abs(minor) * (SCALE / minorPerMajor(currency)));

/** What was invoiced under one tax, or under none. */
interface Group {
  of: FrozenInvoice['taxes'][number] | null;
  /** Lines as printed. */
  gross: Minor;
  /** Its part of the discount on the whole. */
  allowance: Minor;
  basis: Minor;
  tax: Minor;
}

type GroupCredit = Group;

/** The lines of an invoice by their tax. */
function groupsOf(sent: FrozenInvoice): Group[] {
  const taxes = [null, ...sent.taxes];
  const gross = taxes.map((tax) => sumExact(linesUnder(sent, tax?.id ?? null).map((line) => line.amount)));
  const allowances = allowancesOf(sent, gross);
  return taxes.map((of, index) => {
    const [own, allowance] = [gross[index]!, allowances[index]!];
    if (of === null) return { of, gross: own, allowance, basis: own - allowance, tax: 0 };
    return { of, gross: own, allowance, basis: of.basis, tax: of.amount };
  });
}

const linesUnder = (frozen: FrozenInvoice, taxId: Id | null): FrozenLine[] =>
  frozen.lines.filter((line) => (frozen.taxes.some((tax) => tax.id === line.taxId) ? line.taxId : null) === taxId);

/** Each group's part of the discount on the whole, the untaxed first; of older invoices read off the bases, which say what came off them. */
function allowancesOf(sent: FrozenInvoice, gross: readonly Minor[]): Minor[] {
  const all = sent.allowance?.amount ?? 0;
  const kept = sent.taxes.map((tax) => tax.allowance);
  if (kept.every((each) => each !== null)) return [all - sumExact(kept), ...kept];
  if (all === 0) return gross.map(() => 0);
  if (sent.inclusive && sent.net !== 0) return shareSigned(all, gross);
  const ofTaxes = sent.taxes.map((tax, index) => gross[index + 1]! - tax.basis - (sent.inclusive ? tax.amount : 0));
  return [all - sumExact(ofTaxes), ...ofTaxes];
}

/** What one note takes back of a group: the rest of it with the last of its lines, its share before that, never more than is left. */
function creditOfGroup(
  sent: FrozenInvoice,
  group: Group,
  notes: readonly FrozenInvoice[],
  backs: readonly Back[],
): GroupCredit {
  const taxId = group.of?.id ?? null;
  const keys = new Set(linesUnder(sent, taxId).map((line) => line.key));
  const own = backs.filter(({ line }) => keys.has(line.key));
  const gross = sumExact(own.map(({ back }) => back));
  const before = notes.map((note) => creditedUnder(note, taxId, keys));
  const left = (of: (part: { gross: Minor; basis: Minor; tax: Minor; allowance: Minor }) => Minor) =>
    of(group) - sumExact(before.map(of));
  if (own.every(({ back, left: rest }) => back === rest)) {
    return {
      of: group.of,
      gross,
      allowance: left((part) => part.allowance),
      basis: left((part) => part.basis),
      tax: left((part) => part.tax),
    };
  }
  // Rounding of parts may come to a penny more than the whole; more than that is refused with the note.
  const rest = left((part) => part.gross);
  const within = gross > 0 === rest > 0 && Math.abs(gross) <= Math.abs(rest);
  const atMost = (amount: Minor, most: Minor): Minor =>
    !within || amount === 0 || (amount > 0 === most > 0 && Math.abs(amount) <= Math.abs(most)) ? amount : most;
  const portion = group.gross === 0 ? 0 : shareSigned(group.allowance, [gross, group.gross - gross])[0]!;
  const share = atMost(
    portion,
    left((part) => part.allowance),
  );
  const percent = group.of?.percent ?? '0';
  const inclusive = sent.inclusive && group.of !== null;
  const taxOnLine = inclusive ? percentWithin : percentOf;
  const onLines =
    sent.taxMethod === 'line' && group.of !== null
      ? sumExact(own.map(({ back }) => taxOnLine(back, percent, 'half away from zero')))
      : null;
  const net = gross - share;
  const earned = !inclusive ? net : onLines === null ? withoutTax(net, percent) : net - onLines;
  const basis = atMost(
    earned,
    left((part) => part.basis),
  );
  const tax = group.of === null ? 0 : (onLines ?? percentOf(basis, percent, 'half away from zero'));
  return {
    of: group.of,
    gross,
    // Without tax in the prices, what is printed and the basis leave no doubt about the discount between them.
    allowance: inclusive ? share : gross - basis,
    basis,
    tax: atMost(
      tax,
      left((part) => part.tax),
    ),
  };
}

/** The tax taken back in the studio's currency, by the invoice's own rate; the rest of it with the rest of the tax. */
function homeBack(sent: FrozenInvoice, { of, tax }: GroupCredit, notes: readonly FrozenInvoice[]): Minor | null {
  if (!sent.home || !of || of.home === null) return null;
  const before = notes.flatMap((note) => note.taxes.filter((each) => each.id === of.id));
  const rest = of.amount + sumExact(before.map((each) => each.amount));
  const whole = -inHome(sent.home, tax, sent.currency) || 0;
  return tax === rest ? -(of.home + sumExact(before.map((each) => each.home ?? 0))) || 0 : whole;
}

/** What an earlier note took back under a tax, as positive figures. */
function creditedUnder(
  note: FrozenInvoice,
  taxId: Id | null,
  keys: ReadonlySet<string>,
): { gross: Minor; basis: Minor; tax: Minor; allowance: Minor } {
  const gross = -sumExact(note.lines.filter((line) => keys.has(line.key)).map((line) => line.amount));
  const part = note.taxes.find((tax) => tax.id === taxId);
  const grossOfGroups = [null, ...note.taxes].map((tax) =>
    sumExact(linesUnder(note, tax?.id ?? null).map((line) => line.amount)),
  );
  const index = taxId === null ? 0 : note.taxes.findIndex((tax) => tax.id === taxId) + 1;
  const allowance = index === 0 && taxId !== null ? 0 : -(allowancesOf(note, grossOfGroups)[index] ?? 0) || 0;
  if (taxId === null) return { gross, basis: gross - allowance, tax: 0, allowance };
  return { gross, basis: -(part?.basis ?? 0) || 0, tax: -(part?.amount ?? 0) || 0, allowance };
}

/** Deposits and retention given back in proportion to what is credited; all that is left of them with the rest. */
function deductionsOf(
  sent: FrozenInvoice,
  held: readonly Deduction[],
  notes: readonly FrozenInvoice[],
  credited: Minor,
  rest: boolean,
): Deduction[] {
  const whole = sent.total + sent.rounding;
  return held.flatMap((each) => {
    const same = (other: Deduction) => other.kind === each.kind && other.depositId === each.depositId;
    const back = notes.flatMap((note) => note.deductions.filter(same)).map((other) => -other.amount);
    const left = each.amount - sumExact(back);
    const share =
      whole === 0 ? 0 : divideRounded(product(each.amount, credited), Math.abs(whole), 'half away from zero');
    const amount = rest ? left : Math.min(share, left);
    return amount === 0 ? [] : [{ ...each, amount: -amount }];
  });
}

/** What stands on a line of one source: what was invoiced, and what notes took back so far. */
interface Held {
  row: Allocation;
  credited: Minor;
}

/** Allocations that give back what stood on a line, in proportion to the money; what was credited for good before stays given up. */
function givenBack(input: CreditInput, { line, back, left }: Back): Credited['allocations'] {
  const held = new Map<Id, Held>();
  for (const each of input.allocations) {
    if (each.line !== line.key) continue;
    const before = held.get(sourceId(each));
    if (each.invoiceId === input.invoice.id) held.set(sourceId(each), { row: each, credited: before?.credited ?? 0 });
  }
  for (const each of input.allocations) {
    const own = held.get(sourceId(each));
    if (own && each.line === line.key && each.invoiceId !== input.invoice.id) own.credited -= each.amount ?? 0;
  }
  const sources = [...held.values()];
  if (sources.length === 0) return [];
  const rests = sources.map(({ row, credited }) => (row.amount ?? 0) - credited);
  const shares = back === left ? rests : sharesOf(back, rests);
  return sources.map(({ row, credited }, index) => {
    const { id: _id, invoiceId: _invoice, ...fields } = row;
    const amount = row.amount ?? 0;
    const share = shares[index]!;
    // Counted from the beginning, so that parts come to the whole whatever their number and order.
    const upTo = (whole: number, money: Minor) =>
      money === amount
        ? whole
        : amount === 0
          ? 0
          : divideRounded(product(whole, money * Math.sign(amount)), Math.abs(amount), 'half away from zero');
    const freed = (whole: number) => (input.free ? -(upTo(whole, credited + share) - upTo(whole, credited)) || 0 : 0);
    const seconds = freed(row.seconds);
    return {
      ...fields,
      seconds,
      // Billed seconds come back with recorded ones: without any there is nothing to bill them for.
      billed: row.billed === null ? null : seconds === 0 ? 0 : freed(row.billed),
      part: freed(row.part),
      amount: -share || 0,
      markup: null,
      dealId: null,
    };
  });
}

const sharesOf = (back: Minor, rests: readonly Minor[]): Minor[] =>
  rests.reduce((sum, each) => sum + each, 0) === 0 ? shareOut(back, rests.map(Math.abs)) : shareSigned(back, rests);
