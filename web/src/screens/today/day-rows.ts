import { priceEntries, type PricedEntry, type Pricer } from '@half-penny/core/billing';
import {
  blankEntry,
  breakOfDay,
  gapsOfDay,
  overlapping,
  partsByDay,
  secondsOn,
  shareOver,
  spansWithin,
  startOf,
} from '@half-penny/core/entries';
import type { Entry, Member, PlannedTime } from '@half-penny/core/model';
import type { Minor } from '@half-penny/core/money';
import { boundsOfDay, overlapOf, type Day, type Interval, type Seconds } from '@half-penny/core/time';

/** A line of the day: what was recorded, what nothing covers, what was planned, what the break rule takes off. */
export type DayRow =
  | {
      kind: 'entry';
      id: string;
      priced: PricedEntry;
      entry: Entry;
      /** What of it lies on this day. */
      seconds: Seconds;
      billed: Seconds;
      amount: Minor;
      /** Other entries at the same time, and for how long; null is what runs. */
      overlaps: { entry: Entry | null; seconds: Seconds }[];
    }
  | { kind: 'gap'; id: string; span: Interval; seconds: Seconds; about: { amount: Minor; currency: string } | null }
  | { kind: 'plan'; id: string; plan: PlannedTime; seconds: Seconds }
  | { kind: 'break'; id: string; seconds: Seconds };

interface DayInput {
  pricer: Pricer;
  member: Member;
  day: Day;
  items: readonly PricedEntry[];
  plans: readonly PlannedTime[];
  running: Interval | null;
  /** Seconds that are owed on the day and not recorded: only so much is not accounted for. */
  missing: Seconds;
}

/** The lines of a day in the order things happened; what has no times comes last. */
export function rowsOfDay({ pricer, member, day, items, plans, running, missing }: DayInput): DayRow[] {
  const { zone } = member;
  const bounds = boundsOfDay(day, zone);
  const entries = items.map((item) => item.entry);
  const doubled = overlapping(entries);
  const timed: { at: number; row: DayRow }[] = items.map((priced) => {
    const { entry } = priced;
    const parts = partsByDay(entry, zone);
    const place = parts.findIndex((part) => part.day === day);
    const share = (whole: number) => (place < 0 ? 0 : parts.length === 1 ? whole : shareOver(whole, parts)[place]!);
    return {
      at: spansWithin(entry.spans, bounds)[0]?.start ?? Infinity,
      row: {
        kind: 'entry',
        id: entry.id,
        priced,
        entry,
        seconds: secondsOn(entry, day, zone),
        billed: share(priced.billed),
        amount: share(priced.amount),
        overlaps: [...(doubled.has(entry.id) ? overlapsOf(entry, entries) : []), ...overlapOfRunning(entry, running)],
      },
    };
  });
  for (const span of missing > 0 ? gapsOfDay(entries, day, zone, running) : []) {
    const seconds = Math.floor((span.end - span.start) / 1000);
    // Hours that nobody owes have no price.
    const about = seconds <= missing ? estimate(pricer, items, span, seconds) : null;
    timed.push({ at: span.start, row: { kind: 'gap', id: `gap ${span.start}`, span, seconds, about } });
  }
  const done = new Set(entries.map((entry) => entry.planId));
  for (const plan of plans) {
    if (done.has(plan.id)) continue;
    timed.push({ at: plan.start ?? Infinity, row: { kind: 'plan', id: plan.id, plan, seconds: plan.seconds } });
  }
  timed.sort((a, b) => (a.at === b.at ? (a.row.id < b.row.id ? -1 : 1) : a.at < b.at ? -1 : 1));
  const rows = timed.map(({ row }) => row);
  const { deducted } = breakOfDay(pricer.book.workspace.breakRule, entries, day, zone);
  return deducted > 0 ? [...rows, { kind: 'break', id: 'break', seconds: -deducted }] : rows;
}

function overlapsOf(entry: Entry, entries: readonly Entry[]): { entry: Entry; seconds: Seconds }[] {
  return entries
    .filter((other) => other.id !== entry.id)
    .map((other) => ({
      entry: other,
      seconds: Math.round(
        entry.spans.reduce((sum, own) => sum + other.spans.reduce((all, span) => all + overlapOf(own, span), 0), 0) /
          1000,
      ),
    }))
    .filter((each) => each.seconds > 0);
}

/** What runs at the same time as an entry, as when a length was written down for the time that the timer covers. */
function overlapOfRunning(entry: Entry, running: Interval | null): { entry: null; seconds: Seconds }[] {
  if (!running) return [];
  const seconds = Math.floor(entry.spans.reduce((sum, span) => sum + overlapOf(span, running), 0) / 1000);
  return seconds > 0 ? [{ entry: null, seconds }] : [];
}

/** What a gap might be worth: at the rate of what was done before it, where that is known and may be seen. */
function estimate(pricer: Pricer, items: readonly PricedEntry[], gap: Interval, seconds: Seconds) {
  const before = items
    .filter(({ entry }) => (startOf(entry) ?? Infinity) < gap.start && pricer.clientOf(entry.projectId))
    .sort((a, b) => startOf(b.entry)! - startOf(a.entry)!)[0];
  if (!before?.price) return null;
  const { memberId, day, projectId, serviceId } = before.entry;
  const [priced] = priceEntries(
    pricer,
    [blankEntry({ id: 'gap', memberId, day, projectId, serviceId, seconds })],
    () => seconds,
  );
  return priced?.price ? { amount: priced.amount, currency: priced.price.currency } : null;
}
