import { sameData } from '../model/canonical';
import type { Id } from '../model/ids';

// Two sides each have a state of the same thing, and know what it was when they last agreed. What only one of them changed since is what it
// is now; what both changed is decided by what is asked of it, and is never lost unseen.

/** How a thing stands on both sides; undefined where there is none. */
export interface Sides<Line> {
  /** As it was when it was last handed over. */
  base: Line | undefined;
  ours: Line | undefined;
  theirs: Line | undefined;
}

/** Which side’s state holds, by who changed it since. */
export type Verdict = 'same' | 'ours' | 'theirs' | 'both';

/** Tells who changed something since it was handed over. */
export function verdictOn<Line>({ base, ours, theirs }: Sides<Line>): Verdict {
  if (sameData(ours, theirs)) return 'same';
  if (sameData(ours, base)) return 'theirs';
  if (sameData(theirs, base)) return 'ours';
  return 'both';
}

/** Every id that stands on one side or the other, each once. */
export const idsOnBoth = (...sides: readonly ReadonlyMap<Id, unknown>[]): Id[] => [
  ...new Set(sides.flatMap((side) => [...side.keys()])),
];
