import type { Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import { addDays, type Day } from '@half-penny/core/time';
import { useLiveQuery } from 'dexie-react-hooks';
import { useEffect, useRef, useState } from 'react';
import { useMember, usePricer, useToday } from '../../data/queries';
import { trail } from '../../data/trail';
import { useActs, type StretchLine } from './acts';
import { useSift } from './use-sift';

/** How far back rules post by themselves. */
const DAYS = 14;
/** A stretch may still grow for so long after its end. */
const SETTLED = 3_600_000;
/** Entries at once; the others follow. */
const MOST = 200;

/** Posts what rules place that say so, whatever screen is open: one tab does it for all. */
export default function RulePosts() {
  const pricer = usePricer();
  const member = useMember(pricer);
  const today = useToday();
  const asked = useLiveQuery(() => trail.rules.filter((rule) => rule.on && rule.posts).count(), []);
  const alone = useLock('half-penny-rule-posts');
  return pricer && member && asked && alone ? <Posting {...{ pricer, member, today }} /> : null;
}

function Posting({ pricer, member, today }: { pricer: Pricer; member: Member; today: Day }) {
  const sifted = useSift(pricer, member, addDays(today, -DAYS), today, false);
  const acts = useActs(member);
  const done = useRef(new Set<string>());
  useEffect(() => {
    const due = (sifted?.lines ?? []).filter((line): line is StretchLine => line.kind === 'stretch' && isDue(line));
    const fresh = due.filter(({ id }) => !done.current.has(id)).slice(0, MOST);
    if (fresh.length === 0) return;
    fresh.forEach(({ id }) => done.current.add(id));
    void acts.post(fresh);
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

/** Whether this tab is the one that holds a lock; another one gets it when this one is closed. */
function useLock(name: string): boolean {
  const [held, setHeld] = useState(false);
  useEffect(() => {
    const ended = new AbortController();
    void navigator.locks
      .request(name, { signal: ended.signal }, async () => {
        if (ended.signal.aborted) return;
        setHeld(true);
        await new Promise((resolve) => ended.signal.addEventListener('abort', resolve));
      })
      .catch(() => undefined);
    return () => ended.abort();
  }, [name]);
  return held;
}
