import {
  explainFrozen,
  explainOwed,
  owedOn,
  registerSums,
  standingOf,
  type InvoiceBalance,
  type Pricer,
  standings,
  type Standing,
} from '@half-penny/core/billing';
import type { RegisterLine } from '@half-penny/formats/billing';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useToday } from '../../data/queries';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Select, type Option } from '../../parts/select';
import { Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { Tallies } from '../../parts/tallies';
import { StandingMark } from './standing-mark';

/** How late money is, by the day it was due. */
const ages: Record<string, { name: string; fits: (daysLate: number) => boolean }> = {
  ahead: { name: 'Not due yet', fits: (late) => late <= 0 },
  month: { name: '1 to 30 days late', fits: (late) => late > 0 && late <= 30 },
  two: { name: '31 to 60 days late', fits: (late) => late > 30 && late <= 60 },
  more: { name: 'More than 60 days late', fits: (late) => late > 60 },
};

/** Every invoice and credit note, by standing, client and age, and out as a table. */
export function Register({ pricer, rows }: { pricer: Pricer; rows: readonly InvoiceBalance[] }) {
  const navigate = useNavigate();
  const today = useToday();
  const [params, setParams] = useSearchParams();
  const wanted = params.get('standing') ?? '';
  const standing = (row: InvoiceBalance) => standingOf(row, today);
  const client = params.get('client') ?? '';
  const age = params.get('age') ?? '';
  const lateOf = ({ invoice }: InvoiceBalance) =>
    Math.round((Date.parse(today) - Date.parse(invoice.frozen?.dueDay ?? today)) / 86_400_000);
  const isAged = (row: InvoiceBalance) => !age || (owedOn(row) > 0 && (ages[age]?.fits(lateOf(row)) ?? true));
  const shown = rows.filter(
    (row) => (!wanted || standing(row) === wanted) && (!client || row.invoice.clientId === client) && isAged(row),
  );
  const clientOf = (row: InvoiceBalance) =>
    row.invoice.frozen?.client.name ?? pricer.client.get(row.invoice.clientId)?.name ?? '';
  const nameOf = (row: InvoiceBalance) => row.invoice.frozen?.number ?? 'Draft';
  const columns: Column<InvoiceBalance>[] = [
    {
      key: 'number',
      head: 'Number',
      width: '100px',
      cell: (row) => (
        <Link
          className="font-mono text-sm font-semibold hover:underline"
          to={`/billing/invoice/${row.invoice.id}`}
          tabIndex={-1}
        >
          {nameOf(row)}
        </Link>
      ),
    },
    {
      key: 'client',
      head: 'Client',
      ownLine: true,
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{clientOf(row)}</span>,
    },
    {
      key: 'day',
      head: 'Date',
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: (row) => row.invoice.frozen && showShortDay(row.invoice.frozen.day),
    },
    {
      key: 'due',
      head: 'Due',
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: (row) => row.invoice.frozen && row.invoice.kind === 'invoice' && showShortDay(row.invoice.frozen.dueDay),
    },
    { key: 'standing', head: 'Standing', width: '92px', cell: (row) => <StandingMark standing={standing(row)} /> },
    {
      key: 'total',
      head: 'Total',
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: ({ invoice }) =>
        invoice.frozen && (
          <Worth
            amount={invoice.frozen.total}
            currency={invoice.currency}
            of={invoice.frozen.number}
            working={() => explainFrozen(invoice.frozen!)}
          />
        ),
    },
    {
      key: 'owed',
      head: 'Owed',
      width: '110px',
      align: 'end',
      cell: (row) =>
        row.invoice.frozen &&
        row.invoice.kind === 'invoice' && (
          <Worth
            className={owedOn(row) === 0 ? 'text-soft' : ''}
            amount={owedOn(row)}
            currency={row.invoice.currency}
            of={`what is owed on ${row.invoice.frozen.number}`}
            working={() => explainOwed(row)}
          />
        ),
      foot: (
        <Tallies
          of="what is owed"
          home={pricer.book.workspace.currency}
          parts={shown
            .filter((row) => owedOn(row) !== 0)
            .map((row) => ({
              label: `${nameOf(row)} ${clientOf(row)}`,
              amount: owedOn(row),
              currency: row.invoice.currency,
            }))}
        />
      ),
    },
  ];
  const set = (field: string, value: string) =>
    setParams(
      (now) => {
        if (value) now.set(field, value);
        else now.delete(field);
        return now;
      },
      { replace: true },
    );
  const choice = (field: string, label: string, value: string, options: readonly Option[]) => (
    <Select
      name={label}
      className="w-auto! max-w-48"
      value={value}
      onPick={(picked) => set(field, picked)}
      options={options}
    />
  );
  const clients = [...new Set(rows.map((row) => row.invoice.clientId))];
  const takeOut = async (kind: 'csv' | 'xlsx') => {
    const { registerCsv, registerXlsx } = await import('@half-penny/formats/billing');
    const filterWords = [
      wanted || 'all standings',
      client ? (pricer.client.get(client)?.name ?? '') : 'all clients',
      ages[age]?.name.toLowerCase() ?? 'any age',
    ].join(', ');
    const lines = shown.filter((row) => row.invoice.frozen).map((row) => lineOf(row, standing(row)));
    const blob =
      kind === 'xlsx'
        ? await registerXlsx(lines, [
            `${pricer.book.workspace.name}: invoices`,
            `${filterWords} · ${showShortDay(today)}`,
          ])
        : new Blob([`\ufeff${registerCsv(lines)}`], { type: 'text/csv;charset=utf-8' });
    save(blob, `invoices-${today}.${kind}`);
  };
  const filter = (
    <>
      {choice('standing', 'Standing', wanted, [
        ['', 'All standings'],
        ...standings.map((each): Option => [each, each]),
      ])}
      {clients.length > 1 &&
        choice('client', 'Client', client, [
          ['', 'All clients'],
          ...clients.map((id): Option => [id, pricer.client.get(id)?.name ?? '']),
        ])}
      {choice('age', 'Age', age, [
        ['', 'Any age'],
        ...Object.entries(ages).map(([value, { name }]): Option => [value, name]),
      ])}
      <Button kind="quiet" disabled={shown.length === 0} onClick={() => void takeOut('csv')}>
        CSV
      </Button>
      <Button kind="quiet" disabled={shown.length === 0} onClick={() => void takeOut('xlsx')}>
        XLSX
      </Button>
    </>
  );
  return (
    <Section title="Invoices" id="invoices" actions={filter}>
      <Ledger
        label="Invoices"
        rows={shown}
        rowId={(row) => row.invoice.id}
        rowName={(row) => `${nameOf(row)}, ${clientOf(row)}`}
        columns={columns}
        onOpen={(row) => void navigate(`/billing/invoice/${row.invoice.id}`)}
        footLabel="Owed"
        empty={
          wanted || client || age
            ? 'Nothing matches.'
            : 'There are no invoices yet. Choose a client above and put what is to bill on one.'
        }
      />
    </Section>
  );
}

function lineOf(row: InvoiceBalance, standing: Standing): RegisterLine {
  const { invoice } = row;
  const { number, client, day, dueDay, purchaseOrder } = invoice.frozen!;
  return {
    number,
    kind: invoice.kind,
    client: client.name,
    day,
    // A credit note asks for nothing, so it has no day by which to pay.
    dueDay: invoice.kind === 'credit note' ? '' : dueDay,
    standing,
    currency: invoice.currency,
    sums: registerSums(invoice.frozen!),
    owed: owedOn(row),
    purchaseOrder,
  };
}
