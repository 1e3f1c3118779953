import type { Pricer } from '@half-penny/core/billing';
import type { Payout } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { Link } from 'react-router';
import type { PayingOut } from '../../data/paying-out';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortestDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { whatFor } from './due-columns';

/** So many are shown before all are asked for. */
const FEW = 10;

/** What was paid, the latest first. */
export function PaidOut({ pricer, paying }: { pricer: Pricer; paying: PayingOut }) {
  const { attempt } = useChanges();
  const [all, setAll] = useState(false);
  const paid = paying.payouts
    .filter((payout) => payout.standing === 'paid')
    .sort((a, b) => (a.day < b.day ? 1 : a.day > b.day ? -1 : a.id < b.id ? 1 : -1));
  if (paid.length === 0) return null;
  return (
    <Section
      title={`Paid ${paid.length}`}
      actions={paid.length > FEW && !all && <Button onClick={() => setAll(true)}>Show all</Button>}
    >
      <Ledger
        label="Paid"
        rows={all ? paid : paid.slice(0, FEW)}
        rowId={(row) => row.id}
        rowName={(row) => `${whomOf(pricer, paying, row)}, ${showAmount(row.amount, row.currency)}`}
        columns={paidColumns(pricer, paying, (row) => void attempt('payout.remove', { ids: [row.id] }))}
        empty=""
      />
    </Section>
  );
}

function whomOf(pricer: Pricer, { costs }: PayingOut, { costId }: Payout): string {
  const cost = costs.get(costId);
  return (cost?.kind === 'expense' ? pricer.member.get(cost.memberId ?? '')?.name : cost?.supplier) || 'Nobody named';
}

const paidColumns = (pricer: Pricer, paying: PayingOut, back: (row: Payout) => void): Column<Payout>[] => [
  { key: 'day', head: 'Day', width: '84px', cell: (row) => showShortestDay(row.day) },
  {
    key: 'who',
    head: 'To whom',
    ownLine: true,
    width: 'minmax(0,1fr)',
    cell: (row) => {
      const cost = paying.costs.get(row.costId);
      return (
        <>
          <Link to={`/costs/cost/${row.costId}`} tabIndex={-1} className="written clamp-2 hover:underline">
            {whomOf(pricer, paying, row)}
          </Link>
          <span className="written block truncate text-xs text-soft">
            {[cost && whatFor(cost), row.source && 'told by a statement', row.note].filter(Boolean).join(' · ')}
          </span>
        </>
      );
    },
  },
  {
    key: 'amount',
    head: 'Paid',
    width: '120px',
    align: 'end',
    cell: (row) => (
      <>
        <span className="font-mono text-sm">{showAmount(row.amount, row.currency)}</span>
        {row.left && <span className="block text-xs text-soft">{showAmount(row.left.amount, row.left.currency)}</span>}
      </>
    ),
  },
  {
    key: 'back',
    head: 'Take back',
    quietHead: true,
    width: '110px',
    align: 'end',
    cell: (row) => (
      <Button kind="quiet" onClick={() => back(row)}>
        Take back
      </Button>
    ),
  },
];
