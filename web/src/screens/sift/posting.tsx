import type { Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import { addDays, type Day } from '@half-penny/core/time';
import { useEffect, useRef } from 'react';
import { useHeldDays } from '../../data/checking';
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
  const held = useHeldDays(member, addDays(today, -DAYS), today);
  const acts = useActs(member);
  const done = useRef(new Set<string>());
  useEffect(() => {
    if (!held) return;
    // What is handed in or closed does not keep other days from being posted, and is posted where it is opened again.
    const due = (sifted?.lines ?? []).filter((line): line is StretchLine => line.kind === 'stretch' && isDue(line));
    const open = due.filter(({ row }) => !held.has(row.stretch.day));
    const fresh = open.filter(({ id }) => !done.current.has(id)).slice(0, MOST);
    if (fresh.length === 0) return;
    fresh.forEach(({ id }) => done.current.add(id));
    // In one change, so that one undo takes it back.
    void acts.post(fresh);
  }, [sifted, held, acts]);
  return null;
}

/** Placed here by a rule that posts, and by nothing that the person said; what they took back stays with them. */
const isDue = ({ row: { stretch }, placed, posted }: StretchLine): boolean =>
  placed !== null &&
  posted === null &&
  stretch.placing === null &&
  stretch.rule?.posts === true &&
  Date.now() > stretch.spans.at(-1)!.end + SETTLED;
