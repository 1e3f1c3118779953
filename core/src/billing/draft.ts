import type { Id } from '../model/ids';
import { Fault } from '../model/fault';
import type { Allocation, Client, Condensing, Entry, FrozenInvoice, Invoice, LinePart } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import { shareOut } from '../money/share';
import { percentOn, totalsOf, type Totals } from '../money/tax';
import { addDays, showDayShort, type Day } from '../time/day';
import type { Seconds } from '../time/length';
import { showMarkup, showPrice } from './show';
import { projectName, type Price, type Pricer } from './pricer';
import { billedLengthsOf, byWhen } from './to-bill';

/** A piece of an entry on a line: its own seconds, and as billed. */
export interface Source {
  entry: Entry;
  seconds: Seconds;
  billed: Seconds;
}

/** A line of a draft, derived from what stands on it. */
export interface DraftLine {
  /** Stays the same while the draft is condensed the same way; texts written by hand hang on it. */
  key: string;
  text: string;
  /** Whether the text was written by hand. */
  written: boolean;
  sources: Source[];
  seconds: Seconds;
  billed: Seconds;
  price: Price;
  amount: Minor;
  taxId: Id | null;
  /** The income account it is booked to; empty where the service has none, or its services have several. */
  account: string;
}

export interface Draft {
  lines: DraftLine[];
  currency: CurrencyCode;
  totals: Totals;
  /** Entries on the draft that no rate fits: they must be priced or taken off before it can be issued. */
  unpriced: Entry[];
}

export interface DraftInput {
  invoice: Invoice;
  /** The entries that stand on the draft. */
  entries: readonly Entry[];
  /** The draft's allocations. */
  allocations: readonly Allocation[];
  /** The day it would be issued on: taxes are as on that day. */
  day: Day;
}

/** An invoice that nothing stands on yet, as the client likes it. */
export const newDraft = (
  client: Pick<Client, 'id' | 'currency' | 'taxId'> & Partial<Pick<Client, 'condense'>>,
  fields: Pick<Invoice, 'id' | 'createdAt'> & { condense?: Condensing | undefined },
): Invoice => ({
  id: fields.id,
  clientId: client.id,
  currency: client.currency,
  createdAt: fields.createdAt,
  condense: fields.condense ?? client.condense ?? 'service',
  texts: {},
  note: '',
  taxId: client.taxId,
  purchaseOrder: '',
  seq: null,
  issuedAt: null,
  frozen: null,
  voided: null,
});

/**
 * The lines and totals of a draft as they are now. Sources of one price that condense alike become one line; the line is billed
 * hours × price, rounded once. Nothing of this is stored until the invoice is issued.
 */
export function computeDraft(pricer: Pricer, { invoice, entries, allocations, day }: DraftInput): Draft {
  const sorted = inOrder(entries);
  const recorded = reservedSeconds(sorted, allocations);
  const billed = billedLengthsOf(pricer, sorted, recorded);
  const unpriced: Entry[] = [];
  const all: DraftLine[] = [];
  const lines = new Map<string, DraftLine>();
  const slots = new Slots();
  const condensed = invoice.condense !== 'entry';
  for (let index = 0; index < sorted.length; index++) {
    const entry = sorted[index]!;
    const slot = slots.of(entry);
    if (slot.day !== entry.day || entry.rate !== null) {
      // A price agreed for an entry alone tells nothing of the next one.
      slot.day = entry.rate === null ? entry.day : null;
      const price = pricer.priceOf(entry);
      if (price !== slot.price) {
        slot.price = price;
        slot.line = undefined;
      }
    }
    const { price } = slot;
    if (!price || price.currency !== invoice.currency) {
      unpriced.push(entry);
      continue;
    }
    let line = slot.line;
    if (!line) {
      const inherited = inheritedOf(pricer, invoice, entry);
      const key = lineKey(invoice.condense, entry, price, inherited);
      line = lines.get(key);
      if (!line) {
        line = newLine(pricer, invoice, entry, price, key, inherited);
        all.push(line);
        // Item by item, no line is ever met again.
        if (condensed) lines.set(key, line);
      } else if (line.account !== inherited.account) line.account = '';
      if (condensed) slot.line = line;
    }
    const seconds = recorded[index]!;
    const rounded = billed[index]!;
    line.sources.push({ entry, seconds, billed: rounded });
    line.seconds += seconds;
    line.billed += rounded;
  }
  // Entries stand in the order they happened; condensed lines by what they are.
  if (condensed) {
    const plain = new Map(all.map((line) => [line, lineText(pricer, invoice, line.sources[0]!.entry, line.price)]));
    all.sort((a, b) => plain.get(a)!.localeCompare(plain.get(b)!) || b.price.scaled - a.price.scaled);
  }
  for (const line of all) line.amount = pricer.amount(line.billed, line.price);
  const { taxMethod, amountRounding } = pricer.book.workspace;
  const taxes = pricer.book.taxes.map(({ id, name, ...tax }) => ({ id, name, percent: percentOn(tax, day) }));
  const totals = totalsOf(all, taxes, taxMethod, amountRounding);
  return { lines: all, currency: invoice.currency, totals, unpriced };
}

/** The entries by when they happened; the list itself where they stand so already, as they mostly do. */
function inOrder(entries: readonly Entry[]): readonly Entry[] {
  for (let i = 1; i < entries.length; i++) {
    if (byWhen(entries[i - 1]!, entries[i]!) > 0) return [...entries].sort(byWhen);
  }
  return entries;
}

/** Seconds of each entry that the draft holds. */
function reservedSeconds(entries: readonly Entry[], allocations: readonly Allocation[]): Seconds[] {
  // Allocations are made in the order of their entries, so the look-up is seldom needed.
  let byEntry: Map<Id, Seconds> | undefined;
  const seconds = new Array<Seconds>(entries.length);
  for (let i = 0; i < entries.length; i++) {
    const { id } = entries[i]!;
    const beside = allocations[i];
    if (beside?.entryId === id) seconds[i] = beside.seconds;
    else {
      byEntry ??= new Map(allocations.map((each) => [each.entryId, each.seconds]));
      seconds[i] = byEntry.get(id) ?? 0;
    }
  }
  return seconds;
}

/** What entries of one job, member and service share from day to day: their price, mostly, and the line they condense into. */
interface Slot {
  day: Day | null;
  price: Price | null;
  line: DraftLine | undefined;
}

/** One look-up an entry in place of a rate, a key and a line for each; a price is asked for anew when the day changes. */
class Slots {
  readonly #slots = new Map<Id | null, Map<Id, Map<Id | null, Slot>>>();

  of({ projectId, taskId, memberId, serviceId }: Entry): Slot {
    const place = taskId ?? projectId;
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

function newLine(
  pricer: Pricer,
  invoice: Invoice,
  entry: Entry,
  price: Price,
  key: string,
  inherited: Inherited,
): DraftLine {
  const written = invoice.texts[key];
  return {
    key,
    text: written ?? lineText(pricer, invoice, entry, price),
    written: written !== undefined,
    sources: [],
    seconds: 0,
    billed: 0,
    price,
    amount: 0,
    ...inherited,
  };
}

/** A line has one price and one tax, so they are part of what condenses alike. */
function lineKey(condense: Condensing, entry: Entry, price: Price, { taxId }: Inherited): string {
  switch (condense) {
    case 'entry':
      return entry.id;
    case 'service':
      return `${entry.projectId} ${entry.serviceId ?? ''} ${price.key}`;
    case 'project':
      return `${entry.projectId} ${price.key} ${taxId ?? ''}`.trim();
  }
}

function lineText(pricer: Pricer, invoice: Invoice, entry: Entry, price: Price): string {
  const client = pricer.client.get(invoice.clientId);
  const text = invoice.condense === 'entry' ? entryText(pricer, entry, client) : condensedText(pricer, invoice, entry);
  if (!client?.openBook || !price.decided?.cost) return text;
  const { cost, line } = price.decided;
  return `${text} (cost ${showPrice(cost)} ${showMarkup(line.markup!)})`;
}

function condensedText(pricer: Pricer, invoice: Invoice, entry: Entry): string {
  const project = projectName(pricer, entry.projectId!);
  const service = entry.serviceId === null ? '' : (pricer.service.get(entry.serviceId)?.name ?? '');
  return service && invoice.condense === 'service' ? `${project}: ${service}` : project;
}

/** A line of one entry, as the client likes it; what it was on where nothing of that is known. */
function entryText(pricer: Pricer, entry: Entry, client: Client | undefined): string {
  const project = projectName(pricer, entry.projectId!);
  const service = entry.serviceId === null ? '' : (pricer.service.get(entry.serviceId)?.name ?? '');
  const parts: Record<LinePart, string> = {
    project,
    service,
    note: entry.note.trim(),
    member: pricer.member.get(entry.memberId)?.name ?? '',
    day: showDayShort(entry.day),
  };
  const said = (client?.says ?? ['note']).map((part) => parts[part]).filter(Boolean);
  return said.join(', ') || (service ? `${project}: ${service}` : project);
}

/** Each source's share of its line's amount, by largest remainder over billed lengths; they sum to the line exactly. */
export function shareOfSources(line: DraftLine): Minor[] {
  return shareOut(
    line.amount,
    line.sources.map((source) => source.billed),
  );
}

/** "FL-0042": the prefix and the number, filled with zeros; YYYY and MM in the prefix are the year and month of the invoice. */
export function invoiceNumber(
  { numberPrefix, numberDigits }: { numberPrefix: string; numberDigits: number },
  seq: number,
  day: Day,
): string {
  const prefix = numberPrefix.replaceAll('YYYY', day.slice(0, 4)).replaceAll('MM', day.slice(5, 7));
  return prefix + String(seq).padStart(numberDigits, '0');
}

/** The number after the highest given so far. */
export const nextSeq = (invoices: readonly Pick<Invoice, 'seq'>[], firstNumber: number): number =>
  invoices.reduce((highest, invoice) => Math.max(highest, invoice.seq ?? 0), firstNumber - 1) + 1;

/**
 * The invoice as it will be sent: everything it says, copied, so that nothing changed later can reach it.
 *
 * @throws Fault when there is nothing on it or something on it has no price
 */
export function freeze(pricer: Pricer, draft: Draft, invoice: Invoice, seq: number, day: Day): FrozenInvoice {
  if (draft.unpriced.length > 0) {
    throw new Fault(
      `${draft.unpriced.length} of its entries have no rate in ${invoice.currency}. Give the project or client a rate, or take them off.`,
      'lines',
      { entries: draft.unpriced.map((entry) => entry.id) },
    );
  }
  if (draft.lines.length === 0) throw new Fault('There is nothing on this invoice.', 'lines');
  const client = pricer.client.get(invoice.clientId)!;
  if (client.purchaseOrder === 'always' && !invoice.purchaseOrder.trim()) {
    throw new Fault(
      `${client.name} always gives an order number. Write it on the draft before issuing it.`,
      'purchaseOrder',
    );
  }
  const { workspace } = pricer.book;
  const days = draft.lines.flatMap((line) => line.sources.map((source) => source.entry.day)).sort();
  return {
    number: invoiceNumber(workspace, seq, day),
    day,
    dueDay: addDays(day, termsOf(pricer, draft, client)),
    studio: {
      name: workspace.name,
      address: workspace.address,
      email: workspace.email,
      taxNumber: workspace.taxNumber,
      paymentDetails: workspace.paymentDetails,
      logoId: workspace.logoId,
    },
    client: { name: client.name, address: client.address, taxNumber: client.taxNumber },
    currency: invoice.currency,
    paper: workspace.paper,
    lengthStyle: workspace.lengthStyle,
    numberStyle: workspace.numberStyle,
    daySeconds: workspace.daySeconds,
    period: { from: days[0]!, to: days.at(-1)! },
    lines: draft.lines.map((line) => ({
      key: line.key,
      text: line.text,
      seconds: line.billed,
      price: line.price.price,
      unit: line.price.unit,
      amount: line.amount,
      taxId: line.taxId,
      account: line.account,
    })),
    taxMethod: workspace.taxMethod,
    taxes: draft.totals.taxes.map((part) => ({
      id: part.tax.id,
      name: part.tax.name,
      percent: part.tax.percent,
      note: pricer.tax.get(part.tax.id)?.note ?? '',
      basis: part.basis,
      amount: part.amount,
    })),
    net: draft.totals.net,
    tax: draft.totals.tax,
    total: draft.totals.total,
    note: invoice.note,
    purchaseOrder: invoice.purchaseOrder.trim(),
    sentences: [
      ...new Set(
        draft.lines
          .map((line) => line.price.decided?.line)
          .filter((line) => line?.printed && line.sentence.trim())
          .map((line) => line!.sentence.trim()),
      ),
    ],
  };
}

/** Days until an invoice is due: those of the contract that all of it stands under, the client's, or the workspace's. */
function termsOf(pricer: Pricer, draft: Draft, client: Client): number {
  const contracts = new Set(
    draft.lines.flatMap((line) => line.sources.map(({ entry }) => pricer.tree.contractOf(entry.projectId!))),
  );
  const [only] = contracts;
  const contract = contracts.size === 1 && only ? pricer.contract.get(only) : undefined;
  return contract?.termsDays ?? client.termsDays ?? pricer.book.workspace.termsDays;
}
