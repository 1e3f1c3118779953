import { useRead } from '../../data/read';
import type { CalendarEvent, CalendarReading } from '@half-penny/formats/calendar';
import type { Pricer } from '@half-penny/core/billing';
import { countryOfZone, JobFinder, owedOnDay, projectJob } from '@half-penny/core/entries';
import { type Id, type Member } from '@half-penny/core/model';
import { wordsOf } from '../../data/in-words';
import { addDays, type Day } from '@half-penny/core/time';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { useAbsences, useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { SoftLength } from '../../parts/figures';
import { JobPicker } from '../../parts/job-picker';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { PeriodPicker } from '../../parts/period-picker';
import { Progress } from '../../parts/progress';
import { showSpan } from '../../parts/spans';
import { useWork } from '../../parts/use-work';
import { readCalendarFile } from '../../workers/hours';

interface CalendarInProps {
  pricer: Pricer;
  member: Member;
  file: Blob;
}

/** Events of a calendar as planned time on their days, with the job that they are likely about. */
export function CalendarIn({ pricer, member, file }: CalendarInProps) {
  const today = useToday();
  const [range, setRange] = useState({ from: addDays(today, -14), to: addDays(today, 28) });
  const [reading, setReading] = useState<CalendarReading | null>(null);
  const { start, stop, title, share, fault } = useWork();
  useEffect(() => {
    start(
      'Reading the calendar',
      (progress) => readCalendarFile(file, { ...range, zone: member.zone }, progress),
      setReading,
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- read again only for another file or range
  }, [file, range, member.zone]);
  return (
    <>
      <Section
        title="Which days"
        actions={
          <PeriodPicker
            workspace={pricer.book.workspace}
            today={today}
            {...range}
            onPick={(from, to) => setRange({ from, to })}
          />
        }
      >
        <p className="border-t border-ink pt-2 text-soft">
          Events stand on their days as planned time of {member.name}; R makes an entry of one. Import it again later
          and changed events are updated.
        </p>
      </Section>
      {fault && (
        <p role="alert" className="my-2 text-fault">
          {fault} Nothing was imported.
        </p>
      )}
      {reading && reading.faults.length > 0 && (
        <div role="alert" className="my-3 border-l-[3px] border-fault px-3 text-fault">
          <p className="font-semibold">Some of the calendar could not be read; the rest is below.</p>
          <ul className="mt-1 max-h-48 overflow-auto font-mono text-sm">
            {reading.faults.map((each, index) => (
              <li key={index} className="written py-0.5">
                Line {each.line}, column {each.column}: {each.message}
              </li>
            ))}
          </ul>
        </div>
      )}
      {reading && (
        <Events key={keyOf(reading.events)} {...{ pricer, member }} events={reading.events} found={reading.found} />
      )}
      {title && <Progress title={title} share={share} onStop={stop} />}
    </>
  );
}

/** Other events begin with a choice of their own. */
const keyOf = (events: readonly CalendarEvent[]) => events.map((event) => event.source).join();

interface EventRow {
  event: CalendarEvent;
  projectId: Id | null;
  why: string;
  seconds: number;
}

function Events({
  pricer,
  member,
  events,
  found,
}: {
  pricer: Pricer;
  member: Member;
  events: readonly CalendarEvent[];
  found: number;
}) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const absences = useAbsences();
  // What takes no time is left out unless it is wanted.
  const [left, setLeft] = useState<ReadonlySet<string>>(
    () => new Set(events.filter((event) => event.free).map((event) => event.source)),
  );
  const [jobs, setJobs] = useState<ReadonlyMap<string, Id | null>>(new Map());
  const [fault, setFault] = useState<string>();
  const known = useRead(
    async (reader) => {
      const plans = await reader.by(
        'plans',
        'source',
        events.map((event) => event.source),
      );
      return new Set(plans.filter((plan) => plan.memberId === member.id).map((plan) => plan.source));
    },
    [events, member.id],
  );
  const finder = useMemo(() => new JobFinder(pricer.book, countryOfZone(member.zone)), [pricer, member.zone]);
  const rows = useMemo(
    () =>
      events.map((event): EventRow => {
        const proposal = finder.propose({ title: event.title, guests: event.guests });
        // An event of a whole day is as long as the day that is owed.
        const whole = () => owedOnDay(member, event.day, absences ?? []) || pricer.book.workspace.daySeconds;
        const chosen = jobs.get(event.source);
        return {
          event,
          projectId: chosen === undefined ? (proposal?.projectId ?? null) : chosen,
          why: chosen === undefined && proposal ? proposal.why : '',
          seconds: event.seconds ?? whole(),
        };
      }),
    [events, finder, pricer, member, absences, jobs],
  );
  const selected = useMemo(
    () => new Set(rows.map((row) => row.event.source).filter((source) => !left.has(source))),
    [rows, left],
  );
  const take = async () => {
    try {
      const chosen = rows.filter((row) => selected.has(row.event.source));
      await run('calendar.take', {
        memberId: member.id,
        events: chosen.map(({ event, projectId, seconds }) => ({
          day: event.day,
          start: event.start,
          seconds,
          note: event.title,
          guests: event.guests.join(', '),
          source: event.source.slice(0, 2000),
          projectId,
        })),
      });
      void navigate(`/week?day=${nearest(chosen.map((row) => row.event.day))}`);
    } catch (thrown) {
      setFault(wordsOf(thrown));
    }
  };
  const columns: Column<EventRow>[] = [
    { key: 'day', head: 'Day', width: '104px', cell: ({ event }) => showShortDay(event.day) },
    {
      key: 'when',
      head: 'When',
      width: '108px',
      cell: ({ event }) => (
        <span className="font-mono text-sm">
          {event.start === null
            ? 'all day'
            : showSpan({ start: event.start, end: event.start + event.seconds! * 1000 }, member.zone)}
        </span>
      ),
    },
    {
      key: 'title',
      head: 'Event',
      width: 'minmax(0,1.3fr)',
      cell: ({ event }) => (
        <>
          <span className="written clamp-2">{event.title || <span className="text-soft">No title</span>}</span>
          <span className="written clamp-2 text-xs text-soft">{event.guests.join(', ').slice(0, 160)}</span>
        </>
      ),
    },
    {
      key: 'job',
      head: 'Job',
      width: 'minmax(0,1.1fr)',
      cell: ({ event, projectId, why }) => (
        <>
          <JobPicker
            pricer={pricer}
            boxed
            label="Job"
            value={projectJob(projectId)}
            none="No job yet"
            onPick={(job) => setJobs(new Map(jobs).set(event.source, job.projectId))}
          />
          {why && <span className="written clamp-2 text-xs text-soft italic">since {why}</span>}
        </>
      ),
    },
    {
      key: 'length',
      head: 'Length',
      width: '92px',
      align: 'end',
      cell: ({ seconds }) => <SoftLength seconds={seconds} />,
    },
    {
      key: 'state',
      head: 'State',
      quietHead: true,
      width: '92px',
      wideOnly: true,
      cell: ({ event }) =>
        known?.has(event.source) ? (
          <span className="text-sm text-soft">planned already</span>
        ) : event.free ? (
          <span className="text-sm text-soft">free</span>
        ) : null,
    },
  ];
  return (
    <Section
      title={`${rows.length} ${rows.length === 1 ? 'event' : 'events'} on these days`}
      actions={
        <Button kind="main" disabled={selected.size === 0} onClick={() => void take()}>
          {selected.size === 1 ? 'Plan one event' : `Plan ${selected.size} events`}
        </Button>
      }
    >
      {fault && (
        <p role="alert" className="my-2 text-fault">
          {fault} Nothing was imported.
        </p>
      )}
      <Ledger
        label="Events"
        rows={rows}
        rowId={(row) => row.event.source}
        rowName={(row) => row.event.title || 'Event'}
        columns={columns}
        selection={{
          selected,
          onChange: (next) =>
            setLeft(new Set(rows.map((row) => row.event.source).filter((source) => !next.has(source)))),
        }}
        empty={
          found === 0
            ? 'There is no event in this calendar.'
            : `None of the ${found} events of this calendar lies on these days. Choose other days above.`
        }
      />
    </Section>
  );
}

/** The day to show afterwards: the one nearest to now. */
function nearest(days: readonly Day[]): Day {
  const now = Date.now();
  return days.reduce((best, day) => (Math.abs(Date.parse(day) - now) < Math.abs(Date.parse(best) - now) ? day : best));
}
