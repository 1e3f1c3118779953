import type { InvoiceBalance, Pricer } from '@half-penny/core/billing';
import type { CashItem, CashWeek, HeldOut } from '@half-penny/core/cash-ahead';
import { showAmount, type CurrencyCode, type Minor } from '@half-penny/core/money';
import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import { useCashAhead } from '../../data/cash-ahead';
import { useToday } from '../../data/queries';
import { showShortDay, showShortestDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';

const CashChart = lazy(() => import('./cash-chart'));

/** What will come in over the coming quarter, week by week, and how sure that is. */
export function CashAheadPart({ pricer, invoices }: { pricer: Pricer; invoices: readonly InvoiceBalance[] }) {
  const read = useCashAhead(pricer, invoices);
  const today = useToday();
  const { currency } = pricer.book.workspace;
  if (!read) return <Loading />;
  const { ahead, past } = read;
  const last = ahead.weeks.at(-1)!;
  if (ahead.items.length === 0)
    return (
      <p className="max-w-2xl text-soft">
        Nothing is to come that is known. What is owed, agreed to recur, due with a milestone or invoiced again and
        again is told here: when it likely comes in, and how sure that is.
      </p>
    );
  const show = (amount: Minor) => showAmount(amount, currency);
  return (
    <>
      <p className="max-w-3xl text-lg">
        By {showShortDay(last.to)} <strong className="text-money">{show(last.likely)}</strong> will likely have come in
        <span className="text-soft">
          , in eight of ten cases {show(last.low)} to {show(last.high)}.
        </span>
      </p>
      <Suspense fallback={<div className="h-72" />}>
        <CashChart weeks={ahead.weeks} today={today} show={show} />
      </Suspense>
      <Foreseen past={past} show={show} />
      {ahead.unknown > 0 && (
        <p className="mb-4 border-l-[3px] border-attention bg-attention-ground px-3 py-2 text-attention">
          {ahead.unknown} {ahead.unknown === 1 ? 'invoice is' : 'invoices are'} left out: no exchange rate to {currency}{' '}
          is known. Add it in Setup → Rates.
        </p>
      )}
      <Section title="Week by week">
        <Ledger
          label="What comes in, by week"
          rows={ahead.weeks}
          rowId={(week) => week.from}
          rowName={(week) => `Week from ${showShortDay(week.from)}`}
          columns={weekColumns(pricer, show)}
          empty=""
        />
      </Section>
      <Section title="What it is made of">
        <Ledger
          label="What is to come"
          rows={ahead.items}
          rowId={(item) => item.key}
          rowName={(item) => `${item.name} ${pricer.client.get(item.clientId)?.name}`}
          columns={itemColumns(pricer, currency)}
          empty=""
        />
      </Section>
    </>
  );
}

/** How well it would have been foreseen some weeks ago. */
function Foreseen({ past, show }: { past: HeldOut | null; show: (amount: Minor) => string }) {
  if (!past)
    return (
      <p className="mb-6 text-sm text-soft">
        Whether it would have been foreseen rightly can be told once invoices are eight weeks old.
      </p>
    );
  const { weeks, within, from } = past;
  const last = weeks.at(-1)!;
  return (
    <p className="mb-6 max-w-3xl text-sm text-soft">
      Foreseen in the same way on {showShortDay(from)}, what had come in lay within the band at the end of{' '}
      <strong className="text-ink">
        {within} of {weeks.length}
      </strong>{' '}
      weeks: {show(last.came)} came, {show(last.low)} to {show(last.high)} were foreseen.
    </p>
  );
}

const kindWords: Record<CashItem['kind'], string> = {
  owed: 'owed',
  recurring: 'recurring',
  milestone: 'milestone',
  pace: 'at the present pace',
};

const weekColumns = (pricer: Pricer, show: (amount: Minor) => string): Column<CashWeek>[] => [
  {
    key: 'week',
    head: 'Week',
    width: '128px',
    cell: ({ from, to }) => `${showShortestDay(from)} – ${showShortestDay(to)}`,
  },
  {
    key: 'what',
    head: 'Likely within it',
    ownLine: true,
    width: 'minmax(0,1fr)',
    cell: ({ items }) => (
      <span className="written clamp-2 text-soft">
        {items.map(({ name, clientId }) => name || (pricer.client.get(clientId)?.name ?? '')).join(', ')}
      </span>
    ),
  },
  {
    key: 'likely',
    head: 'Come in by then',
    width: '124px',
    align: 'end',
    cell: ({ likely }) => <span className="font-mono text-sm font-semibold text-money">{show(likely)}</span>,
  },
  {
    key: 'band',
    head: 'Eight of ten',
    width: '236px',
    align: 'end',
    wideOnly: true,
    cell: ({ low, high }) => (
      <span className="font-mono text-sm whitespace-nowrap text-soft">
        {show(low)} – {show(high)}
      </span>
    ),
  },
];

const itemColumns = (pricer: Pricer, currency: CurrencyCode): Column<CashItem>[] => [
  {
    key: 'what',
    head: 'What',
    width: 'minmax(0,2fr)',
    cell: ({ kind, invoiceId, name }) =>
      invoiceId ? (
        <Link to={`/billing/invoice/${invoiceId}`} className="font-mono text-sm font-semibold hover:underline">
          {name}
        </Link>
      ) : (
        <span className="written clamp-2">
          {name} <span className="text-soft">{kindWords[kind]}</span>
        </span>
      ),
  },
  {
    key: 'client',
    head: 'Client',
    width: 'minmax(0,2fr)',
    cell: ({ clientId }) => <span className="written clamp-2">{pricer.client.get(clientId)?.name}</span>,
  },
  {
    key: 'due',
    head: 'Due',
    width: '110px',
    align: 'end',
    wideOnly: true,
    cell: ({ due }) => showShortDay(due),
  },
  { key: 'likely', head: 'Likely', width: '110px', align: 'end', cell: ({ likely }) => showShortDay(likely) },
  {
    key: 'amount',
    head: `With tax, ${currency}`,
    width: '130px',
    align: 'end',
    cell: ({ amount }) => (
      <span className="font-mono text-sm font-semibold text-money">{showAmount(amount, currency)}</span>
    ),
  },
];
