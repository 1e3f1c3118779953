import type { Pricer } from '@half-penny/core/billing';
import type { PeriodStanding } from '@half-penny/core/checking';
import { countMissing } from '@half-penny/core/entries';
import type { Member } from '@half-penny/core/model';
import { sumExact } from '@half-penny/core/money';
import { showLength, type Day } from '@half-penny/core/time';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { useLately, type CheckedMember, type LatePeriod } from '../../data/checking';
import { composeHandIn, type NewLetter } from '../../data/letters';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Reading, Length } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Fill } from '../../parts/owed-fill';
import { LetterDialog } from '../../parts/letter-dialog';
import { StandingWay } from '../../parts/standing-way';

interface PeriodsProps {
  pricer: Pricer;
  self: Member | undefined;
  day: Day;
  found: readonly CheckedMember[] | undefined;
}

const periodLink = (row: CheckedMember): string => `/team/member/${row.member.id}?day=${row.period.from}`;

/** The members in one week or billing period: what each recorded, how far it is, what is missing and late. */
export function Periods({ pricer, self, found, day }: PeriodsProps) {
  const navigate = useNavigate();
  const { attempt } = useChanges();
  const [reminding, setReminding] = useState<NewLetter | null>(null);
  const lately = useLately(pricer, day);
  if (!found) return <Reading />;
  const total = (of: (row: CheckedMember) => number) => <Length seconds={sumExact(found.map(of))} />;
  const columns: Column<CheckedMember>[] = [
    {
      key: 'member',
      head: 'Member',
      width: 'minmax(0,1fr)',
      ownLine: true,
      cell: (row) => (
        <>
          <Link to={periodLink(row)} className="written font-semibold underline-offset-4 hover:underline">
            {row.member.name}
          </Link>
          <span className="block text-xs text-soft">
            {row.member.checkerId === null
              ? 'checked by nobody in particular'
              : `checked by ${row.member.checkerId === self?.id ? 'you' : (pricer.member.get(row.member.checkerId)?.name ?? '')}`}
          </span>
          {row.late > 0 && (
            <span className="inline-block rounded-sm bg-attention-ground px-1.5 text-xs font-semibold text-attention">
              {row.late} {row.late === 1 ? 'day' : 'days'} late
            </span>
          )}
        </>
      ),
    },
    { key: 'standing', head: 'How far', width: '156px', cell: (row) => <StandingWay standing={row.standing} /> },
    {
      key: 'before',
      head: 'Lately',
      width: '120px',
      wideOnly: true,
      cell: (row) => <Lately steps={lately?.get(row.member.id) ?? []} member={row.member} />,
    },
    {
      key: 'recorded',
      head: 'Recorded of owed',
      width: '112px',
      align: 'end',
      cell: (row) => (
        <>
          <Length seconds={row.recorded} />
          <span className="block w-full">
            <Fill recorded={row.recorded} owed={row.owed} />
          </span>
          <span className="block text-xs text-soft">of {showLength(row.owed)}</span>
        </>
      ),
      foot: total((row) => row.recorded),
    },
    {
      key: 'billable',
      head: 'Billable',
      width: '84px',
      align: 'end',
      wideOnly: true,
      cell: (row) => <Length seconds={row.billable} />,
      foot: total((row) => row.billable),
    },
    {
      key: 'approved',
      head: 'Approved',
      width: '84px',
      align: 'end',
      wideOnly: true,
      cell: (row) => (row.approved > 0 ? <Length seconds={row.approved} /> : '–'),
      foot: total((row) => row.approved),
    },
    {
      key: 'missing',
      head: 'Missing',
      width: 'minmax(0,1.1fr)',
      wideOnly: true,
      cell: (row) => <MissingWords row={row} />,
    },
    {
      key: 'act',
      head: 'Act',
      quietHead: true,
      width: '104px',
      align: 'end',
      cell: (row) =>
        row.standing === 'handed in' && row.sheet && (row.member.checkerId === null || isChecker(row.member, self)) ? (
          <Button
            onClick={() => void attempt('period.approve', { ids: [row.sheet!.id], entryIds: [], costIds: [] })}
            aria-label={`Approve ${row.period.name} of ${row.member.name}`}
          >
            Approve
          </Button>
        ) : (
          row.late > 0 && (
            <Button
              kind="quiet"
              onClick={() => setReminding(letterTo(pricer, row, self))}
              aria-label={`Remind ${row.member.name}…`}
            >
              Remind…
            </Button>
          )
        ),
    },
  ];
  const late = found.filter((row) => row.late > 0);
  const remindAll = () => void attempt('letter.write', { letters: late.map((row) => letterTo(pricer, row, self)) });
  return (
    <>
      {late.length > 1 && (
        <div className="mb-3 flex justify-end">
          <Button onClick={remindAll}>Put reminders for {late.length} in the outbox</Button>
        </div>
      )}
      <Ledger
        label="Members"
        rows={found}
        rowId={(row) => row.member.id}
        rowName={(row) => row.member.name}
        columns={columns}
        onOpen={(row) => void navigate(periodLink(row))}
        footLabel="Everybody"
        empty="No members yet. Add them under Setup, People."
      />
      {reminding && (
        <LetterDialog {...{ pricer }} letter={reminding} frozen={null} onClose={() => setReminding(null)} />
      )}
    </>
  );
}

const marks: Record<PeriodStanding, string> = {
  open: 'border border-strong',
  'handed in': 'border border-time bg-[linear-gradient(to_top,var(--color-time)_50%,transparent_50%)]',
  'sent back': 'bg-attention',
  approved: 'bg-time',
  closed: 'bg-soft',
};

/** The periods before this one, each as a mark that leads to it: empty where it is open, full where it is approved. */
const Lately = ({ steps, member }: { steps: readonly LatePeriod[]; member: Member }) => (
  <span className="flex gap-1 pt-1">
    {steps.map(({ period, standing }) => (
      <Link
        key={period.from}
        to={`/team/member/${member.id}?day=${period.from}`}
        tabIndex={-1}
        title={`${period.name}: ${standing}`}
        className={`block h-3 w-3 ${marks[standing]}`}
      >
        <span className="sr-only">
          {period.name}, {standing}
        </span>
      </Link>
    ))}
  </span>
);

/** What a member is written whose week or billing period is late. */
const letterTo = (pricer: Pricer, row: CheckedMember, self: Member | undefined): NewLetter =>
  composeHandIn(
    pricer,
    { member: row.member, period: row.period.name, missing: missingWordsOf(row) || `${row.late} days late` },
    self?.id ?? null,
  );

const isChecker = (member: Member, self: Member | undefined): boolean =>
  self !== undefined && (member.checkerId === self.id || member.deputyId === self.id);

/** What keeps a period from being complete, counted: "2 days short, 1 job not set up". */
function missingWordsOf(row: CheckedMember): string {
  const { missing, overlaps, longDays } = row;
  const one = (count: number, name: string, many = `${name}s`) => count > 0 && `${count} ${count === 1 ? name : many}`;
  return [
    one(missing.days.length, 'day short', 'days short'),
    one(missing.unlisted.length, 'job not set up', 'jobs not set up'),
    one(missing.incomplete.length, 'entry lacking something', 'entries lacking something'),
    one(missing.undone.length, 'plan without hours', 'plans without hours'),
    overlaps.length > 0 && 'times overlap',
    one(longDays.length, 'day over 24 h', 'days over 24 h'),
  ]
    .filter(Boolean)
    .join(', ');
}

function MissingWords({ row }: { row: CheckedMember }) {
  return (
    <span className="text-sm">
      {countMissing(row) === 0 ? <span className="text-soft">nothing</span> : missingWordsOf(row)}
    </span>
  );
}
