import {
  accountStatements,
  accountWords,
  type AccountLine,
  type AccountPaper,
  type AccountStatement,
  type OpenItem,
  type Pricer,
} from '@half-penny/core/billing';
import type { Client } from '@half-penny/core/model';
import { showAmount } from '@half-penny/core/money';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useInvoices } from '../../data/billing';
import { wordsOf } from '../../data/in-words';
import { composeStatement } from '../../data/letters';
import { plainName } from '../../data/plain-name';
import { usePicture, useToday } from '../../data/queries';
import { useAll } from '../../data/read';
import { useSession } from '../../data/session';
import { save } from '../../data/workspaces';
import { Button } from '../../parts/button';
import { showShortDay } from '../../parts/days';
import { Ledger, type Column } from '../../parts/ledger';
import { Loading, Section } from '../../parts/page';
import { Progress } from '../../parts/progress';
import { useRange } from '../../parts/range';
import { LetterDialog } from '../../parts/letter-dialog';
import { AbortError, makeAccountPdf, type CancellableTask } from '../../workers/tasks';

/** A client's account over a period: what was invoiced, credited and paid with the balance after it, and what is open; to be sent, too. */
export function ClientAccount({ pricer, client }: { pricer: Pricer; client: Client }) {
  const today = useToday();
  const { from, to, field } = useRange(today, '90-days');
  const invoices = useInvoices();
  const deposits = useAll('deposits');
  const statements = useMemo(
    () =>
      invoices && deposits
        ? accountStatements(
            invoices.filter(({ invoice }) => invoice.clientId === client.id),
            deposits.filter((deposit) => deposit.clientId === client.id),
            from,
            to,
          )
        : undefined,
    [invoices, deposits, client.id, from, to],
  );
  if (!statements) return <Loading />;
  return (
    <>
      <div className="mb-5 flex flex-wrap items-end justify-between gap-4">
        {field}
        <TakeOut {...{ pricer, client, from, to, statements }} />
      </div>
      {statements.length === 0 && <p className="text-soft">Nothing was invoiced or paid up to {showShortDay(to)}.</p>}
      {statements.map((statement) => (
        <Account key={statement.currency} statement={statement} single={statements.length === 1} />
      ))}
    </>
  );
}

interface TakeOutProps {
  pricer: Pricer;
  client: Client;
  from: string;
  to: string;
  statements: readonly AccountStatement[];
}

/** The statement of account as files for the client. */
function TakeOut({ pricer, client, from, to, statements }: TakeOutProps) {
  const { workspace } = pricer.book;
  const logo = usePicture(workspace.logoId);
  const [making, setMaking] = useState<CancellableTask<Blob> | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  const { memberId } = useSession();
  const { name, address, email, paper: size } = workspace;
  const paper: AccountPaper = {
    studio: { name, address, email, paper: size },
    client: { name: client.name, address: client.address },
    from,
    to,
    statements,
  };
  const file = (ending: string) => `statement-${plainName(client.name)}-${to}.${ending}`;
  const take = async (make: () => Promise<void>) => {
    setFault(null);
    try {
      await make();
    } catch (thrown) {
      if (!(thrown instanceof AbortError)) setFault(wordsOf(thrown));
    } finally {
      setMaking(null);
    }
  };
  const pdf = async () => {
    const work = makeAccountPdf(paper, logo);
    setMaking(work);
    save(await work.result, file('pdf'));
  };
  const xlsx = async () => {
    const { accountXlsx } = await import('@half-penny/formats/billing');
    save(await accountXlsx(paper), file('xlsx'));
  };
  const html = async () => {
    const { accountHtml } = await import('@half-penny/formats/billing');
    const picture = logo ? `data:${logo.mediaType};base64,${logo.data}` : '';
    save(new Blob([accountHtml(paper, picture)], { type: 'text/html' }), file('html'));
  };
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Button onClick={() => void take(pdf)}>PDF</Button>
      <Button onClick={() => void take(xlsx)}>XLSX</Button>
      <Button onClick={() => void take(html)}>Page</Button>
      {statements.length > 0 && <Button onClick={() => setSending(true)}>Send…</Button>}
      {sending && (
        <LetterDialog
          pricer={pricer}
          frozen={null}
          letter={composeStatement(pricer, client, statements, { from, to }, memberId)}
          onClose={() => setSending(false)}
        />
      )}
      {making && <Progress title="Making the PDF" share={null} onStop={making.stop} />}
      {fault !== null && (
        <p role="alert" className="w-full text-sm text-fault">
          {fault}
        </p>
      )}
    </div>
  );
}

function Account({ statement, single }: { statement: AccountStatement; single: boolean }) {
  const { currency, opening, lines, closing, open, ahead } = statement;
  const money = (amount: number) => (
    <span className="font-mono font-semibold whitespace-nowrap text-money">{showAmount(amount, currency)}</span>
  );
  const moved = (head: string, of: (line: AccountLine) => number): Column<AccountLine> => ({
    key: head,
    head,
    width: '110px',
    align: 'end',
    wideOnly: true,
    cell: (line) => (of(line) > 0 ? money(of(line)) : null),
    foot: money(lines.reduce((sum, line) => sum + Math.max(0, of(line)), 0)),
  });
  const columns: Column<AccountLine>[] = [
    { key: 'day', head: 'Date', width: '110px', cell: (line) => showShortDay(line.day) },
    {
      key: 'what',
      head: 'What',
      ownLine: true,
      width: 'minmax(0,1fr)',
      cell: (line) => (
        <>
          {line.invoiceId === null ? (
            <span className="written">{accountWords(line)}</span>
          ) : (
            <Link to={`/billing/invoice/${line.invoiceId}`} tabIndex={-1} className="written hover:underline">
              {accountWords(line)}
            </Link>
          )}
          <span className="block text-xs text-soft md:hidden">
            {line.amount < 0 ? 'received' : 'charged'} {money(Math.abs(line.amount))}
          </span>
        </>
      ),
    },
    moved('Charged', (line) => line.amount),
    moved('Received', (line) => -line.amount),
    {
      key: 'balance',
      head: 'Balance',
      width: '120px',
      align: 'end',
      cell: (line) => money(line.balance),
      foot: money(closing),
    },
  ];
  return (
    <Section title={single ? 'Account' : `Account in ${currency}`}>
      <p className="mb-2 text-sm text-soft">Brought forward: {money(opening)}</p>
      <Ledger
        label={`Account in ${currency}`}
        rows={lines}
        rowId={(line) => `${line.day} ${line.move} ${line.number} ${line.balance}`}
        rowName={(line) => accountWords(line)}
        columns={columns}
        footLabel={closing === 0 ? 'Settled' : closing < 0 ? 'In their favour' : 'Owed'}
        empty="Nothing moved in this period."
      />
      {open.length > 0 && <Open {...{ open, money }} label={`Open in ${currency}`} />}
      {ahead !== 0 && <p className="mt-2 text-sm">Paid ahead and not taken by an invoice yet: {money(ahead)}</p>}
    </Section>
  );
}

interface OpenProps {
  label: string;
  open: readonly OpenItem[];
  money: (amount: number) => React.ReactNode;
}

function Open({ label, open, money }: OpenProps) {
  const columns: Column<OpenItem>[] = [
    {
      key: 'number',
      head: 'Open',
      width: 'minmax(0,1fr)',
      cell: (item) => (
        <Link to={`/billing/invoice/${item.invoiceId}`} tabIndex={-1} className="hover:underline">
          {item.number}
        </Link>
      ),
    },
    {
      key: 'due',
      head: 'Due',
      width: 'minmax(0,1fr)',
      cell: (item) => (
        <>
          {showShortDay(item.dueDay)}
          {item.late > 0 && (
            <span className="ml-2 text-xs font-semibold text-attention">
              {item.late} {item.late === 1 ? 'day' : 'days'} late
            </span>
          )}
        </>
      ),
    },
    {
      key: 'held',
      head: 'Held back',
      wideOnly: true,
      width: '110px',
      align: 'end',
      cell: (item) => item.held !== 0 && money(item.held),
    },
    { key: 'owed', head: 'Owed', width: '120px', align: 'end', cell: (item) => money(item.owed) },
  ];
  return (
    <div className="mt-4">
      <Ledger
        label={label}
        rows={open}
        rowId={(item) => item.invoiceId}
        rowName={(item) => item.number}
        columns={columns}
        empty="Nothing is open."
      />
    </div>
  );
}
