import {
  bands,
  owedByAge,
  paymentHabits,
  toBillByAge,
  type AgedRow,
  type PaymentHabit,
} from '@half-penny/core/reports';
import { showAmount } from '@half-penny/core/money';
import { Link } from 'react-router';
import { useInvoices, useToBill } from '../../data/billing';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { SideScroll } from '../../parts/side-scroll';
import { Loading, Page, Section } from '../../parts/page';
import { Tallies } from '../../parts/tallies';
import { TakeOutTable } from './table-out';
import type { StandingProps } from './standing-page';

interface AgesProps {
  label: string;
  rows: readonly AgedRow[];
  home: string;
  /** Heads the part that is not due yet; there is none where null. */
  ahead: string | null;
  to: (row: AgedRow) => string;
  empty: string;
}

/** Amounts of clients by age. Each opens what it is made of. */
function Ages({ label, rows, home, ahead, to, empty }: AgesProps) {
  const amount = (row: AgedRow, value: number) =>
    value === 0 ? (
      <span className="text-soft">–</span>
    ) : (
      <Link to={to(row)} tabIndex={-1} className="font-mono font-semibold whitespace-nowrap text-money hover:underline">
        {showAmount(value, row.currency)}
      </Link>
    );
  const column = (key: string, head: string, of: (row: AgedRow) => number): Column<AgedRow> => ({
    key,
    head,
    width: 'minmax(92px,0.5fr)',
    align: 'end',
    cell: (row) => amount(row, of(row)),
    foot: (
      <Tallies
        of={`${label}, ${head.toLowerCase()}`}
        home={home}
        parts={rows
          .filter((row) => of(row) !== 0)
          .map((row) => ({ label: row.name, amount: of(row), currency: row.currency }))}
      />
    ),
  });
  const held = column('held', 'Held back', (row) => row.held);
  const heldColumn: Column<AgedRow> = {
    ...held,
    cell: (row) => (
      <>
        {held.cell(row)}
        {row.held !== 0 && row.heldUntil && (
          <span className="block text-xs text-soft">due {showShortDay(row.heldUntil)}</span>
        )}
      </>
    ),
  };
  const columns: Column<AgedRow>[] = [
    {
      key: 'client',
      head: 'Client',
      width: 'minmax(0,1fr)',
      cell: (row) => <span className="written clamp-2">{row.name}</span>,
    },
    ...(ahead === null ? [] : [column('ahead', ahead, (row) => row.ahead)]),
    ...bands.map((band) => column(band, `${band} days`, (row) => row.bands[band])),
    column('all', 'All', (row) => row.all),
    ...(ahead === null || rows.every((row) => row.held === 0) ? [] : [heldColumn]),
    {
      key: 'oldest',
      head: 'Oldest',
      width: '84px',
      align: 'end',
      wideOnly: true,
      cell: (row) => (row.oldest > 0 ? `${row.oldest} days` : '–'),
    },
  ];
  return (
    <SideScroll label={`${label}, the table`}>
      <div className="min-w-[760px]">
        <Ledger
          label={label}
          rows={rows}
          rowId={(row) => `${row.clientId} ${row.currency}`}
          rowName={(row) => row.name}
          columns={columns}
          footLabel="All"
          empty={empty}
        />
      </div>
    </SideScroll>
  );
}

/** A table of ages as plain text cells. */
const plainAges = (rows: readonly AgedRow[], ahead: string | null): string[][] => [
  [
    'Client',
    'Currency',
    ...(ahead === null ? [] : [ahead]),
    ...bands.map((band) => `${band} days`),
    'All',
    ...(ahead === null ? [] : ['Held back', 'Held until']),
    'Oldest, days',
  ],
  ...rows.map((row) => {
    const plain = (minor: number) => showAmount(minor, row.currency);
    const own = [...(ahead === null ? [] : [row.ahead]), ...bands.map((band) => row.bands[band]), row.all].map(plain);
    const held = ahead === null ? [] : [plain(row.held), row.heldUntil ?? ''];
    return [row.name, row.currency, ...own, ...held, String(Math.max(0, row.oldest))];
  }),
];

/** What is to bill, by how long ago the work was done. */
export function ToBillReport({ pricer, today }: StandingProps) {
  const list = useToBill(pricer, 'every client');
  if (!list) return <Loading />;
  const rows = toBillByAge(list, today);
  return (
    <Page
      title="To bill, by age"
      aside="days since the work was done"
      actions={<TakeOutTable name="To bill by age" table={() => plainAges(rows, null)} />}
    >
      <Ages
        label="To bill by age"
        rows={rows}
        home={pricer.book.workspace.currency}
        ahead={null}
        to={(row) => `/billing/client/${row.clientId}`}
        empty="Nothing is to bill."
      />
    </Page>
  );
}

/** What clients owe, by how late it is, and how long each takes to pay. */
export function OwedReport({ pricer, today }: StandingProps) {
  const list = useInvoices();
  if (!list) return <Loading />;
  const rows = owedByAge(list, today);
  const habits = paymentHabits(list);
  const days = (key: string, head: string, of: (row: PaymentHabit) => string): Column<PaymentHabit> => ({
    key,
    head,
    width: '150px',
    align: 'end',
    cell: (row) => <span className="font-mono">{of(row)}</span>,
  });
  return (
    <Page
      title="Owed to us, by age"
      aside="days since it was due"
      actions={<TakeOutTable name="Owed by age" table={() => plainAges(rows, 'Not due yet')} />}
    >
      <Section title="Owed">
        <Ages
          label="Owed by age"
          rows={rows}
          home={pricer.book.workspace.currency}
          ahead="Not due yet"
          to={(row) => `/billing?client=${row.clientId}`}
          empty="Nobody owes anything."
        />
      </Section>
      <Section title="Days to pay">
        <SideScroll label="Days to pay, the table">
          <div className="min-w-[600px]">
            <Ledger
              label="Days to pay"
              rows={habits}
              rowId={(row) => row.clientId}
              rowName={(row) => row.name}
              columns={[
                {
                  key: 'client',
                  head: 'Client',
                  width: 'minmax(0,1fr)',
                  cell: (row) => <span className="written clamp-2">{row.name}</span>,
                },
                days('count', 'Invoices paid in full', (row) => String(row.invoices)),
                days('paid', 'Days from issue', (row) => String(row.daysToPay)),
                days('late', 'Days after due', (row) =>
                  row.daysLate > 0 ? String(row.daysLate) : row.daysLate < 0 ? `${-row.daysLate} ahead` : 'on the day',
                ),
              ]}
              empty="No invoice has been paid in full yet."
            />
          </div>
        </SideScroll>
      </Section>
    </Page>
  );
}
