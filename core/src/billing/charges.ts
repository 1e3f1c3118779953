import { lineAmounts } from '../costs/amounts';
import type { Id } from '../model/ids';
import type { Agreed, Cost, CostLine, CostType, Markup, Milestone } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { Decimal } from '../money/decimal';
import type { Minor } from '../money/amount';
import { withMarkup } from '../money/price';
import { markupOn } from '../rates/markups';
import type { Day } from '../time/day';
import type { Pricer } from './pricer';
import { reservedBySource, type Reservation } from './sources';

/** What can be charged besides time. */
export const chargeKinds = ['expense', 'bill', 'ledger', 'extra', 'fixed', 'estimate'] as const;
export type ChargeKind = (typeof chargeKinds)[number];

/** Rows that charges are made of. */
export interface ChargeRows {
  costs: readonly Cost[];
  costLines: readonly CostLine[];
  agreed: readonly Agreed[];
  milestones: readonly Milestone[];
}

/** The rows of charges where there are none. */
export const noCharges: ChargeRows = { costs: [], costLines: [], agreed: [], milestones: [] };

/** A cost or an agreed amount, or a part of one, with what it is charged at. */
export interface Charge {
  kind: ChargeKind;
  /** Of the line of a cost, or of the agreed amount. */
  id: Id;
  cost: Cost | null;
  line: CostLine | null;
  agreed: Agreed | null;
  projectId: Id;
  costCodeId: Id | null;
  costType: CostType;
  day: Day;
  /** In minor units of its own currency. */
  part: Minor;
  /** What the part cost, in the client's currency; null where that is not known. */
  costAmount: Minor | null;
  /** Percent added to the cost; null for an agreed amount. */
  markup: Decimal | null;
  /** The markup that was agreed, for the working; null where none was. */
  markupId: Id | null;
  /** In the client's currency; 0 where no exchange rate tells it. */
  amount: Minor;
  currency: CurrencyCode;
  /** Why it cannot be priced. */
  fault: string | null;
}

/** Whether an agreed amount is to bill at all now. */
export function isDue(row: Agreed, milestones: ReadonlyMap<Id, Milestone>): boolean {
  switch (row.kind) {
    case 'allowance':
      return false;
    case 'estimate':
      return row.billed;
    case 'extra':
      return row.agreedOn !== null;
    case 'fixed':
      return row.milestoneId === null || (milestones.get(row.milestoneId)?.reached ?? true);
  }
}

/** Makes charges of rows, by one pricer. */
export class Charges {
  readonly #pricer: Pricer;
  readonly #costs: ReadonlyMap<Id, Cost>;
  readonly #milestones: ReadonlyMap<Id, Milestone>;
  readonly rows: ChargeRows;
  readonly #markups = new Map<string, Markup | null>();

  constructor(pricer: Pricer, rows: ChargeRows) {
    this.#pricer = pricer;
    this.rows = rows;
    this.#costs = new Map(rows.costs.map((row) => [row.id, row]));
    this.#milestones = new Map(rows.milestones.map((row) => [row.id, row]));
  }

  /** What a line of a cost comes to at most: what it cost, where a client pays for it; null where none does. */
  billableOfLine(line: CostLine): Minor | null {
    const cost = this.#costs.get(line.costId);
    if (!cost || !line.forClient || line.projectId === null || !this.#pricer.clientOf(line.projectId)) return null;
    return this.#costOfLine(line, cost);
  }

  /** What is charged for a line of a cost, for a part of it, with a markup of this invoice's own where one is given. */
  ofLine(line: CostLine, part: Minor, markup: Decimal | null = null): Charge | null {
    const cost = this.#costs.get(line.costId);
    const client = this.#pricer.clientOf(line.projectId);
    if (!cost || !client || line.projectId === null) return null;
    const { amountRounding } = this.#pricer.book.workspace;
    const costType = this.#pricer.costCode.get(line.costCodeId ?? '')?.costType ?? defaultType[cost.kind];
    const agreed = this.#markupOf(line.projectId, costType, cost.day);
    const percent = markup ?? agreed?.percent ?? '0';
    const { exchange } = this.#pricer.rates;
    const costAmount = exchange.convert(part, cost.currency, client.currency, cost.day, amountRounding);
    return {
      kind: cost.kind,
      id: line.id,
      cost,
      line,
      agreed: null,
      projectId: line.projectId,
      costCodeId: line.costCodeId,
      costType,
      day: cost.day,
      part,
      costAmount,
      markup: percent,
      markupId: markup === null ? (agreed?.id ?? null) : null,
      amount: costAmount === null ? 0 : withMarkup(costAmount, percent, amountRounding),
      currency: client.currency,
      fault: costAmount === null ? `no exchange rate from ${cost.currency}` : null,
    };
  }

  /** What is charged for a part of an agreed amount. */
  ofAgreed(row: Agreed, part: Minor): Charge | null {
    const client = this.#pricer.clientOf(row.projectId);
    if (!client || row.kind === 'allowance') return null;
    const milestone = row.milestoneId === null ? undefined : this.#milestones.get(row.milestoneId);
    return {
      kind: row.kind,
      id: row.id,
      cost: null,
      line: null,
      agreed: row,
      projectId: row.projectId,
      costCodeId: row.costCodeId,
      costType: this.#pricer.costCode.get(row.costCodeId ?? '')?.costType ?? 'labour',
      day: row.agreedOn ?? milestone?.day ?? '',
      part,
      costAmount: null,
      markup: null,
      markupId: null,
      amount: part,
      currency: client.currency,
      fault: null,
    };
  }

  /** Everything besides time that has something left to bill. */
  toBill(takings: Iterable<Reservation>): Charge[] {
    const taken = reservedBySource(takings);
    const charges: Charge[] = [];
    for (const line of this.rows.costLines) {
      const billable = this.billableOfLine(line);
      if (billable === null || this.coveredByEstimate(line)) continue;
      const left = billable - (taken.get(line.id) ?? 0);
      // A refund from a supplier is charged on as what it is: an amount below nothing.
      if (left === 0 || left < 0 !== billable < 0) continue;
      const charge = this.ofLine(line, left);
      if (charge) charges.push(charge);
    }
    for (const row of this.rows.agreed) {
      const left = row.amount - (taken.get(row.id) ?? 0);
      if (left <= 0 || !isDue(row, this.#milestones)) continue;
      const charge = this.ofAgreed(row, left);
      if (charge) charges.push(charge);
    }
    return charges.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.id < b.id ? -1 : 1));
  }

  /** Whether an estimate of its heading is billed in place of the line, or its project is billed to nobody. */
  coveredByEstimate(line: Pick<CostLine, 'projectId' | 'costCodeId'>): boolean {
    const project = this.#pricer.project.get(line.projectId ?? '');
    return project?.kind === 'internal' || this.#pricer.estimateOver(line.projectId, line.costCodeId) !== null;
  }

  #costOfLine(line: CostLine, cost: Cost): Minor {
    const tax = cost.taxId === null ? undefined : this.#pricer.tax.get(cost.taxId);
    return lineAmounts(line, cost, tax, this.#pricer.book.workspace.amountRounding).cost;
  }

  #markupOf(projectId: Id, costType: CostType, day: Day) {
    if (costType === 'labour') return null;
    // Many lines of a bill ask the same.
    const key = `${projectId} ${costType} ${day}`;
    let found = this.#markups.get(key);
    if (found === undefined) {
      found = markupOn(this.#pricer.book.markups, this.#pricer.tree, { projectId, costType, day });
      this.#markups.set(key, found);
    }
    return found;
  }
}

/** A charge with a markup of this invoice's own; one without a known cost stays as it is. */
export function chargeMarkedUp(pricer: Pricer, charge: Charge, markup: Decimal): Charge {
  if (charge.costAmount === null) return charge;
  const amount = withMarkup(charge.costAmount, markup, pricer.book.workspace.amountRounding);
  return { ...charge, markup, markupId: null, amount };
}

/** The cost type of a cost under no heading. */
const defaultType = { expense: 'expense', bill: 'subcontract', ledger: 'material' } as const;
