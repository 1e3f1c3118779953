import { sumExact } from '@half-penny/core/money';
import { toBillWorking, type Pricer, type ToBill } from '@half-penny/core/billing';
import { showLength } from '@half-penny/core/time';
import { Link, useNavigate } from 'react-router';
import { showShortDay } from '../../parts/days';
import { Length, Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Section } from '../../parts/page';
import { Tallies } from '../../parts/tallies';

/** What is to bill, by client. */
export function ToBillSection({ pricer, rows }: { pricer: Pricer; rows: readonly ToBill[] }) {
  const navigate = useNavigate();
  const { lengthStyle, currency } = pricer.book.workspace;
  const sum = (of: (row: ToBill) => number) => sumExact(rows.map(of));
  const working = (row: ToBill) => toBillWorking(pricer, row);
  const columns: Column<ToBill>[] = [
    {
      key: 'client',
      head: 'Client',
      width: 'minmax(0,1fr)',
      cell: (row) => (
        <>
          <Link
            className="written clamp-2 font-semibold hover:underline"
            to={`/billing/client/${row.client.id}`}
            tabIndex={-1}
          >
            {row.client.name}
          </Link>
          {row.waiting.entries > 0 && (
            <span className="block text-xs text-attention">{showLength(row.waiting.seconds)} waits to be approved</span>
          )}
        </>
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
      key: 'costs',
      head: 'Costs',
      width: '70px',
      align: 'end',
      wideOnly: true,
      cell: (row) => row.charges.length || '',
      foot: sum((row) => row.charges.length),
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
      cell: (row) => <Length seconds={row.billed} style={lengthStyle} whole />,
      foot: <Length seconds={sum((row) => row.billed)} style={lengthStyle} whole />,
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
          {row.unpriced > 0 && <span className="block text-xs text-attention">{row.unpriced} without a price</span>}
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
    <Section title="To bill" id="to-bill">
      <Ledger
        label="To bill by client"
        rows={rows}
        rowId={(row) => row.client.id}
        rowName={(row) => row.client.name}
        columns={columns}
        onOpen={(row) => void navigate(`/billing/client/${row.client.id}`)}
        footLabel="Total"
        empty="Nothing is to bill. Time and costs of a client’s projects appear here until they are on an invoice."
      />
    </Section>
  );
}
