import { standingOfChecked, type Checked } from '../checking/standing';
import { Charges, isDue, type Charge, type ChargeRows } from '../billing/charges';
import { codeOfEntry } from '../billing/lines';
import { lineId, type InvoicedPart } from '../billing/paid';
import { inProportion, remainingLengths } from '../billing/remaining';
import type { Pricer } from '../billing/pricer';
import { sourceId } from '../billing/sources';
import { priceLength, worthOf } from '../billing/to-bill';
import { lineAmounts } from '../costs/amounts';
import { tallyCurrency } from '../costing/tally';
import { breakOfDay } from '../entries/breaks';
import { owedOnDay } from '../entries/day';
import { partsByDay, shareOver } from '../entries/spans';
import type { Id } from '../model/ids';
import type { Absence, Adjustment, Allocation, Entry, Invoice, Member, PlannedTime } from '../model/records';
import type { Minor } from '../money/amount';
import { withMarkup } from '../money/price';
import { boundsOfDay, daysBetween, type Day } from '../time/day';
import { joinTags, tagsOf, type Tagged } from '../model/tags';
import { dimensions, measures } from './column-store/dimensions';
import type { Fact } from './column-store/fact-table';
import { TAG_BREAK } from './fields';
import type { Billable, FactStanding, FactKind, Dictionaries } from './dictionaries';

// What workspaces hold, as facts. Everything here is computed by the same functions that screens and invoices use, so that a report says
// what they say.

/** A fact with the id of what it is of. */
export interface Sourced {
  source: string;
  fact: Fact;
}

/** A piece of what was in front, as the trail noticed it. */
export interface Noticed {
  day: Day;
  /** Hour of the day, 0 to 23; null where it is of the whole day. */
  hour: number | null;
  memberId: Id;
  /** The job that it was placed on, or is likely to be; null where nobody knows. */
  projectId: Id | null;
  program: string;
  site: string;
  folder: string;
  document: string;
  openedFor: string;
  /** Seconds in front, whatever it was. */
  front?: number;
  /** Of a document: seconds in view and worked in, and how often it was saved. */
  inView?: number;
  hands?: number;
  kept?: number;
}

/** What became of sources: what stands on drafts and invoices, what was paid on that, and what was written down. */
export interface Became {
  /** By the source's id. */
  allocations: ReadonlyMap<Id, readonly Allocation[]>;
  adjustments: ReadonlyMap<Id, readonly Adjustment[]>;
  /** By the allocation's id, and by {@link lineId} for lines without a source. */
  parts: ReadonlyMap<string, InvoicedPart>;
}

/** Days since 1970-01-01. */
export const dayNumber = (day: Day): number => (day === '' ? 0 : daysBetween('1970-01-01', day));

/** Sums what became of one source. */
function becameOf(became: Became, id: Id) {
  const sums = { taken: 0, drafted: 0, invoiced: 0, paid: 0, writtenOff: 0, down: 0 };
  for (const row of became.allocations.get(id) ?? []) {
    const taken = row.entryId !== null ? row.seconds : row.part;
    sums.taken += taken;
    if (row.amount === null) sums.drafted += taken;
    else {
      const part = became.parts.get(row.id);
      sums.invoiced += part?.net ?? row.amount;
      sums.paid += part?.paid ?? 0;
      sums.writtenOff += part?.writtenOff ?? 0;
    }
  }
  for (const row of became.adjustments.get(id) ?? []) {
    if (row.kind === 'later') continue;
    const taken = row.entryId !== null ? row.seconds : row.part;
    sums.taken += taken;
    sums.down += taken;
  }
  return sums;
}

function standingOf(open: boolean, sums: ReturnType<typeof becameOf>): FactStanding {
  if (open) return 'to bill';
  if (sums.drafted !== 0) return 'on a draft';
  if (sums.invoiced !== 0) return sums.paid + sums.writtenOff >= sums.invoiced ? 'paid' : 'invoiced';
  return sums.down > 0 ? 'written down' : 'not to bill';
}

/** Makes facts of records, with codes of one set of words. */
export class FactMaker {
  readonly #pricer: Pricer;
  readonly #words: Dictionaries;
  readonly #tagWords = new Map<string, string>();
  readonly #projectTags = new Map<Id | null, readonly string[]>();

  constructor(words: Dictionaries) {
    this.#words = words;
    this.#pricer = words.pricer;
  }

  /**
   * Entries as facts. Rounding goes by what one member did in a day on a job, so days have to be given whole.
   *
   * One across midnight counts on each day for what lies on it.
   */
  ofEntries(entries: readonly Entry[], became: Became): Sourced[] {
    const pricer = this.#pricer;
    const found: Sourced[] = [];
    const sums = new Map(entries.map((entry) => [entry.id, becameOf(became, entry.id)]));
    const billed = (entry: Entry) => pricer.billsEntry(entry) && pricer.clientOf(entry.projectId) !== undefined;
    const open = new Map<Id, Minor>();
    const takings = entries.flatMap((entry) => [
      ...(became.allocations.get(entry.id) ?? []),
      ...(became.adjustments.get(entry.id) ?? []),
    ]);
    const remaining = remainingLengths(pricer, entries, takings);
    for (const entry of entries) {
      const left = remaining.get(entry.id)!.open;
      if (billed(entry) && left.seconds > 0) open.set(entry.id, priceLength(pricer, entry, left).amount);
    }
    for (const priced of worthOf(pricer, entries)) {
      const { entry, seconds: exact, amount } = priced;
      const own = sums.get(entry.id)!;
      const cost = pricer.costIn(entry.memberId, entry.day, entry.seconds, tallyCurrency(pricer, entry.projectId)) ?? 0;
      const fees = billed(entry) ? amount : 0;
      const whole: Fact = {
        ...this.#job('time', entry),
        hour: this.#hour(entry),
        billable: this.#billable(
          exact === 0 ? 'not billable' : exact < entry.seconds ? 'billable in part' : 'billable',
        ),
        standing: this.#words.code('standing', standingOf(open.has(entry.id), own)),
        ...this.#checked(entry),
        count: 1,
        recorded: entry.seconds,
        exact,
        billed: priced.billed,
        worth: amount,
        gainedLength: billed(entry) ? priced.billed - exact : 0,
        gained: priced.price && billed(entry) ? amount - pricer.amount(exact, priced.price) : 0,
        labourCost: cost,
        fees,
        marked: fees !== 0 && priced.price?.markup != null ? fees - cost : 0,
        invoiced: own.invoiced,
        invoicedTime: own.invoiced,
        paid: own.paid,
        writtenOff: own.writtenOff,
        toBill: open.get(entry.id) ?? 0,
      };
      this.#putByDay(found, entry, whole);
      for (const row of became.adjustments.get(entry.id) ?? []) {
        if (row.kind === 'later') continue;
        const length = inProportion(priced.billed, Math.abs(row.seconds), exact);
        const size = priced.price ? pricer.amount(length, priced.price) : 0;
        const sign = row.seconds < 0 ? -1 : 1;
        found.push(this.#writtenDown(whole, row, sign * size || 0, sign * length));
      }
    }
    return found;
  }

  /** Costs and agreed amounts as facts. What an estimate covers depends on all of them, so all have to be given. */
  ofCharges(rows: ChargeRows, became: Became): Sourced[] {
    const pricer = this.#pricer;
    const { amountRounding, currency: own } = pricer.book.workspace;
    const charges = new Charges(pricer, rows);
    const costs = new Map(rows.costs.map((row) => [row.id, row]));
    const open = new Map<Id, Charge>();
    const takings = [...became.allocations.values(), ...became.adjustments.values()].flat();
    for (const charge of charges.toBill(
      takings.filter((row) => row.entryId === null && !('kind' in row && row.kind === 'later')),
    )) {
      open.set(charge.id, charge);
    }
    const found: Sourced[] = [];
    for (const line of rows.costLines) {
      const cost = costs.get(line.costId);
      if (!cost) continue;
      const tax = cost.taxId === null ? undefined : pricer.tax.get(cost.taxId);
      const spent = lineAmounts(line, cost, tax, amountRounding).cost;
      const currency = line.projectId === null ? own : tallyCurrency(pricer, line.projectId);
      const amount = pricer.rates.exchange.convert(spent, cost.currency, currency, cost.day, amountRounding) ?? 0;
      const charged =
        charges.billableOfLine(line) === null || charges.coveredByEstimate(line) ? null : charges.ofLine(line, spent);
      const fact: Fact = {
        ...this.#job(cost.kind, {
          ...line,
          memberId: cost.memberId,
          day: cost.day,
          note: line.text || cost.supplier,
          tags: cost.tags,
        }),
        billable: this.#billable(charged ? 'billable' : 'not billable'),
        ...this.#checked(cost),
        otherCost: amount,
        onCharged: charged?.amount ?? 0,
        marked: charged ? charged.amount - amount : 0,
      };
      this.#putCharge(found, line.id, fact, open.get(line.id), became, (part) =>
        charged
          ? withMarkup(
              pricer.rates.exchange.convert(part, cost.currency, currency, cost.day, amountRounding) ?? 0,
              charged.markup ?? '0',
              amountRounding,
            )
          : part,
      );
    }
    const milestones = new Map(rows.milestones.map((row) => [row.id, row]));
    for (const row of rows.agreed) {
      const charge = charges.ofAgreed(row, row.amount);
      if (!charge) continue;
      const due = isDue(row, milestones);
      const fact: Fact = {
        ...this.#job('agreed', {
          projectId: row.projectId,
          costCodeId: row.costCodeId,
          day: charge.day,
          note: row.text,
        }),
        billable: this.#billable(due ? 'billable' : 'not billable'),
        fees: due ? row.amount : 0,
        estimated: row.kind === 'estimate' || row.kind === 'fixed' ? row.amount : 0,
      };
      this.#putCharge(found, row.id, fact, open.get(row.id), became, (part) => part);
    }
    return found;
  }

  /** Lines of invoices that stand for no source, such as those written by hand. Counted on the invoice's day. */
  ofInvoices(invoices: readonly Invoice[], parts: Became['parts']): Sourced[] {
    return invoices.flatMap((invoice): Sourced[] => {
      const { id, frozen, voided, clientId, currency, byHand } = invoice;
      if (!frozen || voided) return [];
      return frozen.lines.flatMap((line): Sourced[] => {
        const part = parts.get(lineId(id, line.key));
        if (!part || part.net === 0) return [];
        const { net: invoiced, paid, writtenOff } = part;
        const projectId = byHand.find((each) => each.key === line.key)?.projectId ?? null;
        const sums = { taken: 0, drafted: 0, invoiced, paid, writtenOff, down: 0 };
        const fact: Fact = {
          ...(projectId !== null &&
            this.#job('invoice line', { projectId, day: frozen.day, note: '', serviceId: null })),
          what: this.#words.code('what', 'invoice line'),
          client: this.#words.code('client', clientId),
          currency: this.#words.code('currency', currency),
          day: dayNumber(frozen.day),
          standing: this.#words.code('standing', standingOf(false, sums)),
          billable: this.#billable('billable'),
          note: this.#words.code('note', `${frozen.number}, ${line.text}`),
          fees: invoiced,
          invoiced,
          paid,
          writtenOff,
        };
        return [{ source: id, fact }];
      });
    });
  }

  /** What a member owes on a day, and what is taken off for breaks. */
  ofDay(member: Member, day: Day, entries: readonly Entry[], absences: readonly Absence[]): Sourced[] {
    const rule = this.#pricer.book.workspace.breakRule;
    const owed = owedOnDay(member, day, absences);
    const { deducted } = breakOfDay(rule, rule ? entries : [], day, member.zone);
    if (owed === 0 && deducted === 0) return [];
    const fact: Fact = {
      what: this.#words.code('what', 'day'),
      member: this.#words.code('member', member.id),
      currency: this.#words.code('currency', this.#pricer.book.workspace.currency),
      day: dayNumber(day),
      owed,
      break: deducted,
    };
    return [{ source: `${member.id} ${day}`, fact }];
  }

  ofPlans(plans: readonly PlannedTime[]): Sourced[] {
    return plans.map((plan) => ({ source: plan.id, fact: { ...this.#job('plan', plan), planned: plan.seconds } }));
  }

  ofTrail(noticed: readonly Noticed[], source: string): Sourced[] {
    const words = this.#words;
    const { weights } = this.#pricer.book.workspace;
    const weightOf = (projectId: Id | null) =>
      projectId === null ? undefined : weights.find((group) => group.projectIds.includes(projectId))?.percent;
    return noticed.map((row) => ({
      source,
      fact: {
        ...this.#job('trail', { projectId: row.projectId, memberId: row.memberId, day: row.day, note: '' }),
        hour: row.hour === null ? 0 : row.hour + 1,
        program: words.code('program', row.program),
        site: words.code('site', row.site),
        folder: words.code('folder', row.folder),
        document: words.code('document', row.document),
        'opened for': words.code('opened for', row.openedFor),
        front: row.front ?? 0,
        ...this.#spent(row.front ?? 0, weightOf(row.projectId)),
        inView: row.inView ?? 0,
        hands: row.hands ?? 0,
        kept: row.kept ?? 0,
      },
    }));
  }

  /** Where a piece of work stands among clients, jobs and people. */
  #job(
    what: FactKind,
    row: {
      projectId: Id | null;
      taskId?: Id | null;
      serviceId?: Id | null;
      kindOfWorkId?: Id | null;
      costCodeId?: Id | null;
      memberId?: Id | null;
      unlisted?: string;
      day: Day;
      note: string;
    } & Tagged,
  ): Fact {
    const words = this.#words;
    const pricer = this.#pricer;
    const costCodeId = row.costCodeId ?? codeOfEntry(pricer, { serviceId: row.serviceId ?? null });
    const type = pricer.costCode.get(costCodeId ?? '')?.costType ?? usualType[what] ?? 'labour';
    return {
      what: words.code('what', what),
      client: words.code('client', pricer.clientOf(row.projectId)?.id),
      project: words.code('project', row.projectId ?? (row.unlisted ? `“${row.unlisted}”` : null)),
      task: words.code('task', row.taskId),
      stage: words.code('stage', this.#stageOf(row)),
      service: words.code('service', row.serviceId),
      kindOfWork: words.code('kindOfWork', row.kindOfWorkId),
      member: words.code('member', row.memberId),
      costCode: words.code('costCode', costCodeId),
      costType: words.code('costType', type),
      day: dayNumber(row.day),
      note: words.code('note', row.note.trim()),
      tags: words.code('tags', this.#tagsOf(row)),
      currency: words.code('currency', tallyCurrency(pricer, row.projectId)),
    };
  }

  #stageOf({ taskId, projectId }: { taskId?: Id | null; projectId: Id | null }): Id | null {
    const own = this.#pricer.task.get(taskId ?? '')?.stageId;
    if (own) return own;
    return this.#pricer.tree.upFrom(projectId ?? '').find((project) => project.stageId !== null)?.stageId ?? null;
  }

  /** Its own tags with those of its project and the projects around that. Of one word with other capitals the first met stands for all. */
  #tagsOf(row: Tagged & { projectId: Id | null }): string {
    let ofProject = this.#projectTags.get(row.projectId);
    if (!ofProject) {
      ofProject = this.#oneWord(joinTags(...this.#pricer.tree.upFrom(row.projectId ?? '').map(tagsOf)));
      this.#projectTags.set(row.projectId, ofProject);
    }
    const own = tagsOf(row);
    return (own.length === 0 ? ofProject : joinTags(this.#oneWord(own), ofProject)).join(TAG_BREAK);
  }

  #oneWord(tags: readonly string[]): string[] {
    return tags.map((tag) => {
      const lower = tag.toLowerCase();
      const known = this.#tagWords.get(lower);
      if (known === undefined) this.#tagWords.set(lower, tag);
      return known ?? tag;
    });
  }

  #spent(seconds: number, percent: number | undefined): Fact {
    return percent === undefined ? {} : { grouped: seconds, weighted: seconds * percent };
  }

  #billable(billable: Billable): number {
    return this.#words.code('billable', billable);
  }

  /** How far an entry or cost is in being checked, and by whom. */
  #checked(row: Checked): Fact {
    return {
      approval: this.#words.code('approval', standingOfChecked(row)),
      approver: this.#words.code('approver', row.approval?.looks.at(-1)?.byId ?? null),
    };
  }

  #hour({ spans, day, memberId }: Entry): number {
    const start = spans[0]?.start;
    const zone = this.#pricer.member.get(memberId)?.zone;
    if (start === undefined || zone === undefined) return 0;
    // On the two days a year on which clocks change this counts the hours that passed since midnight.
    return Math.min(24, Math.max(1, Math.floor((start - boundsOfDay(day, zone).start) / 3_600_000) + 1));
  }

  /** A fact of an entry on each day that it lies on: everything it measures is shared by the lengths, but that it is one entry. */
  #putByDay(found: Sourced[], entry: Entry, whole: Fact): void {
    const source = entry.id;
    if (entry.laterDays.length === 0) {
      found.push({ source, fact: whole });
      return;
    }
    const parts = partsByDay(entry, this.#pricer.member.get(entry.memberId)?.zone ?? this.#pricer.book.workspace.zone);
    const facts = parts.map(({ day }): Fact => ({ ...placeOf(whole), day: dayNumber(day) }));
    for (const measure of measures) {
      const value = whole[measure];
      if (value && measure !== 'count')
        shareOver(value, parts).forEach((part, index) => (facts[index]![measure] = part));
    }
    facts[0]!.count = 1;
    for (const fact of facts) found.push({ source, fact });
  }

  #putCharge(
    found: Sourced[],
    id: Id,
    fact: Fact,
    open: Charge | undefined,
    became: Became,
    worth: (part: Minor) => Minor,
  ): void {
    const own = becameOf(became, id);
    found.push({
      source: id,
      fact: {
        ...fact,
        count: 1,
        standing: this.#words.code('standing', standingOf(open !== undefined, own)),
        toBill: open?.amount ?? 0,
        invoiced: own.invoiced,
        paid: own.paid,
        writtenOff: own.writtenOff,
      },
    });
    for (const row of became.adjustments.get(id) ?? []) {
      if (row.kind !== 'later') found.push(this.#writtenDown(fact, row, worth(row.part)));
    }
  }

  #writtenDown(of: Fact, row: Adjustment, writtenDown: Minor, downLength = 0): Sourced {
    const words = this.#words;
    const fact: Fact = {
      ...placeOf(of),
      what: words.code('what', 'adjustment'),
      reason: words.code('reason', row.reason.trim()),
      day: dayNumber(row.day),
      standing: words.code('standing', 'written down'),
      writtenDown,
      downLength,
    };
    return { source: sourceId(row), fact };
  }
}

const usualType: Partial<Record<FactKind, string>> = { expense: 'expense', bill: 'subcontract', ledger: 'material' };

/** A fact's codes without what it measures. */
function placeOf(fact: Fact): Fact {
  const place: Fact = {};
  for (const dimension of dimensions) if (fact[dimension]) place[dimension] = fact[dimension];
  return place;
}
