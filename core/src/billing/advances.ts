import type { Id } from '../model/ids';
import type { FrozenInvoice, HandLine, Invoice } from '../model/records';
import type { Minor } from '../money/amount';
import { amountOfPieces, percentOf } from '../money/price';
import { addExact, divideRounded, lessExact, product, sumExact, type RoundingRule } from '../money/rational';
import type { Day } from '../time/day';
import type { Seconds } from '../time/length';

// Money that is invoiced ahead of the work: a deposit, or a retainer for a period. Its invoice bears its own tax, and owes the work; what it
// asked for stands on an account of its own until invoices for the work draw on it, line by line and tax by tax, so that neither income nor
// tax is told twice.

/** What of money that was invoiced ahead is under one tax. */
export interface AdvancePart {
  taxId: Id | null;
  left: Minor;
}

/** Where money that was invoiced ahead stands, before tax. */
export interface AdvanceStanding {
  invoice: Invoice;
  /** What was asked for, less what was credited of it. */
  asked: Minor;
  /** What invoices and drafts drew on it. */
  used: Minor;
  /** What became the studio's without work, as was agreed. */
  lapsed: Minor;
  left: Minor;
  /** By tax; none with nothing left. */
  parts: AdvancePart[];
  /** What is left in time, where it was said how long the money stands for; null where it was not. */
  seconds: Seconds | null;
}

const isAdvance = ({ advance, frozen, voided, kind }: Invoice): boolean =>
  advance !== undefined && frozen !== null && voided === null && kind === 'invoice';

/** Lines that draw on money invoiced ahead. */
export const drawingLines = ({ byHand, kind }: Pick<Invoice, 'byHand' | 'kind'>): HandLine[] =>
  kind === 'invoice' ? byHand.filter((line) => line.advanceId !== undefined) : [];

/**
 * What is left of money that was invoiced ahead.
 *
 * @param all every invoice, draft and credit note of the client
 * @param rule how amounts of drafts are rounded
 */
export function advanceStanding(invoice: Invoice, all: readonly Invoice[], rule: RoundingRule): AdvanceStanding {
  const parts = new Map<Id | null, Minor>();
  const add = (taxId: Id | null, amount: Minor) => parts.set(taxId, addExact(parts.get(taxId) ?? 0, amount));
  const notesOf = (id: Id) => all.filter((row) => row.ofId === id && row.frozen !== null && row.voided === null);
  let asked = 0;
  for (const { frozen } of [invoice, ...notesOf(invoice.id)]) {
    for (const { taxId, amount } of frozen!.lines) {
      add(taxId, amount);
      asked = addExact(asked, amount);
    }
  }
  let used = 0;
  for (const other of all) {
    if (other.voided || other.id === invoice.id) continue;
    for (const line of drawingLines(other)) {
      if (line.advanceId !== invoice.id) continue;
      for (const [taxId, amount] of drawnBy(other, line, notesOf(other.id), rule)) {
        add(taxId, amount);
        used = lessExact(used, amount);
      }
    }
  }
  const lapsed = invoice.advance?.lapsed ?? null;
  for (const { taxId, amount } of lapsed?.parts ?? []) add(taxId, -amount);
  const gone = sumExact((lapsed?.parts ?? []).map((part) => part.amount));
  const left = sumExact([...parts.values()]);
  const whole = invoice.advance?.seconds ?? null;
  return {
    invoice,
    asked,
    used,
    lapsed: gone,
    left,
    parts: [...parts].flatMap(([taxId, amount]) => (amount === 0 ? [] : [{ taxId, left: amount }])),
    seconds: whole === null || asked <= 0 ? null : divideRounded(product(whole, left), asked, 'half away from zero'),
  };
}

/** What a line took, negative, with what credit notes gave back of it. */
function drawnBy(other: Invoice, line: HandLine, notes: readonly Invoice[], rule: RoundingRule): [Id | null, Minor][] {
  if (other.frozen === null) return [[line.taxId, amountOfPieces(line.quantity, line.price, other.currency, rule)]];
  return [other, ...notes].flatMap(({ frozen }) =>
    frozen!.lines.filter((each) => each.key === line.key).map((each): [Id | null, Minor] => [each.taxId, each.amount]),
  );
}

/** Money invoiced ahead that something is left of, the oldest first. */
export const openAdvances = (all: readonly Invoice[], rule: RoundingRule): AdvanceStanding[] =>
  all
    .filter(isAdvance)
    .map((invoice) => advanceStanding(invoice, all, rule))
    .filter(({ left }) => left > 0)
    .sort((one, other) => one.invoice.seq! - other.invoice.seq!);

/** What is left of money invoiced ahead, with its tax: what the client has to come. */
export const leftWithTax = ({ parts, invoice }: AdvanceStanding): Minor =>
  sumExact(
    parts.map(({ taxId, left }) => {
      const tax = invoice.frozen!.taxes.find((each) => each.id === taxId);
      return tax ? addExact(left, percentOf(left, tax.percent, 'half away from zero')) : left;
    }),
  );

/**
 * How money invoiced ahead stands after an invoice, as it is printed on it.
 *
 * @param all every invoice of the client, the one that is issued as it will be
 */
export function aheadOn(issued: Invoice, all: readonly Invoice[], rule: RoundingRule): FrozenInvoice['ahead'] {
  const drawn = new Set(drawingLines(issued).map((line) => line.advanceId!));
  const rows = all
    .filter((row) => isAdvance(row) && row.currency === issued.currency)
    .map((row) => advanceStanding(row, all, rule))
    .filter(({ invoice, left }) => left > 0 || drawn.has(invoice.id));
  return rows.map(({ invoice, asked, used, left, seconds }) => ({
    number: invoice.frozen!.number,
    asked,
    used,
    left,
    seconds,
  }));
}

/** A retainer whose time went by with something left that is lost by agreement. */
export interface Lapsing {
  standing: AdvanceStanding;
  /** When its time ended. */
  ended: Day;
}

/** What is lost of retainers by agreement: their next period began, and something is left. */
export const lapsingOn = (all: readonly Invoice[], today: Day, rule: RoundingRule): Lapsing[] =>
  openAdvances(all, rule).flatMap((standing) => {
    const { until = null, carried = true } = standing.invoice.advance!;
    return until !== null && !carried && until < today ? [{ standing, ended: until }] : [];
  });
