import { Select } from '../../parts/select';
import type { Id, Member } from '@half-penny/core/model';
import type { Pricer } from '@half-penny/core/billing';
import { addDays, isDay, isoWeekOf, startOfWeek, weekPeriodOf } from '@half-penny/core/time';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { usePricer } from '../../data/book';
import { useMember, useSeenMembers, useToday } from '../../data/queries';
import { Button } from '../../parts/button';
import { showShortestDay } from '../../parts/days';
import { Loading, Page } from '../../parts/page';
import { PrintButton, PrintHead } from '../../parts/print';
import { CheckingLine } from './checking-line';
import { Missing } from './missing';
import { useWeek } from './use-week';
import { WeekGrid } from './week-grid';
import { showKey, useKeys } from '../../parts/keys';
// Here a job is picked by keys alone, and what is typed right after goes into the list.
import '../../parts/floating';

/** A member's hours by job and day: the place where a week is made complete and shown to be. */
export default function Week() {
  const pricer = usePricer();
  const self = useMember(pricer);
  const [params] = useSearchParams();
  const asked = params.get('member');
  const member = useSeenMembers(pricer).find(({ id }) => id === asked) ?? self;
  if (!pricer)
    return (
      <Page title="Week">
        <Loading />
      </Page>
    );
  if (!member)
    return (
      <Page title="Week">
        <p>Say in Setup → People who is working in this browser.</p>
      </Page>
    );
  return <WeekSheet {...{ pricer, member }} />;
}

function WeekSheet({ pricer, member }: { pricer: Pricer; member: Member }) {
  const seen = useSeenMembers(pricer);
  const [params, setParams] = useSearchParams();
  const today = useToday();
  const { cutOff } = pricer.book.workspace;
  const asked = params.get('day') ?? '';
  const from = startOfWeek(isDay(asked) ? asked : today, cutOff);
  const data = useWeek(pricer, member, from);
  const self = useMember(pricer);
  const go = (changes: { day?: string; member?: Id }) => {
    const next = new URLSearchParams(params);
    for (const [key, value] of Object.entries(changes)) next.set(key, value);
    setParams(next);
  };
  useKeys({ before: () => go({ day: addDays(from, -7) }), after: () => go({ day: addDays(from, 7) }) });
  const to = addDays(from, 6);
  const own = member.id === self?.id;
  const title = `${own ? '' : `${member.name}, `}${cutOff === 7 ? `Week ${isoWeekOf(from).week}` : weekPeriodOf(from, cutOff).name.split(',')[0]}`;
  const days = `${showShortestDay(from)} – ${showShortestDay(to)} ${to.slice(0, 4)}`;
  const travel = (
    <nav aria-label="Weeks" className="flex flex-wrap items-center gap-1 print:hidden">
      <span className="mr-1">{days}</span>
      <Button
        kind="quiet"
        aria-label="The week before"
        title={`The week before  ${showKey('before')}`}
        onClick={() => go({ day: addDays(from, -7) })}
      >
        <ChevronLeft size={16} />
      </Button>
      <Button
        kind="quiet"
        aria-label="The week after"
        title={`The week after  ${showKey('after')}`}
        onClick={() => go({ day: addDays(from, 7) })}
      >
        <ChevronRight size={16} />
      </Button>
      {startOfWeek(today, cutOff) !== from && (
        <Button kind="quiet" onClick={() => go({ day: today })}>
          This week
        </Button>
      )}
      {seen.length > 1 && (
        <Select
          name="Whose week"
          value={member.id}
          onPick={(picked) => go({ member: picked })}
          className="w-auto!"
          options={seen.map((each) => [each.id, each.name] as const)}
        />
      )}
    </nav>
  );
  const actions = (
    <>
      <Link to="/hours/in" className={linkLook}>
        Import hours…
      </Link>
      <Link to={`/hours/out?from=${from}&to=${to}`} className={linkLook}>
        Export hours…
      </Link>
      <PrintButton of="the week" />
    </>
  );
  if (!data)
    return (
      <Page title={title} aside={travel}>
        <Loading />
      </Page>
    );
  return (
    <Page title={title} aside={travel} actions={actions}>
      <PrintHead pricer={pricer} member={member}>
        {days}
      </PrintHead>
      {pricer.book.members.length > 1 && <CheckingLine {...{ pricer, member, today }} day={from} />}
      <WeekGrid key={`${member.id} ${from}`} {...{ pricer, member, today, data }} />
      <div className="print:hidden">
        <Missing {...{ pricer, member, today, from, to }} />
      </div>
    </Page>
  );
}

const linkLook = 'rounded-md border border-strong bg-sheet px-3 py-1 leading-6 whitespace-nowrap hover:bg-time-ground';
