import type { Pricer } from '@half-penny/core/billing';
import { hoursBack, type HoursBack as When, type OutsideList } from '@half-penny/core/model';
import type { HoursBack } from '@half-penny/core/outside';
import { showLength } from '@half-penny/core/time';
import { useState } from 'react';
import { wordsOf } from '../../data/in-words';
import { saveHours, saveSentHours, sendHours } from '../../data/outside';
import { useToday } from '../../data/queries';
import { useHoursDue } from '../../data/outside-hours';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { SelectField } from '../../parts/select';

const whenNames: Record<When, string> = {
  never: 'do not go back',
  'when asked': 'go back when I say so',
  'as made': 'go back as they are made',
};

const entries = (count: number): string => (count === 1 ? 'one entry' : `${count} entries`);

/** Whether hours on the tasks of a list go back, which are due, and sending them or saving them as a file. */
export function HoursBackPart({ pricer, list }: { pricer: Pricer; list: OutsideList }) {
  const { attempt } = useChanges();
  const session = useSession();
  const today = useToday();
  const told = useHoursDue(list.id);
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState('');
  const [fault, setFault] = useState('');
  const goes = list.hours !== 'never';
  const during = async (task: () => Promise<string>) => {
    setBusy(true);
    setFault('');
    setSaid('');
    try {
      setSaid(await task());
    } catch (thrown) {
      setFault(`${wordsOf(thrown)} What was not taken goes with the next sending; nothing counts twice.`);
    } finally {
      setBusy(false);
    }
  };
  const send = () =>
    during(async () => {
      const { sent, refused } = await sendHours(session, list, new AbortController().signal);
      if (refused.length > 0)
        setFault(`${entries(refused.length)} refused. ${refused[0]!.hours.task}: ${refused[0]!.why}`);
      return sent > 0 ? `Hours of ${entries(sent)} were sent.` : '';
    });
  const asFile = () =>
    during(
      async () => `Hours of ${entries(await saveHours(session, list, today))} are in the file, and count as sent.`,
    );
  const style = pricer.book.workspace.lengthStyle;
  const whens = list.via === 'file' ? hoursBack.filter((when) => when !== 'as made') : hoursBack;
  return (
    <section aria-label={`Hours to ${list.name}`}>
      <h3 className="font-semibold">Hours</h3>
      <div className="mb-2 flex flex-wrap items-end gap-3 border-t border-rule px-2 pt-2">
        <SelectField
          label="Hours on these tasks"
          className="w-64"
          value={list.hours}
          options={whens.map((when) => [when, whenNames[when]] as const)}
          onPick={(hours) => void attempt('outside.edit', { id: list.id, hours: hours as When })}
        />
        {goes && (
          <DayField
            label="Of this day and later"
            className="w-40"
            value={list.hoursSince}
            onPick={(hoursSince) => void attempt('outside.edit', { id: list.id, hoursSince })}
          />
        )}
        {goes && told && told.due.length > 0 && (
          <>
            {list.via === 'service' && (
              <Button kind="main" disabled={busy} onClick={() => void send()}>
                {told.due.length === 1 ? 'Send one entry' : `Send ${told.due.length} entries`}
              </Button>
            )}
            <Button kind={list.via === 'file' ? 'main' : 'plain'} disabled={busy} onClick={() => void asFile()}>
              Save as a file
            </Button>
          </>
        )}
      </div>
      {goes && (
        <>
          <p className="px-2 text-sm text-soft">
            Length, day, who and the note go.{' '}
            {told && told.sent.count > 0 && (
              <>
                {showLength(told.sent.seconds, style)} of {entries(told.sent.count)} went so far.{' '}
                <Button kind="quiet" onClick={() => void saveSentHours(session, list, today)}>
                  All of that as a file
                </Button>
              </>
            )}
          </p>
          <p role="status" className="px-2 text-sm">
            {said}
          </p>
          {fault && (
            <p role="alert" className="px-2 text-fault">
              {fault}
            </p>
          )}
          {told && told.due.length === 0 ? (
            <p className="mt-1 px-2 text-soft">No hours on these tasks are waiting to go back.</p>
          ) : (
            <Ledger
              label={`Hours due to ${list.name}`}
              rows={told?.due ?? []}
              rowId={(row) => row.entryId}
              rowName={(row) => `${row.task}, ${showShortDay(row.day)}`}
              columns={columnsOf(style)}
              reading={!told}
              empty=""
              dense
            />
          )}
        </>
      )}
    </section>
  );
}

const columnsOf = (style: Pricer['book']['workspace']['lengthStyle']): Column<HoursBack>[] => [
  { key: 'day', head: 'Day', width: '96px', cell: (row) => showShortDay(row.day) },
  {
    key: 'task',
    head: 'Task',
    width: 'minmax(0,1.4fr)',
    ownLine: true,
    cell: (row) => <span className="written clamp-1">{row.task}</span>,
  },
  {
    key: 'note',
    head: 'Note',
    width: 'minmax(0,1fr)',
    wideOnly: true,
    cell: (row) => <span className="written clamp-1">{row.note}</span>,
  },
  { key: 'member', head: 'Who', width: '112px', cell: (row) => <span className="written clamp-1">{row.member}</span> },
  { key: 'length', head: 'Length', width: '72px', align: 'end', cell: (row) => showLength(row.seconds, style) },
  {
    key: 'why',
    head: 'Sent before',
    width: '128px',
    cell: (row) => <span className="text-soft">{sayBefore(row, style)}</span>,
  },
];

function sayBefore({ before, seconds }: HoursBack, style: Pricer['book']['workspace']['lengthStyle']): string {
  if (!before) return '';
  if (seconds === 0) return `${showLength(before.seconds, style)}, taken back`;
  return before.seconds === seconds ? 'otherwise' : showLength(before.seconds, style);
}
