import { Charges, type ChargeRows } from '../billing/charges';
import { codeOfEntry } from '../billing/lines';
import type { InvoicedPart } from '../billing/paid';
import type { Pricer } from '../billing/pricer';
import { remainingLengths } from '../billing/remaining';
import type { Reservation } from '../billing/sources';
import { priceLength } from '../billing/to-bill';
import type { Id } from '../model/ids';
import type { Agreed, Entry, Order } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import { showDayShort } from '../time/day';
import { lineAmounts } from '../costs/amounts';
import { tallyCurrency } from './tally';

/** What a figure is made of. */
export interface Part {
  kind: 'agreed' | 'order' | 'cost' | 'entry' | 'allocation';
  id: Id;
  label: string;
  amount: Minor;
}

/** A sum and what it is made of. */
export interface Sum {
  amount: Minor;
  parts: Part[];
}

/** What was agreed, what happened and what was asked for under one heading, in the client's currency and before tax. */
export interface HeadingMoney {
  costCodeId: Id | null;
  agreed: { estimate: Sum; allowances: Sum; extras: Sum };
  happened: {
    /** Ordered and not billed by the supplier yet. */
    committed: Sum;
    spent: Sum;
    /** What hours cost. */
    worked: Sum;
  };
  asked: { invoiced: Sum; paid: Minor; toBill: Sum };
  /** What it was thought to cost when it was agreed. */
  thoughtCost: Minor;
  /** What it will have cost in the end: what happened and is ordered, or what was thought, where that is more. */
  forecastCost: Minor;
}

export interface ProjectMoneyRows extends ChargeRows {
  entries: readonly Entry[];
  orders: readonly Order[];
  takings: readonly Reservation[];
  /** What each allocation of issued invoices earns, and what was paid of it, by its id. */
  parts: ReadonlyMap<string, InvoicedPart>;
}

const none = (): Sum => ({ amount: 0, parts: [] });

/** A project and its parts in three groups for each heading. Headings come in the order of their codes; what has none is last. */
export function projectMoney(pricer: Pricer, projectId: Id, rows: ProjectMoneyRows): HeadingMoney[] {
  const under = new Set(pricer.tree.downFrom(projectId).map((project) => project.id));
  const currency = tallyCurrency(pricer, projectId);
  const headings = new Map<Id | null, HeadingMoney>();
  const of = (costCodeId: Id | null): HeadingMoney => {
    let heading = headings.get(costCodeId);
    if (!heading) headings.set(costCodeId, (heading = emptyHeading(costCodeId)));
    return heading;
  };
  const put = (sum: Sum, part: Part) => {
    sum.amount += part.amount;
    sum.parts.push(part);
  };
  for (const row of rows.agreed) {
    if (!under.has(row.projectId)) continue;
    const { agreed } = of(row.costCodeId);
    const sum = {
      estimate: agreed.estimate,
      allowance: agreed.allowances,
      extra: agreed.extras,
      fixed: agreed.estimate,
    }[row.kind];
    if (row.kind === 'extra' && row.agreedOn === null) continue;
    put(sum, { kind: 'agreed', id: row.id, label: row.text, amount: row.amount });
    if (row.cost !== null) of(row.costCodeId).thoughtCost += row.cost;
  }
  for (const part of undividedPrices(pricer, under, rows.agreed)) put(of(null).agreed.estimate, part);
  const spentOn = new Map<Id, Minor>();
  const costs = new Map(rows.costs.map((row) => [row.id, row]));
  const { amountRounding } = pricer.book.workspace;
  for (const line of rows.costLines) {
    const cost = costs.get(line.costId);
    if (!cost || line.projectId === null || !under.has(line.projectId)) continue;
    const tax = cost.taxId === null ? undefined : pricer.tax.get(cost.taxId);
    const own = lineAmounts(line, cost, tax, amountRounding).cost;
    const amount = pricer.rates.exchange.convert(own, cost.currency, currency, cost.day, amountRounding) ?? 0;
    const label = line.text || cost.supplier;
    put(of(line.costCodeId).happened.spent, { kind: 'cost', id: line.id, label, amount });
    if (line.orderId !== null) spentOn.set(line.orderId, (spentOn.get(line.orderId) ?? 0) + own);
  }
  for (const order of rows.orders) {
    if (!under.has(order.projectId) || order.closed) continue;
    const left = Math.max(0, order.amount - (spentOn.get(order.id) ?? 0));
    const amount = pricer.rates.exchange.convert(left, order.currency, currency, order.day, amountRounding) ?? 0;
    if (amount === 0) continue;
    const label = [order.supplier, order.text].filter(Boolean).join(', ');
    put(of(order.costCodeId).happened.committed, { kind: 'order', id: order.id, label, amount });
  }
  putTime(pricer, rows, under, currency, of, put);
  putAsked(pricer, rows, under, of, put);
  return [...headings.values()]
    .map((heading) => ({ ...heading, forecastCost: forecastOf(heading) }))
    .sort((a, b) => codeOf(pricer, a).localeCompare(codeOf(pricer, b)));
}

type Put = (sum: Sum, part: Part) => void;

function putTime(
  pricer: Pricer,
  { entries, takings }: ProjectMoneyRows,
  under: ReadonlySet<Id>,
  currency: CurrencyCode,
  of: (costCodeId: Id | null) => HeadingMoney,
  put: Put,
): void {
  const own = entries.filter((entry) => entry.projectId !== null && under.has(entry.projectId));
  const remaining = remainingLengths(pricer, entries, takings);
  for (const entry of own) {
    const heading = of(codeOfEntry(pricer, entry));
    const label = `${showDayShort(entry.day)} ${entry.note}`.trim();
    const cost = pricer.costIn(entry.memberId, entry.day, entry.seconds, currency) ?? 0;
    if (cost !== 0) put(heading.happened.worked, { kind: 'entry', id: entry.id, label, amount: cost });
    const { amount } = priceLength(pricer, entry, remaining.get(entry.id)!.open);
    if (amount !== 0 && pricer.billsEntry(entry)) {
      put(heading.asked.toBill, { kind: 'entry', id: entry.id, label, amount });
    }
  }
}

function putAsked(
  pricer: Pricer,
  rows: ProjectMoneyRows,
  under: ReadonlySet<Id>,
  of: (costCodeId: Id | null) => HeadingMoney,
  put: Put,
): void {
  for (const charge of new Charges(pricer, rows).toBill(rows.takings)) {
    if (!under.has(charge.projectId)) continue;
    const label = charge.agreed?.text ?? (charge.line!.text || charge.cost!.supplier);
    put(of(charge.costCodeId).asked.toBill, {
      kind: charge.agreed ? 'agreed' : 'cost',
      id: charge.id,
      label,
      amount: charge.amount,
    });
  }
  const entries = new Map(rows.entries.map((row) => [row.id, row]));
  const lines = new Map(rows.costLines.map((row) => [row.id, row]));
  const agreed = new Map(rows.agreed.map((row) => [row.id, row]));
  for (const taking of rows.takings) {
    if (taking.amount === null || taking.amount === undefined) continue;
    const entry = entries.get(taking.entryId ?? '');
    const source = entry ?? lines.get(taking.costLineId ?? '') ?? agreed.get(taking.agreedId ?? '');
    if (!source?.projectId || !under.has(source.projectId)) continue;
    const heading = of(entry ? codeOfEntry(pricer, entry) : (source as Agreed).costCodeId);
    const { id } = taking as { id?: Id };
    const part = rows.parts.get(id ?? '');
    const amount = part?.net ?? taking.amount;
    put(heading.asked.invoiced, { kind: 'allocation', id: source.id, label: labelOf(source), amount });
    heading.asked.paid += part?.paid ?? 0;
  }
}

const labelOf = (source: object): string => {
  const { note, text, day } = source as { note?: string; text?: string; day?: string };
  return [day, note ?? text].filter(Boolean).join(' ');
};

const forecastOf = ({ happened, thoughtCost }: HeadingMoney): Minor =>
  Math.max(thoughtCost, happened.committed.amount + happened.spent.amount + happened.worked.amount);

/** What of prices for wholes is agreed and in no amount to bill yet. */
function undividedPrices(pricer: Pricer, under: ReadonlySet<Id>, agreed: readonly Agreed[]): Part[] {
  const divided = new Map<Id, Minor>();
  for (const { kind, projectId, amount } of agreed) {
    if (kind === 'fixed') divided.set(projectId, (divided.get(projectId) ?? 0) + amount);
  }
  return pricer.book.projects.flatMap((project): Part[] => {
    if (!under.has(project.id) || project.kind !== 'fixed price') return [];
    const amount = (project.fixedPrice ?? 0) - (divided.get(project.id) ?? 0);
    return amount > 0 ? [{ kind: 'agreed', id: project.id, label: `${project.name}, not divided yet`, amount }] : [];
  });
}

const codeOf = (pricer: Pricer, { costCodeId }: HeadingMoney): string =>
  costCodeId === null ? '\uffff' : (pricer.costCode.get(costCodeId)?.code ?? '');

function emptyHeading(costCodeId: Id | null): HeadingMoney {
  return {
    costCodeId,
    agreed: { estimate: none(), allowances: none(), extras: none() },
    happened: { committed: none(), spent: none(), worked: none() },
    asked: { invoiced: none(), paid: 0, toBill: none() },
    thoughtCost: 0,
    forecastCost: 0,
  };
}

/** What the choices of an allowance cost so far, against what was set aside. */
export function allowanceUsed(
  rows: Pick<ProjectMoneyRows, 'costs' | 'costLines'>,
  allowanceId: Id,
  costOf: (lineId: Id) => Minor,
): Minor {
  return rows.costLines.filter((line) => line.agreedId === allowanceId).reduce((sum, line) => sum + costOf(line.id), 0);
}
