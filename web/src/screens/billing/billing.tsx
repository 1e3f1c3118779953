import {
  explainFrozen,
  explainOwed,
  owedOn,
  standingOf,
  type Pricer,
  type Standing,
  type ToBill,
} from '@half-penny/core/billing';
import type { Invoice, Payment } from '@half-penny/core/model';
import { sumWorking } from '@half-penny/core/rates';
import { jobName } from '@half-penny/core/billing';
import { useNavigate, useSearchParams } from 'react-router';
import { Link } from 'react-router';
import { useInvoices, usePricer, useToBill, useToday } from '../../data/queries';
import { showShortDay } from '../../parts/days';
import { inputLook } from '../../parts/field';
import { Length, Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Page, Section } from '../../parts/page';
import { Tallies } from '../../parts/tallies';
import { StandingMark } from './standing-mark';

/** What is to bill, and every invoice. */
export default function Billing() {
  const pricer = usePricer();
  const open = useToBill(pricer);
  const invoices = useInvoices();
  if (!pricer || !open || !invoices)
    return (
      <Page title="Billing">
        <Loading />
      </Page>
    );
  return (
    <Page title="Billing">
      <ToBillSection pricer={pricer} rows={open} />
      <Register pricer={pricer} rows={invoices} />
    </Page>
  );
}

function ToBillSection({ pricer, rows }: { pricer: Pricer; rows: readonly ToBill[] }) {
  const navigate = useNavigate();
  const { lengthStyle, currency } = pricer.book.workspace;
  const sum = (of: (row: ToBill) => number) => rows.reduce((total, row) => total + of(row), 0);
  const working = (row: ToBill) =>
    sumWorking(
      `${row.client.name}, to bill`,
      row.items.map((item) => ({
        label: `${item.entry.day} ${item.entry.note || jobName(pricer, item.entry.projectId)}`,
        minor: item.amount,
      })),
      row.currency,
    );
  const columns: Column<ToBill>[] = [
    {
      key: 'client',
      head: 'Client',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <Link
          className="written clamp-2 font-semibold hover:underline"
          to={`/billing/client/${row.client.id}`}
          tabIndex={-1}
        >
          {row.client.name}
        </Link>
      ),
    },
    {
      key: 'entries',
      head: 'Entries',
      width: '70px',
      align: 'end',
      wideOnly: true,
      cell: (row) => row.items.length,
      foot: sum((row) => row.items.length),
    },
    {
      key: 'oldest',
      head: 'Since',
      width: '110px',
      align: 'end',
      wideOnly: true,
      cell: (row) => <span className="text-soft">{row.oldest && showShortDay(row.oldest)}</span>,
    },
    {
      key: 'seconds',
      head: 'Recorded',
      width: '100px',
      align: 'end',
      cell: (row) => <Length seconds={row.seconds} style={lengthStyle} />,
      foot: <Length seconds={sum((row) => row.seconds)} style={lengthStyle} />,
    },
    {
      key: 'billed',
      head: 'Rounded',
      width: '90px',
      align: 'end',
      wideOnly: true,
      cell: (row) => <Length seconds={row.billed} style={lengthStyle} />,
      foot: <Length seconds={sum((row) => row.billed)} style={lengthStyle} />,
    },
    {
      key: 'worth',
      head: 'Worth',
      width: '120px',
      align: 'end',
      cell: (row) => (
        <>
          <Worth
            amount={row.amount}
            currency={row.currency}
            of={`${row.client.name}, to bill`}
            working={() => working(row)}
          />
          {row.unpriced > 0 && <span className="block text-xs text-attention">{row.unpriced} without a rate</span>}
        </>
      ),
      foot: (
        <Tallies
          of="everything to bill"
          home={currency}
          parts={rows.map((row) => ({ label: row.client.name, amount: row.amount, currency: row.currency }))}
        />
      ),
    },
  ];
  return (
    <Section title="To bill">
      <Ledger
        label="To bill by client"
        rows={rows}
        rowId={(row) => row.client.id}
        rowName={(row) => row.client.name}
        columns={columns}
        onOpen={(row) => void navigate(`/billing/client/${row.client.id}`)}
        footLabel="Together"
        empty="Nothing is to bill. Time recorded on a client’s project appears here until it is on an invoice."
      />
    </Section>
  );
}

interface Registered {
  invoice: Invoice;
  payments: Payment[];
}

const standings: readonly Standing[] = ['draft', 'issued', 'part paid', 'overdue', 'paid', 'void'];

function Register({ pricer, rows }: { pricer: Pricer; rows: readonly Registered[] }) {
  const navigate = useNavigate();
  const today = useToday();
  const [params, setParams] = useSearchParams();
  const wanted = params.get('standing') ?? '';
  const standing = (row: Registered) => standingOf(row.invoice, row.payments, today);
  const shown = rows.filter((row) => !wanted || standing(row) === wanted);
  const clientOf = (row: Registered) =>
    row.invoice.frozen?.client.name ?? pricer.client.get(row.invoice.clientId)?.name ?? '';
  const nameOf = (row: Registered) => row.invoice.frozen?.number ?? 'Draft';
  const columns: Column<Registered>[] = [
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
      cell: (row) => row.invoice.frozen && showShortDay(row.invoice.frozen.dueDay),
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
      cell: ({ invoice, payments }) =>
        invoice.frozen && (
          <Worth
            className={owedOn(invoice, payments) === 0 ? 'text-soft' : ''}
            amount={owedOn(invoice, payments)}
            currency={invoice.currency}
            of={`what is owed on ${invoice.frozen.number}`}
            working={() => explainOwed(invoice.frozen!, payments)}
          />
        ),
      foot: (
        <Tallies
          of="what is owed"
          home={pricer.book.workspace.currency}
          parts={shown
            .filter((row) => owedOn(row.invoice, row.payments) !== 0)
            .map((row) => ({
              label: `${nameOf(row)} ${clientOf(row)}`,
              amount: owedOn(row.invoice, row.payments),
              currency: row.invoice.currency,
            }))}
        />
      ),
    },
  ];
  const filter = (
    <select
      aria-label="Standing"
      className={`${inputLook} w-auto`}
      value={wanted}
      onChange={(event) => setParams(event.target.value ? { standing: event.target.value } : {}, { replace: true })}
    >
      <option value="">All standings</option>
      {standings.map((each) => (
        <option key={each}>{each}</option>
      ))}
    </select>
  );
  return (
    <Section title="Invoices" actions={filter}>
      <Ledger
        label="Invoices"
        rows={shown}
        rowId={(row) => row.invoice.id}
        rowName={(row) => `${nameOf(row)}, ${clientOf(row)}`}
        columns={columns}
        onOpen={(row) => void navigate(`/billing/invoice/${row.invoice.id}`)}
        footLabel="Owed"
        empty={
          wanted
            ? `No invoice is ${wanted}.`
            : 'There are no invoices yet. Choose a client above and put what is to bill on one.'
        }
      />
    </Section>
  );
}
