import { clip, gaps, union, type Interval } from '../time/interval';
import type { KeptActivity } from './activity';
import type { Placing } from './placing';
import { subjectOf } from './subject';

/** What is to go out of a trail: of these times everything, or only what was seen in some programs and at some sites. */
export interface Sweep {
  spans: readonly Interval[];
  only: { programs: readonly string[]; sites: readonly string[] } | null;
}

/** What is left of things once something was swept away. */
export interface Swept<T> {
  gone: T[];
  changed: T[];
}

/**
 * Which activities go, and what is left of those that reach beyond. A part that is left of one that was in the middle becomes an activity
 * of its own, under a name that `nameOf` gives it.
 */
export function sweptActivities(
  activities: readonly KeptActivity[],
  { spans, only }: Sweep,
  nameOf: () => Pick<KeptActivity, 'device' | 'seq'>,
): Swept<KeptActivity> {
  const out = union(spans);
  const swept: Swept<KeptActivity> = { gone: [], changed: [] };
  for (const each of activities) {
    if (!isMeant(each, only)) continue;
    // What takes no time goes with the moment it stands at.
    if (each.from === each.to) {
      if (out.some((span) => each.from >= span.start && each.from < span.end)) swept.gone.push(each);
      continue;
    }
    const whole = { start: each.from, end: each.to };
    const left = gaps(out, whole);
    if (left.length === 1 && left[0]!.start === whole.start && left[0]!.end === whole.end) continue;
    swept.gone.push(each);
    left.forEach(({ start, end }, index) => {
      const hands =
        each.hands === undefined ? {} : { hands: Math.floor((each.hands * (end - start)) / (whole.end - whole.start)) };
      const name = index === 0 ? { device: each.device, seq: each.seq } : nameOf();
      swept.changed.push({ ...each, ...name, ...hands, from: start, to: end });
    });
  }
  return swept;
}

function isMeant(activity: KeptActivity, only: Sweep['only']): boolean {
  if (!only) return true;
  const { program, site } = subjectOf(activity);
  return (program !== '' && only.programs.includes(program)) || (site !== '' && only.sites.includes(site));
}

/**
 * What was said of times of which everything went: placings within them go, and those that reach beyond keep the rest, without what was
 * learned of them, as that came from what is gone, too.
 */
export function sweptPlacings(placings: readonly Placing[], spans: readonly Interval[]): Swept<Placing> {
  const out = union(spans);
  const swept: Swept<Placing> = { gone: [], changed: [] };
  for (const placing of placings) {
    if (!placing.spans.some((span) => out.some((each) => clip(span, each)))) continue;
    const left = placing.spans.flatMap((span) => gaps(out, span));
    if (left.length === 0) swept.gone.push(placing);
    else swept.changed.push({ ...placing, spans: left, features: [], billableSeconds: null });
  }
  return swept;
}
