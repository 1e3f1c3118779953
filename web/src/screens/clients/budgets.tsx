import { nameOf, projectsUnder, type BudgetStanding } from '@half-penny/core/costing';
import type { Pricer } from '@half-penny/core/billing';
import type { Budget, Id } from '@half-penny/core/model';
import { readAmount, showAmount } from '@half-penny/core/money';
import { useCallback, useMemo, useState } from 'react';
import { useChanges } from '../../data/session';
import { useStandings, useWorkRows, type WorkRows } from '../../data/work';
import { AddLine } from '../../parts/add-line';
import { BudgetName, Burn, Pair } from '../../parts/burn';
import { Ledger, type Column } from '../../parts/ledger';
import { readEstimate } from './tasks';

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
  /** What was recorded there, where somebody else reads that; null until it is read. */
  work?: WorkRows | null;
}

/** Budgets of a project and its tasks, or of a contract: used, to bill, invoiced, left, and how it goes on. */
export function Budgets({ pricer, subjects, currency, work: given }: BudgetsProps) {
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
  const work = useWorkRows(projectIds, given);
  const standings = useStandings(pricer, work, wanted);
  const columns: Column<BudgetStanding>[] = [
    {
      key: 'name',
      head: 'Budget of',
      width: 'minmax(0,1fr)',
      cell: (row) => <BudgetName pricer={pricer} row={row} currency={currency} />,
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
      head: 'Warn at',
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
        reading={!work}
        empty="No budget. With one, used hours and money are compared with it, and a share that is passed is noticed here and in the Till."
      />
      {chosen && work && <Burn {...{ pricer, work, currency }} standing={chosen} />}
      {work && (
        <AddLine
          label="Add a budget"
          folded={standings.length > 0}
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
            {
              key: 'money',
              label: `Money, ${currency}`,
              inputMode: 'decimal',
              placeholder: '9,000',
              className: 'w-32',
            },
            {
              key: 'cap',
              label: 'May it be exceeded?',
              className: 'w-40',
              options: [
                ['', 'Yes, with a warning'],
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
      )}
    </>
  );
}

/** Whole minor units as typed; nothing where nothing is typed. */
export function readMoney(text: string, currency: string): number | null {
  return text.trim() === '' ? null : readAmount(text, currency);
}
