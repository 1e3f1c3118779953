import type { Entry } from '../model/records';
import { addExact } from '../money/rational';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import type { Seconds } from '../time/length';
import type { Pricer } from './pricer';
import type { Taking } from './sources';
import { toBill, type Priced } from './to-bill';

/** What a change does to one entry that is to bill; null where no rate fits. */
export interface Affected {
  entry: Entry;
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
  allocations: readonly Taking[],
): Effect {
  const now = itemsOf(before, entries, allocations);
  const then = itemsOf(after, entries, allocations);
  const affected: Affected[] = [];
  const sums = new Map<CurrencyCode, { before: Minor; after: Minor }>();
  for (const id of new Set([...now.keys(), ...then.keys()])) {
    const [a, b] = [now.get(id), then.get(id)];
    const { entry } = (a ?? b)!;
    const one = { entry, before: amountOf(a), after: amountOf(b), currency: currencyOf(before, after, entry) };
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

function itemsOf(pricer: Pricer, entries: readonly Entry[], allocations: readonly Taking[]): Map<string, Priced> {
  const clients = toBill(pricer, entries, allocations);
  return new Map(clients.flatMap((client) => client.items.map((item) => [item.entry.id, item] as const)));
}

const amountOf = (item: Priced | undefined): Minor | null => (item?.price ? item.amount : null);

const currencyOf = (before: Pricer, after: Pricer, entry: Entry): CurrencyCode =>
  after.rates.currencyOf(entry.projectId) ?? before.rates.currencyOf(entry.projectId) ?? before.book.workspace.currency;

/** Seconds to bill that each rate line decides, by the line's id. */
export function secondsDecided(items: readonly Priced[]): Map<string, Seconds> {
  const sums = new Map<string, Seconds>();
  for (const { price, billed } of items) {
    const id = price?.decided?.line.id;
    if (id) sums.set(id, (sums.get(id) ?? 0) + billed);
  }
  return sums;
}
