import { useRead } from '../../data/read';
import { Opener } from '../opener';
import { jobName, type Pricer } from '@half-penny/core/billing';
import { runningSeconds } from '@half-penny/core/entries';
import type { Member, Timer } from '@half-penny/core/model';
import { showClockLength, showLength } from '@half-penny/core/time';
import { lazy, Suspense } from 'react';
import { useAppSelector } from '../../state/store';

const EditRunning = lazy(() => import('./edit-running'));

/** The clock and what it runs on; pressing it opens what can be changed while it runs. */
export function Running({ timer, pricer, member }: { timer: Timer; pricer: Pricer; member: Member }) {
  const now = useAppSelector((state) => state.clock.now);
  const seconds = runningSeconds(timer, now);
  const job = jobName(pricer, timer.projectId, timer.unlisted);
  const note = timer.note.trim();
  return (
    <>
      <span
        className="font-mono text-[21px] font-semibold"
        role="timer"
        aria-label={`Running for ${showLength(seconds)}`}
      >
        {showClockLength(seconds)}
      </span>
      <Opener
        label="What is running"
        trigger={{
          className:
            'max-w-[230px] min-w-0 flex-1 text-left max-2xl:xl:group-has-[[data-till-line]:focus-within]/till:hidden',
          'aria-label': `Running: ${(note || job).slice(0, 80)}. Change`,
          children: (
            <>
              <span className="block truncate" dir="auto">
                {note || pricer.project.get(timer.projectId ?? '')?.name || job}
              </span>
              <span className="block truncate text-sm text-till-soft">
                {note ? job : pricer.clientOf(timer.projectId)?.name}
                {timer.entryId !== null && <GoneOnWith timer={timer} />}
              </span>
            </>
          ),
        }}
        className="flex w-80 flex-col gap-3 p-4"
        side="top"
        align="start"
        sideOffset={14}
      >
        <Suspense fallback={<p className="text-soft">A moment…</p>}>
          <EditRunning {...{ timer, pricer, member }} />
        </Suspense>
      </Opener>
    </>
  );
}

/** What the entry had before the timer went on with it. */
function GoneOnWith({ timer }: { timer: Timer }) {
  const entry = useRead((reader) => reader.get('entries', timer.entryId!), [timer.entryId]);
  return entry ? ` · continues, ${showLength(entry.seconds)} so far` : null;
}
