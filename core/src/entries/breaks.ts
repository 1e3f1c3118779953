import type { BreakRule, Entry } from '../model/records';
import { boundsOfDay, type Day, type Zone } from '../time/day';
import { gaps, union } from '../time/interval';
import { showExactly, type Seconds } from '../time/length';
import { secondsOn, spansWithin } from './spans';

/** What the break rule makes of a day. */
export interface BreakOfDay {
  /** Seconds on jobs other than the one for breaks. */
  worked: Seconds;
  /** Breaks that were recorded: gaps between times, and what stands on the job for breaks. */
  taken: Seconds;
  /** What the rule takes off; it stands as a row of its own and is hidden in no length. */
  deducted: Seconds;
}

/**
 * Applies "after so many hours take so many minutes off unless a break was recorded" to a member's day. A break that was shorter than
 * the rule wants counts for what it was, and only the rest is taken off.
 */
export function breakOfDay(rule: BreakRule | null, entries: readonly Entry[], day: Day, zone: Zone): BreakOfDay {
  const isBreak = (entry: Entry) => rule?.projectId != null && entry.projectId === rule.projectId;
  const secondsIn = (list: readonly Entry[]) => list.reduce((sum, entry) => sum + secondsOn(entry, day, zone), 0);
  const worked = secondsIn(entries.filter((entry) => !isBreak(entry)));
  const recordedBreaks = secondsIn(entries.filter(isBreak));
  const taken = recordedBreaks + gapSeconds(entries, day, zone);
  const due = rule !== null && worked > rule.after;
  return { worked, taken, deducted: due ? Math.max(0, rule.take - taken) : 0 };
}

function gapSeconds(entries: readonly Entry[], day: Day, zone: Zone): Seconds {
  const bounds = boundsOfDay(day, zone);
  const spans = union(entries.flatMap((entry) => spansWithin(entry.spans, bounds)));
  if (spans.length < 2) return 0;
  const whole = { start: spans[0]!.start, end: spans[spans.length - 1]!.end };
  return Math.floor(gaps(spans, whole).reduce((sum, gap) => sum + gap.end - gap.start, 0) / 1000);
}

/** "after 6 h 30 min off unless a break was recorded". */
export const showBreakRule = (rule: Pick<BreakRule, 'after' | 'take'>): string =>
  `after ${showExactly(rule.after)} of work ${showExactly(rule.take)} off, unless a break was recorded`;
