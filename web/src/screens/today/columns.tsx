import { ChevronDown } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { ownNameOf } from '../../parts/jobs';
import { serviceOptions, serviceOf, valueOfService } from '../../parts/services';
import { explainPriced, jobName, type Pricer } from '@half-penny/core/billing';
import { missingInWords, missingFields, noJob, recordsBy } from '@half-penny/core/entries';
import { tagsOf, type Entry, type Member } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { amountFigure, lengthFigure, type Working } from '@half-penny/core/rates';
import { boundsOfDay, readLength, showExactly, type Day, type LengthStyle } from '@half-penny/core/time';
import { useChanges } from '../../data/session';
import { CoinButton } from '../../parts/coin-button';
import { showShortestDay } from '../../parts/days';
import { Length, SoftLength, Worth } from '../../parts/figures';
import { JobPicker } from '../../parts/job-picker';
import type { Column } from '../../parts/ledger';
import { showSpan } from '../../parts/spans';
import { TagWords } from '../../parts/tag-words';
import { Tallies } from '../../parts/tallies';
import type { DayRow } from './day-rows';
import { lengthForEditing, saveLength, saveWhen, timesOf } from '../../parts/editing';
import { useWorthSeen } from '../../data/worth-seen';

// Read without choosing, a day needs no lists.
const Select = lazy(() => import('../../parts/select').then(({ Select: Whole }) => ({ default: Whole })));

export const nameOf = (pricer: Pricer, entry: Entry): string =>
  entry.note.trim() || jobName(pricer, entry.projectId, entry.unlisted);

/** From–to as written in the ledger; a dash where only the length is known. */
export const showWhen = (entry: Entry, member: Member): string =>
  entry.spans.map((span) => showSpan(span, member.zone)).join(', ') || '–';

interface ColumnsInput {
  pricer: Pricer;
  member: Member;
  day: Day;
  now: number;
  rows: readonly DayRow[];
}

/** The columns of a day. Each kind of line fills them in its own way. */
export function useColumns({ pricer, member, day, now, rows }: ColumnsInput): Column<DayRow>[] {
  const { run, attempt } = useChanges();
  const { lengthStyle, currency } = pricer.book.workspace;
  const { breakRule } = pricer.book.workspace;
  const entries = rows.filter((row) => row.kind === 'entry');
  const total = (of: (row: (typeof entries)[number]) => number) => entries.reduce((sum, row) => sum + of(row), 0);
  const worth = useWorthSeen(pricer);
  const deducted = rows.reduce((sum, row) => sum + (row.kind === 'break' ? row.seconds : 0), 0);
  return [
    {
      key: 'when',
      head: 'When',
      width: '112px',
      wideOnly: true,
      cell: (row) => <When row={row} member={member} />,
      edit: {
        when: (row) => row.kind === 'entry',
        text: (row) => (row.kind === 'entry' && row.entry.spans.length > 0 ? showWhen(row.entry, member) : ''),
        save: async (row, text) => row.kind === 'entry' && saveWhen(run, row.entry, member, text),
      },
    },
    {
      key: 'note',
      head: 'What was done',
      ownLine: true,
      width: 'minmax(0,1.25fr)',
      cell: (row) => <What {...{ row, pricer, member, day, now }} />,
      edit: {
        when: (row) => row.kind !== 'break',
        text: (row) => (row.kind === 'entry' ? row.entry.note : row.kind === 'plan' ? row.plan.note : ''),
        save: async (row, note) => {
          if (row.kind === 'entry') return run('entry.edit', { id: row.entry.id, note });
          if (row.kind === 'plan') return run('plan.edit', { id: row.plan.id, note });
          if (row.kind === 'gap')
            return run('entry.add', {
              memberId: member.id,
              day,
              ...noJob,
              serviceId: null,
              note,
              ...timesOf(row.span),
            });
        },
      },
    },
    {
      key: 'job',
      head: 'Job',
      width: 'minmax(0,1.1fr)',
      wideOnly: true,
      cell: (row) => {
        if (row.kind === 'break') return null;
        if (row.kind === 'gap') {
          const place = { memberId: member.id, day, serviceId: null, note: '', ...timesOf(row.span) };
          return (
            <JobPicker
              pricer={pricer}
              label="Job of the time not accounted for"
              value={noJob}
              none="What was it?"
              onPick={(job) => void attempt('entry.add', { ...place, ...job })}
            />
          );
        }
        if (row.kind === 'plan') {
          const { id } = row.plan;
          return (
            <JobPicker
              pricer={pricer}
              label="Job"
              value={row.plan}
              onPick={(job) => void attempt('plan.edit', { id, ...job })}
            />
          );
        }
        const { id } = row.entry;
        return (
          <JobPicker
            pricer={pricer}
            label="Job"
            value={row.entry}
            onPick={(job) => void attempt('entry.edit', { id, ...job })}
          />
        );
      },
    },
    {
      key: 'recorded',
      head: 'Recorded',
      width: '92px',
      align: 'end',
      cell: (row) =>
        row.kind === 'entry' ? (
          <Length seconds={row.seconds} style={lengthStyle} />
        ) : row.kind === 'break' ? (
          <Length seconds={row.seconds} style={lengthStyle} />
        ) : (
          <SoftLength seconds={row.seconds} style={lengthStyle} />
        ),
      edit: {
        when: (row) => row.kind === 'entry' || row.kind === 'plan',
        text: (row) => lengthForEditing(row.kind === 'entry' ? row.entry.seconds : row.seconds),
        save: async (row, text) => {
          if (row.kind === 'entry') return saveLength(run, row.entry, member, text);
          if (row.kind === 'plan') return run('plan.take', { ids: [row.plan.id], seconds: readLength(text).seconds });
        },
      },
      foot: <Length seconds={total((row) => row.seconds) + deducted} style={lengthStyle} />,
    },
    ...(worth.any ? [billedColumn(entries, lengthStyle)] : []),
    {
      key: 'billable',
      head: 'Billable',
      quietHead: true,
      width: '38px',
      align: 'center',
      cell: (row) =>
        row.kind === 'entry' && (pricer.clientOf(row.entry.projectId) || row.entry.unlisted) ? (
          <CoinButton
            seconds={row.entry.seconds}
            billableSeconds={row.entry.billableSeconds}
            save={(billableSeconds) => run('entry.edit', { id: row.entry.id, billableSeconds })}
          />
        ) : null,
    },
    {
      key: 'worth',
      head: worth.any ? 'Worth' : 'Do',
      quietHead: !worth.any,
      width: '104px',
      align: 'end',
      cell: (row) =>
        row.kind === 'entry' ? (
          worth.on(row.entry.projectId) && <WorthCell pricer={pricer} row={row} />
        ) : row.kind === 'gap' && row.about ? (
          <span className="text-sm whitespace-nowrap text-money italic" title="At the rate of what was done before it">
            about {showAmount(row.about.amount, row.about.currency)}
          </span>
        ) : row.kind === 'plan' && recordsBy(member, 'plan') ? (
          <button
            type="button"
            className="text-time underline-offset-2 hover:underline"
            onClick={() => void attempt('plan.take', { ids: [row.plan.id] })}
          >
            Record it
          </button>
        ) : row.kind === 'break' && breakRule ? (
          <span className="text-xs text-soft">by rule</span>
        ) : null,
      foot: worth.any && (
        <Tallies
          of="the day"
          home={currency}
          parts={entries
            .filter((row) => row.priced.price)
            .map((row) => ({
              label: nameOf(pricer, row.entry),
              amount: row.amount,
              currency: row.priced.price!.currency,
            }))}
        />
      ),
    },
  ];
}

/** Lengths as they are billed. */
function billedColumn(
  entries: readonly Extract<DayRow, { kind: 'entry' }>[],
  lengthStyle: LengthStyle,
): Column<DayRow> {
  return {
    key: 'billed',
    head: 'Rounded',
    width: '76px',
    align: 'end',
    wideOnly: true,
    cell: (row) =>
      row.kind === 'entry' && row.priced.price ? (
        <Length seconds={row.billed} style={lengthStyle} whole />
      ) : row.kind === 'entry' ? (
        <span className="text-soft">–</span>
      ) : null,
    foot: (
      <Length
        seconds={entries.reduce((sum, row) => sum + (row.priced.price ? row.billed : 0), 0)}
        style={lengthStyle}
        whole
      />
    ),
  };
}

function When({ row, member }: { row: DayRow; member: Member }) {
  const look = 'font-mono text-sm';
  switch (row.kind) {
    case 'entry':
      return (
        <span className={`${look} ${row.overlaps.length > 0 ? 'text-attention' : ''}`}>
          {showWhen(row.entry, member)}
        </span>
      );
    case 'gap':
      return <span className={`${look} text-soft`}>{showSpan(row.span, member.zone)}</span>;
    case 'plan':
      return (
        <span className={`${look} text-soft`}>
          {row.plan.start === null
            ? 'planned'
            : showSpan({ start: row.plan.start, end: row.plan.start + row.plan.seconds * 1000 }, member.zone)}
        </span>
      );
    case 'break':
      return null;
  }
}

interface WhatProps {
  row: DayRow;
  pricer: Pricer;
  member: Member;
  day: Day;
  now: number;
}

function What({ row, pricer, member, day, now }: WhatProps) {
  if (row.kind === 'gap') return <span className="text-soft italic">Not accounted for</span>;
  if (row.kind === 'break') return <span className="text-soft italic">Break, taken off by the studio’s rule</span>;
  if (row.kind === 'plan')
    return (
      <>
        <span className="written clamp-2 italic">
          {row.plan.note || jobName(pricer, row.plan.projectId, row.plan.unlisted)}
        </span>
        <span className="written clamp-2 text-xs text-soft">
          planned{row.plan.guests && `, with ${row.plan.guests.slice(0, 120)}`}
        </span>
      </>
    );
  const { entry } = row;
  const remarks = remarksOf(row, member, day, now);
  return (
    <>
      <span className="written clamp-2">{entry.note || <span className="text-soft">No note</span>}</span>
      <span className="written block text-xs text-soft md:hidden">{ownNameOf(pricer, entry)}</span>
      <ServiceChoice {...{ pricer, member, entry }} />
      <TagWords tags={tagsOf(entry)} />
      {remarks.soft.map((text) => (
        <span key={text} className="block text-xs text-soft">
          {text}
        </span>
      ))}
      {row.overlaps.slice(0, 2).map(({ entry: other, seconds }) => (
        <span key={other?.id ?? 'running'} className="written clamp-2 text-xs text-attention">
          {showExactly(seconds)} at the same time as {other ? `“${nameOf(pricer, other).slice(0, 80)}”` : 'what runs'}
        </span>
      ))}
      {remarks.lacks && <span className="block text-xs text-attention">{remarks.lacks}</span>}
    </>
  );
}

/** The service of an entry, quiet until it is wanted. */
function ServiceChoice({ pricer, member, entry }: { pricer: Pricer; member: Member; entry: Entry }) {
  const { attempt } = useChanges();
  const [wanted, setWanted] = useState(false);
  if (pricer.book.services.length === 0) return null;
  const value = valueOfService(entry);
  const options = serviceOptions(pricer, member, entry.projectId, entry);
  const name = `Service of ${nameOf(pricer, entry).slice(0, 80)}`;
  const chosen = (
    <button
      type="button"
      role="combobox"
      aria-label={name}
      aria-expanded={false}
      aria-haspopup="listbox"
      onClick={() => setWanted(true)}
      className="-ml-1 inline-flex max-w-full cursor-pointer items-center gap-1 rounded-sm px-1 text-start text-xs text-soft hover:bg-time-ground hover:text-ink"
    >
      <span className="clamp-1">{options.find(([each]) => each === value)?.[1]}</span>
      <ChevronDown size={14} aria-hidden className="flex-none" />
    </button>
  );
  if (!wanted) return chosen;
  return (
    <Suspense fallback={chosen}>
      <Select
        name={name}
        value={value}
        onPick={(picked) => void attempt('entry.edit', { id: entry.id, ...serviceOf(picked) })}
        look="quiet"
        className="-ml-1 text-xs"
        options={options}
        startsOpen
      />
    </Suspense>
  );
}

/** What is out of the ordinary about an entry, in words. */
function remarksOf(row: DayRow & { kind: 'entry' }, member: Member, day: Day, now: number) {
  const { entry } = row;
  const soft: string[] = [];
  if (entry.laterDays.length > 0) {
    const last = entry.laterDays.at(-1)!;
    soft.push(
      `${showShortestDay(entry.day)} to ${showShortestDay(last)}, ${showExactly(entry.seconds)} in all; ${showExactly(row.seconds)} on this day`,
    );
  }
  // The day knows the time by the minute: what began in this one is not ahead.
  const ahead =
    entry.spans.length > 0 ? entry.spans[0]!.start >= now + 60_000 : boundsOfDay(day, member.zone).start > now;
  if (ahead) soft.push('Still to come');
  const lacking = missingFields(member, entry);
  return { soft, lacks: lacking.length > 0 ? `Needs ${missingInWords(lacking)}` : '' };
}

/** The working of an entry; of one across midnight with its share on this day. */
export function explainOnDay(pricer: Pricer, row: DayRow & { kind: 'entry' }): Working {
  const whole = explainPriced(pricer, row.priced);
  if (row.amount === row.priced.amount || !row.priced.price) return whole;
  return {
    title: whole.title,
    steps: [
      ...whole.steps,
      { ...whole.result, label: 'In all', ruled: true },
      { label: 'On this day', figure: lengthFigure(row.seconds), remark: 'Shared over its days by their seconds' },
    ],
    result: { label: 'Worth on this day', figure: amountFigure(row.amount, row.priced.price.currency) },
  };
}

function WorthCell({ pricer, row }: { pricer: Pricer; row: DayRow & { kind: 'entry' } }) {
  const client = pricer.clientOf(row.entry.projectId);
  if (!client) return <span className="text-soft">{row.entry.projectId === null ? '' : 'internal'}</span>;
  if (!row.priced.price) return <span className="text-attention">no rate</span>;
  return (
    <Worth
      amount={row.amount}
      currency={row.priced.price.currency}
      of={nameOf(pricer, row.entry)}
      working={() => explainOnDay(pricer, row)}
    />
  );
}
