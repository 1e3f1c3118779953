import { useBy } from '../../data/read';
import { remainingOfDeposit, deductedOf } from '@half-penny/core/billing';
import type { Client, Deposit } from '@half-penny/core/model';
import { readAmount, showAmount } from '@half-penny/core/money';
import { useInvoices } from '../../data/billing';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { AddLine } from '../../parts/add-line';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

/** Money a client paid ahead, with what is left of it to deduct. */
export function Deposits({ client }: { client: Client }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const invoices = useInvoices();
  const rows = useBy('deposits', 'clientId', [client.id]);
  if (!rows || !invoices) return null;
  const all = invoices.map(({ invoice }) => invoice);
  const columns: Column<Deposit>[] = [
    { key: 'day', head: 'Day', width: '120px', cell: (row) => showShortDay(row.day) },
    {
      key: 'note',
      head: 'Note',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.note || 'Paid ahead'}</span>,
      edit: { text: (row) => row.note, save: (row, note) => run('deposit.edit', { id: row.id, note }) },
    },
    {
      key: 'amount',
      head: 'Paid',
      width: '110px',
      align: 'end',
      cell: (row) => <span className="font-mono text-sm">{showAmount(row.amount, row.currency)}</span>,
    },
    {
      key: 'left',
      head: 'To deduct',
      width: '110px',
      align: 'end',
      cell: (row) => (
        <span className="font-mono text-sm text-money">
          {showAmount(remainingOfDeposit(row, deductedOf(row.id, all)), row.currency)}
        </span>
      ),
    },
  ];
  return (
    <div className="mt-8">
      <Section title="Paid ahead">
        <Ledger
          label={`Paid ahead by ${client.name}`}
          rows={rows}
          rowId={(row) => row.id}
          rowName={(row) => row.note || row.day}
          columns={columns}
          onDelete={(row) => void attempt('deposit.remove', { id: row.id })}
          empty="Nothing was paid ahead. A deposit that came in is deducted from a later invoice."
        />
        <AddLine
          label="Add a deposit"
          button="Add the deposit"
          fields={[
            { key: 'amount', label: `Amount, ${client.currency}`, inputMode: 'decimal', className: 'w-36' },
            { key: 'day', label: 'Day', type: 'date', className: 'w-40', start: today },
            { key: 'note', label: 'Note', className: 'min-w-44 flex-1' },
          ]}
          add={({ amount = '', day = '', note = '' }) =>
            run('deposit.add', {
              clientId: client.id,
              day,
              note,
              currency: client.currency,
              amount: readAmount(amount, client.currency),
            })
          }
        />
      </Section>
    </div>
  );
}
