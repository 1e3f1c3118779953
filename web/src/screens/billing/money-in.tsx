import { paidBackOf, type InvoiceBalance, type Pricer } from '@half-penny/core/billing';
import type { Invoice } from '@half-penny/core/model';
import { leftOfSum, type Offer } from '@half-penny/core/money-in';
import { showAmount } from '@half-penny/core/money';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useMoneyIn, type MoneyInRow } from '../../data/money-in';
import { useChanges } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay, showShortestDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { MoneyForDialog } from './money-for-dialog';
import { MoneyStatement } from './money-statement';
import { canGoBack, isOnline, OnlineNote, PayBackOnline } from './online-money';
import { SetMoneyAside } from './set-money-aside';

/** What came into the accounts, and which invoices it paid. */
export function MoneyIn({ pricer, invoices }: { pricer: Pricer; invoices: readonly InvoiceBalance[] }) {
  const rows = useMoneyIn(pricer);
  const { attempt } = useChanges();
  const [back, setBack] = useState<MoneyInRow | null>(null);
  const [asked, setAsked] = useState<{ row: MoneyInRow; for: 'parts' | 'aside' } | null>(null);
  const byId = useMemo(() => new Map(invoices.map(({ invoice }) => [invoice.id, invoice])), [invoices]);
  if (!rows) return <Loading />;
  const waiting = rows.filter((row) => row.offer !== null);
  const done = rows.filter((row) => row.offer === null);
  const sure = waiting.filter((row) => row.offer!.sure);
  const match = (meant: readonly MoneyInRow[]) => void attempt('money.match', { matches: meant.map(matchOf) });
  const take = (row: MoneyInRow) => (isWhole(row) ? match([row]) : setAsked({ row, for: 'parts' }));
  return (
    <>
      <MoneyStatement {...{ pricer, invoices }} none={rows.length === 0} />
      {waiting.length > 0 && (
        <Section
          title={`Waiting ${waiting.length}`}
          actions={
            sure.length > 0 && (
              <Button kind="main" onClick={() => match(sure)}>
                Match the {sure.length} that {sure.length === 1 ? 'is' : 'are'} sure
              </Button>
            )
          }
        >
          <Ledger
            label="Sums that wait to be matched"
            rows={waiting}
            rowId={(row) => row.sum.id}
            rowName={nameOf}
            columns={waitingColumns(byId, pricer, take, setAsked)}
            keys={{
              'money.take': take,
              'money.other': (row) => setAsked({ row, for: 'parts' }),
              'money.aside': (row) => setAsked({ row, for: 'aside' }),
            }}
            onDelete={(row) => void attempt('money.remove', { ids: [row.sum.id] })}
            empty=""
          />
        </Section>
      )}
      <OnlineNote />
      {done.length > 0 && (
        <Section title="Done with">
          <Ledger
            label="Sums that are matched or set aside"
            rows={done}
            rowId={(row) => row.sum.id}
            rowName={nameOf}
            columns={doneColumns(pricer, {
              apart: (row) => void attempt('money.apart', { id: row.sum.id }),
              back: setBack,
            })}
            empty=""
          />
        </Section>
      )}
      {asked?.for === 'parts' && (
        <MoneyForDialog {...{ pricer, invoices }} row={asked.row} onClose={() => setAsked(null)} />
      )}
      {back && <PayBackOnline row={back} onClose={() => setBack(null)} />}
      {asked?.for === 'aside' && <SetMoneyAside row={asked.row} onClose={() => setAsked(null)} />}
    </>
  );
}

const nameOf = ({ sum }: MoneyInRow): string =>
  `${showAmount(sum.amount, sum.currency)} from ${sum.payer || sum.text || 'nobody named'}, ${showShortDay(sum.day)}`;

const matchOf = ({ sum, offer }: MoneyInRow) => ({ id: sum.id, parts: offer!.parts, ahead: offer!.ahead });

/** Whether an offer says of all of the sum what it is for. */
function isWhole({ sum, offer }: MoneyInRow): boolean {
  if (!offer || (offer.parts.length === 0 && !offer.ahead)) return false;
  return leftOfSum(sum, offer.parts, offer.ahead?.amount) === 0;
}

const day: Column<MoneyInRow> = { key: 'day', head: 'Day', width: '64px', cell: ({ sum }) => showShortestDay(sum.day) };

const payer: Column<MoneyInRow> = {
  key: 'payer',
  head: 'From',
  ownLine: true,
  width: 'minmax(0,4fr)',
  cell: ({ sum }) => (
    <>
      <span className="written clamp-2">{sum.payer || 'Nobody named'}</span>
      <span className="written block truncate text-xs text-soft">
        {[sum.reference, sum.text].filter(Boolean).join(' · ')}
      </span>
    </>
  ),
};

const amount: Column<MoneyInRow> = {
  key: 'amount',
  head: 'Came in',
  width: '104px',
  align: 'end',
  cell: ({ sum }) => (
    <span className="font-mono text-sm font-semibold text-money">{showAmount(sum.amount, sum.currency)}</span>
  ),
};

function waitingColumns(
  byId: ReadonlyMap<string, Invoice>,
  pricer: Pricer,
  take: (row: MoneyInRow) => void,
  ask: (asked: { row: MoneyInRow; for: 'parts' | 'aside' }) => void,
): Column<MoneyInRow>[] {
  return [
    day,
    payer,
    amount,
    {
      key: 'offer',
      head: 'For',
      ownLine: true,
      width: 'minmax(0,5fr)',
      cell: (row) => (
        <span className="block border-l border-rule pl-3">
          <span className={`written clamp-2 ${row.offer!.sure ? 'font-semibold' : ''}`}>
            {offerWords(row.offer!, row.sum.currency, byId, pricer) || 'nothing that is known'}
          </span>
          <span className={`block text-xs ${row.offer!.sure ? 'text-soft' : 'text-attention'}`}>
            {row.offer!.sure ? 'sure: ' : ''}
            {row.offer!.reasons.join('; ')}
          </span>
        </span>
      ),
    },
    {
      key: 'take',
      head: 'Match',
      quietHead: true,
      width: '232px',
      align: 'end',
      cell: (row) => (
        <span className="flex flex-wrap items-center justify-end gap-x-2">
          {isWhole(row) && (
            <Button kind="quiet" onClick={() => take(row)}>
              Match
            </Button>
          )}
          <Button kind="quiet" onClick={() => ask({ row, for: 'parts' })}>
            {isWhole(row) ? 'Otherwise' : 'Say what for'}
          </Button>
          <Button kind="quiet" onClick={() => ask({ row, for: 'aside' })}>
            Set aside
          </Button>
        </span>
      ),
    },
  ];
}

/** "SL-0131 1,200.00 (charges 12.00); paid ahead by Quayside 20.00". */
function offerWords(
  { parts, ahead }: Offer,
  currency: string,
  byId: ReadonlyMap<string, Invoice>,
  pricer: Pricer,
): string {
  const paid = parts.map(({ invoiceId, amount: part, fee }) => {
    const invoice = byId.get(invoiceId);
    const own = invoice?.currency ?? currency;
    const kept = fee > 0 ? `, charges ${showAmount(fee, own)}` : '';
    return `${invoice?.frozen?.number ?? ''} ${showAmount(part, own)}${kept}`;
  });
  const rest = ahead
    ? [`paid ahead by ${pricer.client.get(ahead.clientId)?.name ?? ''} ${showAmount(ahead.amount, currency)}`]
    : [];
  return [...paid, ...rest].join('; ');
}

const GoneBack = ({ amount, currency }: { amount: number; currency: string }) => (
  <span className="font-semibold text-attention"> {showAmount(amount, currency)} went back</span>
);

const doneColumns = (
  pricer: Pricer,
  does: Record<'apart' | 'back', (row: MoneyInRow) => void>,
): Column<MoneyInRow>[] => [
  day,
  payer,
  amount,
  {
    key: 'for',
    head: 'Became',
    ownLine: true,
    width: 'minmax(0,5fr)',
    cell: ({ sum, matched }) =>
      matched ? (
        <span className="flex flex-wrap gap-x-3 border-l border-rule pl-3">
          {matched.paid.map(({ payment, invoice }) => (
            <span key={payment.id}>
              <Link className="font-mono text-sm hover:underline" to={`/billing/invoice/${invoice.id}`}>
                {invoice.frozen?.number}
              </Link>{' '}
              {showAmount(payment.amount, payment.currency)}
              {payment.fee !== undefined && (
                <span className="text-soft"> with charges of {showAmount(payment.fee, payment.currency)}</span>
              )}
            </span>
          ))}
          {matched.back.map(({ payment }) => (
            <GoneBack key={payment.id} amount={payment.amount} currency={payment.currency} />
          ))}
          {matched.ahead.map((deposit) => (
            <span key={deposit.id} className="written">
              paid ahead by {pricer.client.get(deposit.clientId)?.name} {showAmount(deposit.amount, deposit.currency)}
              {paidBackOf(deposit) > 0 && <GoneBack amount={paidBackOf(deposit)} currency={deposit.currency} />}
            </span>
          ))}
        </span>
      ) : (
        <span className="written clamp-2 border-l border-rule pl-3 text-soft">set aside: {sum.setAside}</span>
      ),
  },
  {
    key: 'apart',
    head: 'Undo it',
    quietHead: true,
    width: '210px',
    align: 'end',
    cell: (row) =>
      isOnline(row.sum) ? (
        canGoBack(row) && (
          <Button kind="quiet" onClick={() => does.back(row)}>
            Pay it back
          </Button>
        )
      ) : (
        <Button kind="quiet" onClick={() => does.apart(row)}>
          Let it wait
        </Button>
      ),
  },
];
