import { Charges, explainCharge, type Pricer } from '@half-penny/core/billing';
import type { Cost, CostKind, CostLine } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { isOwed, type Due } from '@half-penny/core/paying-out';
import { Paperclip } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { CostRow, CostStanding } from '../../data/costs';
import { showShortestDay } from '../../parts/days';
import type { WorthSeen } from '../../data/worth-seen';
import { Worth } from '../../parts/figures';
import type { Column } from '../../parts/ledger';

export const kindNames: Record<CostKind, string> = {
  expense: 'Expense',
  bill: 'Supplier bill',
  ledger: 'Ledger line',
};

const standingLook: Record<CostStanding, string> = {
  'to place': 'rounded-sm bg-attention-ground px-1.5 py-0.5 font-semibold text-attention',
  'to bill': 'text-ink',
  'on a draft': 'text-soft italic',
  'part billed': 'text-ink',
  'by estimate': 'text-soft italic',
  billed: 'text-soft',
  internal: 'text-soft',
};

/** What a line is known by: its text, or who was paid where the bookkeeping says hardly more. */
const nameOf = (cost: Cost, line: CostLine): string =>
  (cost.kind === 'ledger' ? cost.supplier || line.text : line.text || cost.supplier) || kindNames[cost.kind];

/** Columns of lines of costs: what was bought, what it is for, what it cost and what the client pays. */
export function costColumns(pricer: Pricer, seen: WorthSeen, together: ReactNode): Column<CostRow>[] {
  return [
    { key: 'day', head: 'Day', width: '64px', cell: ({ cost }) => showShortestDay(cost.day) },
    {
      key: 'what',
      head: 'What',
      ownLine: true,
      width: 'minmax(0,1.3fr)',
      cell: ({ cost, line, needsReceipt }) => (
        <>
          <Link to={`/costs/cost/${cost.id}`} tabIndex={-1} className="written clamp-2 hover:underline">
            {nameOf(cost, line)}
          </Link>
          <span className="flex items-center gap-1 text-xs text-soft">
            <span className="written truncate">
              {[
                kindNames[cost.kind],
                nameOf(cost, line) === line.text ? cost.supplier : line.text,
                pricer.member.get(cost.memberId ?? '')?.name,
              ]
                .filter(Boolean)
                .join(' · ')}
            </span>
            {cost.receiptIds.length > 0 && <Paperclip size={12} aria-label="has a receipt" className="shrink-0" />}
            {needsReceipt && <span className="shrink-0 text-attention">needs a receipt</span>}
          </span>
          {cost.since && (
            <span className="block text-xs text-attention">
              {cost.since.withdrawn
                ? 'withdrawn in the bookkeeping since it was billed'
                : `${showAmount(cost.since.amount, cost.currency)} in the bookkeeping since it was billed`}
            </span>
          )}
        </>
      ),
    },
    {
      key: 'job',
      head: 'Project and cost code',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: ({ line }) => (
        <>
          <span className="written clamp-2 text-sm">
            {line.projectId
              ? pricer.tree.pathOf(line.projectId)
              : line.unlisted || <span className="text-soft">–</span>}
          </span>
          <span className="block truncate text-xs text-soft">{pricer.costCode.get(line.costCodeId ?? '')?.name}</span>
        </>
      ),
    },
    {
      key: 'standing',
      head: 'Standing',
      width: '104px',
      cell: ({ standing, due, cost }) => (
        <>
          <span className={`text-sm whitespace-nowrap ${standingLook[standing]}`}>{standing}</span>
          {isOwed(cost) && <span className="block text-xs text-soft">{sayDue(cost, due)}</span>}
        </>
      ),
    },
    {
      key: 'cost',
      head: 'Cost',
      width: '96px',
      align: 'end',
      cell: ({ net, cost }) => <span className="font-mono text-sm">{showAmount(net, cost.currency)}</span>,
      foot: together,
    },
    ...(seen.any ? [priceColumn(pricer, seen)] : []),
  ];
}

/** What the client pays for it. */
function priceColumn(pricer: Pricer, seen: WorthSeen): Column<CostRow> {
  return {
    key: 'price',
    head: 'Price',
    width: '96px',
    align: 'end',
    wideOnly: true,
    cell: (row) => {
      const charge = row.standing === 'internal' || !seen.on(row.line.projectId) ? null : chargeOf(pricer, row);
      return (
        charge && (
          <Worth
            amount={charge.amount}
            currency={charge.currency}
            of={row.line.text || row.cost.supplier}
            working={() => explainCharge(pricer, charge)}
          />
        )
      );
    },
  };
}

/** "due 12 Dec", "part paid, due 12 Dec", "paid", "owed back". */
function sayDue(cost: Cost, due: Due | null): string {
  const isBill = cost.kind === 'bill';
  if (!due) return isBill ? 'paid' : 'paid back';
  if (due.left === 0) return 'asked of the bank';
  const until = isBill ? `due ${showShortestDay(due.day)}` : 'owed back';
  return due.paid === 0 ? until : `part paid, ${until}`;
}

/** What a line is charged at, all of it. */
export function chargeOf(pricer: Pricer, { cost, line, amount }: Pick<CostRow, 'cost' | 'line' | 'amount'>) {
  return new Charges(pricer, { costs: [cost], costLines: [line], agreed: [], milestones: [] }).ofLine(line, amount);
}
