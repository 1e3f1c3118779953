import { covered, union, type Instant, type Interval } from '../time/interval';
import type { Attention, Piece } from './attention';
import type { TrailColumns } from './columns';
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
  /** When its clock ran, by what the person chose to start and pause it. */
  clock: Interval[];
  first: Instant;
  last: Instant;
}

/** What happens to documents' clocks, in the order of time. */
type Event =
  | { at: Instant; what: 'front'; file: string; until: Instant; program: string }
  | { at: Instant; what: 'opened' | 'kept'; file: string }
  | { at: Instant; what: 'away'; until: Instant }
  | { at: Instant; what: 'switch'; file: string; on: boolean };

/**
 * How long each document was in view and worked in, how often it was kept, and when its clock ran. Time in view stops where something
 * else came to the front or nobody was there; the clock follows what the person chose, and their own switching before that.
 */
export function documentTimes(
  columns: TrailColumns,
  attention: Attention,
  settings: CaptureSettings,
  switches: readonly Switch[] = [],
): DocumentTime[] {
  const { subjects } = columns;
  const found = new Map<string, DocumentTime>();
  const of = (file: string, at: Instant): DocumentTime => {
    let times = found.get(file);
    if (!times) found.set(file, (times = { file, inView: 0, hands: -1, kept: [], clock: [], first: at, last: at }));
    times.last = Math.max(times.last, at);
    return times;
  };
  const events: Event[] = switches.map((each) => ({ ...each, what: 'switch' }));
  for (const piece of attention.pieces) {
    const { file, program } = subjects[piece.subject]!;
    if (file) {
      const times = of(file, piece.start);
      times.inView += piece.end - piece.start;
      times.last = Math.max(times.last, piece.end);
      if (piece.hands >= 0) times.hands = Math.max(0, times.hands) + piece.hands;
    }
    events.push({ at: piece.start, what: 'front', file, until: piece.end, program });
  }
  for (const { at, subject } of attention.moments) {
    const { file, kind } = subjects[subject]!;
    if (!file || (kind !== 'kept' && kind !== 'opened')) continue;
    const times = of(file, at);
    if (kind === 'kept') times.kept.push(at);
    events.push({ at, what: kind, file });
  }
  for (const each of attention.away) events.push({ at: each.start, what: 'away', until: each.end });
  events.sort((a, b) => a.at - b.at);
  for (const [file, intervals] of runClocks(events, settings, changes(attention.pieces, columns))) {
    const times = found.get(file);
    if (times) times.clock = union(intervals);
  }
  return [...found.values()].sort((a, b) => b.inView - a.inView || a.first - b.first);
}

/** Files that hands were on at some moment: the first change of a document starts its clock there. */
function changes(pieces: readonly Piece[], columns: TrailColumns): Map<string, Instant> {
  const first = new Map<string, Instant>();
  for (const piece of pieces) {
    const { file } = columns.subjects[piece.subject]!;
    if (file && piece.hands > 0 && !first.has(file)) first.set(file, piece.start);
  }
  return first;
}

/** Runs the clocks through what happened; one that was switched by hand stays so until the person switches it again or leaves. */
function runClocks(
  events: readonly Event[],
  { clockStarts, clockPauses }: CaptureSettings,
  changed: ReadonlyMap<string, Instant>,
): Map<string, Interval[]> {
  const pauses = new Set(clockPauses);
  const ran = new Map<string, Interval[]>();
  const running = new Map<string, Instant>();
  const stopped = new Set<string>();
  const programs = new Map<string, string>();
  let seenUntil = -Infinity;
  const start = (file: string, at: Instant) => {
    if (!running.has(file) && !stopped.has(file)) running.set(file, at);
  };
  const pause = (file: string, at: Instant) => {
    const since = running.get(file);
    if (since === undefined) return;
    running.delete(file);
    if (at > since) ran.set(file, [...(ran.get(file) ?? []), { start: since, end: at }]);
  };
  const pauseAll = (at: Instant, but: (file: string) => boolean = () => false) => {
    for (const file of [...running.keys()]) if (!but(file)) pause(file, at);
  };
  for (const event of events) {
    switch (event.what) {
      case 'front': {
        const { at, file, program } = event;
        // Nothing was in front meanwhile: the computer slept, or nobody looked.
        if (pauses.has('away') && at > seenUntil && seenUntil > 0) pauseAll(seenUntil);
        seenUntil = Math.max(seenUntil, event.until);
        if (file) {
          programs.set(file, program);
          if (pauses.has('document')) pauseAll(at, (each) => each === file);
          const begins = clockStarts === 'change' ? (changed.get(file) ?? Infinity) <= at : true;
          if (begins) start(file, at);
        }
        if (pauses.has('program')) pauseAll(at, (each) => programs.get(each) === program);
        break;
      }
      case 'opened':
        if (clockStarts === 'opening') start(event.file, event.at);
        break;
      case 'kept':
        if (clockStarts === 'change') start(event.file, event.at);
        break;
      case 'away':
        if (pauses.has('away')) pauseAll(event.at);
        seenUntil = Math.max(seenUntil, event.at);
        break;
      case 'switch':
        if (event.on) {
          stopped.delete(event.file);
          start(event.file, event.at);
        } else {
          pause(event.file, event.at);
          stopped.add(event.file);
        }
    }
  }
  pauseAll(seenUntil);
  return ran;
}

export const clockLength = (times: DocumentTime): number => covered(times.clock);
