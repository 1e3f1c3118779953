import { readBook } from '../billing/book';
import type { ChargeRows } from '../billing/charges';
import { invoicedParts, lineId, type InvoicedPart } from '../billing/paid';
import { bookTables, Pricer } from '../billing/pricer';
import { sourceId } from '../billing/sources';
import type { Reader } from '../engine/store';
import { grouped } from '../model/grouped';
import type { Id } from '../model/ids';
import type { Change, JournalRow } from '../model/change';
import type { Adjustment, Allocation, Entry, Invoice, Member } from '../model/records';
import { addDays, type Day } from '../time/day';
import { daysOf, type OpenReport } from './answer';
import { FactTable } from './column-store/fact-table';
import { FactMaker, type Noticed, type Sourced } from './facts';
import type { Range } from './when';
import { Dictionaries } from './dictionaries';

/** Entries that are made facts of between two places where long work can be laid down. */
const SLICE = 2000;

/** The one source of all that the trail noticed: it comes and goes as a whole. */
const TRAIL = 'trail';

/** Told how much is done, 0 to 1; asked whether to go on. */
export type Progress = (share: number) => Promise<void> | void;

/** Tables whose every change has a say in what all facts are worth. */
const decisive: ReadonlySet<string> = new Set([...bookTables, 'absences']);

/**
 * The facts of a workspace, read once and then kept in step: what a change touched is made again, and open reports are told of it. All
 * of it is made again only where rates, people, jobs or absences changed, as those have a say in everything.
 */
export class FactStore {
  readonly table = new FactTable();
  words!: Dictionaries;
  #maker!: FactMaker;
  readonly #reader: Reader;
  readonly #allocations = new Map<Id, readonly Allocation[]>();
  readonly #adjustments = new Map<Id, readonly Adjustment[]>();
  readonly #parts = new Map<string, InvoicedPart>();
  /** Sources of costs and agreed amounts: they are made again together. */
  #charges: string[] = [];

  private constructor(reader: Reader) {
    this.#reader = reader;
  }

  /** Reads a workspace. Days are owed up to today. */
  static async read(reader: Reader, today: Day, onProgress: Progress = () => undefined): Promise<FactStore> {
    const facts = new FactStore(reader);
    await facts.#read(today, onProgress);
    return facts;
  }

  /** The first and last day that there are facts of. */
  get days(): Range | null {
    return daysOf(this.table);
  }

  /** Whether a change can be followed; where it cannot, everything has to be read again. */
  static canFollow(rows: readonly Pick<JournalRow, 'changes'>[]): boolean {
    return !rows.some((row) => row.changes.some(({ table }) => decisive.has(table)));
  }

  /** Brings the facts, and reports that are open on them, in step with changes. */
  async follow(rows: readonly Pick<JournalRow, 'changes'>[], open: readonly OpenReport[] = []): Promise<void> {
    const touched = new Touched(rows);
    for (const id of touched.invoices) await this.#readInvoice(id, touched);
    for (const [field, ids] of touched.sources) {
      const [allocations, adjustments] = await Promise.all([
        this.#reader.by('allocations', field, ids),
        this.#reader.by('adjustments', field, ids),
      ]);
      const [mine, others] = [grouped(allocations, sourceId), grouped(adjustments, sourceId)];
      for (const id of ids) {
        set(this.#allocations, id, mine.get(id));
        set(this.#adjustments, id, others.get(id));
      }
    }
    for (const row of await this.#reader.many('entries', touched.sources.get('entryId') ?? []))
      if (row) touched.entry(row);
    for (const [id, made] of touched.lines) this.#replace([id], made, open);
    for (const [memberId, days] of touched.days) await this.#followDays(memberId, [...days], touched.gone, open);
    if (touched.charges) {
      const made = this.#maker.ofCharges(await this.#chargeRows(), this.#became);
      this.#replace([...this.#charges], made, open);
      this.#charges = sourcesOf(made);
    }
    if (touched.plans.size > 0) {
      const plans = (await this.#reader.many('plans', [...touched.plans])).filter((row) => row !== undefined);
      this.#replace([...touched.plans], this.#maker.ofPlans(plans), open);
    }
  }

  /** What the trail noticed, in the place of what was put before. */
  putTrail(noticed: readonly Noticed[]): void {
    const code = this.words.code('source', TRAIL);
    this.table.remove(code);
    this.#put(this.#maker.ofTrail(noticed, TRAIL));
  }

  get #became() {
    return { allocations: this.#allocations, adjustments: this.#adjustments, parts: this.#parts };
  }

  async #read(today: Day, onProgress: Progress): Promise<void> {
    const reader = this.#reader;
    this.words = new Dictionaries(new Pricer(await readBook(reader)));
    this.#maker = new FactMaker(this.words);
    const [allocations, adjustments, invoices, payments] = await Promise.all([
      reader.all('allocations'),
      reader.all('adjustments'),
      reader.all('invoices'),
      reader.all('payments'),
    ]);
    for (const [id, rows] of grouped(allocations, sourceId)) this.#allocations.set(id, rows);
    for (const [id, rows] of grouped(adjustments, sourceId)) this.#adjustments.set(id, rows);
    for (const [id, part] of invoicedParts(invoices, payments, allocations)) this.#parts.set(id, part);
    const { members } = this.words.pricer.book;
    const absences = await reader.all('absences');
    for (const [index, member] of members.entries()) {
      const entries = await reader.by('entries', 'memberId', [member.id]);
      entries.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
      for (let from = 0; from < entries.length;) {
        let to = Math.min(entries.length, from + SLICE);
        while (to < entries.length && entries[to]!.day === entries[to - 1]!.day) to++;
        this.#put(this.#maker.ofEntries(entries.slice(from, to), this.#became));
        from = to;
        await onProgress((index + from / entries.length) / (members.length + 1));
      }
      const touching = grouped(
        entries.flatMap((entry) => [entry.day, ...entry.laterDays].map((day) => ({ day, entry }))),
        (each) => each.day,
      );
      const first = entries[0]?.day ?? today;
      for (let day = first; day <= today; day = addDays(day, 1)) {
        const own = touching.get(day)?.map((each) => each.entry) ?? [];
        this.#put(this.#maker.ofDay(member, day, own, absences));
      }
    }
    const charges = this.#maker.ofCharges(await this.#chargeRows(), this.#became);
    this.#charges = sourcesOf(charges);
    this.#put(charges);
    this.#put(this.#maker.ofInvoices(invoices, this.#parts));
    this.#put(this.#maker.ofPlans(await reader.all('plans')));
    await onProgress(1);
  }

  async #chargeRows(): Promise<ChargeRows> {
    const [costs, costLines, agreed, milestones] = await Promise.all([
      this.#reader.all('costs'),
      this.#reader.all('costLines'),
      this.#reader.all('agreed'),
      this.#reader.all('milestones'),
    ]);
    return { costs, costLines, agreed, milestones };
  }

  /** What was paid on an invoice that changed, and what of it has no source; its sources are touched with it. */
  async #readInvoice(id: Id, touched: Touched): Promise<void> {
    const [invoice, allocations, payments] = await Promise.all([
      this.#reader.get('invoices', id),
      this.#reader.by('allocations', 'invoiceId', [id]),
      this.#reader.by('payments', 'invoiceId', [id]),
    ]);
    for (const row of allocations) {
      this.#parts.delete(row.id);
      touched.source(row);
    }
    for (const line of invoice?.frozen?.lines ?? []) this.#parts.delete(lineId(id, line.key));
    const rows: Invoice[] = invoice ? [invoice] : [];
    for (const [key, part] of invoicedParts(rows, payments, allocations)) this.#parts.set(key, part);
    touched.lines.set(id, this.#maker.ofInvoices(rows, this.#parts));
  }

  async #followDays(memberId: Id, days: Day[], gone: ReadonlySet<Id>, open: readonly OpenReport[]): Promise<void> {
    const member = this.words.pricer.member.get(memberId);
    if (!member) return;
    const entries = await this.#reader.by(
      'entries',
      'memberId+day',
      days.map((day) => [memberId, day]),
    );
    this.#replace([...entries.map((row) => row.id), ...gone], this.#maker.ofEntries(entries, this.#became), open);
    await this.#followOwed(member, days, entries, open);
  }

  async #followOwed(member: Member, days: Day[], entries: Entry[], open: readonly OpenReport[]): Promise<void> {
    const absences = await this.#reader.all('absences');
    const earlier = (await this.#reader.by('entries', '*laterDays', days)).filter((row) => row.memberId === member.id);
    for (const day of days) {
      const touching = [
        ...entries.filter((row) => row.day === day),
        ...earlier.filter((row) => row.laterDays.includes(day)),
      ];
      this.#replace([`${member.id} ${day}`], this.#maker.ofDay(member, day, touching, absences), open);
    }
  }

  /** Puts facts in the place of all that their sources, and some others, had. */
  #replace(sources: readonly string[], made: Sourced[], open: readonly OpenReport[]): void {
    const { table, words } = this;
    for (const source of new Set([...sources, ...sourcesOf(made)])) {
      const code = words.of('source').find(source);
      if (code <= 0) continue;
      for (const report of open) report.follow(table, table.rowsOf(code), -1);
      table.remove(code);
    }
    const from = table.length;
    this.#put(made);
    const rows = Array.from({ length: table.length - from }, (_, index) => from + index);
    for (const report of open) report.follow(table, rows, 1);
  }

  #put(made: readonly Sourced[]): void {
    for (const { source, fact } of made) {
      fact.source = this.words.code('source', source);
      this.table.add(fact);
    }
  }
}

const sourcesOf = (made: readonly Sourced[]): string[] => [...new Set(made.map((each) => each.source))];

function set<V>(map: Map<Id, readonly V[]>, id: Id, rows: readonly V[] | undefined): void {
  if (rows) map.set(id, rows);
  else map.delete(id);
}

type SourceField = 'entryId' | 'costLineId' | 'agreedId';

/** What changes touched, and what hangs on it. */
class Touched {
  readonly invoices = new Set<Id>();
  readonly plans = new Set<Id>();
  /** Days of members on which something changed. */
  readonly days = new Map<Id, Set<Day>>();
  /** Entries that are there no more. */
  readonly gone = new Set<Id>();
  /** Facts of invoices themselves. */
  readonly lines = new Map<Id, Sourced[]>();
  charges = false;
  readonly #sources = new Map<SourceField, Set<Id>>();

  constructor(rows: readonly Pick<JournalRow, 'changes'>[]) {
    for (const change of rows.flatMap((row) => row.changes)) {
      this.#touch(change);
      if (change.table !== 'entries') continue;
      if (change.after === null) this.gone.add(change.id);
      else this.gone.delete(change.id);
    }
  }

  /** Sources of which allocations and adjustments are read again, by the field that names them. */
  get sources(): Map<SourceField, Id[]> {
    return new Map([...this.#sources].map(([field, ids]) => [field, [...ids]]));
  }

  source(row: Pick<Allocation, SourceField>): void {
    for (const field of ['entryId', 'costLineId', 'agreedId'] as const) {
      const id = row[field];
      if (id === null) continue;
      this.#sources.set(field, (this.#sources.get(field) ?? new Set()).add(id));
      if (field !== 'entryId') this.charges = true;
    }
  }

  entry({ memberId, day, laterDays }: Pick<Entry, 'memberId' | 'day' | 'laterDays'>): void {
    const days = this.days.get(memberId) ?? new Set();
    for (const each of [day, ...laterDays]) days.add(each);
    this.days.set(memberId, days);
  }

  #touch({ table, id, before, after }: Change): void {
    switch (table) {
      case 'entries':
        for (const row of [before, after]) if (row) this.entry(row);
        return;
      case 'allocations':
        for (const row of [before, after]) {
          if (!row) continue;
          this.invoices.add(row.invoiceId);
          this.source(row);
        }
        return;
      case 'adjustments':
        for (const row of [before, after]) if (row) this.source(row);
        return;
      case 'invoices':
        this.invoices.add(id);
        return;
      case 'payments':
        for (const row of [before, after]) if (row) this.invoices.add(row.invoiceId);
        return;
      case 'plans':
        this.plans.add(id);
        return;
      case 'costs':
      case 'costLines':
      case 'agreed':
      case 'milestones':
        this.charges = true;
        return;
      default:
      // Of the others, what matters to facts cannot be followed: see canFollow.
    }
  }
}
