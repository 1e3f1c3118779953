import type { Pricer } from '@half-penny/core/billing';
import { Fault, type Closing, type Member } from '@half-penny/core/model';
import { addDays, periodOf, weekPeriodOf, type Day } from '@half-penny/core/time';
import { useState } from 'react';
import { useAll } from '../../data/read';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { CheckBox } from '../../parts/check';
import { DayField } from '../../parts/day-field';
import { showMoment, showShortDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { Reading } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { SayWhy } from '../../parts/say-why';
import { SelectField } from '../../parts/select';
import { useSubmit } from '../../parts/use-submit';

interface ClosedDaysProps {
  pricer: Pricer;
  self: Member | undefined;
  today: Day;
}

/** Days that were closed: for whom, by whom, and whether and why they were opened again. */
export function ClosedDays({ pricer, self, today }: ClosedDaysProps) {
  const closings = useAll('closings');
  const [closing, setClosing] = useState(false);
  const [reopening, setReopening] = useState<Closing | null>(null);
  if (!closings) return <Reading />;
  const zone = self?.zone ?? pricer.book.workspace.zone;
  const nameOf = (id: string) => pricer.member.get(id)?.name ?? 'Somebody who left';
  const columns: Column<Closing>[] = [
    {
      key: 'days',
      head: 'Days',
      width: '210px',
      cell: ({ from, to }) => (
        <span className="whitespace-nowrap">
          {showShortDay(from)} – {showShortDay(to)}
        </span>
      ),
    },
    {
      key: 'whose',
      head: 'Whose',
      width: 'minmax(0,0.8fr)',
      cell: ({ memberId }) =>
        memberId === null ? 'Everybody, and costs' : <span className="written">{nameOf(memberId)}</span>,
    },
    {
      key: 'closed',
      head: 'Closed by',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: ({ byId, at }) => (
        <>
          <span className="written">{nameOf(byId)}</span>{' '}
          <span className="block text-xs text-soft">{showMoment(at, zone)}</span>
        </>
      ),
    },
    {
      key: 'reopened',
      head: 'Opened again',
      width: 'minmax(0,1.3fr)',
      ownLine: true,
      cell: ({ reopened }) =>
        reopened && (
          <>
            <span className="written">“{reopened.reason}”</span>
            <span className="block text-xs text-soft">
              {nameOf(reopened.byId)}, {showMoment(reopened.at, zone)}
            </span>
          </>
        ),
    },
    {
      key: 'act',
      head: 'Act',
      quietHead: true,
      width: '96px',
      align: 'end',
      cell: (row) =>
        row.reopened === null && (
          <Button kind="quiet" onClick={() => setReopening(row)}>
            Reopen…
          </Button>
        ),
    },
  ];
  return (
    <>
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <p className="text-soft">
          What was worked and spent on closed days stays as it is, whoever changes it. Billing goes on.
        </p>
        <Button kind="main" className="ml-auto" onClick={() => setClosing(true)}>
          Close days…
        </Button>
      </div>
      <Ledger
        label="Closed days"
        rows={closings.toSorted((a, b) => (a.from < b.from ? 1 : a.from > b.from ? -1 : b.at - a.at))}
        rowId={(row) => row.id}
        rowName={(row) => `${showShortDay(row.from)} to ${showShortDay(row.to)}`}
        columns={columns}
        empty="Nothing is closed yet. Close a week or a month once it is checked and billed."
      />
      {closing && <CloseDialog {...{ pricer, today }} closings={closings} onClose={() => setClosing(false)} />}
      {reopening && <ReopenDialog closing={reopening} onClose={() => setReopening(null)} />}
    </>
  );
}

interface CloseDialogProps {
  pricer: Pricer;
  today: Day;
  closings: readonly Closing[];
  onClose: () => void;
}

/** Which days are closed, and for whom: from the end of what is closed to that of the last billing period. */
function CloseDialog({ pricer, today, closings, onClose }: CloseDialogProps) {
  const { run } = useChanges();
  const { periods, cutOff } = pricer.book.workspace;
  const offered = lastOver(periods, cutOff, today, closings);
  const [from, setFrom] = useState(offered.from);
  const [to, setTo] = useState(offered.to);
  const [memberId, setMemberId] = useState('');
  const [asked, setAsked] = useState(false);
  const [anyway, setAnyway] = useState(false);
  const { fault, submit } = useSubmit(async () => {
    try {
      await run('period.close', { from, to, memberId: memberId || null, anyway });
      onClose();
    } catch (thrown) {
      if (thrown instanceof Fault && 'open' in thrown.data) setAsked(true);
      throw thrown;
    }
  });
  return (
    <Dialog
      open
      onClose={onClose}
      title="Close days"
      about="From then on nothing that was worked or spent on them is added, changed or deleted, by anybody. Invoices of it can still be made and credited."
    >
      <form onSubmit={submit} className="mt-2 flex flex-col gap-3">
        <div className="grid grid-cols-2 gap-3">
          <DayField label="From" value={from} onPick={setFrom} />
          <DayField label="To" value={to} onPick={setTo} />
        </div>
        <SelectField
          label="Whose"
          value={memberId}
          onPick={setMemberId}
          options={[
            ['', 'Everybody’s, and costs'],
            ...pricer.book.members.map((each) => [each.id, each.name] as const),
          ]}
        />
        {asked && (
          <label className="flex items-start gap-2">
            <CheckBox checked={anyway} onChange={setAnyway} />
            Close them all the same
          </label>
        )}
        {fault && (
          <p role="alert" className="text-sm text-fault">
            {fault}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" kind="main">
            Close them
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** From the day after what is closed for everybody to the end of the last period that is over. */
function lastOver(
  periods: Parameters<typeof periodOf>[0],
  cutOff: number,
  today: Day,
  closings: readonly Closing[],
): { from: Day; to: Day } {
  const present = periodOf(periods, today) ?? weekPeriodOf(today, cutOff);
  const last = periodOf(periods, addDays(present.from, -1)) ?? weekPeriodOf(addDays(today, -7), cutOff);
  const closed = closings.filter(({ memberId, reopened }) => memberId === null && reopened === null);
  const end = closed.reduce<Day>((latest, each) => (each.to > latest ? each.to : latest), '');
  const from = end !== '' && end < last.to ? addDays(end, 1) : last.from;
  return { from, to: last.to };
}

function ReopenDialog({ closing, onClose }: { closing: Closing; onClose: () => void }) {
  const { run } = useChanges();
  return (
    <SayWhy
      title={`Reopen ${showShortDay(closing.from)} – ${showShortDay(closing.to)}`}
      about="The reason stays on record, with your name and the moment."
      button="Reopen them"
      save={(reason) => run('period.reopen', { id: closing.id, reason }).then(onClose)}
      onClose={onClose}
    />
  );
}
