import { remainingLengths } from '../billing/remaining';
import type { Reservation } from '../billing/sources';
import { billableOf } from '../billing/billed-lengths';
import { priceEntries, priceLength } from '../billing/to-bill';
import type { Pricer } from '../billing/pricer';
import type { Id } from '../model/ids';
import type { Entry } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import type { Minor } from '../money/amount';
import type { Seconds } from '../time/length';

/** What was recorded on a job and what became of it. Amounts are in the client's currency, the workspace's for internal work. */
export interface Tally {
  /** Worked. */
  seconds: Seconds;
  /** What the billable part is worth at its rates, whether it is billed by the hour or not. */
  worth: Minor;
  /** What the work cost, by cost rates. */
  cost: Minor;
  /** Seconds that no cost rate, or no exchange rate for it, tells the cost of. */
  uncosted: Seconds;
  invoiced: Minor;
  /** Billable and on no issued invoice; of projects that are billed by the hour. */
  toBill: Minor;
}

/** A tally of nothing. */
export const noTally: Tally = { seconds: 0, worth: 0, cost: 0, uncosted: 0, invoiced: 0, toBill: 0 };

const add = (a: Tally, b: Tally): Tally => ({
  seconds: a.seconds + b.seconds,
  worth: a.worth + b.worth,
  cost: a.cost + b.cost,
  uncosted: a.uncosted + b.uncosted,
  invoiced: a.invoiced + b.invoiced,
  toBill: a.toBill + b.toBill,
});

/** The currency in which a project is tallied. */
export const tallyCurrency = (pricer: Pricer, projectId: Id | null): CurrencyCode =>
  pricer.clientOf(projectId)?.currency ?? pricer.book.workspace.currency;

/** Tallies each entry by itself, in the order given. */
export function tallyEntries(
  pricer: Pricer,
  entries: readonly Entry[],
  allocations: readonly Reservation[],
): { entry: Entry; tally: Tally }[] {
  const issued = allocations.filter((each) => each.amount !== null);
  // What stands on a draft is still to bill here.
  const remaining = remainingLengths(pricer, entries, issued);
  const invoiced = new Map<Id, Minor>();
  for (const { entryId, amount } of issued) {
    if (entryId !== null) invoiced.set(entryId, (invoiced.get(entryId) ?? 0) + (amount ?? 0));
  }
  const worth = priceEntries(pricer, entries, billableOf);
  return entries.map((entry, index) => {
    const cost = costIn(pricer, entry, tallyCurrency(pricer, entry.projectId));
    const { seconds } = entry;
    return {
      entry,
      tally: {
        seconds,
        worth: worth[index]!.amount,
        cost: cost ?? 0,
        uncosted: cost === null ? seconds : 0,
        invoiced: invoiced.get(entry.id) ?? 0,
        toBill: pricer.billsEntry(entry) ? priceLength(pricer, entry, remaining.get(entry.id)!.open).amount : 0,
      },
    };
  });
}

/** What an entry's work cost, in a currency, by the exchange rate of its day; null where that is not known. */
function costIn(pricer: Pricer, entry: Entry, currency: CurrencyCode): Minor | null {
  const cost = pricer.costOf(entry.memberId, entry.day, entry.seconds);
  if (!cost) return null;
  const { amountRounding } = pricer.book.workspace;
  return pricer.rates.exchange.convert(cost.amount, cost.currency, currency, entry.day, amountRounding);
}

export interface TalliedWork {
  /** By project, of what is recorded on it directly. */
  own: ReadonlyMap<Id, Tally>;
  /** By project, with everything that is part of it. */
  rolled: ReadonlyMap<Id, Tally>;
  byTask: ReadonlyMap<Id, Tally>;
  /** What a project's own time on a task comes to; of a task that stands by itself only what went with that project. */
  onTask: (projectId: Id, taskId: Id) => Tally | undefined;
}

/** Tallies projects and tasks, each project also with all of its parts. */
export function tallyWork(pricer: Pricer, entries: readonly Entry[], allocations: readonly Reservation[]): TalliedWork {
  const own = new Map<Id, Tally>();
  const rolled = new Map<Id, Tally>();
  const byTask = new Map<Id, Tally>();
  const byBoth = new Map<string, Tally>();
  const put = (sums: Map<string, Tally>, id: string, tally: Tally) => sums.set(id, add(sums.get(id) ?? noTally, tally));
  for (const { entry, tally } of tallyEntries(pricer, entries, allocations)) {
    if (entry.projectId === null) continue;
    put(own, entry.projectId, tally);
    if (entry.taskId !== null) {
      put(byTask, entry.taskId, tally);
      put(byBoth, `${entry.projectId} ${entry.taskId}`, tally);
    }
  }
  for (const [projectId, tally] of own) {
    for (const project of pricer.tree.upFrom(projectId)) put(rolled, project.id, tally);
  }
  return { own, rolled, byTask, onTask: (projectId, taskId) => byBoth.get(`${projectId} ${taskId}`) };
}

/** What a project sells for with its parts: a fixed price in place of its hours' worth, and each part by its own kind. */
export interface PriceOfWork {
  /** Agreed for wholes. */
  fixed: Minor;
  /** What hours are worth that are charged by the hour. */
  hourly: Minor;
  /** What hours would be worth that a fixed price covers; for comparison. */
  covered: Minor;
}

/**
 * What a project with its parts is sold for, in minor units: fixed prices, work by the hour, and the worth of work that fixed prices
 * cover.
 */
export function priceOfWork(pricer: Pricer, work: TalliedWork, projectId: Id): PriceOfWork {
  const price: PriceOfWork = { fixed: 0, hourly: 0, covered: 0 };
  for (const project of pricer.tree.downFrom(projectId)) {
    const worth = work.own.get(project.id)?.worth ?? 0;
    if (project.kind === 'fixed price') {
      price.fixed += project.fixedPrice ?? 0;
      price.covered += worth;
    } else price.hourly += worth;
  }
  return price;
}

/** Tallies added up, each figure for itself. */
export const sumTallies = (tallies: Iterable<Tally>): Tally => {
  let sum = noTally;
  for (const tally of tallies) sum = add(sum, tally);
  return sum;
};
