import type { Id, Member } from '@half-penny/core/model';
import { recordsBy } from '@half-penny/core/entries';
import { addDays, isDay, type Day } from '@half-penny/core/time';
import { ChevronLeft, ChevronRight, Plus } from 'lucide-react';
import { lazy, Suspense } from 'react';
import { useSearchParams } from 'react-router';
import { usePricer, useTimer } from '../../data/book';
import { useAbsences, useDay, useMember, usePlansOfRange, useSeenMembers, useToday } from '../../data/queries';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { showDay } from '../../parts/days';
import { Loading, Page } from '../../parts/page';
import { DaySheet } from './day-sheet';
import { ariaKey, showKey, useKeys } from '../../parts/keys';

const Month = lazy(() => import('./month'));

/** A member's day: what was recorded and what it is worth; or the month it lies in. */
export default function Today() {
  const pricer = usePricer();
  const self = useMember(pricer);
  const today = useToday();
  const { params, day, view, goTo, set } = useAddress(today);
  const asked = params.get('member');
  const member = useSeenMembers(pricer).find(({ id }) => id === asked) ?? self;
  if (!pricer) return <Waiting title={showDay(day, today)} />;
  if (!member)
    return (
      <Page title={showDay(day, today)}>
        <p>Say in Setup → People who is working in this browser.</p>
      </Page>
    );
  if (view === 'month')
    return (
      <Suspense fallback={<Waiting title="The month" />}>
        <Month
          {...{ pricer, member, day, today }}
          onGo={(next) => goTo(next)}
          onMonth={(next) =>
            set({ ...(params.get('member') ? { member: params.get('member')! } : {}), view: 'month', day: next })
          }
        />
      </Suspense>
    );
  return <Day {...{ member, day, today, goTo, params, set }} />;
}

/** Day and view stand in the address, so that one can come back to them. */
function useAddress(today: Day) {
  const [params, setParams] = useSearchParams();
  const asked = params.get('day') ?? '';
  const day = isDay(asked) ? asked : today;
  const set = (values: Record<string, string>, replace = false) => setParams(values, { replace });
  const who = params.get('member');
  const goTo = (next: Day) => set({ ...(next === today ? {} : { day: next }), ...(who ? { member: who } : {}) });
  return { params, day, view: params.get('view'), set, goTo };
}

const Waiting = ({ title }: { title: string }) => (
  <Page title={title}>
    <Loading />
  </Page>
);

interface DayProps {
  member: Member;
  day: Day;
  today: Day;
  params: URLSearchParams;
  goTo: (day: Day) => void;
  set: (values: Record<string, string>, replace?: boolean) => void;
}

function Day({ member, day, today, params, goTo, set }: DayProps) {
  const data = useDay(member.id, day);
  const plans = usePlansOfRange(member.id, day, day);
  const timer = useTimer();
  const absences = useAbsences();
  const adding = params.get('add') !== null;
  const rest = () => {
    const { add: _add, entry: _entry, ...others } = Object.fromEntries(params);
    return others;
  };
  const setAdding = (on: boolean) => set(on ? { ...rest(), add: '1' } : rest(), true);
  useKeys({
    'today.add': () => recordsBy(member, 'by hand') && setAdding(true),
    before: () => goTo(addDays(day, -1)),
    after: () => goTo(addDays(day, 1)),
  });
  const title = day === today ? showDay(day) : showDay(day, today);
  const travel = (
    <nav aria-label="Days" className="flex items-center gap-1 print:hidden">
      <Button
        kind="quiet"
        aria-label="The day before"
        aria-keyshortcuts={ariaKey('before')}
        title={`The day before  ${showKey('before')}`}
        onClick={() => goTo(addDays(day, -1))}
      >
        <ChevronLeft size={16} />
      </Button>
      <DayField label="Day" bare value={day} onPick={goTo} className="w-36" />
      <Button
        kind="quiet"
        aria-label="The day after"
        aria-keyshortcuts={ariaKey('after')}
        title={`The day after  ${showKey('after')}`}
        onClick={() => goTo(addDays(day, 1))}
      >
        <ChevronRight size={16} />
      </Button>
      <Button
        kind="quiet"
        onClick={() => set({ ...(params.get('member') ? { member: params.get('member')! } : {}), view: 'month', day })}
      >
        Month
      </Button>
      {day !== today && (
        <Button kind="quiet" onClick={() => goTo(today)}>
          Today
        </Button>
      )}
    </nav>
  );
  const addTime = recordsBy(member, 'by hand') && (
    <Button kind="main" shortcut={showKey('today.add')} icon={<Plus size={16} />} onClick={() => setAdding(true)}>
      Add time
    </Button>
  );
  // What runs is part of the day: a gap ends where it begins; and what is owed decides what is not accounted for.
  if (!data || !plans || timer === undefined || !absences) return <Waiting title={title} />;
  const focused: Id | null = params.get('entry');
  return (
    <DaySheet
      key={`${member.id} ${day}`}
      {...{ title, travel, addTime, member, day, today, adding, plans, timer, absences, focused, goTo }}
      pricer={data.pricer}
      items={data.items}
      closeAdding={() => setAdding(false)}
    />
  );
}
