import { useAll } from '../../data/read';
import { nameOf, projectsUnder, tallyCurrency, type BudgetStanding } from '@half-penny/core/costing';
import { showAmount } from '@half-penny/core/money';
import { showLength } from '@half-penny/core/time';
import { useMemo, useState } from 'react';
import { useStandings, useWorkRows } from '../../data/work';
import { inWords } from '../../parts/budget-fill';
import { BudgetName, Burn, Pair } from '../../parts/burn';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page } from '../../parts/page';
import type { StandingProps } from './standing-page';
import { TakeOutTable } from './table-out';

const every = () => true;

/** What is used of each budget, and how it goes on at this pace. */
export function BurnReport({ pricer }: StandingProps) {
  const budgets = useAll('budgets');
  const projectIds = useMemo(
    () => [...new Set((budgets ?? []).flatMap((budget) => projectsUnder(pricer, budget)))],
    [budgets, pricer],
  );
  const work = useWorkRows(projectIds);
  const standings = useStandings(pricer, work, every);
  const [shown, setShown] = useState<string | null>(null);
  if (!budgets || !work) return <Loading />;
  const currencyOf = ({ budget }: BudgetStanding) => tallyCurrency(pricer, projectsUnder(pricer, budget)[0] ?? null);
  const words = (row: BudgetStanding) =>
    [
      row.hours && inWords(row.hours, 'hours', currencyOf(row)),
      row.money && inWords(row.money, 'money', currencyOf(row)),
    ]
      .filter(Boolean)
      .join('; ');
  const columns: Column<BudgetStanding>[] = [
    {
      key: 'name',
      head: 'Budget of',
      width: 'minmax(0,1fr)',
      cell: (row) => <BudgetName pricer={pricer} row={row} currency={currencyOf(row)} />,
    },
    ...(['of', 'used', 'left'] as const).map((part): Column<BudgetStanding> => ({
      key: part,
      head: { of: 'Budget', used: 'Used', left: 'Left' }[part],
      width: '120px',
      align: 'end',
      wideOnly: part !== 'used',
      cell: (row) => <Pair row={row} currency={currencyOf(row)} of={(measure) => measure[part]} />,
    })),
  ];
  const table = () => [
    ['Budget of', 'Hours', 'Hours used', 'Money', 'Money used', 'At this pace'],
    ...standings.map((row) => [
      nameOf(pricer, row.budget),
      row.hours ? showLength(row.hours.of) : '',
      row.hours ? showLength(row.hours.used) : '',
      row.money ? showAmount(row.money.of, currencyOf(row)) : '',
      row.money ? showAmount(row.money.used, currencyOf(row)) : '',
      words(row),
    ]),
  ];
  const chosen = standings.find(({ budget }) => budget.id === shown) ?? standings[0];
  return (
    <Page title="Budget burn" actions={<TakeOutTable name="Budget burn" table={table} />}>
      {chosen && <Burn pricer={pricer} work={work} standing={chosen} currency={currencyOf(chosen)} />}
      <Ledger
        label="Budgets"
        rows={standings}
        rowId={({ budget }) => budget.id}
        rowName={({ budget }) => nameOf(pricer, budget)}
        columns={columns}
        onActive={({ budget }) => setShown(budget.id)}
        marked={({ notice }) => notice}
        empty="No budget is set. A project or contract has its budgets on its own page."
      />
    </Page>
  );
}
