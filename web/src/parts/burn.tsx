import { burnLine, nameOf, type BudgetStanding, type Measure } from '@half-penny/core/costing';
import type { Pricer } from '@half-penny/core/billing';
import { showAmount } from '@half-penny/core/money';
import { showDayShort, showLength } from '@half-penny/core/time';
import { lazy, Suspense, useMemo, useState } from 'react';
import { useToday } from '../data/queries';
import type { WorkRows } from '../data/work';
import { BudgetFill, inWords } from './budget-fill';
import { Button } from './button';

const BurnChart = lazy(() => import('./burn-chart'));

/** What a budget is of, with how much of it is used. */
export function BudgetName({ pricer, row, currency }: { pricer: Pricer; row: BudgetStanding; currency: string }) {
  return (
    <span className="block min-w-0">
      <span className="written clamp-2">{nameOf(pricer, row.budget)}</span>
      <BudgetFill standing={row} currency={currency} />
      {row.budget.cap && <span className="block text-xs text-soft">must not be exceeded: invoices stop there</span>}
    </span>
  );
}

/** Hours over money, where a budget has both. */
export function Pair({
  row,
  currency,
  of,
}: {
  row: BudgetStanding;
  currency: string;
  of: (measure: Measure) => number;
}) {
  const attention = (value: number) => (value < 0 ? 'text-attention' : '');
  return (
    <span className="font-mono text-sm whitespace-nowrap">
      {row.hours && (
        <span className={`block text-time ${attention(of(row.hours))}`}>{showLength(of(row.hours))} h</span>
      )}
      {row.money && (
        <span className={`block text-money ${attention(of(row.money))}`}>{showAmount(of(row.money), currency)}</span>
      )}
    </span>
  );
}

/** The line along which a budget is used, with the same values as a table. */
export function Burn({
  pricer,
  work,
  standing,
  currency,
}: {
  pricer: Pricer;
  work: WorkRows;
  standing: BudgetStanding;
  currency: string;
}) {
  const today = useToday();
  const [table, setTable] = useState(false);
  const points = useMemo(
    () => burnLine(pricer, standing, work.entries, work.allocations, today),
    [pricer, standing, work, today],
  );
  const main = (standing.hours ?? standing.money)!;
  const show = (value: number) => (standing.hours ? `${showLength(value)} h` : showAmount(value, currency));
  const name = nameOf(pricer, standing.budget);
  return (
    <figure className="mt-4 px-2" aria-label={`How the budget of ${name} is used`}>
      <figcaption className="flex flex-wrap items-baseline gap-3 text-sm">
        <span>
          {name}: {inWords(main, standing.hours ? 'hours' : 'money', currency)}
        </span>
        <Button kind="quiet" onClick={() => setTable(!table)}>
          {table ? 'As a line' : 'As a table'}
        </Button>
      </figcaption>
      {table ? (
        <div className="max-h-56 max-w-md overflow-auto">
          <table className="mt-2 w-full text-sm">
            <thead>
              <tr className="border-b border-ink text-left text-xs text-soft">
                <th className="py-1 font-semibold">Day</th>
                <th className="text-right font-semibold">Used</th>
                <th className="text-right font-semibold">At this pace</th>
              </tr>
            </thead>
            <tbody className="font-mono">
              {points.map((point) => (
                <tr key={point.day} className="border-b border-rule">
                  <td className="py-0.5">{showDayShort(point.day)}</td>
                  <td className="text-right">{point.used === null ? '' : show(point.used)}</td>
                  <td className="text-right text-soft italic">{point.forecast === null ? '' : show(point.forecast)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : (
        <Suspense fallback={<div className="h-48" />}>
          <BurnChart {...{ points, show }} budget={main.of} kind={standing.hours ? 'time' : 'money'} />
        </Suspense>
      )}
    </figure>
  );
}
