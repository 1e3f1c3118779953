import type { ChargeRows, Pricer } from '@half-penny/core/billing';
import { tallyCurrency } from '@half-penny/core/costing';
import type { Order, Project } from '@half-penny/core/model';
import { bareAmount, lessExact, readAmount, showAmount } from '@half-penny/core/money';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { Check } from '../../parts/check';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import type { Option } from '../../parts/select';
import { costOfLine } from './cost-of-line';

interface OrdersProps {
  pricer: Pricer;
  project: Project;
  rows: readonly Order[];
  lines: ChargeRows;
}

/** What was ordered for a project and how much of it suppliers still bill. */
export function Orders({ pricer, project, rows, lines }: OrdersProps) {
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
