import { burnLine, nameOf, projectsUnder, type BudgetStanding, type Measure } from '@half-penny/core/costs';
import type { Pricer } from '@half-penny/core/billing';
import type { Budget, Id } from '@half-penny/core/model';
import { readAmount, showAmount } from '@half-penny/core/money';
import { showDayShort, showLength } from '@half-penny/core/time';
import { lazy, Suspense, useCallback, useMemo, useState } from 'react';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { useStandings, useWorkRows, type WorkRows } from '../../data/work';
import { AddLine } from '../../parts/add-line';
import { BudgetFill, inWords } from '../../parts/budget-fill';
import { Button } from '../../parts/button';
import { Ledger, type Column } from '../../parts/ledger';
import { readEstimate } from './tasks';

const BurnChart = lazy(() => import('./burn-chart'));

/** What a new budget can be for. */
export interface BudgetSubject {
  projectId: Id | null;
  taskId: Id | null;
  contractId: Id | null;
  name: string;
}

interface BudgetsProps {
  pricer: Pricer;
  subjects: readonly BudgetSubject[];
  currency: string;
}

/** Budgets of a project and its tasks, or of a contract: used, to bill, invoiced, left, and how it goes on. */
export function Budgets({ pricer, subjects, currency }: BudgetsProps) {
  const { run, attempt } = useChanges();
  const [shown, setShown] = useState<Id | null>(null);
  const wanted = useCallback(
    (budget: Budget) =>
      subjects.some(
        (subject) =>
          (budget.projectId !== null && budget.projectId === subject.projectId) ||
          (budget.taskId !== null && budget.taskId === subject.taskId) ||
          (budget.contractId !== null && budget.contractId === subject.contractId),
      ),
    [subjects],
  );
  const projectIds = useMemo(
    () => [...new Set(subjects.flatMap((subject) => projectsUnder(pricer, subject)))],
    [subjects, pricer],
  );
  const work = useWorkRows(projectIds);
  const standings = useStandings(pricer, work, wanted);
  const columns: Column<BudgetStanding>[] = [
    {
      key: 'name',
      head: 'Budget of',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <span className="block min-w-0">
          <span className="written clamp-2">{nameOf(pricer, row.budget)}</span>
          <BudgetFill standing={row} currency={currency} />
          {row.budget.cap && <span className="block text-xs text-soft">may not be passed: invoices stop there</span>}
        </span>
      ),
    },
    {
      key: 'of',
      head: 'Budget',
      width: '108px',
      align: 'end',
      cell: (row) => <Pair {...{ row, currency }} of={(measure) => measure.of} />,
    },
    {
      key: 'used',
      head: 'Used',
      width: '108px',
      align: 'end',
      cell: (row) => <Pair {...{ row, currency }} of={(measure) => measure.used} />,
    },
    {
      key: 'left',
      head: 'Left',
      width: '108px',
      align: 'end',
      wideOnly: true,
      cell: (row) => <Pair {...{ row, currency }} of={(measure) => measure.left} />,
    },
    {
      key: 'billed',
      head: 'Invoiced, to bill',
      width: '118px',
      align: 'end',
      wideOnly: true,
      cell: ({ tally }) => (
        <span className="font-mono text-sm">
          <span className="block text-money">{showAmount(tally.invoiced, currency)}</span>
          <span className="block text-soft">{showAmount(tally.toBill, currency)}</span>
        </span>
      ),
    },
    {
      key: 'notice',
      head: 'Notice at',
      width: '80px',
      align: 'end',
      wideOnly: true,
      cell: ({ budget }) => `${budget.noticeAt} %`,
      edit: {
        text: ({ budget }) => String(budget.noticeAt),
        save: ({ budget }, text) => run('budget.edit', { id: budget.id, noticeAt: Number(text.replace('%', '')) }),
      },
    },
  ];
  const chosen = standings.find((standing) => standing.budget.id === shown) ?? standings[0];
  const codes = pricer.book.costCodes;
  return (
    <>
      <Ledger
        label="Budgets"
        rows={standings}
        rowId={({ budget }) => budget.id}
        rowName={({ budget }) => nameOf(pricer, budget)}
        columns={columns}
        onOpen={({ budget }) => setShown(budget.id)}
        onActive={({ budget }) => setShown(budget.id)}
        onDelete={({ budget }) => void attempt('budget.remove', { id: budget.id })}
        marked={({ notice }) => notice}
        empty="No budget. With one, used hours and money are compared with it, and a share that is passed is noticed here and in the Till."
      />
      {chosen && work && <Burn {...{ pricer, work, currency }} standing={chosen} />}
      <AddLine
        label="Add a budget"
        button="Add the budget"
        fields={[
          {
            key: 'subject',
            label: 'Budget of',
            className: 'w-52',
            options: subjects.map((subject, index) => [String(index), subject.name] as const),
            start: '0',
          },
          ...(codes.length > 0
            ? [
                {
                  key: 'costCodeId',
                  label: 'Cost code',
                  className: 'w-44',
                  options: [
                    ['', 'All'] as const,
                    ...codes.map((code) => [code.id, `${code.code} ${code.name}`] as const),
                  ],
                },
              ]
            : []),
          { key: 'seconds', label: 'Hours', placeholder: '120', className: 'w-24' },
          { key: 'money', label: `Money, ${currency}`, inputMode: 'decimal', placeholder: '9,000', className: 'w-32' },
          {
            key: 'cap',
            label: 'May it be passed?',
            className: 'w-40',
            options: [
              ['', 'Yes, with a notice'],
              ['cap', 'No, invoices stop'],
            ],
          },
        ]}
        add={({ subject = '0', costCodeId = '', seconds = '', money = '', cap = '' }) => {
          const { name: _name, ...where } = subjects[Number(subject)] ?? subjects[0]!;
          return run('budget.add', {
            ...where,
            costCodeId: costCodeId || null,
            seconds: readEstimate(seconds),
            money: readMoney(money, currency),
            cap: cap !== '',
          });
        }}
      />
    </>
  );
}

/** Whole minor units as typed; nothing where nothing is typed. */
export function readMoney(text: string, currency: string): number | null {
  return text.trim() === '' ? null : readAmount(text, currency);
}

/** Hours over money, where a budget has both. */
function Pair({ row, currency, of }: { row: BudgetStanding; currency: string; of: (measure: Measure) => number }) {
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
function Burn({
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
