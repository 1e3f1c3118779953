import type { Id } from '../model/ids';
import type { Entry } from '../model/records';
import { addExact } from '../money/rational';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import type { Seconds } from '../time/length';
import { noCharges, type Charge, type ChargeRows } from './charges';
import type { Pricer } from './pricer';
import type { Reservation } from './sources';
import { toBill, type PricedEntry } from './to-bill';

/** What a change does to one source that is to bill; null where no rate fits. */
export interface Affected {
  /** The entry, or the cost that is charged on. */
  entry: Entry | null;
  charge: Charge | null;
  before: Minor | null;
  after: Minor | null;
  currency: CurrencyCode;
}

/** What a change to rates, markups or costs does to everything to bill, before it is done. */
export interface Effect {
  /** Those whose amount changes, in the order they are to bill. */
  affected: Affected[];
  /** Sums over those, by currency. */
  sums: ReadonlyMap<CurrencyCode, { before: Minor; after: Minor }>;
}

/** Compares what is to bill by two books. Amounts are of each entry by itself. */
export function effectOf(
  before: Pricer,
  after: Pricer,
  entries: readonly Entry[],
  allocations: readonly Reservation[],
  rows: ChargeRows = noCharges,
): Effect {
  const now = itemsOf(before, entries, allocations, rows);
  const then = itemsOf(after, entries, allocations, rows);
  const affected: Affected[] = [];
  const sums = new Map<CurrencyCode, { before: Minor; after: Minor }>();
  for (const id of new Set([...now.keys(), ...then.keys()])) {
    const [a, b] = [now.get(id), then.get(id)];
    const { entry, charge } = (a ?? b)!;
    const projectId = entry ? entry.projectId : charge!.projectId;
    const currency = currencyOf(before, after, projectId);
    const one: Affected = { entry, charge, before: a?.amount ?? null, after: b?.amount ?? null, currency };
    if (one.before === one.after) continue;
    affected.push(one);
    const sum = sums.get(one.currency) ?? { before: 0, after: 0 };
    sums.set(one.currency, {
      before: addExact(sum.before, one.before ?? 0),
      after: addExact(sum.after, one.after ?? 0),
    });
  }
  return { affected, sums };
}

interface Item {
  entry: Entry | null;
  charge: Charge | null;
  amount: Minor | null;
}

function itemsOf(
  pricer: Pricer,
  entries: readonly Entry[],
  allocations: readonly Reservation[],
  rows: ChargeRows,
): Map<string, Item> {
  const items = new Map<string, Item>();
  for (const client of toBill(pricer, entries, allocations, rows)) {
    for (const { entry, price, amount } of client.items) {
      items.set(entry.id, { entry, charge: null, amount: price ? amount : null });
    }
    for (const charge of client.charges) {
      items.set(charge.id, { entry: null, charge, amount: charge.fault === null ? charge.amount : null });
    }
  }
  return items;
}

const currencyOf = (before: Pricer, after: Pricer, projectId: Id | null): CurrencyCode =>
  after.rates.currencyOf(projectId) ?? before.rates.currencyOf(projectId) ?? before.book.workspace.currency;

/** Seconds to bill that each rate line decides, by the line's id. */
export function secondsDecided(items: readonly PricedEntry[]): Map<string, Seconds> {
  const sums = new Map<string, Seconds>();
  for (const { price, billed } of items) {
    const id = price?.decided?.line.id;
    if (id) sums.set(id, (sums.get(id) ?? 0) + billed);
  }
  return sums;
}
