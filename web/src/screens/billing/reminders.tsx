import {
  explainOwed,
  lateInvoices,
  owedOn,
  type InvoiceBalance,
  type LateInvoice,
  type Pricer,
} from '@half-penny/core/billing';
import type { ReminderKind } from '@half-penny/core/model';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { composeLetter } from '../../data/letters';
import { useToday } from '../../data/queries';
import { useAll } from '../../data/read';
import { useChanges, useSession } from '../../data/session';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Worth } from '../../parts/figures';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';

const kindWords: Record<ReminderKind, string> = {
  reminder: 'first reminder',
  'second reminder': 'second reminder',
  'last reminder': 'last reminder',
};

/** What is late, and what is to be written about it today. */
export function Reminders({ pricer, invoices }: { pricer: Pricer; invoices: readonly InvoiceBalance[] }) {
  const today = useToday();
  const letters = useAll('letters');
  const { memberId } = useSession();
  const { attempt } = useChanges();
  const navigate = useNavigate();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  if (!letters) return <Loading />;
  const { workspace, clients } = pricer.book;
  const late = lateInvoices(invoices, letters, clients, workspace, today);
  const due = late.filter((row) => row.due !== null);
  const others = late.filter((row) => row.due === null);
  const idOf = ({ balance }: LateInvoice) => balance.invoice.id;
  const meant = due.filter((row) => !left.has(idOf(row)));
  const write = async () => {
    const written = meant.map(({ balance, due: kind }) =>
      composeLetter(pricer, {
        kind: kind!,
        clientId: balance.invoice.clientId,
        frozen: balance.invoice.frozen!,
        owing: balance,
        today,
        memberId,
      }),
    );
    if (await attempt('letter.write', { letters: written })) void navigate('/billing/outbox');
  };
  const columns = columnsOf(pricer);
  return (
    <>
      <Section
        title={due.length > 0 ? `To remind today ${due.length}` : 'To remind today'}
        actions={
          meant.length > 0 && (
            <Button kind="main" onClick={() => void write()}>
              Write {meant.length === 1 ? 'it' : `${meant.length} reminders`}
            </Button>
          )
        }
      >
        <Ledger
          label="To remind today"
          rows={due}
          rowId={idOf}
          rowName={(row) => row.balance.invoice.frozen!.number}
          columns={[
            ...columns,
            {
              key: 'step',
              head: 'What goes',
              width: 'minmax(72px,0.5fr)',
              cell: (row) => <span className="font-semibold">{kindWords[row.due!]}</span>,
            },
          ]}
          selection={{
            selected: new Set(meant.map(idOf)),
            onChange: (selected) => setLeft(new Set(due.map(idOf).filter((id) => !selected.has(id)))),
          }}
          onOpen={(row) => void navigate(`/billing/invoice/${idOf(row)}`)}
          empty="Nobody is to be reminded today. What is late stands here on the days that Setup → Post says."
        />
      </Section>
      {others.length > 0 && (
        <Section title="Late, and not reminded today">
          <Ledger
            label="Late, and not reminded today"
            rows={others}
            rowId={idOf}
            rowName={(row) => row.balance.invoice.frozen!.number}
            columns={[
              ...columns,
              {
                key: 'why',
                head: 'Why',
                width: 'minmax(72px,0.6fr)',
                cell: (row) => (
                  <>
                    <span className={row.why === 'in dispute' ? 'text-attention' : 'text-soft'}>{row.why}</span>
                    {row.next && <span className="block text-xs text-soft">next on {showShortDay(row.next)}</span>}
                    {row.balance.invoice.disputed?.note && (
                      <span className="written clamp-2 text-xs text-soft">{row.balance.invoice.disputed.note}</span>
                    )}
                  </>
                ),
              },
            ]}
            onOpen={(row) => void navigate(`/billing/invoice/${idOf(row)}`)}
            empty=""
          />
        </Section>
      )}
    </>
  );
}

function columnsOf(pricer: Pricer): Column<LateInvoice>[] {
  return [
    {
      key: 'number',
      head: 'Number',
      width: '100px',
      cell: ({ balance: { invoice } }) => (
        <Link
          className="font-mono text-sm font-semibold hover:underline"
          to={`/billing/invoice/${invoice.id}`}
          tabIndex={-1}
        >
          {invoice.frozen!.number}
        </Link>
      ),
    },
    {
      key: 'client',
      head: 'Client',
      ownLine: true,
      width: 'minmax(0,1fr)',
      cell: ({ balance: { invoice } }) => (
        <>
          <span className="written clamp-2">{invoice.frozen!.client.name}</span>
          {!pricer.client.get(invoice.clientId)?.email && (
            <span className="block text-xs text-attention">no e-mail address yet</span>
          )}
        </>
      ),
    },
    {
      key: 'late',
      head: 'Days late',
      width: '90px',
      align: 'end',
      wideOnly: true,
      cell: (row) => <span className="font-mono text-sm">{row.daysLate}</span>,
    },
    {
      key: 'last',
      head: 'Reminded last',
      width: '120px',
      align: 'end',
      wideOnly: true,
      cell: (row) => <span className="text-soft">{row.last ? showShortDay(row.last) : '–'}</span>,
    },
    {
      key: 'owed',
      head: 'Owed',
      width: '120px',
      align: 'end',
      cell: ({ balance }) => (
        <Worth
          amount={owedOn(balance)}
          currency={balance.invoice.currency}
          of={`what is owed on ${balance.invoice.frozen!.number}`}
          working={() => explainOwed(balance)}
        />
      ),
    },
  ];
}
