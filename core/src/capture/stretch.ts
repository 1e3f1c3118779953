import type { Day } from '../time/day';
import type { Instant, Interval } from '../time/interval';
import type { Placing } from './placing';
import type { Outcome, PlacingRule } from './rules/rule';
import type { Subject } from './subject';

/** One thing within a stretch, with all of its time there. */
export interface Evidence {
  subject: Subject;
  seen: number;
  /** −1 where nobody measured it. */
  hands: number;
  /** How often it came to the front, or happened. */
  times: number;
  first: Instant;
}

/** Activities that belong together, offered as one piece to place. */
export interface Stretch {
  /** That of its placing, or one that stays the same while its beginning and its first thing do. */
  id: string;
  day: Day;
  spans: Interval[];
  /** Milliseconds seen: what its spans come to. */
  seen: number;
  /** The most seen first. */
  evidence: Evidence[];
  placing: Placing | null;
  /** What became of it, by hand or by rule. */
  outcome: Outcome | null;
  /** The rule that decided over most of it, and the one that would have otherwise. */
  rule: PlacingRule | null;
  second: PlacingRule | null;
}

export interface DayOfStretches {
  day: Day;
  stretches: Stretch[];
  /** Time away between the first and the last sign of the person. */
  away: Interval[];
}
