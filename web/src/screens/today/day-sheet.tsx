import type { PricedEntry, Pricer } from '@half-penny/core/billing';
import { owedOnDay, absencesOn, recordedOn } from '@half-penny/core/entries';
import type { Absence, Entry, Id, Member, PlannedTime, Timer } from '@half-penny/core/model';
import { boundsOfDay, overlapOf, type Day, type Interval, type Seconds } from '@half-penny/core/time';
import { Link } from 'react-router';
import { lazy, Suspense, useCallback, useMemo, useState, type ReactNode } from 'react';
import { useChanges, useSession } from '../../data/session';
import { HourPage, type HourPart } from '../../parts/hour-page';
import { Ledger } from '../../parts/ledger';
import { OwedFill } from '../../parts/owed-fill';
import { showDay } from '../../parts/days';
import { Page } from '../../parts/page';
import { PrintButton, PrintHead } from '../../parts/print';
import { Slip } from '../../parts/slip';
import { useAppSelector } from '../../state/store';
import { ActionBar, useActionKeys, useActions, type Action } from '../../parts/actions';
import { explainOnDay, nameOf, useColumns } from './columns';
import { rowsOfDay, type DayRow } from './day-rows';
import { Doubts } from './doubts';
import { WeekFills } from './week-fills';
import { useWorthSeen } from '../../data/worth-seen';

const AddTime = lazy(() => import('../../parts/add-time'));
const FirstSteps = lazy(() => import('./first-steps'));

interface DaySheetProps {
  title: string;
  travel: ReactNode;
  addTime: ReactNode;
  pricer: Pricer;
  member: Member;
  day: Day;
  today: Day;
  items: readonly PricedEntry[];
  plans: readonly PlannedTime[];
  timer: Timer | null;
  absences: readonly Absence[];
  adding: boolean;
  closeAdding: () => void;
  focused: Id | null;
  goTo: (day: Day) => void;
}

/** The day as a ruled list with its gaps, its planned time and its picture. */
export function DaySheet(props: DaySheetProps) {
  const { title, pricer, member, day, today, items, plans, absences, focused } = props;
  const { attempt } = useChanges();
  const beginning = useBeginning();
  const [active, setActive] = useState<string | null>(focused);
  const [selected, setSelected] = useState<ReadonlySet<string>>(new Set());
  // The day moves by the minute; the clock in the Till by the second.
  const minute = useAppSelector((state) => Math.floor(state.clock.now / 60_000));
  const now = minute * 60_000;
  const running = useRunning(props.timer, member, now);
  const runningStart = running?.start ?? null;
  const missing = missingOn(member, day, items, running, absences);
  const rows = useMemo(
    () =>
      rowsOfDay({
        pricer,
        member,
        day,
        items,
        plans,
        running: runningStart === null ? null : { start: runningStart, end: Math.max(now, runningStart) },
        missing,
      }),
    [pricer, member, day, items, plans, runningStart, now, missing],
  );
  const entryRows = rows.filter((row) => row.kind === 'entry');
  const entries = entryRows.map((row) => row.entry);
  const worth = useWorthSeen(pricer);
  const columns = useColumns({ pricer, member, day, now, rows });
  const { act: begin, windows } = useActions(pricer, member);
  const act = useCallback(
    (action: Action, meant: readonly Entry[]) => {
      begin(action, meant);
      // What was chosen was chosen for this.
      setSelected(new Set());
    },
    [begin],
  );
  const chosen = useCallback(
    (row: DayRow | undefined): Entry[] => {
      const several = entries.filter((entry) => selected.has(entry.id));
      // What is ticked is meant while the focus is on a ticked row, or on none.
      if (several.length > 0 && (row?.kind !== 'entry' || selected.has(row.entry.id))) return several;
      return row?.kind === 'entry' ? [row.entry] : [];
    },
    [entries, selected],
  );
  const entryKeys = useActionKeys(act, chosen);
  const keys = {
    ...entryKeys,
    'plan.record': (row: DayRow) => row.kind === 'plan' && void attempt('plan.take', { ids: [row.plan.id] }),
  };
  const activeRow = rows.find((row) => row.id === active);
  const shown = activeRow?.kind === 'entry' ? activeRow : entryRows.at(-1);
  const ticked = entries.filter((entry) => selected.has(entry.id));
  const barred = ticked.length > 0 ? ticked : chosen(activeRow);
  const recorded = rows.reduce((sum, row) => sum + (row.kind === 'entry' || row.kind === 'break' ? row.seconds : 0), 0);
  const overlapping = entryRows.filter((row) => row.overlaps.length > 0).length;
  return (
    <Page
      title={title}
      aside={props.travel}
      actions={
        <>
          <PrintButton of="the day" />
          {props.addTime}
        </>
      }
      side={
        <div className="flex flex-col gap-6">
          <WeekFills {...{ member, day, today }} workspace={pricer.book.workspace} onGo={props.goTo} />
          <HourPage
            day={day}
            zone={member.zone}
            parts={hourParts(pricer, entries, running, rows)}
            selected={active}
            onSelect={setActive}
            onSelectMany={(ids) => setSelected(new Set(ids))}
          />
          {shown && worth.on(shown.entry.projectId) && <Slip working={explainOnDay(pricer, shown)} />}
          {shown && shown.entry.stretchIds.length > 0 && (
            <Link to={`/sift?day=${day}`} className="text-time underline-offset-2 hover:underline">
              What was seen
            </Link>
          )}
        </div>
      }
    >
      <PrintHead pricer={pricer} member={member}>
        {showDay(day, '')}
      </PrintHead>
      <div className="print:hidden">
        <Doubts {...{ pricer, member }} />
      </div>
      {beginning && (
        <Suspense>
          <FirstSteps />
        </Suspense>
      )}
      {props.adding && (
        <Suspense>
          <AddTime {...{ pricer, member, day }} onClose={props.closeAdding} />
        </Suspense>
      )}
      <Ledger
        label={`Entries of ${title}`}
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => rowName(pricer, row)}
        columns={columns}
        selection={{ selected, onChange: setSelected, selectable: (row) => row.kind === 'entry' }}
        keys={keys}
        marked={(row) => row.kind === 'entry' && (row.overlaps.length > 0 || row.id === focused)}
        tone={(row) => (row.kind === 'entry' ? '' : `bg-side ${row.kind === 'break' ? '' : 'print:hidden'}`)}
        onActive={(row) => setActive(row.id)}
        chosen={active}
        onDelete={(row) => {
          if (row.kind === 'plan') void attempt('plan.remove', { ids: [row.plan.id] });
          else act('delete', chosen(row));
        }}
        footLabel="Recorded"
        empty={
          <>
            <p className="mb-3">
              Nothing is recorded on this day yet. Start the timer in the Till with the . key, or write the time down.
            </p>
            {!props.adding && !beginning && props.addTime}
          </>
        }
      />
      <div className="mt-3 flex flex-wrap items-center gap-x-6 gap-y-3 px-2">
        <DayOwed {...{ member, day, recorded, absences }} />
        {overlapping > 0 && <span className="text-sm text-attention">{overlapping} entries overlap in time</span>}
      </div>
      <ActionBar entries={barred} ticked={ticked.length > 0} act={act} />
      {windows}
    </Page>
  );
}

/** Whether the first steps of an own workspace are still to be taken, as far as is known without a look. */
function useBeginning(): boolean {
  const { entry } = useSession();
  const known = useAppSelector((state) => state.shell.known.includes(entry.id));
  return !entry.demo && !known;
}

/** What the hour page shows: what was recorded, what runs, and what lies between. */
function hourParts(
  pricer: Pricer,
  entries: readonly Entry[],
  running: Interval | null,
  rows: readonly DayRow[],
): HourPart[] {
  return [
    ...rows.flatMap((row): HourPart[] =>
      row.kind === 'gap' ? [{ id: null, span: row.span, look: 'gap', name: 'Not accounted for' }] : [],
    ),
    ...entries.flatMap((entry) =>
      entry.spans.map((span): HourPart => ({ id: entry.id, span, look: 'recorded', name: nameOf(pricer, entry) })),
    ),
    ...(running ? [{ id: null, span: running, look: 'running', name: 'Running' } as const] : []),
  ];
}

/** Seconds owed on a day that are neither recorded nor running. */
function missingOn(
  member: Member,
  day: Day,
  items: readonly PricedEntry[],
  running: Interval | null,
  absences: readonly Absence[],
): Seconds {
  const done = recordedOn(
    items.map((item) => item.entry),
    day,
    member.zone,
  );
  const runs = running ? Math.floor(overlapOf(running, boundsOfDay(day, member.zone)) / 1000) : 0;
  return Math.max(0, owedOnDay(member, day, absences) - done - runs);
}

function DayOwed({
  member,
  day,
  recorded,
  absences,
}: {
  member: Member;
  day: Day;
  recorded: number;
  absences: readonly Absence[];
}) {
  const names = absencesOn(member.id, day, absences).map((absence) => absence.name);
  return (
    <>
      <OwedFill recorded={recorded} owed={owedOnDay(member, day, absences)} />
      {names.length > 0 && <span className="written text-xs text-soft">{names.join(', ')}</span>}
    </>
  );
}

/** What runs for the member, as an interval; null when nothing does. */
function useRunning(timer: Timer | null, member: Member, now: number): Interval | null {
  return useMemo(
    () =>
      timer && timer.memberId === member.id ? { start: timer.startedAt, end: Math.max(timer.startedAt, now) } : null,
    [timer, member.id, now],
  );
}

function rowName(pricer: Pricer, row: DayRow): string {
  switch (row.kind) {
    case 'entry':
      return nameOf(pricer, row.entry);
    case 'gap':
      return 'Not accounted for';
    case 'plan':
      return `Planned: ${row.plan.note || 'time'}`;
    case 'break':
      return 'Break';
  }
}
