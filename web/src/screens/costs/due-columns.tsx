import type { Pricer } from '@half-penny/core/billing';
import type { Cost } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import type { Due } from '@half-penny/core/paying-out';
import { amountFigure, type Working } from '@half-penny/core/rates';
import { Link } from 'react-router';
import { Button } from '../../parts/button';
import { showShortestDay } from '../../parts/days';
import { Worth } from '../../parts/figures';
import type { Column } from '../../parts/ledger';
import { Tallies } from '../../parts/tallies';

/** Columns of what is owed: until when, to whom and into which account, how much. */
export function dueColumns(
  pricer: Pricer,
  dues: readonly Due[],
  today: string,
  askAccount: (due: Due) => void,
): Column<Due>[] {
  return [
    {
      key: 'day',
      head: 'Due',
      width: '84px',
      cell: (due) => {
        if (due.cost.kind === 'expense') return <span className="text-soft">–</span>;
        return (
          <span className={isLate(due, today) ? 'font-semibold text-attention' : ''}>{showShortestDay(due.day)}</span>
        );
      },
    },
    {
      key: 'who',
      head: 'To whom',
      ownLine: true,
      width: 'minmax(0,1.2fr)',
      cell: ({ cost, name, doubts }) => (
        <>
          <Link to={`/costs/cost/${cost.id}`} tabIndex={-1} className="written clamp-2 hover:underline">
            {name}
          </Link>
          <span className="written block truncate text-xs text-soft">{whatFor(cost)}</span>
          {doubts.map((doubt) => (
            <span key={doubt} className="block text-xs text-attention">
              {doubt}
            </span>
          ))}
        </>
      ),
    },
    {
      key: 'account',
      head: 'Account',
      width: 'minmax(0,1fr)',
      cell: (due) =>
        due.payee ? (
          <span className="font-mono text-sm break-all">{due.payee.number}</span>
        ) : (
          <Button kind="quiet" className="-ml-1.5" onClick={() => askAccount(due)}>
            Write the account down
          </Button>
        ),
    },
    {
      key: 'standing',
      head: 'Paid so far',
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: ({ cost: { currency }, paid, asked }) => (
        <>
          <span className="font-mono text-sm">{paid === 0 ? '–' : showAmount(paid, currency)}</span>
          {asked !== 0 && <span className="block text-xs text-soft">{showAmount(asked, currency)} asked</span>}
        </>
      ),
    },
    {
      key: 'left',
      head: 'Left to pay',
      width: '120px',
      align: 'end',
      cell: (due) => (
        <Worth
          amount={due.left}
          currency={due.cost.currency}
          of={`what is left to pay ${due.name}`}
          working={() => explainDue(due)}
        />
      ),
      foot: (
        <Tallies
          of="what is left to pay"
          home={pricer.book.workspace.currency}
          parts={dues.map((due) => ({ label: due.name, amount: due.left, currency: due.cost.currency }))}
        />
      ),
    },
  ];
}

/** A bill that is not paid and was due; members wait for what they spent without a day. */
export const isLate = ({ cost, left, day }: Due, today: string): boolean =>
  cost.kind === 'bill' && left > 0 && day < today;

/** "bill 4214 of 12 Nov", "spent at Corner shop on 3 Nov". */
export function whatFor(cost: Cost): string {
  const day = showShortestDay(cost.day);
  if (cost.kind === 'bill') return ['bill', cost.reference.trim(), `of ${day}`].filter(Boolean).join(' ');
  return cost.supplier.trim() ? `spent at ${cost.supplier.trim()} on ${day}` : `spent on ${day}`;
}

function explainDue({ name, cost: { currency }, gross, paid, asked, left }: Due): Working {
  return {
    title: name,
    steps: [
      { label: 'It comes to', figure: amountFigure(gross, currency) },
      ...(paid === 0 ? [] : [{ label: 'Paid', figure: amountFigure(-paid, currency) }]),
      ...(asked === 0 ? [] : [{ label: 'Asked of the bank', figure: amountFigure(-asked, currency) }]),
    ],
    result: { label: 'Left to pay', figure: amountFigure(left, currency) },
  };
}
