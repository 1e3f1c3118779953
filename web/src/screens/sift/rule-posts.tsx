import { lazy, Suspense, useEffect, useState } from 'react';
import { usePricer } from '../../data/book';
import { useMember, useToday } from '../../data/queries';
import { useRights } from '../../data/rights';
import { usePostingRules } from '../../data/trail';

// Few have such rules: what posts comes when the first one is there.
const Posting = lazy(() => import('./posting'));

/** Posts what rules place that say so, whatever screen is open: one tab does it for all. */
export default function RulePosts() {
  const pricer = usePricer();
  const member = useMember(pricer);
  const today = useToday();
  const asked = usePostingRules();
  const records = useRights().has('record own');
  const alone = useLock('half-penny-rule-posts');
  if (!pricer || !member || !asked || !alone || !records) return null;
  return (
    <Suspense>
      <Posting {...{ pricer, member, today }} />
    </Suspense>
  );
}

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
