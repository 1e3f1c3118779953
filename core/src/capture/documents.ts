import { covered, gaps, union, type Instant, type Interval } from '../time/interval';
import type { Attention } from './attention';
import type { TrailArrays } from './byte-tables/trail-arrays';
import type { CaptureSettings } from './settings';

/** The clock of a document was switched by hand. */
export interface Switch {
  file: string;
  at: Instant;
  on: boolean;
}

export interface DocumentTime {
  file: string;
  /** Milliseconds it was in front. */
  inView: number;
  /** Milliseconds in which it was worked in; −1 where nobody measured it. */
  hands: number;
  /** When it was saved. */
  kept: Instant[];
  /** When its clock ran, by what the person chose it to count. */
  clock: Interval[];
  first: Instant;
  last: Instant;
}

/**
 * How long each document was in view and worked in, how often it was kept, and when its clock ran. Time in view stops where something
 * else came to the front or nobody was there; the clock counts what the person chose, and obeys their own switching before that.
 */
export function documentTimes(
  columns: TrailArrays,
  attention: Attention,
  settings: CaptureSettings,
  switches: readonly Switch[] = [],
): DocumentTime[] {
  const { subjects } = columns;
  const found = new Map<string, DocumentTime>();
  const of = (file: string, at: Instant): DocumentTime => {
    let times = found.get(file);
    if (!times) found.set(file, (times = { file, inView: 0, hands: -1, kept: [], clock: [], first: at, last: at }));
    times.first = Math.min(times.first, at);
    times.last = Math.max(times.last, at);
    return times;
  };
  for (const { start, end, subject, hands } of attention.pieces) {
    const { file } = subjects[subject]!;
    if (!file) continue;
    const times = of(file, start);
    times.inView += end - start;
    times.last = Math.max(times.last, end);
    if (hands >= 0) times.hands = Math.max(0, times.hands) + hands;
    if (settings.documentClock === 'in view') times.clock.push({ start, end });
    // Which moments of a piece had hands on is not known, only how many: they are put at its beginning.
    else if (settings.documentClock === 'hands on') times.clock.push({ start, end: start + Math.max(0, hands) });
  }
  for (const { at, subject } of attention.moments) {
    const { file, kind } = subjects[subject]!;
    if (!file || (kind !== 'kept' && kind !== 'opened')) continue;
    const times = of(file, at);
    if (kind === 'kept') times.kept.push(at);
  }
  const nobody = nobodyThere(attention);
  const seenUntil = attention.pieces.at(-1)?.end ?? 0;
  for (const times of found.values()) {
    // Programs do not tell when a document is closed; it counts as open until it was last in view or kept.
    if (settings.documentClock === 'from opening to closing') {
      times.clock = without(times.first, times.last, nobody);
    }
    const own = switches.filter((each) => each.file === times.file).sort((a, b) => a.at - b.at);
    times.clock = switched(union(times.clock), own, nobody, seenUntil);
  }
  return [...found.values()].sort((a, b) => b.inView - a.inView || a.first - b.first);
}

/**
 * Time in which nobody was there: away, or nothing in front although something was before, as when the computer slept. What a program
 * keeps in the night holds no clock open: after the last moment that anything was seen nobody is there.
 */
function nobodyThere({ pieces, away }: Attention): Interval[] {
  const [first] = pieces;
  return first ? union([...away, ...gaps(pieces, { start: first.start, end: Infinity })]) : [...away];
}

const without = (start: Instant, end: Instant, holes: readonly Interval[]): Interval[] => gaps(holes, { start, end });

/**
 * A clock as the person switched it by hand, in the order of time: stopped, it stays so until it is switched on; switched on, it runs,
 * whatever is in view, until it is switched again or the person left.
 */
function switched(
  clock: readonly Interval[],
  own: readonly Switch[],
  nobody: readonly Interval[],
  seenUntil: Instant,
): Interval[] {
  let ran = [...clock];
  own.forEach(({ at, on }, index) => {
    const until = own[index + 1]?.at ?? Infinity;
    if (!on) {
      ran = ran.flatMap((each) => without(each.start, each.end, [{ start: at, end: until }]));
      return;
    }
    const left = nobody.find((each) => each.end > at)?.start ?? seenUntil;
    if (Math.min(until, left) > at) ran.push({ start: at, end: Math.min(until, left) });
  });
  return union(ran);
}

/** What a document's clock counts, in milliseconds. */
export const clockLength = (times: DocumentTime): number => covered(times.clock);
