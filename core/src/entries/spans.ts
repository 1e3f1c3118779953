import { Fault } from '../faults/fault';
import type { Entry, Span } from '../model/records';
import { shareOut } from '../money/share';
import {
  addDays,
  boundsOfDay,
  dayOf,
  daysBetween,
  instantAt,
  minuteOf,
  momentsAt,
  showDayShort,
  type Day,
  type Zone,
} from '../time/day';
import { clip, covered, overlapOf, type Instant, type Interval } from '../time/interval';
import { showMinute, type Seconds } from '../time/length';
import type { Twice, TypedSpan } from '../time/read-length';

type Timed = Pick<Entry, 'spans'>;

/** The first moment of an entry; null where only its length is known. */
export const startOf = (entry: Timed): Instant | null => entry.spans[0]?.start ?? null;

/** The last moment of an entry; null where only its length is known. */
export const endOf = (entry: Timed): Instant | null => entry.spans[entry.spans.length - 1]?.end ?? null;

/** Whole seconds that spans come to; each span of an entry is a whole number of seconds long. */
export const secondsOf = (spans: readonly Interval[]): Seconds =>
  spans.reduce((sum, span) => sum + span.end - span.start, 0) / 1000;

/** The same times for another length: the end moves, and what comes after a shorter length goes. */
export function withLength(spans: readonly Span[], seconds: Seconds): Span[] {
  if (spans.length === 0) return [];
  const [kept] = splitSpans(spans, seconds);
  const missing = seconds - secondsOf(kept);
  const last = kept[kept.length - 1]!;
  return missing === 0 ? kept : [...kept.slice(0, -1), { start: last.start, end: last.end + missing * 1000 }];
}

/** Times cut in two after so many seconds of work. */
export function splitSpans(spans: readonly Span[], after: Seconds): [Span[], Span[]] {
  const first: Span[] = [];
  const rest: Span[] = [];
  let left = after * 1000;
  for (const span of spans) {
    const length = span.end - span.start;
    if (left >= length) first.push(span);
    else if (left <= 0) rest.push(span);
    else {
      first.push({ start: span.start, end: span.start + left });
      rest.push({ start: span.start + left, end: span.end });
    }
    left -= length;
  }
  return [first, rest];
}

/** What is left of times without those of `hole`, each piece a whole number of seconds. */
export function carve(spans: readonly Span[], hole: Interval): Span[] {
  const left: Span[] = [];
  for (const span of spans) {
    if (overlapOf(span, hole) === 0) {
      left.push(span);
      continue;
    }
    const before = Math.floor((hole.start - span.start) / 1000) * 1000;
    const after = Math.floor((span.end - hole.end) / 1000) * 1000;
    if (before > 0) left.push({ start: span.start, end: span.start + before });
    if (after > 0) left.push({ start: span.end - after, end: span.end });
  }
  return left;
}

/**
 * Times of several entries as those of one.
 *
 * @throws Fault where they overlap: joined, that time would count once only
 */
export function joinSpans(lists: readonly (readonly Span[])[]): Span[] {
  const all = lists.flat().sort((a, b) => a.start - b.start);
  if (covered(all) !== all.reduce((sum, span) => sum + span.end - span.start, 0)) {
    throw new Fault(
      'overlap',
      'Their times overlap; joined, the same minutes would count twice. Change one of them first.',
      'ids',
    );
  }
  const joined: Span[] = [];
  for (const next of all) {
    const last = joined[joined.length - 1];
    if (last && last.end === next.start) joined[joined.length - 1] = { start: last.start, end: next.end };
    else joined.push(next);
  }
  return joined;
}

/** The same times of day on another day. Each stretch keeps its length, even where the clocks change. */
export function shiftSpans(spans: readonly Span[], from: Day, to: Day, zone: Zone): Span[] {
  const days = daysBetween(from, to);
  let free = -Infinity;
  return spans.map((span) => {
    const day = addDays(dayOf(span.start, zone), days);
    const wanted = instantAt(day, minuteOf(span.start, zone), zone) + (span.start % 60_000);
    const start = Math.max(wanted, free);
    free = start + span.end - span.start;
    return { start, end: free };
  });
}

/** The days after its first that an entry's times reach into. */
export function laterDaysOf(spans: readonly Span[], zone: Zone): Day[] {
  const days = new Set<Day>();
  for (const span of spans) {
    const last = dayOf(span.end - 1, zone);
    for (let day = dayOf(span.start, zone); day <= last; day = addDays(day, 1)) days.add(day);
  }
  return [...days].sort().slice(1);
}

export interface DayPart {
  day: Day;
  seconds: Seconds;
}

/**
 * What of an entry's length falls on which day in the member's zone. The parts come to its length to the second, whatever moment the
 * days change at.
 */
export function partsByDay(entry: Pick<Entry, 'day' | 'laterDays' | 'seconds' | 'spans'>, zone: Zone): DayPart[] {
  if (entry.laterDays.length === 0) return [{ day: entry.day, seconds: entry.seconds }];
  const days = [entry.day, ...entry.laterDays];
  const lengths = days.map((day) => {
    const bounds = boundsOfDay(day, zone);
    return entry.spans.reduce((sum, span) => sum + overlapOf(span, bounds), 0);
  });
  const parts = shareOut(entry.seconds, lengths);
  return days.map((day, index) => ({ day, seconds: parts[index]! })).filter((part) => part.seconds > 0);
}

/** What of an entry's length falls on one day. */
export const secondsOn = (entry: Parameters<typeof partsByDay>[0], day: Day, zone: Zone): Seconds =>
  partsByDay(entry, zone).find((part) => part.day === day)?.seconds ?? 0;

/** An amount of an entry shared over its days by their seconds. */
export const shareOver = (amount: number, parts: readonly DayPart[]): number[] =>
  shareOut(
    amount,
    parts.map((part) => part.seconds),
  );

/** The times of an entry within bounds, such as those of a day. */
export const spansWithin = (spans: readonly Span[], bounds: Interval): Interval[] =>
  spans.map((span) => clip(span, bounds)).filter((span) => span !== null);

/**
 * The instant of a time of day as it was typed. Where the clocks change, nothing is guessed.
 *
 * @throws Fault where the clocks skip the time, or show it twice and it is not said which
 */
export function momentOn(day: Day, minute: number, zone: Zone, which?: Twice): Instant {
  const on = minute > 1440 ? addDays(day, 1) : day;
  const [first, second] = momentsAt(on, minute > 1440 ? minute - 1440 : minute, zone);
  const time = showMinute(minute % 1440);
  if (first === undefined) {
    throw new Fault(
      'no-such-time',
      `On ${showDayShort(on)} the clocks go forward over ${time}: there is no such time. Write one before or after it.`,
      'when',
      { day: on, minute },
    );
  }
  if (second !== undefined && which === undefined) {
    throw new Fault(
      'ambiguous-time',
      `On ${showDayShort(on)} the clocks go back, so ${time} comes twice. Write “${time} first” or “${time} second”.`,
      'when',
      { day: on, minute },
    );
  }
  return which === 2 && second !== undefined ? second : first;
}

/** The moment within bounds, a minute more or less, at which clocks show a time of day; null where none does. */
export function momentWithin(bounds: Interval, minute: number, zone: Zone): Instant | null {
  for (let day = dayOf(bounds.start, zone); day <= dayOf(bounds.end, zone); day = addDays(day, 1)) {
    const found = momentsAt(day, minute, zone).find(
      (moment) => moment >= bounds.start - 60_000 && moment <= bounds.end + 60_000,
    );
    if (found !== undefined) return found;
  }
  return null;
}

/**
 * A typed from–to as times on a day in the member's zone. Its length is what passed, not the difference of the readings.
 *
 * @throws Fault where the clocks skip or repeat a time that was typed, or the end is not after the start
 */
export function spanOn(typed: TypedSpan, day: Day, zone: Zone): Pick<Entry, 'spans' | 'seconds'> {
  const start = momentOn(day, typed.fromMinute, zone, typed.fromTwice);
  const end = momentOn(day, typed.toMinute, zone, typed.toTwice);
  const seconds = Math.round((end - start) / 1000);
  if (seconds <= 0)
    throw new Fault('end-before-start', 'On this day the clocks change: the end is not after the start.', 'length');
  return { spans: [{ start, end }], seconds };
}
