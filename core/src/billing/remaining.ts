import type { Id } from '../model/ids';
import type { Entry } from '../model/records';
import { divideRounded, product } from '../money/rational';
import { shareOut } from '../money/share';
import type { Seconds } from '../time/length';
import type { Pricer } from './pricer';
import type { Reservation } from './sources';
import { billableOf, billedLengthsOf, unitKey } from './billed-lengths';

// The billed length of an entry, or of what a member did on a job in a day, is made once. Everything after that is a share of it: parts on
// several invoices, write-downs, credits. Nothing is rounded a second time.

/** A piece of an entry: of its own billable seconds, and of its billed length. */
export interface Length {
  seconds: Seconds;
  billed: Seconds;
}

/** What is neither on an issued invoice nor given up: on a draft, and on none. */
export interface Remaining {
  drafted: Length;
  open: Length;
}

/** What is spoken for of an entry. */
interface Settled {
  /** Billable seconds on issued invoices, written down and never billed. */
  seconds: Seconds;
  /** Billed seconds that issued lines say. */
  fixed: Seconds;
  /** Billable seconds that no line says a billed length of; theirs is in proportion. */
  loose: Seconds;
  /** Billable seconds on a draft. */
  drafted: Seconds;
}

const nothing: Length = { seconds: 0, billed: 0 };

/**
 * What is left of each entry. A rounding unit (an entry, or a member's day on a job) leaves its billed length less what is invoiced or
 * given up, never less than nothing; entries of one unit share that by their own seconds left, a draft has its share of the entry's.
 *
 * @param entries with all entries of the units that they belong to
 * @param takings rows of those entries: allocations, and adjustments other than those left for later
 * @param drafted allocations that count as being on a draft, issued or not: so an invoice is computed again as it was
 */
export function remainingLengths(
  pricer: Pricer,
  entries: readonly Entry[],
  takings: Iterable<Reservation>,
  drafted: Iterable<Reservation> = [],
): Map<Id, Remaining> {
  const settled = settledOf(takings, drafted);
  const billable = entries.map(billableOf);
  const billed = billedLengthsOf(pricer, entries, billable);
  const units = new Map<string, number[]>();
  const found = new Map<Id, Remaining>();
  entries.forEach((entry, index) => {
    const key = unitKey(pricer, entry);
    const unit = key === null ? undefined : units.get(key);
    if (unit) unit.push(index);
    else if (key !== null) units.set(key, [index]);
    else found.set(entry.id, ofUnit([billable[index]!], [billed[index]!], [settled.get(entry.id)])[0]!);
  });
  for (const unit of units.values()) {
    const rest = ofUnit(
      unit.map((index) => billable[index]!),
      unit.map((index) => billed[index]!),
      unit.map((index) => settled.get(entries[index]!.id)),
    );
    unit.forEach((index, place) => found.set(entries[index]!.id, rest[place]!));
  }
  return found;
}

/**
 * Entries with billable time that is neither on an issued invoice nor given up: whatever there is to bill by the hour is of these.
 *
 * @param takings rows of those entries: allocations and adjustments
 */
export function unsettledEntries<E extends Pick<Entry, 'id' | 'seconds' | 'billableSeconds'>>(
  entries: readonly E[],
  takings: Iterable<Reservation>,
): E[] {
  const settled = settledOf(takings, []);
  return entries.filter((entry) => billableOf(entry) > (settled.get(entry.id)?.seconds ?? 0));
}

function settledOf(takings: Iterable<Reservation>, drafted: Iterable<Reservation>): Map<Id, Settled> {
  const found = new Map<Id, Settled>();
  const of = (entryId: Id): Settled => {
    let own = found.get(entryId);
    if (!own) found.set(entryId, (own = { seconds: 0, fixed: 0, loose: 0, drafted: 0 }));
    return own;
  };
  for (const { entryId, seconds } of drafted) if (entryId !== null) of(entryId).drafted += seconds;
  for (const { entryId, seconds, billed, amount } of takings) {
    if (entryId === null) continue;
    const own = of(entryId);
    if (amount === null) {
      own.drafted += seconds;
      continue;
    }
    own.seconds += seconds;
    if (billed == null) own.loose += seconds;
    else own.fixed += billed;
  }
  return found;
}

/** What is left of the entries of one unit, given their billable seconds, their shares of its billed length, and what is settled of them. */
function ofUnit(
  billable: readonly Seconds[],
  billed: readonly Seconds[],
  settled: readonly (Settled | undefined)[],
): Remaining[] {
  if (settled.every((each) => each === undefined)) {
    return billable.map((seconds, index) => ({ drafted: nothing, open: { seconds, billed: billed[index]! } }));
  }
  let left = 0;
  const seconds = billable.map((own, index) => {
    const { fixed = 0, loose = 0, seconds: gone = 0 } = settled[index] ?? {};
    left += billed[index]! - fixed - inProportion(billed[index]!, loose, own);
    return Math.max(0, own - gone);
  });
  const shares = seconds.some((each) => each > 0) ? shareOut(Math.max(0, left), seconds) : seconds;
  return seconds.map((own, index) => {
    const drafted = Math.min(own, settled[index]?.drafted ?? 0);
    const onDraft = partOf({ seconds: own, billed: shares[index]! }, drafted);
    return { drafted: onDraft, open: { seconds: own - drafted, billed: shares[index]! - onDraft.billed } };
  });
}

/** So many of a length's seconds, with their share of its billed length. */
export function partOf(whole: Length, seconds: Seconds): Length {
  if (seconds === 0) return nothing;
  if (seconds === whole.seconds) return whole;
  return { seconds, billed: shareOut(whole.billed, [seconds, whole.seconds - seconds])[0]! };
}

/** The billed length of some of an entry's billable seconds; negative for what was written up. */
export function inProportion(billed: Seconds, seconds: Seconds, billable: Seconds): Seconds {
  if (billable === 0 || seconds === billable) return billable === 0 ? seconds : billed;
  return divideRounded(product(billed, seconds), billable, 'half away from zero');
}
