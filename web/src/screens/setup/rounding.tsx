import { comparePolicies, type PolicyOutcome, type Pricer } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import {
  exactly,
  lastMonths,
  roundLength,
  showDecimalHours,
  showLength,
  showPolicy,
  type RoundingPolicy,
} from '@half-penny/core/time';
import { useMemo } from 'react';
import { useToday, useTimeBetween } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { RoundingFields } from '../../parts/rounding-fields';

const step = (
  minutes: number,
  direction: RoundingPolicy['direction'],
  per: RoundingPolicy['per'] = 'entry',
): RoundingPolicy => ({
  increment: minutes * 60,
  direction,
  minimum: 0,
  per,
});

const common: readonly RoundingPolicy[] = [
  exactly,
  step(6, 'up'),
  step(6, 'nearest'),
  step(6, 'up', 'day and job'),
  step(15, 'up'),
  step(15, 'nearest'),
  step(15, 'up', 'day and job'),
];

const EXAMPLE = 22 * 60;
const MONTHS = 3;

/** How recorded lengths become billed ones, and what other policies would have made of the last months. */
export function Rounding({ pricer }: { pricer: Pricer }) {
  const { run } = useChanges();
  const { rounding } = pricer.book.workspace;
  const save = (policy: RoundingPolicy) => run('workspace.edit', { rounding: policy });
  return (
    <>
      <Section title="Rounding of time">
        <p className="mb-3 border-t border-ink px-2 pt-3 text-soft">
          Recorded seconds are never changed; rounding makes the billed length. Now {showPolicy(rounding)}: 22 minutes
          are billed as <b className="text-time">{showLength(roundLength(EXAMPLE, rounding))}</b>. A client or project
          can have its own.
        </p>
        <div className="max-w-3xl px-2">
          <RoundingFields policy={rounding} save={save} />
        </div>
      </Section>
      <Comparison pricer={pricer} onTake={(policy) => void save(policy)} />
    </>
  );
}

function Comparison({ pricer, onTake }: { pricer: Pricer; onTake: (policy: RoundingPolicy) => void }) {
  const today = useToday();
  const { from } = lastMonths(today, MONTHS);
  const entries = useTimeBetween(from, today);
  const { rounding } = pricer.book.workspace;
  const same = (policy: RoundingPolicy) => showPolicy(policy) === showPolicy(rounding);
  const outcomes = useMemo(() => {
    if (!entries) return null;
    return comparePolicies(pricer, entries, common.some(same) ? common : [rounding, ...common]);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `same` depends on the pricer alone
  }, [entries, pricer]);
  const home = pricer.book.workspace.currency;
  const columns: Column<PolicyOutcome>[] = [
    {
      key: 'policy',
      head: 'Policy',
      width: 'minmax(0,1.4fr)',
      cell: ({ policy }) => <span className={same(policy) ? 'font-bold' : ''}>{showPolicy(policy)}</span>,
    },
    {
      key: 'hours',
      head: 'Hours billed',
      width: '110px',
      align: 'end',
      cell: ({ seconds }) => <span className="font-mono text-time">{showDecimalHours(seconds)} h</span>,
    },
    {
      key: 'more',
      head: 'Against exact',
      width: '120px',
      align: 'end',
      wideOnly: true,
      cell: ({ moreSeconds }) => <span className="font-mono text-time">{signed(moreSeconds, showDecimalHours)} h</span>,
    },
    {
      key: 'worth',
      head: 'Worth against exact',
      width: 'minmax(0,1fr)',
      align: 'end',
      cell: ({ more }) => (
        <span className="text-money">
          {[...more]
            .filter(([, amount]) => amount !== 0)
            .sort(([a], [b]) => Number(b === home) - Number(a === home))
            .map(([currency, amount]) => signed(amount, (each) => showAmount(each, currency)))
            .join(', ') || '–'}
        </span>
      ),
    },
    {
      key: 'take',
      head: 'Take',
      quietHead: true,
      width: '110px',
      align: 'end',
      cell: ({ policy }) =>
        same(policy) ? (
          <span className="font-semibold text-time">In use</span>
        ) : (
          <Button kind="quiet" onClick={() => onTake(policy)}>
            Use this
          </Button>
        ),
    },
  ];
  return (
    <Section title="What each policy would have made of the last three months">
      {outcomes ? (
        <Ledger
          label="Policies compared"
          rows={outcomes}
          rowId={({ policy }) => showPolicy(policy)}
          rowName={({ policy }) => showPolicy(policy)}
          columns={columns}
          empty=""
        />
      ) : (
        <Loading />
      )}
    </Section>
  );
}

const signed = (value: number, show: (value: number) => string): string =>
  value === 0 ? show(0) : `${value > 0 ? '+' : '−'}${show(Math.abs(value))}`;
