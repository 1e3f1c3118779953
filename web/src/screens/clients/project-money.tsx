import type { Pricer } from '@half-penny/core/billing';
import { tallyCurrency, type HeadingMoney, type Part } from '@half-penny/core/costing';
import type { Project } from '@half-penny/core/model';
import { bareAmount, sumExact } from '@half-penny/core/money';
import { sumWorking } from '@half-penny/core/rates';
import type { ProjectMoneyRead } from '../../data/project-money';
import { useChanges } from '../../data/session';
import { Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { AgreedAmounts } from './agreed-amounts';
import { CodeList } from './code-list';
import { Orders } from './orders';

interface ProjectMoneyProps {
  pricer: Pricer;
  project: Project;
}

/** A project's money: what was agreed, spent and billed, by cost code; and the amounts that were agreed. */
export function ProjectMoney({ pricer, project, money }: ProjectMoneyProps & { money: ProjectMoneyRead }) {
  const { rows, headings } = money;
  return (
    <>
      <ThreeGroups {...{ pricer, project, headings }} />
      <AgreedAmounts {...{ pricer, project, rows }} />
      <Orders {...{ pricer, project }} rows={rows.orders.filter((row) => row.projectId === project.id)} lines={rows} />
      <Headings {...{ pricer, project }} />
    </>
  );
}

/** Which cost codes the project's costs can fall under. */
function Headings({ pricer, project }: ProjectMoneyProps) {
  const { attempt } = useChanges();
  return (
    <Section title="Cost codes for its costs">
      <div className="border-t border-ink px-2 pt-3">
        <CodeList
          costCodes={pricer.book.costCodes.filter((code) => code.costType !== 'labour')}
          chosen={project.costCodeIds}
          save={(costCodeIds) => attempt('project.edit', { id: project.id, costCodeIds })}
          all="As the client: all, unless it has a list of its own."
          some="Only these are offered for costs of this project; the others say why they are not."
        />
      </div>
    </Section>
  );
}

/** Three groups side by side; each figure opens what it is made of. */
function ThreeGroups({ pricer, project, headings }: ProjectMoneyProps & { headings: HeadingMoney[] }) {
  const currency = tallyCurrency(pricer, project.id);
  const name = ({ costCodeId }: HeadingMoney) =>
    costCodeId === null ? 'No cost code' : (pricer.costCode.get(costCodeId)?.name ?? '');
  type Group = readonly [head: string, of: (row: HeadingMoney) => { amount: number; parts?: readonly Part[] }];
  const column = (key: string, [head, of]: Group, wideOnly = true): Column<HeadingMoney> => ({
    key,
    head,
    width: '88px',
    align: 'end',
    wideOnly,
    cell: (row) => {
      const { amount, parts } = of(row);
      if (amount === 0) return <span className="text-soft">–</span>;
      return parts ? (
        <Worth
          amount={amount}
          currency={currency}
          of={`${head}, ${name(row)}`}
          working={() =>
            sumWorking(
              `${name(row)}: ${head.toLowerCase()}`,
              parts.map((part) => ({ label: part.label, minor: part.amount })),
              currency,
            )
          }
        >
          <span className="font-mono text-sm">{bareAmount(amount, currency)}</span>
        </Worth>
      ) : (
        <span className="font-mono text-sm">{bareAmount(amount, currency)}</span>
      );
    },
    foot: (
      <span className="font-mono text-sm">{bareAmount(sumExact(headings.map((row) => of(row).amount)), currency)}</span>
    ),
  });
  const agreedOf = (row: HeadingMoney) => ({
    amount: sumExact([row.agreed.estimate.amount, row.agreed.allowances.amount, row.agreed.extras.amount]),
    parts: [...row.agreed.estimate.parts, ...row.agreed.allowances.parts, ...row.agreed.extras.parts],
  });
  const columns: Column<HeadingMoney>[] = [
    {
      key: 'name',
      head: 'Cost code',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{name(row)}</span>,
    },
    column('agreed', ['Agreed', agreedOf], false),
    column('committed', ['Ordered', (row) => row.happened.committed]),
    column('spent', ['Spent', (row) => row.happened.spent]),
    column('worked', ['Worked', (row) => row.happened.worked]),
    column('invoiced', ['Invoiced', (row) => row.asked.invoiced]),
    column('paid', ['Paid', (row) => ({ amount: row.asked.paid })]),
    column('toBill', ['Still to bill', (row) => row.asked.toBill], false),
    column('forecast', ['Expected final cost', (row) => ({ amount: row.forecastCost })]),
  ];
  return (
    <Section title="Agreed, spent, billed">
      <div
        aria-hidden
        className="mb-1 hidden grid-cols-[minmax(0,1fr)_88px_264px_264px_88px] text-xs text-soft md:grid"
      >
        <span />
        <span className="border-b border-money px-2 text-right text-money">agreed</span>
        <span className="border-b border-time px-2 text-right text-time">spent, at cost</span>
        <span className="border-b border-money px-2 text-right text-money">billed</span>
        <span className="border-b border-strong px-2 text-right">ahead</span>
      </div>
      <Ledger
        label="Money by cost code"
        rows={headings}
        rowId={(row) => row.costCodeId ?? 'none'}
        rowName={name}
        columns={columns}
        footLabel="Total"
        empty="Nothing was agreed, spent or worked yet."
      />
    </Section>
  );
}
