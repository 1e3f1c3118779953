import { useRead } from '../../data/read';
import { isDue, type ChargeRows, type Pricer } from '@half-penny/core/billing';
import { allowanceUsed, projectMoney, tallyCurrency, type HeadingMoney, type Part } from '@half-penny/core/costing';
import { lineAmounts } from '@half-penny/core/costs';
import {
  agreedKinds,
  type Agreed,
  type AgreedKind,
  type CostLine,
  type Milestone,
  type Order,
  type Project,
} from '@half-penny/core/model';
import { bareAmount, readAmount, showAmount, sumExact, lessExact } from '@half-penny/core/money';
import { sumWorking } from '@half-penny/core/rates';
import { useMemo } from 'react';
import { useClientMoney } from '../../data/billing';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Check } from '../../parts/check';
import { AddLine } from '../../parts/add-line';
import { showShortDay } from '../../parts/days';
import type { Option } from '../../parts/select';
import { Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { CodeList } from './code-list';

interface ProjectMoneyProps {
  pricer: Pricer;
  project: Project;
}

/** A project's money: what was agreed, spent and billed, by cost code; and the amounts that were agreed. */
export function ProjectMoney({ pricer, project }: ProjectMoneyProps) {
  const client = pricer.clientOf(project.id);
  const rows = useClientMoney(pricer, client ? { clientId: client.id } : 'nobody');
  const orders = useRead(
    (reader) =>
      reader.by(
        'orders',
        'projectId',
        pricer.tree.downFrom(project.id).map((each) => each.id),
      ),
    [pricer, project.id],
  );
  const headings = useMemo(
    () => rows && orders && projectMoney(pricer, project.id, { ...rows, orders }),
    [pricer, project.id, rows, orders],
  );
  if (!headings || !rows || !orders) return <Loading />;
  return (
    <>
      <ThreeGroups {...{ pricer, project, headings }} />
      <AgreedAmounts {...{ pricer, project, rows }} />
      <Orders {...{ pricer, project }} rows={orders.filter((row) => row.projectId === project.id)} lines={rows} />
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

const kindWords: Record<AgreedKind, string> = {
  estimate: 'estimate',
  allowance: 'allowance',
  extra: 'extra',
  fixed: 'fixed amount',
};

function AgreedAmounts({ pricer, project, rows }: ProjectMoneyProps & { rows: ChargeRows }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const currency = tallyCurrency(pricer, project.id);
  const own = rows.agreed.filter((row) => row.projectId === project.id);
  const milestones = new Map(rows.milestones.map((row) => [row.id, row]));
  const columns: Column<Agreed>[] = [
    { key: 'kind', head: 'What', width: '104px', cell: (row) => kindWords[row.kind] },
    {
      key: 'text',
      head: 'For',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">{row.text}</span>
          <span className="block text-xs text-soft">{underOf(pricer, row, milestones, rows)}</span>
        </>
      ),
      edit: { text: (row) => row.text, save: (row, text) => run('agreed.edit', { id: row.id, text }) },
    },
    {
      key: 'by',
      head: 'Agreed with',
      width: 'minmax(0,0.6fr)',
      wideOnly: true,
      cell: (row) =>
        row.kind === 'extra' && (
          <span className="written clamp-2 text-sm">{row.agreedBy || <span className="text-soft">–</span>}</span>
        ),
      edit: {
        text: (row) => row.agreedBy,
        save: (row, agreedBy) => run('agreed.edit', { id: row.id, agreedBy }),
        when: (row) => row.kind === 'extra',
      },
    },
    {
      key: 'standing',
      head: 'Standing',
      width: '150px',
      cell: (row) => (
        <label className="flex items-center gap-2 text-sm">
          {(row.kind === 'extra' || row.kind === 'estimate') && (
            <Check
              aria-label={
                row.kind === 'extra'
                  ? `${row.text.slice(0, 40)} is agreed`
                  : `${row.text.slice(0, 40)} is billed itself`
              }
              checked={row.kind === 'extra' ? row.agreedOn !== null : row.billed}
              save={(checked) =>
                attempt(
                  'agreed.edit',
                  row.kind === 'extra'
                    ? { id: row.id, agreedOn: checked ? today : null }
                    : { id: row.id, billed: checked },
                )
              }
            />
          )}
          {standingOf(row, milestones)}
        </label>
      ),
    },
    {
      key: 'amount',
      head: 'Amount',
      width: '110px',
      align: 'end',
      cell: (row) => (
        <span className="font-mono text-sm font-semibold text-money">{showAmount(row.amount, currency)}</span>
      ),
      edit: {
        text: (row) => bareAmount(row.amount, currency),
        save: (row, typed) => run('agreed.edit', { id: row.id, amount: readAmount(typed, currency) }),
      },
    },
  ];
  const codes = pricer.book.costCodes.map((code): Option => [code.id, `${code.code} ${code.name}`]);
  const kinds = agreedKinds.filter((kind) => kind !== 'fixed' || project.kind === 'fixed price');
  return (
    <Section title="Agreed amounts">
      <Ledger
        label="Agreed amounts"
        rows={own}
        rowId={(row) => row.id}
        rowName={(row) => row.text}
        columns={columns}
        onDelete={(row) => void attempt('agreed.remove', { id: row.id })}
        empty="Nothing is agreed in figures. Estimates by cost code, allowances for what the client chooses later, extras, and parts of a fixed price stand here."
      />
      <AddLine
        label="Add an agreed amount"
        button="Add it"
        fields={[
          {
            key: 'kind',
            label: 'What',
            className: 'w-36',
            options: kinds.map((kind) => [kind, kindWords[kind]] as const),
            start: kinds[0]!,
          },
          { key: 'text', label: 'For', className: 'min-w-44 flex-1' },
          { key: 'amount', label: `Amount, ${currency}`, inputMode: 'decimal', className: 'w-32' },
          { key: 'costCodeId', label: 'Cost code', className: 'w-44', options: [['', 'No cost code'], ...codes] },
          {
            key: 'milestoneId',
            label: 'To bill when reached',
            className: 'w-44',
            options: [
              ['', 'at once'],
              ...[...milestones.values()]
                .filter((row) => row.projectId === project.id)
                .map((row): Option => [row.id, row.name]),
            ],
          },
        ]}
        add={({ kind, text = '', amount = '', costCodeId = '', milestoneId = '' }) =>
          run('agreed.add', {
            projectId: project.id,
            kind: kind as AgreedKind,
            text,
            amount: readAmount(amount, currency),
            costCodeId: costCodeId || null,
            milestoneId: kind === 'fixed' ? milestoneId || null : null,
          })
        }
      />
    </Section>
  );
}

function standingOf(row: Agreed, milestones: ReadonlyMap<string, Milestone>): string {
  if (row.kind === 'extra') return row.agreedOn ? `agreed ${showShortDay(row.agreedOn)}` : 'not agreed yet';
  if (row.kind === 'estimate') return row.billed ? 'billed itself' : 'actual costs are billed';
  if (row.kind === 'allowance') return 'set aside';
  return isDue(row, milestones) ? 'to bill' : 'when reached';
}

function underOf(pricer: Pricer, row: Agreed, milestones: ReadonlyMap<string, Milestone>, rows: ChargeRows): string {
  const code = pricer.costCode.get(row.costCodeId ?? '')?.name ?? '';
  const milestone = row.milestoneId ? (milestones.get(row.milestoneId)?.name ?? '') : '';
  if (row.kind !== 'allowance') return [code, milestone].filter(Boolean).join(' · ');
  const costOf = (id: string) =>
    costOfLine(
      pricer,
      rows,
      rows.costLines.find((line) => line.id === id)!,
    );
  const used = allowanceUsed(rows, row.id, costOf);
  const currency = tallyCurrency(pricer, row.projectId);
  const choice =
    used === 0
      ? 'nothing chosen yet'
      : `what was chosen cost ${showAmount(used, currency)}, ${showAmount(Math.abs(lessExact(row.amount, used)), currency)} ${used > row.amount ? 'more' : 'less'}`;
  return [code, choice].filter(Boolean).join(' · ');
}

function costOfLine(pricer: Pricer, rows: ChargeRows, line: CostLine): number {
  const cost = rows.costs.find((row) => row.id === line.costId)!;
  const tax = cost.taxId === null ? undefined : pricer.tax.get(cost.taxId);
  return lineAmounts(line, cost, tax, pricer.book.workspace.amountRounding).cost;
}

function Orders({ pricer, project, rows, lines }: ProjectMoneyProps & { rows: readonly Order[]; lines: ChargeRows }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const currency = tallyCurrency(pricer, project.id);
  const drawn = (order: Order) =>
    lines.costLines
      .filter((line) => line.orderId === order.id)
      .reduce((sum, line) => sum + costOfLine(pricer, lines, line), 0);
  const columns: Column<Order>[] = [
    { key: 'day', head: 'Day', width: '110px', wideOnly: true, cell: (row) => showShortDay(row.day) },
    {
      key: 'supplier',
      head: 'Supplier',
      width: 'minmax(0,0.7fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">{row.supplier}</span>
          <span className="block font-mono text-xs text-soft">{row.number}</span>
        </>
      ),
    },
    {
      key: 'text',
      head: 'For',
      width: 'minmax(0,1fr)',
      wideOnly: true,
      cell: (row) => (
        <>
          <span className="written clamp-2">{row.text}</span>
          <span className="block text-xs text-soft">{pricer.costCode.get(row.costCodeId ?? '')?.name}</span>
        </>
      ),
      edit: { text: (row) => row.text, save: (row, text) => run('order.edit', { id: row.id, text }) },
    },
    {
      key: 'amount',
      head: 'Ordered',
      width: '104px',
      align: 'end',
      cell: (row) => <span className="font-mono text-sm">{showAmount(row.amount, row.currency)}</span>,
      edit: {
        text: (row) => bareAmount(row.amount, row.currency),
        save: (row, typed) => run('order.edit', { id: row.id, amount: readAmount(typed, row.currency) }),
      },
    },
    {
      key: 'left',
      head: 'Still to come',
      width: '104px',
      align: 'end',
      cell: (row) => (
        <span className="font-mono text-sm">
          {row.closed ? 'closed' : showAmount(Math.max(0, lessExact(row.amount, drawn(row))), row.currency)}
        </span>
      ),
    },
    {
      key: 'closed',
      head: 'Closed',
      width: '70px',
      align: 'center',
      cell: (row) => (
        <Check
          aria-label={`The order to ${row.supplier.slice(0, 40)} is closed`}
          checked={row.closed}
          save={(checked) => attempt('order.edit', { id: row.id, closed: checked })}
        />
      ),
    },
  ];
  return (
    <Section title="Orders to suppliers">
      <Ledger
        label="Orders to suppliers"
        rows={rows}
        rowId={(row) => row.id}
        rowName={(row) => `${row.supplier} ${row.text}`}
        columns={columns}
        onDelete={(row) => void attempt('order.remove', { id: row.id })}
        empty="Nothing is ordered. An order is committed until the supplier’s bills draw it down."
      />
      <AddLine
        label="Add an order"
        button="Add the order"
        fields={[
          { key: 'supplier', label: 'Supplier', className: 'w-44' },
          { key: 'text', label: 'For', className: 'min-w-40 flex-1' },
          { key: 'number', label: 'Number', className: 'w-28' },
          { key: 'amount', label: `Amount, ${currency}`, inputMode: 'decimal', className: 'w-28' },
          {
            key: 'costCodeId',
            label: 'Cost code',
            className: 'w-44',
            options: [
              ['', 'No cost code'],
              ...pricer.book.costCodes
                .filter((code) => code.costType !== 'labour')
                .map((code): Option => [code.id, `${code.code} ${code.name}`]),
            ],
          },
        ]}
        add={({ supplier = '', text = '', number = '', amount = '', costCodeId = '' }) =>
          run('order.add', {
            projectId: project.id,
            supplier,
            text,
            number,
            day: today,
            currency,
            amount: readAmount(amount, currency),
            costCodeId: costCodeId || null,
          })
        }
      />
    </Section>
  );
}
