/** Epoch milliseconds. */
export type Instant = number;

/** Half-open: the start belongs to it, the end does not. */
export interface Interval {
  start: Instant;
  end: Instant;
}

/**
 * Milliseconds that both have; 0 where they only touch.
 *
 * @example overlapOf({ start: 0, end: 10 }, { start: 6, end: 20 }) // → 4
 */
export const overlapOf = (a: Interval, b: Interval): number =>
  Math.max(0, Math.min(a.end, b.end) - Math.max(a.start, b.start));

/**
 * The part of `a` that lies within `bounds`, or null.
 *
 * @example clip({ start: 0, end: 10 }, { start: 10, end: 20 }) // → null
 */
export function clip(a: Interval, bounds: Interval): Interval | null {
  const start = Math.max(a.start, bounds.start);
  const end = Math.min(a.end, bounds.end);
  return start < end ? { start, end } : null;
}

/**
 * The same moments as a sorted list without overlaps or touching neighbours.
 *
 * @example union([{ start: 5, end: 9 }, { start: 0, end: 5 }]) // → [{ start: 0, end: 9 }]
 */
export function union(intervals: readonly Interval[]): Interval[] {
  const sorted = intervals.filter((each) => each.start < each.end).sort((a, b) => a.start - b.start);
  const joined: Interval[] = [];
  for (const next of sorted) {
    const last = joined.at(-1);
    if (last && next.start <= last.end) last.end = Math.max(last.end, next.end);
    else joined.push({ ...next });
  }
  return joined;
}

/**
 * What of `bounds` no interval covers.
 *
 * @example gaps([{ start: 2, end: 4 }], { start: 0, end: 6 }) // → [{ start: 0, end: 2 }, { start: 4, end: 6 }]
 */
export function gaps(intervals: readonly Interval[], bounds: Interval): Interval[] {
  const free: Interval[] = [];
  let from = bounds.start;
  for (const busy of union(intervals)) {
    if (busy.end <= from) continue;
    if (busy.start >= bounds.end) break;
    if (busy.start > from) free.push({ start: from, end: busy.start });
    from = busy.end;
  }
  if (from < bounds.end) free.push({ start: from, end: bounds.end });
  return free;
}

/**
 * Total milliseconds covered, each moment once.
 *
 * @example covered([{ start: 0, end: 4 }, { start: 2, end: 6 }]) // → 6
 */
export const covered = (intervals: readonly Interval[]): number =>
  union(intervals).reduce((sum, each) => sum + each.end - each.start, 0);
