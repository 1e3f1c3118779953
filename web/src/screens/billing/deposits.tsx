import { useBy } from '../../data/read';
import { remainingOfDeposit, deductedOf } from '@half-penny/core/billing';
import type { Client, Deposit } from '@half-penny/core/model';
import { inStyle, plainAmount, readAmount, showAmount } from '@half-penny/core/money';
import { useState } from 'react';
import { useInvoices } from '../../data/billing';
import { useToday } from '../../data/queries';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { useSubmit } from '../../parts/use-submit';
import { AddLine } from '../../parts/add-line';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';

/** Money a client paid ahead, with what is left of it to deduct. */
export function Deposits({ client }: { client: Client }) {
  const { run, attempt } = useChanges();
  const today = useToday();
  const invoices = useInvoices();
  const [back, setBack] = useState<Deposit | null>(null);
  const rows = useBy('deposits', 'clientId', [client.id]);
  if (!rows || !invoices) return null;
  const all = invoices.map(({ invoice }) => invoice);
  const leftOf = (row: Deposit) => remainingOfDeposit(row, deductedOf(row.id, all));
  const columns: Column<Deposit>[] = [
    { key: 'day', head: 'Day', width: '120px', cell: (row) => showShortDay(row.day) },
    {
      key: 'note',
      head: 'Note',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <>
          <span className="written clamp-2">{row.note || 'Paid ahead'}</span>
          {(row.paidBack ?? []).map((each) => (
            <span key={each.id} className="block text-xs text-soft">
              {showAmount(each.amount, row.currency)} paid back {showShortDay(each.day)}
            </span>
          ))}
        </>
      ),
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
      cell: (row) => <span className="font-mono text-sm text-money">{showAmount(leftOf(row), row.currency)}</span>,
    },
    {
      key: 'back',
      head: 'Pay back',
      quietHead: true,
      width: '110px',
      align: 'end',
      cell: (row) =>
        leftOf(row) > 0 && (
          <Button kind="quiet" onClick={() => setBack(row)}>
            Pay back
          </Button>
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
        {back && <PayBackDialog deposit={back} left={leftOf(back)} today={today} onClose={() => setBack(null)} />}
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

interface PayBackProps {
  deposit: Deposit;
  left: number;
  today: string;
  onClose: () => void;
}

/** Money paid ahead, or twice, that goes back to the client. */
function PayBackDialog({ deposit, left, today, onClose }: PayBackProps) {
  const { run } = useChanges();
  const [amount, setAmount] = useState(inStyle(plainAmount(left, deposit.currency)));
  const [day, setDay] = useState(today);
  const [note, setNote] = useState('');
  const { fault, faults, submit } = useSubmit(async () => {
    await run('deposit.payBack', { id: deposit.id, day, note, amount: readAmount(amount, deposit.currency) });
    onClose();
  }, ['amount', 'day']);
  return (
    <Dialog
      open
      onClose={onClose}
      title="Pay back"
      about={`${showAmount(left, deposit.currency)} are not deducted yet.`}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <TextField
          label={`Amount, ${deposit.currency}`}
          inputMode="decimal"
          value={amount}
          fault={faults.amount ?? fault}
          onChange={(event) => setAmount(event.target.value)}
        />
        <DayField label="Day" value={day} fault={faults.day} onPick={setDay} />
        <TextField label="Note" value={note} onChange={(event) => setNote(event.target.value)} />
        <Button type="submit" kind="main" className="self-end">
          Record it
        </Button>
      </form>
    </Dialog>
  );
}
