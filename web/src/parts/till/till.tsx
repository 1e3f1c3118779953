import type { Pricer } from '@half-penny/core/billing';
import { endOf, recordsBy } from '@half-penny/core/entries';
import type { Entry, Timer } from '@half-penny/core/model';
import { Pause, PencilLine, Play } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { usePricer, useTimer } from '../../data/book';
import { useDay, useMember, useToday } from '../../data/queries';
import { useRights } from '../../data/rights';
import { useChanges } from '../../data/session';
import { tillOpened } from '../../state/shell';
import { useAppDispatch, useAppSelector } from '../../state/store';
import { DayFigures } from './day-figures';
import { DoubtSign } from './doubt-sign';
import { useLater } from '../use-later';
import { Running } from './running';
import { TillLine } from './till-line';

// Only what runs under a budget needs it.
const BudgetSign = lazy(() => import('./budget-sign'));
const DeviceSign = lazy(() => import('./device-sign'));

/** The strip at the bottom of every screen: what is running, one line to switch or write down, and the day's figures. */
export function Till() {
  const pricer = usePricer();
  const member = useMember(pricer);
  const timer = useTimer();
  const today = useToday();
  const day = useDay(member?.id ?? null, today);
  const later = useLater();
  const records = useRights().has('record own');
  // Whoever only looks has nothing to start.
  if (pricer && member && !records && !timer) return null;
  if (!pricer || !member) return <footer aria-label="Till" className="h-[60px] shrink-0 bg-till" />;
  const entries = day?.items.map((item) => item.entry) ?? [];
  const byTimer = recordsBy(member, 'timer');
  const writes = byTimer || recordsBy(member, 'by hand');
  return (
    <footer
      aria-label="Till"
      className="group/till on-till no-print relative z-30 flex shrink-0 flex-wrap items-center gap-x-4 gap-y-2 bg-till px-4 py-2.5 max-md:gap-x-3 max-md:gap-y-1 max-md:px-3 max-md:py-1.5 text-till-ink xl:flex-nowrap"
    >
      {(timer || byTimer) && <RunButton timer={timer ?? null} entries={entries} />}
      {timer ? <Running {...{ timer, pricer, member }} /> : <Idle pricer={pricer} entries={entries} />}
      {writes && <WriteButton />}
      {/* Whoever writes a line needs the room. */}
      <span className="contents group-has-[[data-till-line]:focus-within]/till:hidden">
        {timer?.projectId && (
          <Suspense>
            <BudgetSign {...{ pricer, timer }} />
          </Suspense>
        )}
        <DoubtSign {...{ member }} />
        {later && (
          <Suspense>
            <DeviceSign {...{ member }} />
          </Suspense>
        )}
      </span>
      {writes && <TillLine {...{ pricer, member }} timer={timer ?? null} />}
      {day && <DayFigures {...{ pricer, member, entries, today }} timer={timer ?? null} />}
    </footer>
  );
}

const lastOf = (entries: readonly Entry[]): Entry | undefined =>
  entries.toSorted((a, b) => (endOf(a) ?? 0) - (endOf(b) ?? 0)).at(-1);

function Idle({ pricer, entries }: { pricer: Pricer; entries: readonly Entry[] }) {
  const last = lastOf(entries);
  const name = last && (last.note.trim() || pricer.project.get(last.projectId ?? '')?.name || last.unlisted);
  return (
    <span className="max-w-56 min-w-0 text-till-soft">
      <span className="block truncate">Nothing is running</span>
      {name && <span className="block truncate text-sm">last: {name.slice(0, 80)}</span>}
    </span>
  );
}

function RunButton({ timer, entries }: { timer: Timer | null; entries: readonly Entry[] }) {
  const { attempt } = useChanges();
  const dispatch = useAppDispatch();
  const press = () => {
    if (timer) return void attempt('timer.stop', { id: timer.id });
    // Nothing runs: go on with what was done last today, or ask.
    const last = lastOf(entries);
    if (last) void attempt('timer.resume', { entryId: last.id });
    else dispatch(tillOpened(true));
  };
  return (
    <button
      type="button"
      onClick={press}
      aria-label={timer ? 'Stop the timer' : 'Start the timer'}
      className={`grid size-9 max-md:size-11 shrink-0 place-items-center rounded-full ${timer ? 'bg-till-time text-till' : 'bg-till-rule text-till-ink'}`}
    >
      {timer ? <Pause size={18} fill="currentColor" /> : <Play size={18} fill="currentColor" />}
    </button>
  );
}

/** On a phone the line comes when it is wanted: there is little room. */
function WriteButton() {
  const dispatch = useAppDispatch();
  const open = useAppSelector((state) => state.shell.tillOpen);
  return (
    <button
      type="button"
      aria-label="Switch jobs, or write down time"
      aria-expanded={open}
      onClick={() => dispatch(tillOpened(!open))}
      className="ml-auto grid size-11 shrink-0 place-items-center rounded-full bg-till-rule text-till-ink md:hidden"
    >
      <PencilLine size={18} aria-hidden />
    </button>
  );
}
