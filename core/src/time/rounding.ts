import { shareOut } from '../money/share';
import type { Seconds } from './length';

/** How recorded lengths become billed lengths. Recorded seconds themselves are never changed. */
export interface RoundingPolicy {
  /** Steps in seconds: 360 for tenths of an hour, 900 for quarters; 1 leaves lengths exact. */
  increment: Seconds;
  direction: 'up' | 'nearest' | 'down';
  /** The least that is billed for anything recorded at all. */
  minimum: Seconds;
  /** Round entry by entry, or what a day's entries on one job come to together. */
  per: 'entry' | 'day and job';
}

/** No rounding: every second counts. */
export const exactly: RoundingPolicy = { increment: 1, direction: 'nearest', minimum: 0, per: 'entry' };

/**
 * One length by a policy. Nothing recorded stays nothing; half a step goes up when rounding to the nearest.
 *
 * Sources: the six-minute billing table; 29 CFR 785.48(b) for nearest 5 min, tenth and quarter hour.
 *
 * @example roundLength(3300, { increment: 360, direction: 'up', minimum: 0, per: 'entry' }) // → 3600
 */
export function roundLength(seconds: Seconds, policy: RoundingPolicy): Seconds {
  if (seconds <= 0) return 0;
  const { increment, direction, minimum } = policy;
  const over = seconds % increment;
  const down = seconds - over;
  const rounded =
    over === 0 || direction === 'down' || (direction === 'nearest' && over * 2 < increment) ? down : down + increment;
  return rounded < minimum ? minimum : rounded;
}

/** What rounding needs to know of an entry. */
export interface Recorded {
  seconds: Seconds;
  day: string;
  job: string;
}

/**
 * The billed length of entry by entry under a policy, in the order given. Rounded per day and job, the sum is rounded once and shared
 * over its entries by largest remainder, so that condensing or splitting a bill never changes its hours.
 */
export function billedLengths(entries: readonly Recorded[], policy: RoundingPolicy): Seconds[] {
  if (policy.per === 'entry') return entries.map((entry) => roundLength(entry.seconds, policy));
  const groups = new Map<string, number[]>();
  entries.forEach((entry, index) => {
    const key = `${entry.day} ${entry.job}`;
    const group = groups.get(key);
    if (group) group.push(index);
    else groups.set(key, [index]);
  });
  const billed = new Array<Seconds>(entries.length).fill(0);
  for (const group of groups.values()) {
    const weights = group.map((index) => entries[index]!.seconds);
    const total = weights.reduce((sum, each) => sum + each, 0);
    const parts = total === 0 ? weights : shareOut(roundLength(total, policy), weights);
    group.forEach((index, place) => (billed[index] = parts[place]!));
  }
  return billed;
}

/**
 * The policy in words: "up to the next 6 min, entry by entry".
 *
 * @example showPolicy({ increment: 360, direction: 'up', minimum: 0, per: 'entry' }) // → 'up to the next 6 min, entry by entry'
 */
export function showPolicy(policy: RoundingPolicy): string {
  if (policy.increment === 1 && policy.minimum === 0) return 'to the second';
  const step = policy.increment % 60 === 0 ? `${policy.increment / 60} min` : `${policy.increment} s`;
  const direction = { up: 'up to the next', nearest: 'to the nearest', down: 'down to the last' }[policy.direction];
  const least = policy.minimum ? `, at least ${policy.minimum / 60} min` : '';
  return `${direction} ${step}${least}, ${policy.per === 'entry' ? 'entry by entry' : 'by day and job'}`;
}
