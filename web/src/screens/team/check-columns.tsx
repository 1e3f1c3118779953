import { billableOf, explainPriced, type Pricer } from '@half-penny/core/billing';
import { fieldsChanged, lineOfEntry, standingOfChecked, type CheckedStanding } from '@half-penny/core/checking';
import { costAmounts } from '@half-penny/core/costs';
import type { CheckedEntry, Entry, HandIn, Id, Member } from '@half-penny/core/model';
import { showAmount, sumExact } from '@half-penny/core/money';
import { showDistance } from '@half-penny/core/places';
import { readLength, showLength } from '@half-penny/core/time';
import { dayOfChecked, type ToCheck } from '../../data/checking';
import type { Changes } from '../../data/session';
import { showShortestDay, showWeekday } from '../../parts/days';
import { ChangeInWords } from '../../parts/differences';
import { lengthForEditing, saveLength } from '../../parts/editing';
import { Length, Worth } from '../../parts/figures';
import { JobPicker } from '../../parts/job-picker';
import type { Column } from '../../parts/ledger';
import type { WorthSeen } from '../../data/worth-seen';

const looks: Record<CheckedStanding, string> = {
  'not approved': 'text-soft',
  'sent back': 'rounded-sm bg-attention-ground px-1.5 font-semibold text-attention',
  'looked at': 'text-time',
  approved: 'font-semibold text-time',
};

interface CheckColumns {
  pricer: Pricer;
  rows: readonly ToCheck[];
  changes: Changes;
  /** Whether whoever works here may change them. */
  canChange: boolean;
  /** What of its worth may be seen. */
  seen: WorthSeen;
  /** Whose it is stands beside it. */
  named: boolean;
  /** What was handed in, for what differs since. */
  handIn?: HandIn | undefined;
}

/** The columns of what is checked: each figure can be put right where it stands. */
export function checkColumns({
  pricer,
  seen,
  rows,
  changes,
  canChange,
  named,
  handIn,
}: CheckColumns): Column<ToCheck>[] {
  const { run, attempt } = changes;
  const entries = rows.flatMap((row) => (row.kind === 'entry' ? [row.entry] : []));
  const worth = new Map(seen.of(pricer, entries).map((priced) => [priced.entry.id, priced]));
  const asHandedIn = new Map(handIn?.entries.map((line) => [line.id, line]));
  const onEntry = (row: ToCheck) => canChange && row.kind === 'entry';
  return [
    {
      key: 'day',
      head: 'Day',
      width: '84px',
      cell: (row) => (
        <span className="whitespace-nowrap">
          <span className="text-soft">{showWeekday(dayOfChecked(row))}</span> {showShortestDay(dayOfChecked(row))}
        </span>
      ),
    },
    ...(named
      ? [
          {
            key: 'member',
            head: 'Who',
            width: '120px',
            wideOnly: true,
            cell: ({ member }: ToCheck) => <span className="written clamp-2">{member.name}</span>,
          },
        ]
      : []),
    {
      key: 'note',
      head: 'What was done',
      ownLine: true,
      width: 'minmax(0,1.3fr)',
      cell: (row) => (
        <What {...{ pricer, row }} handedIn={handIn && asHandedIn.get(row.id)} isKnown={Boolean(handIn)} />
      ),
      edit: {
        when: onEntry,
        text: (row) => (row.kind === 'entry' ? row.entry.note : ''),
        save: (row, note) => run('entry.edit', { id: row.id, note }),
      },
    },
    {
      key: 'job',
      head: 'Job',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: (row) =>
        row.kind === 'entry' ? (
          canChange ? (
            <JobPicker
              pricer={pricer}
              label="Job"
              value={row.entry}
              onPick={(job) => void attempt('entry.edit', { id: row.id, ...job })}
            />
          ) : (
            <span className="written clamp-2">{jobOf(pricer, row.entry)}</span>
          )
        ) : (
          <span className="written clamp-2">
            {[
              ...new Set(row.lines.map((line) => pricer.project.get(line.projectId ?? '')?.name ?? line.unlisted)),
            ].join(', ')}
          </span>
        ),
    },
    {
      key: 'length',
      head: 'Length',
      width: '84px',
      align: 'end',
      cell: (row) => row.kind === 'entry' && <Length seconds={row.entry.seconds} />,
      edit: {
        when: onEntry,
        text: (row) => (row.kind === 'entry' ? lengthForEditing(row.entry.seconds) : ''),
        save: async (row, text) => row.kind === 'entry' && saveLength(run, row.entry, row.member, text),
      },
      foot: <Length seconds={entries.reduce((sum, entry) => sum + entry.seconds, 0)} />,
    },
    {
      key: 'billable',
      head: 'Billable',
      width: '84px',
      align: 'end',
      wideOnly: true,
      cell: (row) => row.kind === 'entry' && <Length seconds={billableOf(row.entry)} />,
      edit: {
        when: onEntry,
        text: (row) => (row.kind === 'entry' ? lengthForEditing(billableOf(row.entry)) : ''),
        save: async (row, text) => row.kind === 'entry' && run('entry.edit', billablePart(row.entry, text)),
      },
      foot: <Length seconds={entries.reduce((sum, entry) => sum + billableOf(entry), 0)} />,
    },
    {
      key: 'worth',
      head: 'Worth',
      width: '104px',
      align: 'end',
      wideOnly: true,
      cell: (row) => {
        if (row.kind === 'cost') return <CostSum {...{ pricer, row }} />;
        const priced = worth.get(row.id);
        return (
          priced?.price && (
            <Worth
              amount={priced.amount}
              currency={priced.price.currency}
              of={row.entry.note || 'this entry'}
              working={() => explainPriced(pricer, priced)}
            />
          )
        );
      },
    },
    {
      key: 'standing',
      head: 'Checked',
      width: '112px',
      cell: (row) => {
        const checked = row.kind === 'entry' ? row.entry : row.cost;
        const standing = standingOfChecked(checked);
        const by = checked.approval?.looks.map(({ byId }) => pricer.member.get(byId)?.name ?? 'somebody who left');
        return (
          <span className={looks[standing]} title={by?.join(', ')}>
            {standing === 'not approved' ? '–' : standing}
            {by && <span className="sr-only"> by {by.join(', ')}</span>}
          </span>
        );
      },
    },
  ];
}

/** What a cost comes to with tax. */
function CostSum({ pricer, row }: { pricer: Pricer; row: Extract<ToCheck, { kind: 'cost' }> }) {
  const { cost, lines } = row;
  const tax = pricer.tax.get(cost.taxId ?? '');
  const { gross } = costAmounts(lines, cost, tax, pricer.book.workspace.amountRounding);
  return <span className="font-semibold text-money">{showAmount(gross, cost.currency)}</span>;
}

const jobOf = (pricer: Pricer, entry: Entry): string =>
  entry.unlisted || (entry.projectId ? pricer.tree.pathOf(entry.projectId) : 'no job');

interface WhatProps {
  pricer: Pricer;
  row: ToCheck;
  handedIn: CheckedEntry | undefined;
  /** Whether it is known what was handed in. */
  isKnown: boolean;
}

/** The note, why it was sent back, and what differs from what was handed in. */
function What({ pricer, row, handedIn, isKnown }: WhatProps) {
  if (row.kind === 'cost') {
    return (
      <>
        <span className="written clamp-2">{row.cost.supplier || 'Expense'}</span>
        <span className="block text-xs text-soft">expense{row.cost.note && `, ${row.cost.note}`}</span>
      </>
    );
  }
  const now = lineOfEntry(row.entry);
  return (
    <>
      <span className="written clamp-2">{row.entry.note || <span className="text-soft">No note</span>}</span>
      <span className="written block truncate text-xs text-soft">
        {pricer.service.get(row.entry.serviceId ?? '')?.name}
        <span className="md:hidden"> · {jobOf(pricer, row.entry)}</span>
      </span>
      {row.entry.sentBack && (
        <span className="written block text-xs text-attention">“{row.entry.sentBack.reason}”</span>
      )}
      {row.entry.recordedFrom?.inside === false && (
        <span className="block text-xs text-attention">
          recorded {showDistance(row.entry.recordedFrom.metres)} from where it is recorded
        </span>
      )}
      {isKnown && !(handedIn && fieldsChanged(handedIn, now).length === 0) && (
        <span className="block text-xs">
          <ChangeInWords pricer={pricer} change={{ before: handedIn ?? null, after: now }} />
        </span>
      )}
    </>
  );
}

/** The billable part as typed: all of it where it is as long as what was worked. */
function billablePart(entry: Entry, text: string): { id: Id; billableSeconds: number | null } {
  const typed = /^\s*0?\s*$/.test(text) ? 0 : readLength(text).seconds;
  return { id: entry.id, billableSeconds: typed === entry.seconds ? null : typed };
}

/** The hours of rows, for what is said of them. */
export const hoursOf = (rows: readonly ToCheck[]): string =>
  showLength(sumExact(rows.map((row) => (row.kind === 'entry' ? row.entry.seconds : 0))));

export const nameOfRow = (member: Member, row: ToCheck): string =>
  `${member.name}, ${row.kind === 'entry' ? row.entry.note || 'no note' : row.cost.supplier || 'expense'}`;
