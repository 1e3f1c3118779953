import type { Pricer } from '@half-penny/core/billing';
import { grouped, type Member } from '@half-penny/core/model';
import { addDays, type Day } from '@half-penny/core/time';
import { useEffect, useRef } from 'react';
import { useActs, type StretchLine } from './acts';
import { useSift } from './use-sift';

/** How far back rules post by themselves. */
const DAYS = 14;
/** A stretch may still grow for so long after its end. */
const SETTLED = 3_600_000;
/** Entries at once; the others follow. */
const MOST = 200;

/** Posts, for as long as it is there, what rules place that say so. */
export default function Posting({ pricer, member, today }: { pricer: Pricer; member: Member; today: Day }) {
  const sifted = useSift(pricer, member, addDays(today, -DAYS), today, false);
  const acts = useActs(member);
  const done = useRef(new Set<string>());
  useEffect(() => {
    const due = (sifted?.lines ?? []).filter((line): line is StretchLine => line.kind === 'stretch' && isDue(line));
    const fresh = due.filter(({ id }) => !done.current.has(id)).slice(0, MOST);
    if (fresh.length === 0) return;
    fresh.forEach(({ id }) => done.current.add(id));
    // Day by day: one that is handed in or closed does not keep the others from being posted.
    const days = grouped(fresh, ({ row }) => row.stretch.day);
    void (async () => {
      for (const lines of days.values()) await acts.post(lines);
    })();
  }, [sifted, acts]);
  return null;
}

/** Placed here by a rule that posts, and by nothing that the person said; what they took back stays with them. */
const isDue = ({ row: { stretch }, placed, posted }: StretchLine): boolean =>
  placed !== null &&
  posted === null &&
  stretch.placing === null &&
  stretch.rule?.posts === true &&
  Date.now() > stretch.spans.at(-1)!.end + SETTLED;
