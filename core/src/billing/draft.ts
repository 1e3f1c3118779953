import type { Id } from '../model/ids';
import { allocationDefaults, invoiceDefaults } from '../model/defaults-billing';
import type {
  Allocation,
  Client,
  Condensing,
  Deduction,
  Deposit,
  Entry,
  Invoice,
  CondenseRule,
} from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import { percentOf } from '../money/price';
import { addExact } from '../money/rational';
import { percentOn, totalsOf, type Totals } from '../money/tax';
import { showDayShort, type Day } from '../time/day';
import type { Seconds } from '../time/length';
import { Charges, noCharges, type Charge, type ChargeRows } from './charges';
import {
  chargeText,
  entryText,
  filledText,
  groupOf,
  namedCharge,
  namedEntry,
  plainText,
  wayKey,
  wayOf,
  type WayGroup,
} from './lines';
import { emptyLine, type DraftLine } from './draft-line';
import { byHand, priceLine } from './draft-prices';
import type { Price, Pricer } from './pricer';
import { remainingLengths } from './remaining';
import type { Reservation } from './sources';
import type { WorkTree } from '../rates/tree';
import { byWhen } from './to-bill';

export interface Draft {
  lines: DraftLine[];
  currency: CurrencyCode;
  totals: Totals;
  deductions: Deduction[];
  payable: Minor;
  /** Why the discount cannot be taken off; it counts as nothing meanwhile. */
  discountFault: string | null;
  /** Entries on the draft that no rate fits: they must be priced or taken off before it can be issued. */
  unpriced: Entry[];
  /** Costs on it that no exchange rate fits. */
  unpricedCharges: Charge[];
  /** What its sources would come to item by item, each rounded by itself. */
  itemByItem: Minor;
  /** What condensing adds to that or takes off it, before discounts; prices agreed for hours, and tax added to prices, left out. */
  condensing: Minor;
}

export interface DraftInput {
  invoice: Invoice;
  /** The entries that stand on the draft. */
  entries: readonly Entry[];
  /** The draft's allocations. */
  allocations: readonly Allocation[];
  /** Other entries of the rounding units that its entries belong to. */
  mates?: readonly Entry[];
  /** What is settled or drafted elsewhere of its entries and those. */
  takings?: readonly Reservation[];
  /** The day it would be issued on: taxes are as on its tax point, or on that day. */
  day: Day;
  /** Rows of the costs and agreed amounts that stand on the draft. */
  rows?: ChargeRows;
  deposits?: readonly Deposit[];
}

/** An invoice that nothing stands on yet, as the client likes it. */
export const newDraft = (
  client: Pick<Client, 'id' | 'currency' | 'taxId'> & Partial<Pick<Client, 'condense' | 'openBook'>>,
  fields: Pick<Invoice, 'id' | 'createdAt'> & { condense?: Condensing | undefined },
): Invoice => ({
  ...invoiceDefaults,
  id: fields.id,
  clientId: client.id,
  currency: client.currency,
  createdAt: fields.createdAt,
  condense: fields.condense ?? client.condense ?? 'service',
  openBook: client.openBook ?? false,
  taxId: client.taxId,
});

/** An allocation on a draft. */
export const newAllocation = (fields: Pick<Allocation, 'id' | 'invoiceId'> & Partial<Allocation>): Allocation => ({
  ...allocationDefaults,
  ...fields,
});

/**
 * The lines and totals of a draft as they are now. Sources of one price that condense alike become one line; the line is billed
 * hours × price, or cost × markup, rounded once. Nothing of this is stored until the invoice is issued.
 */
export function computeDraft(pricer: Pricer, input: DraftInput): Draft {
  const { invoice, allocations, day } = input;
  const lines = new Lines(pricer, invoice);
  const unpriced = putTime(pricer, input, lines);
  const unpricedCharges = putCharges(pricer, input, lines);
  const sorted = lines.finished();
  const { taxMethod, amountRounding } = pricer.book.workspace;
  const taxes = pricer.book.taxes.map(({ id, name, ...tax }) => ({
    id,
    name,
    percent: percentOn(tax, invoice.taxPoint ?? day),
  }));
  const percentOfTax = (taxId: Id | null) => taxes.find((each) => each.id === taxId)?.percent ?? '0';
  for (const line of sorted) priceLine(pricer, invoice, line, percentOfTax);
  const itemByItem = allocations.length === 0 ? 0 : lines.itemByItem();
  const all = arranged(invoice, [...sorted, ...byHand(pricer, invoice, percentOfTax)]);
  const net = all.reduce((sum, line) => addExact(sum, line.amount), 0);
  const { allowance, fault } = allowanceOf(invoice, net, amountRounding);
  const { inclusive } = invoice;
  const totals = totalsOf(all, taxes, taxMethod, { allowance, inclusive, lineRule: amountRounding });
  const deductions = deductionsOf(pricer, invoice, totals, input.deposits ?? []);
  return {
    lines: all,
    currency: invoice.currency,
    totals,
    deductions,
    payable: deductions.reduce((sum, each) => addExact(sum, -each.amount), totals.total + totals.rounding),
    discountFault: fault,
    unpriced,
    unpricedCharges,
    itemByItem,
    condensing: invoice.grossedUp ? 0 : fromSources(pricer, sorted) - itemByItem,
  };
}

/** What lines that stand for something come to before discounts; hours of an agreed price at their own rates. */
const fromSources = (pricer: Pricer, lines: readonly DraftLine[]): Minor =>
  lines.reduce((sum, line) => {
    if (!line.key.startsWith('deal ')) return addExact(sum, line.gross);
    return line.sources.reduce(
      (all, { billed, price }) => addExact(all, price ? pricer.amount(billed, price) : 0),
      sum,
    );
  }, 0);

/** Puts the draft's entries onto lines; returns those that have no price. */
function putTime(
  pricer: Pricer,
  { invoice, entries, allocations, mates = [], takings = [] }: DraftInput,
  lines: Lines,
): Entry[] {
  const sorted = inOrder(entries, byWhen);
  const reserved = new Reserved(allocations);
  const recorded = sorted.map((entry, index) => reserved.secondsOf(entry.id, index));
  const remaining = remainingLengths(pricer, [...sorted, ...mates], takings, allocations);
  const billed = sorted.map((entry) => remaining.get(entry.id)!.drafted.billed);
  const unpriced: Entry[] = [];
  const slots = new Slots(pricer.tree);
  // Where nothing on it is priced or condensed in a way of its own, entries of one job and day share what they need.
  const plain = !reserved.special && Object.keys(invoice.ways).length === 0;
  for (const [index, entry] of sorted.entries()) {
    const own = plain ? undefined : reserved.of(entry.id);
    const slot = slots.of(entry);
    let line: DraftLine | undefined;
    let price: Price | null;
    if (own && (own.markup !== null || own.dealId !== null)) {
      price = own.markup === null ? pricer.priceOf(entry) : pricer.priceMarkedUp(entry, own.markup);
    } else {
      if (slot.day !== entry.day || entry.rate !== null) {
        // A price agreed for an entry alone tells nothing of the next one.
        slot.day = entry.rate === null ? entry.day : null;
        const found = pricer.priceOf(entry);
        if (found !== slot.price) {
          slot.price = found;
          slot.line = undefined;
        }
      }
      price = slot.price;
      line = slot.line;
    }
    const dealt = own?.dealId ?? null;
    if (dealt === null && (!price || price.currency !== invoice.currency)) {
      unpriced.push(entry);
      continue;
    }
    if (!line) {
      line = lines.forEntry(entry, price, dealt);
      if (plain && lines.condensesTime) slot.line = line;
    }
    line.sources.push({ entry, seconds: recorded[index]!, billed: billed[index]!, price });
    line.seconds += recorded[index]!;
    line.billed += billed[index]!;
  }
  return unpriced;
}

/** Puts the draft's costs and agreed amounts onto lines; returns those that have no price. */
function putCharges(pricer: Pricer, { allocations, rows = noCharges }: DraftInput, lines: Lines): Charge[] {
  const unpriced: Charge[] = [];
  const charges = new Charges(pricer, rows);
  const costLines = new Map(rows.costLines.map((row) => [row.id, row]));
  const agreed = new Map(rows.agreed.map((row) => [row.id, row]));
  const found: Charge[] = [];
  for (const { costLineId, agreedId, part, markup } of allocations) {
    const line = costLineId === null ? undefined : costLines.get(costLineId);
    const row = agreedId === null ? undefined : agreed.get(agreedId);
    const charge = line ? charges.ofLine(line, part, markup) : row ? charges.ofAgreed(row, part) : null;
    if (charge) found.push(charge);
  }
  const sorted = found.sort(byDay);
  for (const charge of sorted) {
    if (charge.fault !== null) unpriced.push(charge);
    else lines.forCharge(charge).charges.push(charge);
  }
  return unpriced;
}

/** A list in order; itself where it stands so already, as it mostly does. */
function inOrder<T>(list: readonly T[], compare: (a: T, b: T) => number): readonly T[] {
  for (let at = 1; at < list.length; at++) if (compare(list[at - 1]!, list[at]!) > 0) return list.toSorted(compare);
  return list;
}

const byDay = (a: Charge, b: Charge): number =>
  a.day < b.day ? -1 : a.day > b.day ? 1 : a.id < b.id ? -1 : a.id > b.id ? 1 : 0;

/** What tells one price from another on a line; of an open book also the cost and markup it is made of. */
const priceKey = ({ key, costPrice, markup }: Price, { openBook }: Invoice): string =>
  openBook && costPrice !== null ? `${key} ${costPrice} +${markup}` : key;

/** Where the lines of a draft come together. */
class Lines {
  readonly #pricer: Pricer;
  readonly #invoice: Invoice;
  readonly #lines = new Map<string, { line: DraftLine; way: CondenseRule; group: WayGroup }>();
  // Tens of thousands of sources share a handful of ways.
  readonly #ways = new Map<string, CondenseRule>();

  constructor(pricer: Pricer, invoice: Invoice) {
    this.#pricer = pricer;
    this.#invoice = invoice;
  }

  /** Whether entries of one job, member and service share a line whatever their day. */
  get condensesTime(): boolean {
    return !['item', 'day', 'week'].includes(this.#invoice.condense);
  }

  forEntry(entry: Entry, price: Price | null, dealId: Id | null): DraftLine {
    const way = this.#wayOf('time', entry.projectId!);
    const inherited = inheritedOf(this.#pricer, this.#invoice, entry);
    // A line has one price and one tax, so they are part of what condenses alike; a sum has no price to share.
    const priced = way.lump ? 'sum' : price ? priceKey(price, this.#invoice) : '';
    // Only a tax of its own tells a line apart: choosing another for the whole invoice leaves texts written by hand where they are.
    const taxed = inherited.taxId === this.#invoice.taxId ? '' : (inherited.taxId ?? 'untaxed');
    const key =
      dealId !== null
        ? `deal ${dealId}`
        : way.way === 'item'
          ? entry.id
          : `${wayKey(way.way, namedEntry(this.#pricer, entry))} ${priced} ${taxed}`.trim();
    const line = this.#line(key, way, 'time', inherited);
    if (dealId === null && !way.lump) {
      line.price = price;
      line.unit = price!.unit;
      line.unitPrice = price!.price;
    }
    return line;
  }

  forCharge(charge: Charge): DraftLine {
    const group = groupOf(charge);
    const way = this.#wayOf(group, charge.projectId);
    const taxId = this.#invoice.taxId;
    const marked = way.lump ? 'sum' : charge.markup === null ? 'agreed' : `+${charge.markup}`;
    const key = way.way === 'item' ? charge.id : `${wayKey(way.way, namedCharge(charge))} ${marked}`;
    const account = charge.agreed ? '' : this.#pricer.book.workspace.accounts.reimbursables;
    return this.#line(key, way, group, { taxId, account });
  }

  /** All lines: single items in the order they happened, condensed ones by what they say. */
  finished(): DraftLine[] {
    const made = [...this.#lines.values()];
    const texts = new Map(made.map((each) => [each.line, this.#usualText(each)]));
    const condensed: DraftLine[] = [];
    const single: DraftLine[] = [];
    for (const { line, way } of made) {
      const written = this.#invoice.texts[line.key];
      line.written = written !== undefined;
      line.text = written ?? texts.get(line)!;
      (way.way === 'item' ? single : condensed).push(line);
    }
    condensed.sort(
      (a, b) => texts.get(a)!.localeCompare(texts.get(b)!) || (b.price?.scaled ?? 0) - (a.price?.scaled ?? 0),
    );
    return [...condensed, ...single];
  }

  /** What all sources come to when each is rounded by itself. */
  itemByItem(): Minor {
    let sum = 0;
    for (const { line } of this.#lines.values()) {
      for (const { billed, price } of line.sources) {
        if (price) sum += this.#pricer.amount(billed, price);
      }
      for (const charge of line.charges) sum += charge.amount;
    }
    return sum;
  }

  #wayOf(group: WayGroup, projectId: Id): CondenseRule {
    const key = `${group} ${projectId}`;
    let way = this.#ways.get(key);
    if (!way) this.#ways.set(key, (way = wayOf(this.#invoice, group, projectId)));
    return way;
  }

  #line(key: string, way: CondenseRule, group: WayGroup, inherited: Inherited): DraftLine {
    const found = this.#lines.get(key);
    if (found) {
      if (found.line.account !== inherited.account) found.line.account = '';
      return found.line;
    }
    const line = emptyLine(key, inherited.taxId, inherited.account);
    this.#lines.set(key, { line, way, group });
    return line;
  }

  #usualText({ line, way, group }: { line: DraftLine; way: CondenseRule; group: WayGroup }): string {
    const { says, deals } = this.#invoice;
    const deal = line.key.startsWith('deal ') ? deals.find((each) => line.key === `deal ${each.id}`) : undefined;
    if (deal) return deal.text.trim() || 'Hours, at the price agreed';
    const [source] = line.sources;
    if (says.trim()) {
      const filled = filledText(
        this.#pricer,
        says,
        line.sources.map((each) => each.entry),
        line.charges,
      );
      if (filled) return filled;
    }
    if (way.way === 'item') {
      const client = this.#pricer.client.get(this.#invoice.clientId);
      return source ? entryText(this.#pricer, source.entry, client) : chargeText(line.charges[0]!);
    }
    const named = source ? namedEntry(this.#pricer, source.entry) : namedCharge(line.charges[0]!);
    return plainText(this.#pricer, way.way, named, group);
  }
}

/** Lines in the order that was chosen, with their headings. */
function arranged(invoice: Invoice, lines: DraftLine[]): DraftLine[] {
  const place = new Map(invoice.order.map((key, index) => [key, index]));
  const last = place.size;
  if (last > 0) {
    const rank = new Map(lines.map((line, index) => [line, place.get(line.key) ?? last + index]));
    lines.sort((a, b) => rank.get(a)! - rank.get(b)!);
  }
  const headings = new Map(invoice.headings.map((heading) => [heading.before, heading.text]));
  if (headings.size > 0) for (const line of lines) line.heading = headings.get(line.key) ?? '';
  return lines;
}

/** The discount on all lines; none, with the reason, where it is no share of them. */
function allowanceOf(
  { allowance }: Invoice,
  net: Minor,
  rule: Pricer['book']['workspace']['amountRounding'],
): { allowance: Minor; fault: string | null } {
  if (!allowance) return { allowance: 0, fault: null };
  const amount = allowance.amount ?? percentOf(net, allowance.percent!, rule);
  if (amount === 0 || net > 0) return { allowance: amount, fault: null };
  const fault = `There is nothing to take the discount off: the lines come to ${net === 0 ? '0' : 'less than nothing'}.`;
  return { allowance: 0, fault };
}

/** Deposits paid ahead, and what the client holds back of the net. */
function deductionsOf(pricer: Pricer, invoice: Invoice, totals: Totals, deposits: readonly Deposit[]): Deduction[] {
  const { amountRounding } = pricer.book.workspace;
  const paid = invoice.deposits.map(({ depositId, amount }): Deduction => {
    const deposit = deposits.find((row) => row.id === depositId);
    const text = ['Paid ahead', deposit && showDayShort(deposit.day), deposit?.note.trim()].filter(Boolean).join(', ');
    return { kind: 'deposit', depositId, text, amount, dueDay: null };
  });
  if (invoice.retention === null) return paid;
  // Of what was earned: the net after discount, without the tax where prices include it.
  const held = percentOf(totals.total - totals.tax, invoice.retention, amountRounding);
  const text = `Retention, ${invoice.retention} %`;
  return [...paid, { kind: 'retention', depositId: null, text, amount: held, dueDay: invoice.retentionDue }];
}

/** What a draft holds of each entry. */
class Reserved {
  readonly #allocations: readonly Allocation[];
  #byEntry: Map<Id, Allocation> | undefined;
  /** Whether any of it is priced in a way of its own. */
  readonly special: boolean;

  constructor(allocations: readonly Allocation[]) {
    this.#allocations = allocations;
    this.special = allocations.some(({ markup, dealId }) => markup !== null || dealId !== null);
  }

  of(entryId: Id): Allocation | undefined {
    this.#byEntry ??= new Map(
      this.#allocations.filter((each) => each.entryId !== null).map((each) => [each.entryId!, each]),
    );
    return this.#byEntry.get(entryId);
  }

  secondsOf(entryId: Id, index: number): Seconds {
    // Allocations are made in the order of their entries, so the look-up is seldom needed.
    const beside = this.#allocations[index];
    return beside?.entryId === entryId ? beside.seconds : (this.of(entryId)?.seconds ?? 0);
  }
}

/** What entries of one job, member and service share from day to day: their price, mostly, and the line they condense into. */
interface Slot {
  day: Day | null;
  price: Price | null;
  line: DraftLine | undefined;
}

/** One look-up an entry in place of a rate, a key and a line for each; a price is asked for again when the day changes. */
class Slots {
  readonly #slots = new Map<Id | null, Map<Id, Map<Id | null, Slot>>>();
  readonly #tree: WorkTree;

  constructor(tree: WorkTree) {
    this.#tree = tree;
  }

  of({ projectId, taskId, memberId, serviceId }: Entry): Slot {
    const place = this.#tree.jobKey(projectId, taskId);
    let byMember = this.#slots.get(place);
    if (!byMember) this.#slots.set(place, (byMember = new Map()));
    let byService = byMember.get(memberId);
    if (!byService) byMember.set(memberId, (byService = new Map()));
    let slot = byService.get(serviceId);
    if (!slot) byService.set(serviceId, (slot = { day: null, price: null, line: undefined }));
    return slot;
  }
}

/** What a line has from the service. */
interface Inherited {
  taxId: Id | null;
  account: string;
}

/** A service's own tax holds unless the client's is one for everything, as reverse charge is, or the invoice bears none at all. */
function inheritedOf(pricer: Pricer, invoice: Invoice, entry: Entry): Inherited {
  const service = entry.serviceId === null ? undefined : pricer.service.get(entry.serviceId);
  const usual = invoice.taxId === null ? undefined : pricer.tax.get(invoice.taxId);
  const own = usual && !usual.reverseCharge ? service?.taxId : null;
  return { taxId: own ?? invoice.taxId, account: service?.account ?? '' };
}
