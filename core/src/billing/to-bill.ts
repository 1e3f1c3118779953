import type { Id } from '../model/ids';
import type { Client, Entry } from '../model/records';
import type { CurrencyCode } from '../money/currency';
import { addExact } from '../money/rational';
import type { Minor } from '../money/amount';
import { waitsForApproval } from './approved-only';
import { billableOf, billedLengthsOf } from './billed-lengths';
import type { Day } from '../time/day';
import type { Seconds } from '../time/length';
import { Charges, noCharges, type Charge, type ChargeRows } from './charges';
import type { Price, Pricer } from './pricer';
import { remainingLengths, type Length } from './remaining';
import type { Reservation } from './sources';

/** A length of an entry with its billed length and worth. */
export interface PricedEntry {
  entry: Entry;
  /** Billable seconds before rounding. */
  seconds: Seconds;
  /** After rounding. */
  billed: Seconds;
  /** Null where no rate fits. */
  price: Price | null;
  /** Worth on its own, rounded once; 0 where there is no price. */
  amount: Minor;
}

/** Rounds and prices entries, each for the seconds given. Their order is kept. */
export function priceEntries(
  pricer: Pricer,
  entries: readonly Entry[],
  secondsOf: (entry: Entry) => Seconds,
): PricedEntry[] {
  const recorded = new Array<Seconds>(entries.length);
  for (let i = 0; i < entries.length; i++) recorded[i] = secondsOf(entries[i]!);
  const billed = billedLengthsOf(pricer, entries, recorded);
  return entries.map((entry, index) =>
    priceLength(pricer, entry, { seconds: recorded[index]!, billed: billed[index]! }),
  );
}

/** A length of an entry at the entry's price. */
export function priceLength(pricer: Pricer, entry: Entry, { seconds, billed }: Length): PricedEntry {
  const price = pricer.priceOf(entry);
  return { entry, seconds, billed, price, amount: price ? pricer.amount(billed, price) : 0 };
}

/** Worth of one entry's billable part on its own day, whether billed yet or not. */
export const worthOf = (pricer: Pricer, entries: readonly Entry[]): PricedEntry[] =>
  priceEntries(pricer, entries, billableOf);

/** What can be put on a client's invoice now. */
export interface ToBill {
  client: Client;
  items: PricedEntry[];
  /** Costs and agreed amounts, by day. */
  charges: Charge[];
  seconds: Seconds;
  billed: Seconds;
  /** Of time and charges together. */
  amount: Minor;
  currency: CurrencyCode;
  /** Items that no rate, or no exchange rate, fits: shown, but not part of the amount. */
  unpriced: number;
  oldest: Day | null;
  /** Time that is billed once it is approved: not among the items, and not part of the amount. */
  waiting: { entries: number; seconds: Seconds; amount: Minor };
}

/**
 * What has something left to bill, by client, in the order of the clients' names. Internal work and hours of a fixed price are not among
 * it.
 */
export function toBill(
  pricer: Pricer,
  entries: readonly Entry[],
  takings: readonly Reservation[],
  rows: ChargeRows = noCharges,
): ToBill[] {
  const remaining = remainingLengths(pricer, entries, takings);
  const open = new Map<Id, { entries: Entry[]; charges: Charge[]; waiting: Entry[] }>();
  const groupOf = (clientId: Id) => {
    let group = open.get(clientId);
    if (!group) open.set(clientId, (group = { entries: [], charges: [], waiting: [] }));
    return group;
  };
  for (const entry of entries) {
    const client = pricer.clientOf(entry.projectId);
    if (!client || !pricer.billsEntry(entry) || remaining.get(entry.id)!.open.seconds <= 0) continue;
    const group = groupOf(client.id);
    (waitsForApproval(pricer.book.workspace, client, entry) ? group.waiting : group.entries).push(entry);
  }
  for (const charge of new Charges(pricer, rows).toBill(takings)) {
    groupOf(pricer.clientOf(charge.projectId)!.id).charges.push(charge);
  }
  return [...open]
    .map(([clientId, group]) => {
      const client = pricer.client.get(clientId)!;
      const { charges } = group;
      const priced = (entry: Entry) => priceLength(pricer, entry, remaining.get(entry.id)!.open);
      const items = group.entries.sort(byWhen).map(priced);
      const waiting = group.waiting.map(priced);
      const days = [items[0]?.entry.day, charges.find((charge) => charge.day)?.day].filter((day) => day !== undefined);
      return {
        client,
        items,
        charges,
        seconds: items.reduce((sum, item) => sum + item.seconds, 0),
        billed: items.reduce((sum, item) => sum + item.billed, 0),
        amount: [...items, ...charges].reduce((sum, item) => addExact(sum, item.amount), 0),
        currency: client.currency,
        unpriced:
          items.filter((item) => item.price === null).length + charges.filter((charge) => charge.fault !== null).length,
        oldest: days.sort()[0] ?? null,
        waiting: {
          entries: waiting.length,
          seconds: waiting.reduce((sum, item) => sum + item.seconds, 0),
          amount: waiting.reduce((sum, item) => addExact(sum, item.amount), 0),
        },
      };
    })
    .sort((a, b) => a.client.name.localeCompare(b.client.name));
}

/** By day, then by start; entries without times come after those with. */
export const byWhen = (a: Entry, b: Entry): number =>
  a.day < b.day
    ? -1
    : a.day > b.day
      ? 1
      : (a.spans[0]?.start ?? Infinity) - (b.spans[0]?.start ?? Infinity) || (a.id < b.id ? -1 : 1);
