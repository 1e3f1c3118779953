import { advanceStanding, lapsingOn, type AdvanceStanding, type Draft, type Pricer } from '@half-penny/core/billing';
import { Fault, needText, readAll, type Client } from '@half-penny/core/model';
import { readAmount, readDecimal, showAmount, type Minor } from '@half-penny/core/money';
import { showLength } from '@half-penny/core/time';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { InvoiceRecords } from '../../data/invoice-records';
import { useAll, useBy } from '../../data/read';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { DayField } from '../../parts/day-field';
import { showShortDay } from '../../parts/days';
import { Dialog } from '../../parts/dialog';
import { TextField } from '../../parts/field';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { SelectField } from '../../parts/select';
import { taxOptions } from '../../parts/tax-options';
import { useSubmit } from '../../parts/use-submit';

/** Hours as a decimal figure, in seconds. */
export function readHours(typed: string): number {
  const seconds = Math.round(Number(readDecimal(typed, 'number')) * 3600);
  if (seconds < 1) throw new Fault('out-of-range', 'It stands for more than no hours.', 'hours');
  return seconds;
}

/** What a client was invoiced ahead of the work: deposits and retainers, and what is left of them. */
export function InvoicedAhead({ pricer, client }: { pricer: Pricer; client: Client }) {
  const invoices = useBy('invoices', 'clientId', [client.id]);
  const [asking, setAsking] = useState(false);
  if (!invoices) return null;
  const rows = invoices
    .filter((row) => row.advance && row.frozen && !row.voided)
    .map((row) => advanceStanding(row, invoices, pricer.book.workspace.amountRounding))
    .sort((one, other) => other.invoice.seq! - one.invoice.seq!);
  return (
    <div className="mt-8">
      <Section title="Invoiced ahead" actions={<Button onClick={() => setAsking(true)}>Deposit invoice</Button>}>
        <Ledger
          label={`Invoiced ahead to ${client.name}`}
          rows={rows}
          rowId={(row) => row.invoice.id}
          rowName={(row) => row.invoice.frozen!.number}
          columns={columns}
          empty="Nothing was invoiced ahead of the work. A deposit invoice bears its own tax and is deducted from later invoices; a retainer is agreed under Run."
        />
      </Section>
      {asking && <AskAhead {...{ pricer, client }} onClose={() => setAsking(false)} />}
    </div>
  );
}

const sum = (key: 'asked' | 'used' | 'lapsed' | 'left', head: string): Column<AdvanceStanding> => ({
  key,
  head,
  width: '116px',
  align: 'end',
  wideOnly: key === 'used' || key === 'lapsed',
  cell: (row) => (
    <span className={`font-mono text-sm ${key === 'left' ? 'font-semibold text-money' : ''}`}>
      {showAmount(row[key], row.invoice.currency)}
    </span>
  ),
});

const columns: Column<AdvanceStanding>[] = [
  {
    key: 'number',
    head: 'Invoice',
    width: '104px',
    cell: ({ invoice }) => (
      <Link to={`/billing/invoice/${invoice.id}`} className="font-mono text-sm font-semibold hover:underline">
        {invoice.frozen!.number}
      </Link>
    ),
  },
  {
    key: 'what',
    head: 'What',
    width: 'minmax(0,1fr)',
    ownLine: true,
    cell: ({ invoice, seconds }) => (
      <>
        <span className="written clamp-2">{invoice.frozen!.lines[0]!.text}</span>
        <span className="block text-xs text-soft">
          {[
            invoice.advance!.until && `until ${showShortDay(invoice.advance!.until)}`,
            seconds !== null && `${showLength(seconds)} h left`,
            !invoice.advance!.carried && 'the rest is lost',
          ]
            .filter(Boolean)
            .join(', ')}
        </span>
      </>
    ),
  },
  sum('asked', 'Before tax'),
  sum('used', 'Used'),
  sum('lapsed', 'Lapsed'),
  sum('left', 'Left'),
];

/** A draft that asks for money before the work. */
function AskAhead({ pricer, client, onClose }: { pricer: Pricer; client: Client; onClose: () => void }) {
  const { run } = useChanges();
  const navigate = useNavigate();
  const [typed, setTyped] = useState({ text: 'Deposit', amount: '', hours: '' });
  const [taxId, setTaxId] = useState(client.taxId ?? '');
  const [taxPoint, setTaxPoint] = useState('');
  const { fault, faults, submit } = useSubmit(async () => {
    const read = readAll({
      text: () => needText(typed.text, 'Say what it is for.'),
      amount: () => readAmount(typed.amount, client.currency),
      hours: () => (typed.hours.trim() === '' ? null : readHours(typed.hours)),
    });
    const row = await run('advance.ask', {
      clientId: client.id,
      text: read.text,
      amount: read.amount,
      taxId: taxId || null,
      seconds: read.hours,
      taxPoint: taxPoint || null,
    });
    void navigate(`/billing/invoice/${row.changes[0]!.id}`);
  }, ['text', 'amount', 'hours', 'taxPoint']);
  const field = (name: keyof typeof typed, label: string, hint?: string) => (
    <TextField
      label={label}
      {...(hint && { hint })}
      inputMode={name === 'text' ? 'text' : 'decimal'}
      value={typed[name]}
      fault={faults[name]}
      onChange={(event) => setTyped((now) => ({ ...now, [name]: event.target.value }))}
    />
  );
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Deposit invoice to ${client.name}`}
      about="It asks for money ahead of the work, with its tax. Later invoices deduct it, tax by tax."
    >
      <form onSubmit={submit} className="grid grid-cols-2 gap-3">
        <div className="col-span-2">{field('text', 'What it is for')}</div>
        {field('amount', `Before tax, ${client.currency}`)}
        {field('hours', 'Hours that it stands for', 'Empty where it is a sum alone')}
        <SelectField
          label="Tax"
          value={taxId}
          options={[['', 'No tax'], ...taxOptions(pricer)]}
          onPick={(picked) => setTaxId(picked)}
        />
        <DayField label="Tax point, if paid before" value={taxPoint} fault={faults.taxPoint} onPick={setTaxPoint} />
        {fault && (
          <p role="alert" className="col-span-2 text-fault">
            {fault}
          </p>
        )}
        <Button type="submit" kind="main" className="col-span-2 justify-self-end">
          Draft it
        </Button>
      </form>
    </Dialog>
  );
}

/** What was invoiced ahead, to be deducted from a draft. */
export function DrawAhead({ draft, records }: { draft: Draft; records: InvoiceRecords }) {
  const { attempt } = useChanges();
  const { invoice, advances } = records;
  const open = advances.filter((row) => row.invoice.currency === draft.currency && row.invoice.id !== invoice.id);
  if (open.length === 0) return null;
  return (
    <div className="flex flex-col gap-2">
      {open.map(({ invoice: advance, left }) => (
        <div key={advance.id} className="flex items-center justify-between gap-3 border-l-[3px] border-time pl-3">
          <span className="min-w-0">
            {showAmount(left, draft.currency)} <span className="text-soft">left of {advance.frozen!.number}</span>
          </span>
          <Button kind="quiet" onClick={() => void attempt('advance.draw', { id: invoice.id, advanceId: advance.id })}>
            Deduct
          </Button>
        </div>
      ))}
    </div>
  );
}

/** What is left of retainers whose time went by, and is lost by agreement. */
export function Lapsing({ pricer, today }: { pricer: Pricer; today: string }) {
  const { attempt } = useChanges();
  const invoices = useAll('invoices');
  if (!invoices) return null;
  const rows = lapsingOn(invoices, today, pricer.book.workspace.amountRounding);
  if (rows.length === 0) return null;
  const words = (left: Minor, currency: string, number: string) => `${showAmount(left, currency)} left of ${number}`;
  return (
    <Section title="Retainers whose time went by">
      <ul className="border-t border-ink">
        {rows.map(({ standing: { invoice, left }, ended }) => (
          <li key={invoice.id} className="flex flex-wrap items-center gap-3 border-b border-rule px-2 py-2">
            <span className="written min-w-0 flex-1">
              {pricer.client.get(invoice.clientId)?.name}: {words(left, invoice.currency, invoice.frozen!.number)}{' '}
              <span className="text-soft">since {showShortDay(ended)}; lost by agreement</span>
            </span>
            <Button kind="quiet" onClick={() => void attempt('advance.lapse', { id: invoice.id })}>
              Let it lapse
            </Button>
          </li>
        ))}
      </ul>
    </Section>
  );
}
