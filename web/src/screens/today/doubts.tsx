import type { Pricer } from '@half-penny/core/billing';
import type { Member } from '@half-penny/core/model';
import { lazy, Suspense } from 'react';
import { useDoubts, type OpenDoubt } from '../../data/doubts';
import { useSharedBook } from '../../data/sharing/book';

// Mostly there is none.
const DoubtRow = lazy(() => import('./doubt-row'));
const EndedTimers = lazy(() => import('./ended-timers'));

/** Time that ran with nobody there: the person draws where the work ended and says what the rest was, or leaves it. */
export function Doubts({ pricer, member }: { pricer: Pricer; member: Member }) {
  const doubts = useDoubts(member);
  const ended = useSharedBook()?.ended ?? [];
  return (
    <>
      {ended.length > 0 && (
        <Suspense>
          <EndedTimers {...{ ended, pricer, member }} />
        </Suspense>
      )}
      {doubts.length > 0 && <InDoubt {...{ doubts, pricer, member }} />}
    </>
  );
}

function InDoubt({ doubts, pricer, member }: { doubts: readonly OpenDoubt[]; pricer: Pricer; member: Member }) {
  return (
    <section id="doubts" aria-label="Time in doubt" className="mb-5 border-y border-attention bg-attention-ground">
      <Suspense>
        {doubts.map((doubt) => (
          <DoubtRow key={doubt.doubt.id} {...{ doubt, pricer, member }} />
        ))}
      </Suspense>
    </section>
  );
}
